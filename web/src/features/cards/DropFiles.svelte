<!-- A place to drop recordings on, or to choose them: they are sent in pieces, then read as a card is. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import { bytes, files as counted } from "./cards";
  import { Dropping } from "./dropping.svelte";

  let {
    production,
    busy,
    oncame,
  }: {
    production: number;
    busy: boolean;
    /** Everything has come: its folder. */ oncame: (place: string) => void;
  } = $props();
  const dropping = new Dropping();
  onDestroy(() => dropping.stop());
  let over = $state(false);
  let input = $state<HTMLInputElement | null>(null);

  async function send(list: FileList | null | undefined) {
    const chosen = [...(list ?? [])];
    if (!chosen.length || dropping.going || busy) return;
    const all = await dropping.send(production, chosen);
    if (input) input.value = "";
    if (all && dropping.place) oncame(dropping.place);
  }
</script>

<section
  class={["border-t border-line px-4 py-3", over && "bg-raised"]}
  aria-labelledby="drop"
  ondragover={(event) => {
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={(event) => {
    event.preventDefault();
    over = false;
    void send(event.dataTransfer?.files);
  }}
>
  <h2 id="drop">The card is in this machine</h2>
  <p class="mt-1 max-w-prose text-muted">
    Drop its files here: they are sent to the server in pieces, go on where they stopped when the same are
    dropped again, and are read there as a card is.
  </p>
  {#if dropping.going}
    <div class="mt-2 flex flex-wrap items-center gap-3" role="status">
      <Progress
        class="w-40"
        value={(100 * dropping.done) / Math.max(1, dropping.total)}
        label="Sending files"
      />
      <span
        >{dropping.away ? "No connection: tried again by itself." : `“${dropping.current?.name ?? ""}”`}
        <span class="num text-muted">{bytes(dropping.done)} of {bytes(dropping.total)}</span></span
      >
      <button class="btn !border-line" onclick={() => dropping.stop()}>Stop</button>
    </div>
  {:else}
    <label class="btn mt-2 focus-within:outline-2"
      >Choose files
      <input
        bind:this={input}
        type="file"
        multiple
        class="sr-only"
        disabled={busy}
        onchange={(event) => void send(event.currentTarget.files)}
      /></label
    >
  {/if}
  {#if dropping.refused.length}<div class="mt-2" role="alert">
      <p>{counted(dropping.refused.length)} did not come:</p>
      {#each dropping.refused as why (why)}<p class="text-muted">{why}</p>{/each}
    </div>{/if}
</section>
