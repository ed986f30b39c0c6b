<!-- Cards of cameras: which are in the machine now, and which were read. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import { push } from "svelte-spa-router";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import { when } from "../../lib/ui/when";
  import { bytes, files } from "./cards";
  import DropFiles from "./DropFiles.svelte";

  const asking = new Asking();
  const reading = new Followed(asking);
  onDestroy(() => reading.close());
  let cards = $state.raw<Schemas["CardsOut"] | null>(null);
  let missing = $state("");
  let other = $state("");
  const path = $derived({ path: { production_id: place.production ?? 0 } });

  async function read() {
    if (!place.production) return;
    const asked = new Asking();
    const found = await asked.read(() =>
      answered(client.GET("/api/productions/{production_id}/cards", { params: path })),
    );
    cards = found ?? cards;
    missing = cards ? "" : asked.said;
  }
  $effect(() => {
    if (place.production) void read();
  });
  whenOthersWrite(read, (told) => told.shot === null);
  let over = $state(0);
  $effect(() => {
    const { job } = reading;
    if (!job || isGoing(job) || job.id === over) return;
    over = job.id;
    const done = job.state === "ready";
    void read().then(() => {
      const newest = [...(cards?.cards ?? [])].sort((a, b) => read_at(b) - read_at(a))[0];
      if (done && newest) void push(`/cards/${newest.id}`);
    });
  });

  function readCard(where: string) {
    void reading.ask((key) =>
      answered(
        client.POST("/api/productions/{production_id}/cards", {
          params: path,
          headers: { "Idempotency-Key": key },
          body: { place: where.trim(), version: cards!.version },
        }),
      ),
    );
  }
  function simulate() {
    void reading.ask((key) =>
      answered(
        client.POST("/api/productions/{production_id}/simulated-card", {
          params: path,
          headers: { "Idempotency-Key": key },
          body: { version: cards!.version },
        }),
      ),
    );
  }
  const read_at = (card: Schemas["CardLineOut"]) => (card.read_at ? new Date(card.read_at).getTime() : 0);
  const going = $derived(isGoing(reading.job));
  const EMPTY = [
    "No card is in the machine that runs the server. Put one in: what a camera wrote on it is read, and each",
    "file goes to its take by the code on its slate. Nothing on the card is ever changed.",
  ].join(" ");
</script>

<svelte:head><title>Cards · Jungoptic</title></svelte:head>
{#if missing}
  <CannotShow why={missing} />
{:else if cards}
  <main class="h-full overflow-y-auto">
    <div class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-4 py-2">
      <h1 class="text-lg">Cards</h1>
      <p class="text-muted">
        Files go to <span class="num">{cards.copies_to}</span>, {bytes(cards.free_bytes)} free.
      </p>
      <button class="btn ml-auto !border-line" disabled={going || asking.busy} onclick={() => void read()}
        >Look again</button
      >
    </div>
    {#if reading.job && (going || reading.job.state !== "ready")}
      <div class="flex flex-wrap items-center gap-3 border-b border-ink bg-raised px-4 py-2" role="status">
        <b>{reading.job.title}</b>
        {#if going}
          <Progress class="w-40" value={reading.job.progress} label={reading.job.title} />
          <span class="text-muted">{reading.job.message}</span>
          {#if reading.stops}<button class="btn !border-line" onclick={() => reading.stop()}>Stop</button
            >{/if}
        {:else}<span>{reading.job.message}</span>{/if}
      </div>
    {/if}
    {#if asking.whole}<p class="border-b border-ink bg-raised px-4 py-2" role="alert">{asking.whole}</p>{/if}

    <section class="px-4 py-3" aria-labelledby="now">
      <h2 id="now">In the server’s machine now</h2>
      <ul class="mt-1 max-w-4xl">
        {#each cards.folders as folder (folder.place)}
          <li class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-2">
            <p class="min-w-0 flex-1 max-sm:basis-full">
              <b>{folder.name}</b>
              <span class="num ml-2">{files(folder.recordings)}, {bytes(folder.size_bytes)}</span>
              <span class="num block break-all text-muted">{folder.place}</span>
            </p>
            {#if folder.card_id}<a class="link" href={`#/cards/${folder.card_id}`}>Open {folder.name}</a>{/if}
            <button
              class={["btn", !folder.card_id && "btn-solid"]}
              disabled={going || asking.busy}
              onclick={() => readCard(folder.place)}
              >{folder.card_id ? `Read ${folder.name} again` : `Read ${folder.name}`}</button
            >
          </li>
        {:else}<li class="max-w-prose py-1 text-muted">{EMPTY}</li>{/each}
      </ul>
      <form
        class="mt-3 flex max-w-4xl flex-wrap items-end gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          readCard(other);
        }}
      >
        <label class="min-w-64 flex-1"
          ><span class="text-muted">Another folder of that machine</span>
          <input
            class="field num"
            bind:value={other}
            maxlength="1000"
            placeholder={`${cards.looks_in[0]}/…`}
            aria-invalid={asking.at("place") ? "true" : undefined}
            aria-describedby={asking.at("place") ? "place-problem" : undefined}
          /></label
        >
        <button
          class="btn !min-h-7.5 pointer-coarse:!min-h-11"
          disabled={!other.trim() || going || asking.busy}>Read it</button
        >
        {#if asking.at("place")}<p id="place-problem" class="basis-full" role="alert">
            {asking.at("place")}
          </p>{/if}
      </form>
    </section>

    <DropFiles production={place.production ?? 0} busy={going || asking.busy} oncame={readCard} />

    <section class="border-t border-line px-4 py-3" aria-labelledby="read">
      <h2 id="read">Read before</h2>
      {#if cards.cards.length}
        <ul class="mt-1 max-w-4xl">
          {#each cards.cards as card (card.id)}
            <li class="flex flex-wrap items-baseline gap-x-4 gap-y-0.5 border-b border-line py-2">
              <a class="link min-w-32 font-strong" href={`#/cards/${card.id}`}>{card.name}</a>
              <span class="num min-w-44"
                >{files(card.recordings)}, {card.filed} filed, {card.copied} copied</span
              >
              <span class="min-w-0 flex-1 text-muted"
                >{card.read_at
                  ? `read ${when(card.read_at)} by ${card.read_by}`
                  : "not read to its end"}{card.here ? "" : ", not in the machine now"}</span
              >
            </li>
          {/each}
        </ul>
      {:else}<p class="mt-1 text-muted">None yet.</p>{/if}
    </section>

    <section class="border-t border-line px-4 py-3" aria-labelledby="none">
      <h2 id="none">No camera at hand?</h2>
      <p class="mt-1 max-w-prose text-muted">
        The simulated camera records what was logged, slates and all, with its clock 37 minutes behind, onto a
        card of its own: to try what happens with a real one.
      </p>
      <button class="btn mt-2" disabled={going || asking.busy} onclick={simulate}
        >Record with the simulated camera</button
      >
    </section>
  </main>
{:else}<main class="grid h-full place-content-center text-muted">Looking for cards…</main>{/if}
