<!-- What keeps changes of a shot from being saved: no connection, or somebody who saved first. -->
<script lang="ts">
  import type { BenchState } from "./shot.svelte";

  let { bench }: { bench: BenchState } = $props();
  const count = $derived(bench.waiting.length);
</script>

{#if bench.offline}<p>
    The server cannot be reached. {count
      ? `${count > 1 ? `${count} changes are` : "1 change is"} kept here and will be sent when it is back.`
      : "What you see is the last answer."}
    <button class="link ml-2" onclick={() => bench.reread()}>Try now</button>
  </p>{/if}
{#if bench.conflict}<p>
    {bench.conflict}
    <button class="btn ml-3" onclick={() => bench.resolve(false)}>Look at theirs</button>
    <button class="btn" onclick={() => bench.resolve(true)}>Save mine over it</button>
  </p>{/if}
