<!-- Who is there on a day: called when, off by a tap, or there at other hours than usual. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { clockOf, type BoardDay, type DaysBoard } from "./days.svelte";
  import { hoursOf, hoursText, type Hours } from "./hours";

  let { board, day }: { board: DaysBoard; day: BoardDay } = $props();
  const people = $derived((board.data?.rows ?? []).filter((row) => row.kind === "person"));
  const weekday = $derived(
    board.data?.weekdays[(new Date(`${day.date}T12:00Z`).getUTCDay() + 6) % 7]?.key ?? "",
  );
  let changing = $state<number | null>(null);
  let wrong = $state("");

  const off = (row: Schemas["DayRowOut"]) => (row.fields["off"] as string[]).includes(day.date);
  const all = (row: Schemas["DayRowOut"]) => row.fields["hours"] as Hours[];
  /** The hours of this date where there are any, else those of its weekday. */
  function hours(row: Schemas["DayRowOut"]) {
    const dated = all(row).filter((one) => one.date === day.date);
    const usual = all(row).filter(
      (one) => !one.date && (!one.weekdays.length || one.weekdays.includes(weekday)),
    );
    return (dated.length ? dated : usual).map((one) => ({ ...one, date: null, weekdays: [] }));
  }
  function said(row: Schemas["DayRowOut"]) {
    if (off(row)) return "off";
    return hoursText(hours(row)) || "not there";
  }
  function toggle(row: Schemas["DayRowOut"]) {
    const days = row.fields["off"] as string[];
    return board.say(`${row.name} ${off(row) ? "is there" : "is off"} on ${day.name}`, "person", row.id, {
      off: off(row) ? days.filter((one) => one !== day.date) : [...days, day.date],
    });
  }
  async function change(row: Schemas["DayRowOut"], typed: string) {
    const told = hoursOf(typed);
    wrong = told ? "" : "Hours are typed like “10:00 to 14:00”.";
    if (!told) return;
    const dated = told.map((one) => ({ ...one, weekdays: [], date: day.date }));
    const kept = all(row).filter((one) => one.date !== day.date);
    const done = await board.say(`Hours of ${row.name} on ${day.name}`, "person", row.id, {
      hours: [...kept, ...dated],
    });
    if (done) changing = null;
    else wrong = board.asking.said;
  }
</script>

<section class="border-b border-line px-3.5 py-2.5" aria-label="Who is there">
  <h2>Who is there</h2>
  <ul class="mt-1">
    {#each people as row (row.id)}
      {@const call = day.calls.find((one) => one.person === row.name)}
      <li class="flex min-h-[28px] items-center gap-2 border-t border-line pointer-coarse:min-h-11">
        <b class={["w-24 truncate", off(row) && "text-muted line-through"]}>{row.name}</b>
        <span class="min-w-0 flex-1 truncate">
          {#if call}called <span class="num">{clockOf(call.from_min)}</span> to
            <span class="num">{clockOf(call.to_min)}</span>{:else}<span class="text-muted">not called</span
            >{/if}
        </span>
        {#if changing === row.id}
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="field num !w-36"
            aria-label={`Hours of ${row.name} on ${day.name}`}
            value={hoursText(hours(row))}
            autofocus
            onchange={(event) => change(row, event.currentTarget.value)}
            onkeydown={(event) => event.key === "Escape" && (changing = null)}
            onblur={() => !wrong && (changing = null)}
          />
        {:else if board.writes}
          <button class="link num text-sm" onclick={() => (changing = row.id)}>{said(row)}</button>
        {:else}<span class="num text-sm text-muted">{said(row)}</span>{/if}
        {#if board.writes}
          <button class="link text-sm text-muted" onclick={() => toggle(row)}
            >{off(row) ? "there after all" : "off"}</button
          >
        {/if}
      </li>
    {/each}
  </ul>
  {#if wrong}<p role="alert">{wrong}</p>{/if}
</section>
