<!--
  Photographs onto a take with one touch: the liquid's last level, the last pose, what was moved. They wait on
  the device as takes do.
-->
<script lang="ts">
  import { photographs } from "../../lib/offline/outbox.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import type { ShotStills } from "./stills.svelte";

  let {
    stills,
    layer,
    take,
    takeKey,
    what,
    writes,
  }: {
    stills: ShotStills;
    layer: number;
    take: number | null;
    takeKey?: string;
    /** The take in words, for whoever does not see where the button stands. */
    what: string;
    writes: boolean;
  } = $props();
  let opened = $state<string | null>(null);
  const shown = $derived(stills.of({ take, takeKey }));
  const open = $derived(shown.find((one) => one.key === opened) ?? null);

  function come(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = "";
    if (file) void stills.add(layer, { take, takeKey }, file);
  }
</script>

{#if shown.length || writes}
  <div class="mt-2 flex flex-wrap items-center gap-2">
    {#each shown as one (one.key)}
      <button
        class={[
          "relative h-16 w-24 shrink-0 border border-line bg-panel",
          one.key === opened && "outline-2 outline-ink",
        ]}
        aria-expanded={one.key === opened}
        aria-label={one.still ? `${one.still.name}, ${what}` : `Photograph that waits, ${what}`}
        onclick={() => (opened = one.key === opened ? null : one.key)}
      >
        {#if one.url}<img src={one.url} alt="" class="h-full w-full object-cover" />{/if}
        {#if !one.still}<span class="absolute inset-x-0 bottom-0 bg-raised text-xs"
            >{one.problem ? "not kept" : "waits"}</span
          >{/if}
      </button>
    {/each}
    {#if writes}
      <label class="btn inline-flex min-h-11 cursor-pointer items-center !border-line focus-within:outline-2">
        Photograph<input
          type="file"
          accept="image/*"
          capture="environment"
          class="sr-only"
          aria-label={`Photograph onto ${what}`}
          onchange={come}
        />
      </label>
    {/if}
  </div>
  {#if open}
    {@const still = open.still}
    <figure class="mt-2">
      {#if open.url}<img
          src={open.url}
          alt={still ? `${still.name}, ${what}` : "Photograph that waits"}
          class="max-h-[60vh] w-full bg-black object-contain"
        />{:else}<p class="text-muted">Its picture is not on this device.</p>{/if}
      <figcaption class="mt-1 flex flex-wrap items-center gap-2">
        {#if open.problem}
          <span>{open.problem}</span>
          <button class="link" onclick={() => void photographs.box.drop(open.key)}>Drop it</button>
        {:else if !still}
          <span class="text-muted">It waits on this device to be sent.</span>
        {:else if writes}
          <Select
            label="What it is of"
            value={still.of}
            options={stills.choices.map((one) => [one.key, one.name] as const)}
            onchange={(of) => void stills.change(still, { of: of as typeof still.of })}
          />
          <input
            class="field min-h-11 min-w-0 flex-1"
            aria-label="Note on the photograph"
            placeholder="What to look at"
            maxlength="120"
            value={still.note}
            onchange={(event) => void stills.change(still, { note: event.currentTarget.value.trim() })}
          />
          <button
            class="link"
            onclick={() => {
              opened = null;
              void stills.change(still, { removed: true });
            }}>Take it away</button
          >
        {:else}<span>{still.name}{still.note ? `: ${still.note}` : ""}</span>{/if}
      </figcaption>
    </figure>
  {/if}
{/if}
