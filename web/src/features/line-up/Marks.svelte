<!-- Where somebody stands: marks set by a touch of the live picture, and how far that is from the lens. -->
<script lang="ts">
  import type { Lining } from "./lining.svelte";

  let { lining, writes }: { lining: Lining; writes: boolean } = $props();
  const thing = (values: Record<string, unknown>) => (values.thing ? `, ${String(values.thing)}` : "");
</script>

<section class="grid gap-2 border-t border-line px-3.5 py-3" aria-label="Actor's marks">
  <div class="flex items-center gap-2">
    <h2 class="text-muted">Actor's marks</h2>
    {#if writes}<button
        class="btn ml-auto min-h-8 !border-line pointer-coarse:min-h-11"
        aria-pressed={lining.setting}
        onclick={() => void lining.beginToSet(!lining.setting)}
        >{lining.setting ? "Set none" : "Set a mark"}</button
      >{/if}
  </div>
  {#if lining.setting}<p>Touch the picture where their feet stand on the ground.</p>{/if}
  {#each lining.marks as { line, number } (line.id)}
    <p class="flex items-baseline gap-2">
      <b class="num w-4 shrink-0 text-right">{number}</b>
      <span class="num min-w-0 flex-1">{line.place}{thing(line.values)}</span>
      {#if writes}<button
          class="link min-h-6 shrink-0 text-muted"
          aria-label={`Remove mark ${number}`}
          onclick={() => void lining.removeMark(line.id, line.version)}>Remove</button
        >{/if}
    </p>
  {:else}
    {#if !lining.setting}<p class="text-muted">
        {writes
          ? "None yet: set one, and it is told how far it lies from the lens."
          : "None yet. The supervisor sets them here or on the board."}
      </p>{/if}
  {/each}
</section>
