<!-- What of the Bench is not saved, what was refused, and the way on. -->
<script lang="ts">
  import type { Problem } from "../../lib/api/client";
  import NotSaved from "../../lib/edit/NotSaved.svelte";
  import type { BenchState } from "../../lib/edit/shot.svelte";

  let {
    bench,
    problems = bench.problems,
    refused = $bindable(""),
  }: {
    bench: BenchState;
    /** Those that stand at no field here. */
    problems?: Problem[];
    /** What else was refused, and changes nothing. */
    refused?: string;
  } = $props();
</script>

{#if bench.offline || bench.conflict || problems.length || refused}
  <div class="shrink-0 border-b border-ink bg-raised px-3.5 py-2" role="alert">
    <NotSaved {bench} />
    {#each problems as one (one.message)}<p>
        {one.message} <button class="link ml-2" onclick={() => bench.forget()}>Drop the change</button>
      </p>{/each}
    {#if refused}<p>
        {refused} <button class="link ml-2" onclick={() => (refused = "")}>Good</button>
      </p>{/if}
  </div>
{/if}
