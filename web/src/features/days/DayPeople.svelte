<!-- Who is there on a day: called when, off by a tap, or there at other hours than usual. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { clockOf, type BoardDay, type DaysBoard } from "./days.svelte";
  import { hoursOf, withHour, type Hours, type Span } from "./hours";

  let { board, day }: { board: DaysBoard; day: BoardDay } = $props();
  const people = $derived(board.day?.people ?? []);
  let changing = $state<number | null>(null);
  let tapped = $state.raw<Span[] | null>(null); // as it is tapped, before it is read again
  let wrong = $state("");
  type Person = Schemas["PersonOfDayOut"];

  /** What is said of somebody beside this day. */
  const fields = (person: Person) =>
    (board.data?.rows.find((row) => row.kind === "person" && row.id === person.id)?.fields ?? {}) as {
      off?: string[];
      hours?: Hours[];
    };
  const typedHours = (person: Person) =>
    person.hours.map((own) => `${clockOf(own.start_min)} to ${clockOf(own.end_min)}`).join("; ");
  const said = (person: Person) => (person.off ? "off" : typedHours(person) || "not there");
  function toggle(person: Person) {
    const off = fields(person).off ?? [];
    return board.say(
      `${person.name} ${person.off ? "is there" : "is off"} on ${day.name}`,
      "person",
      person.id,
      { off: person.off ? off.filter((one) => one !== day.date) : [...off, day.date] },
    );
  }
  async function change(person: Person, typed: string) {
    const told = hoursOf(typed);
    wrong = told ? "" : "Hours are typed like “10:00 to 14:00”.";
    if (told && (await sayHours(person, told))) open(null);
  }
  async function sayHours(person: Person, told: Pick<Hours, "start" | "end">[]) {
    const dated = told.map((one) => ({ ...one, weekdays: [], date: day.date }));
    const kept = (fields(person).hours ?? []).filter((one) => one.date !== day.date);
    const done = await board.say(`Hours of ${person.name} on ${day.name}`, "person", person.id, {
      hours: [...kept, ...dated],
      off: (fields(person).off ?? []).filter((one) => one !== day.date),
    });
    wrong = done ? "" : board.asking.said;
    return done;
  }
  const spansOf = (person: Person): readonly Span[] => tapped ?? person.hours;
  const isThere = (person: Person, hour: number) =>
    spansOf(person).some((span) => span.start_min < 60 * hour + 60 && span.end_min > 60 * hour);
  /** From eight to eight, or as far as somebody is there. */
  function hoursOfDay(spans: readonly Span[]) {
    const first = Math.floor(Math.min(8 * 60, ...spans.map((span) => span.start_min)) / 60);
    const last = Math.ceil(Math.max(20 * 60, ...spans.map((span) => span.end_min)) / 60);
    return Array.from({ length: last - first }, (_, number) => first + number);
  }
  /** An hour more, or one less; without any they are off. */
  async function tapHour(person: Person, hour: number) {
    const spans = withHour(spansOf(person), hour);
    if (!spans.length) return toggle(person);
    tapped = spans;
    const told = spans.map((span) => ({ start: clockOf(span.start_min), end: clockOf(span.end_min) }));
    await sayHours(person, told);
    if (tapped === spans) tapped = null; // the last tap: it is read, or it was refused
  }
  function open(id: number | null) {
    changing = id;
    tapped = null;
    wrong = "";
  }
</script>

<section class="border-b border-line px-3.5 py-2.5" aria-label="Who is there">
  <h2>Who is there</h2>
  <ul class="mt-1">
    {#each people as person (person.id)}
      {@const call = day.calls.find((one) => one.person === person.name)}
      <li
        class="flex min-h-[28px] flex-wrap items-center gap-x-2 border-t border-line pointer-coarse:min-h-11"
      >
        <b class={["w-24 truncate", person.off && "text-muted line-through"]}>{person.name}</b>
        <span class="min-w-0 flex-1">
          {#if call}called <span class="num">{clockOf(call.from_min)}</span> to
            <span class="num">{clockOf(call.to_min)}</span>{:else}<span class="text-muted">not called</span
            >{/if}
        </span>
        {#if changing === person.id}
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="field num !w-36"
            aria-label={`Hours of ${person.name} on ${day.name}`}
            value={typedHours(person)}
            autofocus
            onchange={(event) => change(person, event.currentTarget.value)}
            onkeydown={(event) => event.key === "Escape" && open(null)}
          />
        {:else if board.writes}
          <button class="link num text-sm" onclick={() => open(person.id)}>{said(person)}</button>
        {:else}<span class="num text-sm text-muted">{said(person)}</span>{/if}
        {#if board.writes && changing === person.id}
          <button class="link text-sm" onclick={() => open(null)}>done</button>
        {:else if board.writes}
          <button class="link text-sm text-muted" onclick={() => toggle(person)}
            >{person.off ? "there after all" : "off"}</button
          >
        {/if}
        {#if changing === person.id}
          <div
            class="flex w-full flex-wrap pt-1 pb-1.5"
            role="group"
            aria-label={`Hours of ${person.name} by a tap`}
          >
            {#each hoursOfDay(person.hours) as hour (hour)}
              <button
                class={[
                  "num min-h-[26px] w-7 cursor-pointer border border-line text-sm",
                  "pointer-coarse:min-h-11 pointer-coarse:w-11",
                  isThere(person, hour) ? "bg-ink text-ground" : "text-muted",
                ]}
                aria-pressed={isThere(person, hour)}
                aria-label={`${clockOf(60 * hour)} to ${clockOf(60 * hour + 60)}`}
                onclick={() => tapHour(person, hour)}>{clockOf(60 * hour).slice(0, 2)}</button
              >
            {/each}
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  {#each board.day?.guests ?? [] as guest (guest.person)}
    <p class="mt-1 text-pretty">{guest.sentence}</p>
  {/each}
  {#if wrong}<p role="alert">{wrong}</p>{/if}
</section>
