<!-- What was refused and why; after somebody else's save theirs is shown, and mine can be saved over it. -->
<script lang="ts">
  import type { WayBack } from "./back.svelte";

  let { back, about = "" }: { back: WayBack; about?: string } = $props();
</script>

{about}{about ? ": " : ""}{back.asking.said}
{#if back.again}<button class="link ml-1" onclick={() => back.again?.()}>Save mine over it</button>{/if}
<button class="link ml-1" onclick={() => back.leave()}>Leave it</button>
