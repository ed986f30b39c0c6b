<!-- What a take with these settings would be given, as far as it was worked out before. -->
<script lang="ts">
  import Verdict from "../../lib/ui/Verdict.svelte";
  import type { Foretold } from "./foretold";

  let { told, sure }: { told: Foretold; sure: string } = $props();
  const worst = $derived(told.items.filter((one) => one.verdict === told.verdict).slice(0, 2));
</script>

<p class="mb-1.5 flex flex-wrap items-baseline gap-x-2" aria-label="Foretold">
  <Verdict verdict={told.verdict} label={false} />
  <b>{told.verdict}</b>
  {#each told.verdict === "holds" ? [] : worst as one (one.item)}<span
      >{one.label} <b class="num">{one.amount_text}</b> <span class="text-muted">{one.unit}</span></span
    >{/each}
  {#if sure}<span class="text-muted">{sure}</span>{/if}
</p>
