<script lang="ts">
  import { vocabulary } from "../vocabulary.svelte";
  import Verdict from "./Verdict.svelte";
  let {
    shows,
    tight,
    holds,
    accepted = 0,
  }: { shows: number; tight: number; holds: number; accepted?: number } = $props();
</script>

<span class="inline-flex items-center gap-3 whitespace-nowrap">
  {#each [["shows", shows], ["tight", tight], ["holds", holds]] as const as [verdict, count] (verdict)}
    <span class="inline-flex items-center gap-1.5"
      ><Verdict {verdict} label={false} />{count} {vocabulary.verdict(verdict).several}</span
    >
  {/each}
  {#if accepted}<span class="text-muted">{accepted} accepted</span>{/if}
</span>
