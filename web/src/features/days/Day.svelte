<!--
  One shooting day as a crew follows it: its jobs when to expect them, late or early, what no longer fits,
  what fills a gap, the sun, and the call sheet.
-->
<script lang="ts">
  import { MediaQuery } from "svelte/reactivity";
  import Refused from "../../lib/edit/Refused.svelte";
  import { letter } from "../../lib/ui/keys";
  import Progress from "../../lib/ui/Progress.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import CallSheet from "./CallSheet.svelte";
  import DayPeople from "./DayPeople.svelte";
  import DayJob from "./DayJob.svelte";
  import SunChart from "./SunChart.svelte";
  import { clockOf, lasting, lateness, type DaysBoard } from "./days.svelte";

  let { board, onlook }: { board: DaysBoard; onlook: (date: string) => void } = $props();

  const found = $derived(board.day);
  const day = $derived(found?.day);
  const now = $derived(day?.now_min ?? null);
  const slots = $derived([...(day?.slots ?? [])].sort((a, b) => a.start_min - b.start_min));
  /** On a telephone what is next stands on top, and what is filmed below. */
  const narrow = new MediaQuery("max-width: 639px");
  const listed = $derived(
    narrow.current && now !== null
      ? [...slots.filter((slot) => slot.state !== "done"), ...slots.filter((slot) => slot.state === "done")]
      : slots,
  );
  const jobs = $derived(new Map(found?.jobs.map((job) => [job.key, job]) ?? []));
  const rain = $derived(day?.rained_from_min ?? null);
  const job = $derived(board.planning.job);
  const spans = (kind: string) => found?.light.find((one) => one.kind === kind)?.spans ?? [];
  /** The day's light in the order in which it comes. */
  const light = $derived.by(() => {
    const [sun] = spans("day");
    const [twilight, golden] = [spans("twilight"), spans("golden")];
    if (!sun) return "";
    const told = [`sun ${clockOf(sun.start_min)} to ${clockOf(sun.end_min)}`];
    if (golden.length > 1)
      told.push(`golden until ${clockOf(golden[0]!.end_min)} and from ${clockOf(golden.at(-1)!.start_min)}`);
    if (twilight.length > 1)
      told.push(`light from ${clockOf(twilight[0]!.start_min)}, dark ${clockOf(twilight.at(-1)!.end_min)}`);
    return told.join("; ");
  });
  /** The job whose sun is shown: the chosen one, or the next that is outdoors. */
  const sunny = $derived(
    slots.find((slot) => slot.job === board.selected && jobs.get(slot.job)?.outdoors) ??
      slots.find((slot) => jobs.get(slot.job)?.outdoors && slot.state !== "done") ??
      slots.find((slot) => jobs.get(slot.job)?.outdoors),
  );
  const outdoors = $derived(slots.some((slot) => jobs.get(slot.job)?.outdoors && slot.state === "next"));
  const RAINS =
    "What is outdoors goes to other days, with as little else moved as can be. Undo brings it back.";
  const unfit = $derived.by(() => {
    const keys = slots.filter((slot) => found?.breaks.some((one) => one.jobs.includes(slot.job)));
    return keys.map((slot) => `${jobs.get(slot.job)?.shots[0]} ${jobs.get(slot.job)?.name}`).join(", ");
  });
  const slipped = $derived(
    (board.data?.jobs ?? []).filter((one) => one.slipped_from === day?.date && !one.filmed),
  );
  function rains() {
    if (!day || !board.writes || board.going || rain !== null) return;
    void board.plan({ again: true, rains_on: day.date, rains_from_min: now ?? 0 });
  }
  function pressed(event: KeyboardEvent) {
    if (letter(event) === "r") rains();
  }
  function drop() {
    const dropped = found?.drop?.jobs ?? [];
    void board.bookAll(
      "Leave out of the day",
      dropped.map((key) => ({ job: key, date: "", start_min: 0 })),
    );
  }
</script>

<svelte:window onkeydown={pressed} />

{#if board.asking.whole || (board.asking.said && !found)}
  <p role="alert" class="border-b border-line px-3.5 py-2">
    {#if found}<Refused back={board.back} />{:else}{board.asking.said}
      <a class="link ml-1" href="#/days">All days</a>{/if}
  </p>
{/if}
{#if found && day}
  <div
    class="flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3.5 py-1"
  >
    <div class="flex items-center gap-1 max-sm:w-full max-sm:justify-between">
      <button
        class="btn !px-2 pointer-coarse:!min-h-11"
        aria-label="The day before"
        disabled={!found.before}
        onclick={() => onlook(found.before!)}>‹</button
      >
      <h1 class="text-base font-strong">{day.name}</h1>
      <button
        class="btn !px-2 pointer-coarse:!min-h-11"
        aria-label="The day after"
        disabled={!found.after}
        onclick={() => onlook(found.after!)}>›</button
      >
    </div>
    {#if now !== null}
      <span aria-live="polite"
        ><span class="num">{clockOf(now)}</span>,
        <b class={day.late_min > 0 ? "text-tight" : ""}>{lateness(day.late_min)}</b></span
      >
    {:else if day.over}
      <span class="text-muted">{day.wrapped ? "wrapped" : "over"}</span>
    {/if}
    {#if rain !== null}<b>rain{rain ? ` from ${clockOf(rain)}` : ""}</b>{/if}
    <span class="text-muted max-sm:text-sm">{light}</span>
    <span class="ml-auto flex flex-wrap items-center gap-2 max-sm:w-full">
      {#if board.going && job}
        <Progress class="w-24" value={job.progress} label="Planning the days" />
        <button class="link" onclick={() => board.planning.stop()}>Stop</button>
      {:else if board.writes}
        <button
          class="btn !border-line"
          disabled={!board.back.can}
          {@attach tip(() => board.back.label)}
          onclick={() => board.back.undo()}>Undo</button
        >
        {#if rain !== null && !day.over}
          <button
            class="btn !border-line"
            onclick={() => board.say("No rain after all", "day", day.id, { rained_from_min: null })}
            >No rain after all</button
          >
        {:else if !day.over}
          <button
            class="btn !border-line"
            disabled={!outdoors}
            {@attach tip(() => (outdoors ? RAINS : "Nothing that is left of this day is outdoors."))}
            onclick={rains}>If it rains<kbd class="ml-1">r</kbd></button
          >
        {/if}
        <button
          class="btn !border-line"
          {@attach tip(() => (day.wrapped ? "" : "Nothing more is filmed on this day."))}
          onclick={() =>
            board.say(`${day.wrapped ? "Open" : "Wrap"} ${day.name}`, "day", day.id, {
              wrapped: !day.wrapped,
            })}>{day.wrapped ? "Open again" : "Wrap"}</button
        >
      {/if}
    </span>
  </div>
  {#if job?.state === "ready" && job.message}
    <p class="border-b border-line px-3.5 py-1.5" aria-live="polite">
      <span class="text-muted">{job.title}:</span>
      {job.message}
    </p>
  {:else if job?.state === "failed" || board.planning.asking.said}
    <p role="alert" class="border-b border-line px-3.5 py-1.5">
      {board.planning.asking.said || job?.message}
    </p>
  {/if}
  <div class="min-h-0 flex-1 overflow-y-auto lg:grid lg:grid-cols-[minmax(0,1fr)_420px] lg:overflow-hidden">
    <ol class="min-h-0 lg:overflow-y-auto" aria-label={`Jobs of ${day.name}`}>
      {#each listed as slot, number (slot.job)}
        {@const own = jobs.get(slot.job)}
        {#if own}
          <DayJob
            {board}
            {day}
            {slot}
            job={own}
            first={number === 0 || listed[number - 1]!.start_min > slot.start_min}
            breaks={found.breaks}
          />
        {/if}
      {:else}
        <li class="px-3.5 py-4 text-muted">
          {day.over ? "Nothing was filmed on this day." : "Nothing is filmed on this day."}
          <a class="link ml-1" href="#/days">All days</a>
        </li>
      {/each}
    </ol>
    <div class="min-h-0 border-line max-lg:border-t lg:overflow-y-auto lg:border-l">
      {#if found.breaks.length}
        <section class="border-b border-line px-3.5 py-2.5" aria-live="polite">
          <h2>{now === null ? "Rules broken" : "What no longer fits"}: {unfit}</h2>
          {#if found.drop}
            <p class="mt-2 text-pretty">{found.drop.sentence}</p>
            {#if board.writes}<button class="btn mt-1.5 !border-line" onclick={drop}
                >Leave {found.drop.jobs.length === 1 ? "it" : "them"} out of the day</button
              >{/if}
          {/if}
        </section>
      {/if}
      {#if slipped.length}
        <section class="border-b border-line px-3.5 py-2.5">
          <h2>Slipped from this day</h2>
          <ul class="mt-1">
            {#each slipped as one (one.key)}
              <li><span class="num text-muted">{one.shots.join(", ")}</span> {one.name}</li>
            {/each}
          </ul>
          {#if board.writes}<button
              class="btn mt-1.5 !border-line"
              disabled={board.going}
              onclick={() => board.plan({ again: true })}>Put on other days, with little changed</button
            >{/if}
        </section>
      {/if}
      {#if found.fillers.length}
        <section class="border-b border-line px-3.5 py-2.5">
          <h2>Fits before what is next</h2>
          <ul class="mt-1 space-y-1">
            {#each found.fillers as filler (filler.job)}
              {@const own = jobs.get(filler.job)}
              {#if own}
                <li class="flex items-baseline gap-2">
                  <span class="min-w-0 flex-1"
                    ><span class="num text-muted">{own.shots.join(", ")}</span>
                    {own.name}
                    <span class="text-muted"
                      >{filler.change_min
                        ? `${lasting(filler.change_min)} ${filler.change.map((one) => one.kind).join(", ")}`
                        : "nothing to change"}, done <span class="num">{clockOf(filler.end_min)}</span></span
                    ></span
                  >
                  {#if board.writes}<button
                      class="link"
                      onclick={() =>
                        board.book(`Film ${own.name} now`, {
                          job: own.key,
                          date: day.date,
                          start_min: filler.end_min - own.before_min - own.takes_min - own.after_min,
                        })}>Film it now</button
                    >{/if}
                </li>
              {/if}
            {/each}
          </ul>
        </section>
      {/if}
      <CallSheet {board} />
      {#if found.people.length}<DayPeople {board} {day} />{/if}
      {#if sunny}
        {#key `${sunny.job} ${day.date}`}<SunChart
            {board}
            job={jobs.get(sunny.job)!}
            date={day.date}
            {now}
            at={sunny.takes_from_min}
          />{/key}
      {/if}
    </div>
  </div>
{:else if !board.asking.said}
  <p class="px-3.5 py-3 text-muted">Reading the day…</p>
{/if}
