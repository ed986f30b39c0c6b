<!-- Somebody who is called: for what, on which weekdays, from when to when, for how long in all. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import Select from "../../lib/ui/Select.svelte";
  import { clockOf, type DaysBoard } from "./days.svelte";

  let { board, person }: { board: DaysBoard; person: Schemas["DayRowOut"] } = $props();
  type Hours = { weekdays: string[]; date: string | null; start: number | string; end: number | string };
  const week = $derived(board.data!.weekdays);
  const duties = $derived(board.data!.duties.map((one) => [one.key, one.title] as const));
  const hours = $derived((person.fields["hours"] as Hours[]) ?? []);
  const weekly = $derived(hours.findIndex((one) => !one.date));
  const usual = $derived(hours[weekly] ?? { weekdays: [], date: null, start: 480, end: 1080 });
  const there = (day: string) => !usual.weekdays.length || usual.weekdays.includes(day);
  const time = (value: number | string) => (typeof value === "number" ? clockOf(value) : value);
  let wrong = $state("");

  async function say(label: string, fields: Record<string, unknown>) {
    wrong = "";
    const done = await board.say(label, "person", person.id, fields);
    if (!done) wrong = board.asking.said;
  }
  function sayHours(change: Partial<Hours>) {
    const changed = { ...usual, ...change };
    const all = weekly < 0 ? [...hours, changed] : hours.map((one, at) => (at === weekly ? changed : one));
    return say(`Hours of ${person.name}`, { hours: all });
  }
  function toggle(day: string) {
    const now = week.map((one) => one.key).filter((key) => (key === day ? !there(key) : there(key)));
    return sayHours({ weekdays: now.length === 7 || !now.length ? [] : now });
  }
  const guest = $derived(board.data!.guests.find((one) => one.person === person.name));
  const most = $derived(person.fields["most_min"] as number | null);
</script>

<li class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line py-1.5">
  <b class="w-28 truncate">{person.name}</b>
  <Select
    class="field !w-52"
    label={`What ${person.name} is needed for`}
    value={String(person.fields["duty"])}
    options={duties}
    disabled={!board.writes}
    onchange={(duty) => say(`What ${person.name} is needed for`, { duty })}
  />
  {#if person.fields["duty"] === "plays"}
    <input
      class="field !w-36"
      aria-label={`Whom ${person.name} plays`}
      placeholder="Orla, Wren"
      value={(person.fields["plays"] as string[]).join(", ")}
      disabled={!board.writes}
      onchange={(event) =>
        say(`Whom ${person.name} plays`, {
          plays: event.currentTarget.value
            .split(",")
            .map((one) => one.trim())
            .filter(Boolean),
        })}
    />
  {/if}
  <span class="flex" role="group" aria-label={`Weekdays of ${person.name}`}>
    {#each week as { key, title: day } (key)}
      <button
        class={[
          "num min-h-[26px] w-7 cursor-pointer border border-line text-sm",
          "pointer-coarse:min-h-11 pointer-coarse:w-11",
          there(key) ? "bg-ink text-ground" : "text-muted",
        ]}
        aria-pressed={there(key)}
        aria-label={day}
        disabled={!board.writes}
        onclick={() => toggle(key)}>{day.slice(0, 2)}</button
      >
    {/each}
  </span>
  <span class="flex items-center gap-1">
    <input
      class="field num !w-16"
      aria-label={`${person.name} is there from`}
      value={time(usual.start)}
      disabled={!board.writes}
      onchange={(event) => sayHours({ start: event.currentTarget.value })}
    />
    to
    <input
      class="field num !w-16"
      aria-label={`${person.name} is there to`}
      value={time(usual.end)}
      disabled={!board.writes}
      onchange={(event) => sayHours({ end: event.currentTarget.value })}
    />
  </span>
  <label class="flex items-center gap-1"
    ><span class="text-muted">only for</span>
    <input
      class="field num !w-14"
      inputmode="decimal"
      placeholder="–"
      value={most === null ? "" : String(most / 60)}
      disabled={!board.writes}
      onchange={(event) => {
        const typed = event.currentTarget.value.trim();
        const hours = Number(typed.replace(",", "."));
        if (Number.isFinite(hours))
          void say(`How long ${person.name} is there in all`, {
            most_min: typed ? Math.round(hours * 60) : null,
          });
        else wrong = `“${typed}” is not a number of hours: 4 or 4.5, or nothing for as long as is needed.`;
      }}
    /><span class="text-muted">h in all</span></label
  >
  {#if board.writes}<button
      class="link ml-auto text-sm text-muted"
      aria-label={`Remove ${person.name}`}
      onclick={() => say(`Remove ${person.name}`, { removed: true })}>remove</button
    >{/if}
  {#if guest}<p class="w-full text-pretty text-muted">{guest.sentence}</p>{/if}
  {#if wrong}<p role="alert" class="w-full">{wrong}</p>{/if}
</li>
