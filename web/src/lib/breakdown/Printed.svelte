<!-- Something printed by the worker: asked for, followed, stopped, opened. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../api/client";
  import { Asking } from "../state/asking.svelte";
  import { session } from "../state/session.svelte";

  let { what, id, version, label }: { what: "book" | "page"; id: number; version: number; label: string } = $props();
  const asking = new Asking();
  const POLL_MS = 500;
  let card = $state.raw<Schemas["CardOut"] | null>(null);
  let gone = false;
  $effect(() => () => (gone = true));

  const busy = $derived(card?.state === "waiting" || card?.state === "working");

  async function make() {
    const person = session.person;
    if (!person) return;
    const body = { version, paper: "a4" as const, units: person.units, school: person.school };
    card =
      (await asking.run(() =>
        what === "book"
          ? answered(
              client.POST("/api/productions/{production_id}/book", { params: { path: { production_id: id } }, body }),
            )
          : answered(client.POST("/api/shots/{shot_id}/page", { params: { path: { shot_id: id } }, body })),
      )) ?? null;
    follow();
  }
  function follow() {
    if (!card || gone || !busy) return;
    window.setTimeout(async () => {
      if (!card || gone) return;
      card =
        (await asking.run(() =>
          answered(client.GET("/api/cards/{card_id}", { params: { path: { card_id: card!.id } } })),
        )) ?? card;
      follow();
    }, POLL_MS);
  }
  async function stop() {
    if (!card) return;
    card =
      (await asking.run(() =>
        answered(
          client.DELETE("/api/cards/{card_id}", {
            params: { path: { card_id: card!.id }, query: { version: card!.version } },
          }),
        ),
      )) ?? card;
  }
</script>

<span class="inline-flex items-center gap-2" aria-live="polite">
  {#if busy && card}
    <progress class="h-2 w-24 accent-ink" max="100" value={card.progress} aria-label={`Printing the ${what}`}
    ></progress>
    <button class="link" onclick={stop}>Stop</button>
  {:else if card?.state === "ready"}
    <a class="btn btn-solid" href={`/api/cards/${card.id}/pdf`} target="_blank">Open the {what}</a>
    <button class="link" onclick={make}>anew</button>
  {:else}
    <button class="btn !border-line" onclick={make}>{label}</button>
    {#if card?.state === "failed" || asking.said}<span role="alert">{card?.message || asking.said}</span>{/if}
  {/if}
</span>
