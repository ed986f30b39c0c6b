<!-- Points of the figure: the next step of each, whether a foot slides, and its path to be typed in. -->
<script lang="ts">
  import type { Desk } from "./desk.svelte";
  import Point from "./Point.svelte";

  let { desk }: { desk: Desk } = $props();
  const points = $derived(desk.points);
</script>

<section class="border-t border-line px-3 py-2" aria-label="Points of the figure">
  <div class="flex items-center gap-2">
    <h2 class="text-muted">Points of the figure</h2>
    {#if points.all.length}
      <button
        class="btn ml-auto !border-line"
        aria-pressed={points.shown}
        onclick={() => (points.shown = !points.shown)}>Paths</button
      >
    {/if}
    {#if desk.takes}
      <button
        class={["btn !border-line", !points.all.length && "ml-auto"]}
        onclick={() => void desk.writes.addPoint()}>Add one</button
      >
    {/if}
  </div>
  {#if !points.all.length}
    <p class="text-muted">
      A beak, a toe: marked in one photograph it is found again in each new one, and held against its path.
    </p>
  {/if}
  {#each points.all as point (point.id)}<Point {desk} {point} />{/each}
</section>
