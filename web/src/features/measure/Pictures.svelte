<!-- The pictures of a measurement: dropped, chosen, filmed by the simulated camera; what each told. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { isGoing } from "../../lib/events/job.svelte";
  import { plural } from "../../lib/hours";
  import Progress from "../../lib/ui/Progress.svelte";
  import Covered from "./Covered.svelte";
  import type { Measured } from "./measurement.svelte";

  let {
    one,
    guide,
    open,
    busy,
  }: { one: Measured; guide: Schemas["GuideOut"]; open: boolean; busy: boolean } = $props();
  let over = $state(false);
  let input = $state<HTMLInputElement | null>(null);
  let first = $state(0);
  let step = $state(0.5);
  const pictures = $derived(one.known?.pictures ?? []);
  const series = $derived(guide.key === "curve");
  const left = $derived(Math.max(0, guide.fewest - pictures.length));
  const count = $derived(
    left ? `${plural(pictures.length, "picture")}, ${left} more needed` : plural(pictures.length, "picture"),
  );

  const FIELD = "field num !w-20";

  async function send(list: FileList | null | undefined) {
    const files = [...(list ?? [])];
    if (!files.length || busy || !open) return;
    await one.send(files, (number) => (series ? Number((first + number * step).toFixed(3)) : null));
    if (input) input.value = "";
  }
</script>

<section
  class={["px-3.5 py-3", over && "bg-raised"]}
  aria-labelledby="pictures"
  ondragover={(event) => {
    event.preventDefault();
    over = open;
  }}
  ondragleave={() => (over = false)}
  ondrop={(event) => {
    event.preventDefault();
    over = false;
    void send(event.dataTransfer?.files);
  }}
>
  <div class="flex flex-wrap items-baseline gap-x-3">
    <h2 id="pictures">Pictures</h2>
    <span class="num text-muted">{count}</span>
  </div>
  {#if open}
    <div class="mt-1.5 flex flex-wrap items-center gap-2">
      <label class={["btn focus-within:outline-2", left && "btn-solid", busy && "opacity-50"]}
        >Choose pictures
        <input
          bind:this={input}
          type="file"
          multiple
          accept="image/*,video/*,.mxf,.mov,.mp4"
          class="sr-only"
          disabled={busy}
          onchange={(event) => void send(event.currentTarget.files)}
        /></label
      >
      <button class="btn !border-line" disabled={busy} onclick={() => one.simulate()}
        >Film it with the simulated camera</button
      >
      <span class="text-muted max-sm:hidden">or drop them here; only what they tell is kept</span>
    </div>
    {#if series}
      <div class="mt-2 flex flex-wrap items-center gap-2">
        <label class="flex items-center gap-1.5"
          >The next is <input class={FIELD} type="number" step="0.1" bind:value={first} /> stops over</label
        >
        <label class="flex items-center gap-1.5"
          >each more <input class={FIELD} type="number" step="0.1" bind:value={step} /> stops</label
        >
      </div>
    {/if}
  {/if}
  {#if one.sending}
    <div class="mt-2 flex items-center gap-3" role="status">
      <Progress class="w-40" value={(100 * one.sending.done) / one.sending.of} label="Reading pictures" />
      <span>Reading picture {one.sending.done + 1} of {one.sending.of}</span>
    </div>
  {:else if one.film.job && (isGoing(one.film.job) || one.film.job.state === "failed")}
    <div class="mt-2 flex flex-wrap items-center gap-3" role="status">
      {#if isGoing(one.film.job)}
        <Progress class="w-40" value={one.film.job.progress} label="The simulated camera films" />
        <span>The simulated camera films: {one.film.job.message || "getting ready"}</span>
        {#if one.film.stops}<button class="btn !border-line" onclick={() => one.film.stop()}>Stop</button
          >{/if}
      {:else}<span>{one.film.job.message}</span>{/if}
    </div>
  {/if}
  {#if one.refused.length}<div class="mt-2 max-w-prose" role="alert">
      {#each one.refused as why (why)}<p class="break-words">{why}</p>{/each}
    </div>{/if}
  {#if pictures.length}
    <div class="mt-2 flex flex-wrap items-start gap-x-6 gap-y-2">
      {#if guide.key === "lens"}<Covered {pictures} />{/if}
      <ul class="max-h-56 min-w-60 flex-1 overflow-y-auto" aria-label="What each picture told">
        {#each pictures as picture (picture.id)}
          <li class="flex min-h-7 items-center gap-3 border-b border-line">
            <span class="min-w-0 flex-1 truncate">{picture.name}</span>
            <span class="num text-sm text-muted">{picture.says}</span>
            {#if series}
              <input
                class={FIELD}
                type="number"
                step="0.1"
                aria-label={`Stops over the metered, ${picture.name}`}
                value={picture.stops ?? ""}
                disabled={!open || busy}
                onchange={(event) => one.change(picture.id, { stops: event.currentTarget.valueAsNumber })}
              />
            {/if}
            {#if open}<button
                class="link px-1 py-1 text-sm text-muted pointer-coarse:py-3"
                disabled={busy}
                aria-label={`drop ${picture.name}`}
                onclick={() => one.change(picture.id, { dropped: true })}>drop</button
              >{/if}
          </li>
        {/each}
      </ul>
    </div>
  {/if}
</section>
