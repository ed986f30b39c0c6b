<!-- Days: set-ups as blocks on shooting days, planned by the workers, moved by hand. -->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { MediaQuery } from "svelte/reactivity";
  import Refused from "../../lib/edit/Refused.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { letter, undoes } from "../../lib/ui/keys";
  import Progress from "../../lib/ui/Progress.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import DayBlock from "./DayBlock.svelte";
  import CallStrip from "./CallStrip.svelte";
  import DayColumn from "./DayColumn.svelte";
  import Day from "./Day.svelte";
  import JobPanel from "./JobPanel.svelte";
  import JobSaid from "./JobSaid.svelte";
  import WhoWhereWhen from "./WhoWhereWhen.svelte";
  import { clockOf, DaysBoard, KINDS, lasting, lateness } from "./days.svelte";

  const board = new DaysBoard();
  void board.read().then(() => board.back.fill({ kinds: KINDS }));
  whenOthersWrite(
    () => board.read(),
    () => true,
  );
  onDestroy(() => board.planning.close());

  /** A telephone shows one day as a list: today's, or the next on which something is filmed. */
  const narrow = new MediaQuery("max-width: 639px");
  $effect(() => {
    if (!narrow.current || !board.data || board.date) return;
    const { days } = board.data;
    const next =
      days.find((day) => !day.over && day.slots.length) ?? days.find((day) => !day.over) ?? days.at(-1);
    if (next) untrack(() => void board.look(next.date));
  });

  const LEAST_PX = 0.66; // a minute: a job of half an hour still shows its name
  const AXIS = 46;
  const TOP = 10; // so that the first hour's words are not cut
  const HEAD = 34;
  const ROW = 18;
  const LEAST_COLUMN = 184;
  let wide = $state(1200);
  let high = $state(600);
  let shown = $state<HTMLElement>();
  let columns = $state<HTMLElement>();
  let asked = $state(false); // who, where, when is open

  const data = $derived(board.data);
  const days = $derived(board.days);
  const column = $derived(
    Math.max(LEAST_COLUMN, Math.floor((wide - AXIS) / Math.max(1, Math.min(days.length, 7)))),
  );
  /** From an hour before anything begins to an hour after the last of it. */
  const from = $derived(
    Math.floor(
      (Math.min(9 * 60, ...days.flatMap((day) => day.slots.map((slot) => slot.start_min))) - 30) / 60,
    ) * 60,
  );
  const to = $derived(
    Math.ceil(Math.max(18 * 60, ...days.flatMap((day) => day.slots.map((slot) => slot.end_min + 15))) / 60) *
      60,
  );
  const people = $derived([...new Set(days.flatMap((day) => day.calls.map((call) => call.person)))]);
  const strip = $derived(people.length ? people.length * ROW + 9 : 0);
  const px = $derived(Math.max(LEAST_PX, (high - HEAD - TOP - strip - 4) / (to - from)));
  const hours = $derived(Array.from({ length: (to - from) / 60 + 1 }, (_, hour) => from + 60 * hour));
  /** Which day and minute is under a hand. */
  board.spot = (x, y) => {
    const seen = shown?.getBoundingClientRect();
    const drawn = columns?.getBoundingClientRect();
    if (!seen || !drawn || x < seen.left + AXIS || x > seen.right || y < seen.top || y > seen.bottom)
      return null;
    const day = days[Math.floor((x - drawn.left - AXIS) / column)];
    const grid = data!.grid_min;
    const minute = Math.round((from + (y - drawn.top - TOP) / px) / grid) * grid;
    if (!day || day.over) return null;
    return { date: day.date, start_min: Math.min(data!.latest_min, Math.max(0, minute)) };
  };
  const costs = $derived((board.held && board.tried ? board.tried : data)?.costs);
  const wrong = $derived(board.breaks.filter((one) => !one.warns));
  const spent = $derived(
    costs
      ? `${costs.people_days} people-days, ${lasting(costs.changing_min)} changing, ` +
          `${lasting(costs.waiting_min)} waiting`
      : "",
  );
  const open = $derived(`${data?.jobs.length} ${data?.jobs.length === 1 ? "set-up is" : "set-ups are"}`);
  const FOLLOWS =
    "Each is a job with its minutes, its needs and what must come before it, as they follow from the Bench.";
  const TEACHES =
    "Say on which days you can film and who is there, and they are put in order: fewest days, " +
    "fewest people called, least changed and waited for.";
  const bound = $derived(
    !costs?.fewest_days
      ? ""
      : costs.fewest_days >= costs.days
        ? "none fewer is possible"
        : `no plan needs fewer than ${costs.fewest_days}`,
  );
  /** Always in the order of the cut: a block that another is put before would be let go by the hand. */
  const blocks = $derived.by(() => {
    const there = new Map(
      days.flatMap((day, index) => day.slots.map((slot) => [slot.job, { slot, day, index }] as const)),
    );
    return (data?.jobs ?? []).flatMap((job) => {
      const own = there.get(job.key);
      return own ? [{ ...own, job }] : [];
    });
  });
  const shortOf = (day: { name: string }) => day.name.split(" ").slice(0, 2).join(" ");
  const said = $derived(board.saying ? board.job(board.saying) : undefined);
  const planned = $derived(data?.bookings.some((one) => one.date));
  const job = $derived(board.planning.job);
  board.keepUp();

  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void board.back.undo();
    else if (letter(event) === "s" && board.writes && !board.going) void board.plan();
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>Days · Jungoptic</title></svelte:head>

<main class="flex h-full min-h-0 flex-col">
  <h1 class="sr-only">Days</h1>
  <div
    class={[
      "flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-5 gap-y-1 border-b border-line px-3.5 py-1",
      data?.days.length && "max-sm:hidden",
    ]}
  >
    {#if data && data.days.length}
      {#if costs}
        <span
          >{costs.days}
          {costs.days === 1 ? "day" : "days"} planned{#if bound}<span class="text-muted">, {bound}</span
            >{/if}</span
        >
        <span class="text-muted">{spent}</span>
      {/if}
      {#if wrong.length}<span class="font-strong text-shows"
          >{wrong.length} {wrong.length === 1 ? "rule" : "rules"} broken</span
        >{/if}
      {#if data.stale}<span
          class="text-tight"
          {@attach tip(
            () => "The bench, the people or the places are no longer as they were when this was planned.",
          )}>the bench has changed since</span
        >{/if}
    {/if}
    <span class="ml-auto flex flex-wrap items-center gap-2">
      {#if board.writes}
        <button
          class="btn !border-line"
          disabled={!board.back.can}
          {@attach tip(() => board.back.label)}
          onclick={() => board.back.undo()}>Undo</button
        >
      {/if}
      <button class="btn !border-line" aria-expanded={asked} onclick={() => (asked = !asked)}
        >Who, where, when</button
      >
      {#if board.writes}
        {#if board.going && job}
          <Progress class="w-24" value={job.progress} label="Planning the days" />
          <span class="max-w-72 truncate text-muted" aria-live="polite">{job.message}</span>
          <button class="link" onclick={() => board.planning.stop()}>Stop</button>
        {:else}
          {#if planned}
            <button
              class="btn !border-line"
              {@attach tip(
                () => "What can stay where it is stays; the rest goes where the least is moved for it.",
              )}
              onclick={() => board.plan({ again: true })}>Mend the plan</button
            >
          {/if}
          <button
            class={["btn", planned ? "!border-line" : "btn-solid"]}
            disabled={!data?.days.length}
            onclick={() => board.plan()}
            >{planned ? "Plan anew" : "Plan the days"}<kbd class="ml-1">s</kbd></button
          >
        {/if}
      {/if}
    </span>
  </div>
  {#if board.asking.whole || (board.asking.said && !data)}
    <p role="alert" class="border-b border-line px-3.5 py-2">
      {#if data}<Refused back={board.back} />{:else}{board.asking.said}
        <button class="link" onclick={() => board.read()}>Try again</button>{/if}
    </p>
  {/if}
  {#if board.planning.asking.said || job?.state === "failed"}
    <p role="alert" class="border-b border-line px-3.5 py-2">
      {board.planning.asking.said || job?.message}
    </p>
  {/if}
  {#if job?.state === "ready" && job.message && job.title !== "Days planned"}
    <p class="border-b border-line px-3.5 py-1.5" aria-live="polite">
      <span class="text-muted">{job.title}:</span>
      {job.message}
    </p>
  {/if}
  {#if data?.faults.length && data.days.length}
    <ul role="alert" class="border-b border-line px-3.5 py-2">
      {#each data.faults as fault, number (number)}<li>{fault}</li>{/each}
    </ul>
  {/if}
  {#if data && asked}
    <WhoWhereWhen {board} onclose={() => (asked = false)} />
  {/if}
  {#if said}<JobSaid {board} job={said} onclose={() => (board.saying = null)} />{/if}
  {#if data && !data.days.length && !asked}
    <section class="max-w-prose px-3.5 py-6">
      <h2 class="text-lg">No shooting day yet</h2>
      <p class="mt-1 text-pretty text-muted">
        {open} to be filmed. {FOLLOWS}
        {TEACHES}
      </p>
      {#if board.writes}<button class="btn btn-solid mt-3" onclick={() => (asked = true)}
          >Say who, where and when</button
        >{/if}
    </section>
  {/if}
  {#if data?.days.length}
    {#if narrow.current}
      <Day {board} onlook={(date) => board.look(date)} />
    {:else}
      <div class="flex min-h-0 flex-1">
        <div
          class="min-w-0 flex-1 overflow-auto"
          bind:this={shown}
          bind:clientWidth={wide}
          bind:clientHeight={high}
        >
          <div class="relative" style:width={`${AXIS + column * days.length}px`}>
            <div
              class="sticky top-0 z-20 flex border-b border-line bg-ground"
              style:padding-left={`${AXIS}px`}
            >
              {#each days as day (day.date)}
                <a
                  class="flex shrink-0 items-baseline gap-2 overflow-hidden border-l border-line px-2 py-1.5"
                  style:width={`${column}px`}
                  href={`#/days/${day.date}`}
                >
                  <b class={["whitespace-nowrap underline", day.over && "text-muted"]}>{shortOf(day)}</b>
                  <span class="truncate text-muted">{day.places.join(", ") || "free"}</span>
                  <span class="ml-auto whitespace-nowrap">
                    {#if day.rained_from_min !== null}<b
                        >rain{day.rained_from_min ? ` from ${clockOf(day.rained_from_min)}` : ""}</b
                      >{/if}
                    {#if day.now_min !== null}<b class={day.late_min > 0 ? "text-tight" : ""}
                        >{lateness(day.late_min)}</b
                      >{:else if day.over}<span class="text-muted">{day.wrapped ? "wrapped" : "over"}</span
                      >{/if}
                  </span>
                </a>
              {/each}
            </div>
            <div class="relative flex" style:padding-left={`${AXIS}px`} bind:this={columns}>
              {#each hours as hour (hour)}
                <div
                  class="pointer-events-none absolute right-0 left-0 border-t border-line/50"
                  style:top={`${TOP + (hour - from) * px}px`}
                >
                  <span
                    class="num absolute left-2 bg-ground pr-1 text-xs text-muted"
                    style:top={hour === to ? "-17px" : "-8px"}>{clockOf(hour)}</span
                  >
                </div>
              {/each}
              {#each days as day (day.date)}
                <DayColumn {board} {day} {from} {to} {px} top={TOP} width={column} />
              {/each}
              {#each blocks as { slot, day, index, job } (slot.job)}
                <DayBlock
                  {board}
                  {slot}
                  {job}
                  {day}
                  {index}
                  left={AXIS + index * column}
                  top={TOP + (slot.start_min - from) * px}
                  {px}
                  width={column}
                />
              {/each}
            </div>
            <div class="sticky bottom-0 z-20 border-t border-line bg-ground py-1">
              {#each people as person (person)}
                <div class="relative flex" style:height={`${ROW}px`} style:padding-left={`${AXIS}px`}>
                  <span
                    class="sticky left-0 z-10 h-full w-0 text-xs leading-[18px] whitespace-nowrap text-muted"
                    ><span class="absolute bg-ground px-1" style:left={`-${AXIS - 2}px`}>{person}</span></span
                  >
                  {#each days as day (day.date)}
                    <div class="relative h-full shrink-0 border-l border-line" style:width={`${column}px`}>
                      <CallStrip {board} {day} {person} {from} {to} width={column} />
                    </div>
                  {/each}
                </div>
              {/each}
            </div>
          </div>
        </div>
      </div>
      <JobPanel {board} />
    {/if}
  {:else if !data && !board.asking.said}
    <p class="px-3.5 py-3 text-muted">Reading the days…</p>
  {/if}
</main>
