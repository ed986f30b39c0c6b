<!--
  The cut itself: shots in order, set like type in lines, each as wide as it is long; where two meet stands
  what the comparison across the cut says.
-->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import CutShot from "./CutShot.svelte";

  type Line = Schemas["WallLine"];
  let {
    shots,
    joints,
    rate,
    second,
    chosen = $bindable(null),
    onopen,
    onkeydown,
  }: {
    shots: Line[];
    joints: Schemas["Joint"][];
    rate: number;
    /** Width of a second, px. */
    second: number;
    chosen: number | null;
    onopen: (shot: Line) => void;
    onkeydown: (event: KeyboardEvent) => void;
  } = $props();

  const LEAST = 76;
  let room = $state(1200);
  const byRight = $derived(new Map(joints.map((one) => [`${one.left_id} ${one.right_id}`, one])));
  /** Filled as lines of type are: a shot that does not fit any more begins the next. */
  const lines = $derived.by(() => {
    const made: { shot: Line; width: number; seconds: number; before: Line | null }[][] = [];
    let used = Infinity;
    let before: Line | null = null;
    for (const shot of shots) {
      const seconds = shot.length_frames / rate;
      const width = Math.min(Math.max(Math.round(seconds * second), LEAST), room);
      if (used + width > room) {
        made.push([]);
        used = 0;
      }
      made.at(-1)!.push({ shot, width, seconds, before });
      used += width;
      before = shot;
    }
    return made;
  });
</script>

<div bind:clientWidth={room} class="min-w-0">
  {#each lines as line, i (i)}
    <div class="mb-2 flex border-b border-line">
      {#each line as { shot, width, seconds, before }, j (shot.id)}
        <CutShot
          {shot}
          {width}
          {seconds}
          first={j === 0}
          last={j === line.length - 1}
          chosen={chosen === shot.id}
          joint={before ? (byRight.get(`${before.id} ${shot.id}`) ?? null) : null}
          onchoose={() => (chosen = shot.id)}
          onopen={() => onopen(shot)}
          {onkeydown}
        />
      {/each}
    </div>
  {/each}
</div>
