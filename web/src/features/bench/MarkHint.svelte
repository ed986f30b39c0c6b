<!-- Under a picture that is drawn on: how the chosen mark is drawn, else what can be done. -->
<script lang="ts">
  import type { Snippet } from "svelte";
  import type { MarkKind } from "../../lib/draw/marks";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let {
    tool = $bindable(null),
    onmiddle,
    children,
  }: {
    tool: MarkKind | null;
    /** It is to stand in the middle, for whoever draws by keyboard. */
    onmiddle: () => void;
    /** What is said while nothing is drawn. */
    children: Snippet;
  } = $props();
</script>

<!-- As high with words as without: a picture must not move under the hand that draws on it. -->
<div
  class={[
    "flex h-12 shrink-0 items-center gap-x-3 overflow-hidden border-t border-line px-3",
    "leading-tight max-sm:h-20",
  ]}
  aria-live="polite"
>
  {#if tool}
    {@const words = vocabulary.mark(tool)}
    <span class="min-w-0 flex-1"
      ><b>{words.name}.</b>
      {words.help}
      {words.points.length === 2
        ? "Draw along it; another one follows."
        : `Click ${words.points.join(", ")}.`}</span
    >
    <button class="link" onclick={onmiddle}>Place it in the middle</button>
    <button class="link" onclick={() => (tool = null)}>Leave it <span class="key">Esc</span></button>
  {:else}
    {@render children()}
  {/if}
</div>
