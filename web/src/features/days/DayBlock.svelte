<!--
  A job on its day, as high as it lasts: a hand or the arrow keys move it over the hours and the days, and
  what that breaks is said meanwhile. It stays the same element from day to day, so that it stays in the hand.
-->
<script lang="ts">
  import { handle } from "../../lib/draw/handle";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { clockOf, SUN, type BoardDay, type DaysBoard, type Job, type Slot } from "./days.svelte";

  let {
    board,
    slot,
    job,
    day,
    index,
    left,
    top,
    px,
    width,
  }: {
    board: DaysBoard;
    slot: Slot;
    job: Job;
    day: BoardDay;
    /** Which of the days that are shown. */
    index: number;
    /** Where its column begins, where it begins itself; px for a minute, width of a column. */
    left: number;
    top: number;
    px: number;
    width: number;
  } = $props();

  const grid = $derived(board.data!.grid_min);
  const breaks = $derived(board.breaksOf(slot.job));
  const wrong = $derived(breaks.filter((one) => !one.warns));
  const chosen = $derived(board.selected === slot.job);
  const high = $derived((slot.end_min - slot.start_min) * px);
  const label = $derived(`${job.shots[0]} ${job.name}`);
  let grip = { index: 0, minute: 0 };

  function put(columns: number, minutes: number) {
    const { days } = board;
    const to = days[Math.min(days.length - 1, Math.max(0, grip.index + columns))];
    const minute = Math.round((grip.minute + minutes) / grid) * grid;
    const start_min = Math.min(board.data!.latest_min, Math.max(0, minute));
    if (to) board.hold({ job: slot.job, date: to.date, start_min });
  }
  function save() {
    const { held } = board;
    if (held?.job !== slot.job) return;
    if (held.date === was.date && held.start_min === was.start_min) board.letGo();
    else void board.book(`Move ${label}`, held);
  }
  let was = { date: "", start_min: 0 };
  const done = $derived(slot.state === "done");
  const running = $derived(slot.state === "running");
  const moves = $derived(board.writes && !board.going && !done && !running);
  const held = handle({
    able: () => moves,
    slack: 4,
    take: () => {
      board.selected = slot.job;
      grip = { index, minute: slot.start_min };
      if (board.held?.job !== slot.job) was = { date: day.date, start_min: slot.start_min };
    },
    move: (way) => put(Math.round(way.x / width), -way.y / px),
    step: (way, big) => put(way.x, -way.y * (big ? 30 : grid)),
    drop: () => save(),
    settle: () => save(),
    cancel: () => board.letGo(),
  });
  function pressed(event: KeyboardEvent) {
    if (!moves || event.ctrlKey || event.metaKey || event.altKey) return;
    const here = { job: slot.job, date: day.date, start_min: slot.start_min };
    if (event.key === "l")
      void board.book(`${slot.locked ? "Unlock" : "Lock"} ${label}`, here, { locked: !slot.locked });
    else if (event.key === "Delete" || event.key === "Backspace")
      void board.book(`Take ${label} off the days`, { ...here, date: "" }, { locked: false });
    else return;
    event.preventDefault();
  }
</script>

<div
  role="slider"
  tabindex="0"
  aria-label={label}
  aria-valuenow={slot.start_min}
  aria-valuetext={`${day.name}, ${clockOf(slot.start_min)} to ${clockOf(slot.end_min)}${
    done ? ", filmed" : running ? ", running" : slot.locked ? ", locked" : ""
  }${breaks.length ? `. ${breaks.map((one) => one.sentence).join(" ")}` : ""}`}
  data-job={slot.job}
  class={[
    "absolute overflow-hidden border px-1.5 py-0.5 text-left select-none",
    moves && "cursor-move touch-none",
    chosen ? "bg-ink text-ground" : done ? "bg-ground text-muted" : "bg-panel",
    wrong.length ? "border-shows" : chosen ? "border-ink" : "border-line",
    board.held?.job === slot.job && "z-10",
  ]}
  style:left={`${left + SUN + 4}px`}
  style:width={`${width - SUN - 8}px`}
  style:top={`${top}px`}
  style:height={`${Math.max(high, 18)}px`}
  onfocus={() => (board.selected = slot.job)}
  onkeydown={pressed}
  {@attach held}
>
  <div class="flex items-center gap-1.5">
    <span class={["num shrink-0", !chosen && "text-muted"]}>{job.shots[0]}</span>
    <b class="min-w-0 flex-1 truncate">{job.name}</b>
    {#if done || running || slot.locked}
      <span class="shrink-0 text-xs">{done ? "filmed" : running ? "running" : "locked"}</span>
    {/if}
    {#if breaks.length}<Verdict
        verdict={wrong.length ? "shows" : "tight"}
        label={false}
        inverted={chosen}
      />{/if}
  </div>
  {#if high > 34}
    <div class={["truncate text-sm", !chosen && "text-muted"]}>
      <span class="num">{clockOf(slot.start_min)}</span>
      {[job.place, job.lens, job.model || job.backing].filter(Boolean).join(", ")}
    </div>
  {/if}
  {#if high > 56 && wrong.length}
    <div
      class={["line-clamp-1 text-sm font-strong", !chosen && "text-shows"]}
      style:-webkit-line-clamp={Math.floor((high - 38) / 18)}
    >
      {wrong[0]!.sentence}
    </div>
  {/if}
</div>
