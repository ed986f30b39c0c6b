<!-- The lines of the sheet that are chosen: on ones, twos, threes, held, one more, left out. -->
<script lang="ts">
  import type { Desk } from "./desk.svelte";
  import type { Pose } from "./strip";
  import { onWords } from "./writes";

  let { desk, pose }: { desk: Desk; pose: Pose } = $props();
  const ONS = [1, 2, 3, 4];
  let stays = $state(true);
  const many = $derived(desk.span[0] !== desk.span[1]);
  const frames = $derived(
    desk.poses.slice(desk.span[0], desk.span[1] + 1).reduce((sum, one) => sum + one.hold, 0),
  );
</script>

{#if desk.takes}
  <section class="border-t border-line px-3 py-2" aria-label="Chosen lines">
    <h2 class="flex items-baseline gap-2 text-muted">
      {#if many}Lines <span class="num">{desk.span[0] + 1}–{desk.span[1] + 1}</span>{:else}Timing{/if}
      <span class="num ml-auto">{frames} frames</span>
    </h2>
    {#if !many}<p class="text-muted">Shift and a click in the strip, or ⇧ and →, choose more lines.</p>{/if}
    {#if many}
      <div class="mt-1 flex flex-wrap items-center gap-1.5" role="group" aria-label="Put them on">
        {#each ONS as on (on)}
          <button
            class="btn !border-line !px-2"
            onclick={() => void desk.writes.span(stays ? "regrouped" : "held", on)}>on {onWords(on)}</button
          >
        {/each}
      </div>
      <label class="mt-1 flex min-h-6 items-center gap-1.5"
        ><input type="checkbox" class="size-4 accent-ink" bind:checked={stays} />as long as they are: lines
        come in or go</label
      >
    {/if}
    <div class="mt-1 flex flex-wrap gap-1.5">
      <button class="btn !border-line" onclick={() => void desk.writes.insert(pose)}
        >New line before {pose.place + 1}</button
      >
      <button class="btn !border-line" onclick={() => void desk.writes.span("left_out", 1)}
        >Leave {many ? "them" : "it"} out</button
      >
    </div>
  </section>
{/if}
