<!-- Before the next take: the newest photograph of each kind, which the set is to be like again. -->
<script lang="ts">
  import { clock } from "../../lib/ui/when";
  import type { ShotStills } from "./stills.svelte";

  let { stills, layer }: { stills: ShotStills; layer: number } = $props();
  const found = $derived(stills.toMatch(layer));
  let large = $state<number | null>(null);
</script>

{#if stills.asking.said || stills.way.can}
  <p class="flex flex-wrap items-center gap-x-3 border-b border-line px-3.5 py-2" role="status">
    {stills.asking.said}
    {#if stills.way.can}<button class="link" onclick={() => void stills.way.undo()}
        >Undo: {stills.way.label?.toLowerCase()}</button
      >{/if}
  </p>
{/if}
{#if found.length}
  <section aria-label="To be matched" class="border-b border-line px-3.5 py-2.5">
    <h2 class="text-muted">To be matched by the next take</h2>
    <div class="mt-1.5 grid grid-cols-2 gap-2 sm:grid-cols-3">
      {#each found as one (one.id)}
        <button
          class={["text-left", large === one.id && "col-span-full"]}
          aria-expanded={large === one.id}
          onclick={() => (large = large === one.id ? null : one.id)}
        >
          {#if stills.urls[one.id]}<img
              src={stills.urls[one.id]}
              alt=""
              class={["w-full bg-black", large === one.id ? "object-contain" : "aspect-video object-cover"]}
            />{:else}<span class="grid aspect-video place-content-center bg-panel px-2 text-muted"
              >not on this device</span
            >{/if}
          <span class="mt-0.5 block truncate">{one.note || one.name}</span>
          <span class="num block truncate text-sm text-muted"
            >{one.take_number ? `take ${one.take_number}, ` : ""}{clock(one.photographed_at)}</span
          >
        </button>
      {/each}
    </div>
  </section>
{/if}
