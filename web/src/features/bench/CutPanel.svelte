<!-- Across the cut: this hero against its neighbours' in the same place. -->
<script lang="ts">
  import type { Bench } from "../../lib/api/client";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let { bench }: { bench: Bench } = $props();
</script>

<div class="h-full overflow-y-auto px-4.5 pt-2 pb-4 max-sm:px-3">
  {#each bench.across_cut as cut (cut.shot_id)}
    <section class="mb-4">
      <h3 class="mb-1">
        <a class="link" href={`#/shots/${cut.shot_id}/bench`}>{cut.code}</a>
        <span class="font-normal text-muted">comes {cut.where}</span>
      </h3>
      <ul>
        {#each cut.items as item (item.item)}
          <li class="grid grid-cols-[14px_9.5rem_1fr] items-start gap-x-2 border-b border-line py-1">
            <span class="pt-1"><Verdict verdict={item.verdict} /></span>
            <b>{item.label}</b>
            <span class="text-muted">{item.sentence}</span>
          </li>
        {/each}
      </ul>
    </section>
  {:else}
    <p class="max-w-prose text-muted">
      Neither neighbour is set in the same place, so nothing is held against this shot across the cut. Shots
      of one place are compared by the direction of light, camera height, colour and screen direction.
    </p>
  {/each}
</div>
