<script lang="ts">
  import Verdict from "./Verdict.svelte";
  let {
    shows,
    tight,
    holds,
    accepted = 0,
  }: { shows: number; tight: number; holds: number; accepted?: number } = $props();
</script>

<span class="inline-flex items-center gap-3 whitespace-nowrap">
  <span class="inline-flex items-center gap-1.5"><Verdict verdict="shows" label={false} />{shows} show</span>
  <span class="inline-flex items-center gap-1.5"><Verdict verdict="tight" label={false} />{tight} tight</span>
  <span class="inline-flex items-center gap-1.5"><Verdict verdict="holds" label={false} />{holds} hold</span>
  {#if accepted}<span class="text-muted">{accepted} accepted</span>{/if}
</span>
