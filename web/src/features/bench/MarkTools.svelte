<!-- What can be drawn on a picture: chosen by press or by its number. -->
<script lang="ts">
  import type { MarkKind } from "../../lib/draw/marks";
  import { tip } from "../../lib/ui/tip.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let { tool = $bindable(null), writes }: { tool: MarkKind | null; writes: boolean } = $props();
</script>

<div
  class="flex min-h-[35px] shrink-0 flex-wrap items-center gap-1 border-b border-line px-2 py-1"
  role="group"
  aria-label="Draw"
>
  {#each vocabulary.marks as one, i (one.key)}
    <button
      class={[
        "cursor-pointer px-1.5 py-0.5 whitespace-nowrap pointer-coarse:min-h-11",
        tool === one.key ? "bg-ink text-ground" : "text-muted enabled:hover:text-ink",
      ]}
      disabled={!writes}
      aria-pressed={tool === one.key}
      {@attach tip(() => one.help)}
      onclick={() => (tool = tool === one.key ? null : one.key)}
      >{one.name}
      <span class={tool === one.key ? "key !border-ground" : "key"}>{i + 1}</span></button
    >
  {/each}
</div>
