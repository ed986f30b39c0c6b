<!-- A job that is on no day: a hand draws it onto one, a tap chooses it. -->
<script lang="ts">
  import { handle } from "../../lib/draw/handle";
  import { lasting, type DaysBoard, type Job } from "./days.svelte";

  let { board, job }: { board: DaysBoard; job: Job } = $props();
  const moves = $derived(board.writes && !board.going);
  let drawn = false; // a click follows when the hand lets go; of a key it comes by itself
  const held = handle({
    able: () => moves,
    slack: 4,
    take: () => (drawn = false),
    move: (_, event) => {
      drawn = true;
      const spot = board.spot?.(event.clientX, event.clientY);
      if (spot) board.hold({ job: job.key, ...spot });
      else board.letGo();
    },
    drop: () => {
      const own = board.held;
      if (own?.job !== job.key) return;
      void board.book(`Put ${job.name} on a day`, own).then(() => (board.selected = job.key));
    },
    cancel: () => board.letGo(),
  });
</script>

<button
  class={[
    "flex min-h-[26px] max-w-64 items-center gap-1.5 border border-line px-1.5",
    "select-none focus-visible:-outline-offset-2 pointer-coarse:min-h-11",
    moves ? "cursor-move touch-none" : "cursor-pointer",
    board.held?.job === job.key && "opacity-50",
  ]}
  onclick={(event) => {
    if (!drawn || event.detail === 0) board.selected = job.key;
  }}
  {@attach held}
>
  <span class="num shrink-0 text-muted">{job.shots[0]}</span>
  <b class="min-w-0 truncate">{job.name}</b>
  <span class="num shrink-0 text-sm">{lasting(job.before_min + job.takes_min + job.after_min)}</span>
  {#if job.slipped_from}<span class="shrink-0 text-sm text-tight">slipped</span>{/if}
</button>
