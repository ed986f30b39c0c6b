<!-- A job in the list of its day: when to expect it, what it needs, how late it is, its sun. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import {
    clockOf,
    lasting,
    lateness,
    type BoardDay,
    type DaysBoard,
    type Job,
    type Slot,
  } from "./days.svelte";

  let {
    board,
    day,
    slot,
    job,
    first,
    breaks,
  }: {
    board: DaysBoard;
    day: BoardDay;
    slot: Slot;
    job: Job;
    first: boolean;
    breaks: Schemas["BreakOut"][];
  } = $props();

  const wrong = $derived(breaks.filter((one) => one.jobs.includes(slot.job)));
  const done = $derived(slot.state === "done");
  const running = $derived(slot.state === "running");
  const chosen = $derived(board.selected === slot.job);
  const booked = $derived(slot.start_min - slot.late_min);
  const needs = $derived(
    [job.place, job.camera, job.lens, job.model, job.backing, job.hour === "any" ? "" : `${job.hour} light`]
      .filter(Boolean)
      .join(", "),
  );
  const now = $derived(day.now_min ?? slot.takes_from_min);
  /** The window that is open now or comes next. */
  const window = $derived(
    slot.windows.find((one) => one.holds && one.end_min > now) ??
      slot.windows.find((one) => one.end_min > now),
  );
  const sun = $derived(
    !window
      ? ""
      : window.start_min > now
        ? `sun ${clockOf(window.start_min)} to ${clockOf(window.end_min)}`
        : day.now_min === null
          ? `sun until ${clockOf(window.end_min)}`
          : `sun ${window.holds ? "" : "tight "}for ${lasting(window.end_min - now)} more`,
  );
  const changed = $derived(
    slot.change.map((one) => (one.kind === "place" ? `to ${job.place}` : one.kind)).join(", "),
  );
</script>

{#if !first && (slot.change_min || slot.idle_min >= 15)}
  <li class="border-b border-line px-3.5 py-1 pl-[86px] text-sm text-muted">
    {#if slot.change_min}<span class="num">{lasting(slot.change_min)}</span> {changed}{/if}{slot.idle_min >=
    15
      ? `${slot.change_min ? "; " : ""}${lasting(slot.idle_min)} free`
      : ""}
  </li>
{/if}
<li class={["flex gap-3 border-b border-line px-3.5 py-2", running && "bg-panel", chosen && "bg-panel"]}>
  <div class="w-[60px] shrink-0">
    <div class={["num text-lg", done && "text-muted"]}>{clockOf(slot.start_min)}</div>
    {#if Math.abs(slot.late_min) >= 5}
      <div class="num text-sm text-muted line-through">{clockOf(Math.max(0, booked))}</div>
    {/if}
  </div>
  <button
    class="min-w-0 flex-1 cursor-pointer text-left"
    aria-pressed={chosen}
    onclick={() => (board.selected = chosen ? null : slot.job)}
  >
    <div class={["text-lg", done && "text-muted"]}>
      <span class="num">{job.shots.join(", ")}</span> <b>{job.name}</b>
    </div>
    <div class="gap-x-6 text-muted xl:grid xl:grid-cols-2">
      <div>
        takes <span class="num">{clockOf(slot.takes_from_min)}</span> to
        <span class="num">{clockOf(slot.takes_to_min)}</span>, struck
        <span class="num">{clockOf(slot.end_min)}</span>
      </div>
      <div>{needs}</div>
      {#if job.people.length}<div class="xl:col-start-2">{job.people.join(", ")}</div>{/if}
    </div>
    {#if job.fall_back}<div class="text-muted">if it rains: {job.fall_back}</div>{/if}
    {#each wrong as one, number (number)}
      <p class="mt-1 flex gap-1.5">
        <span class="mt-0.5"><Verdict verdict={one.warns ? "tight" : "shows"} label={false} /></span>
        <span class="text-pretty">{one.sentence}</span>
      </p>
    {/each}
  </button>
  <div class="flex w-28 shrink-0 flex-col items-end gap-0.5 text-right">
    {#if done}<span class="text-muted">filmed</span>
    {:else if running}<b>running</b>
    {/if}
    {#if slot.late_min && Math.abs(slot.late_min) >= 5}<span
        class={slot.late_min > 0 && !done ? "text-tight" : "text-muted"}>{lateness(slot.late_min)}</span
      >{/if}
    {#if slot.locked && !running}<span class="text-sm text-muted">locked</span>{/if}
    {#if sun && !done}<span class="text-sm">{sun}</span>{/if}
    {#if !done}<a class="link mt-auto" href={`#/shots/${job.shot_id}/log`}>Log</a>{/if}
  </div>
</li>
