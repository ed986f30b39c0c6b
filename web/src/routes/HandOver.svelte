<!-- Hand over: the shot cards, made by the worker, with progress. -->
<script lang="ts">
  import { answered, client, Offline, Refused, type Schemas } from "../lib/api/client";
  import { place } from "../lib/state/place.svelte";
  import { session } from "../lib/state/session.svelte";
  import Counts from "../lib/ui/Counts.svelte";

  type Card = Schemas["CardOut"];
  let cards = $state<Record<number, Card>>({});
  let problem = $state("");
  const POLL_MS = 400;

  async function guarded<T>(work: () => Promise<T>): Promise<T | undefined> {
    try {
      problem = "";
      return await work();
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
      problem = error.message;
    }
  }
  void guarded(() => place.readShots(session.person?.school ?? "measured"));

  async function make(shot: number, paper: "a4" | "letter") {
    const person = session.person;
    if (!person) return;
    const card = await guarded(() =>
      answered(
        client.POST("/api/shots/{shot_id}/cards", {
          params: { path: { shot_id: shot } },
          body: {
            version: place.shots?.find((one) => one.id === shot)?.version ?? 0,
            paper,
            units: person.units,
            school: person.school,
          },
        }),
      ),
    );
    if (card) {
      cards[shot] = card;
      window.setTimeout(() => void follow(shot), POLL_MS);
    }
  }
  async function follow(shot: number) {
    const card = cards[shot];
    if (!card || (card.state !== "waiting" && card.state !== "working")) return;
    const found = await guarded(() =>
      answered(client.GET("/api/cards/{card_id}", { params: { path: { card_id: card.id } } })),
    );
    if (found) cards[shot] = found;
    window.setTimeout(() => void follow(shot), POLL_MS);
  }
  async function stop(shot: number) {
    const card = cards[shot];
    if (!card) return;
    const found = await guarded(() =>
      answered(
        client.DELETE("/api/cards/{card_id}", {
          params: { path: { card_id: card.id }, query: { version: card.version } },
        }),
      ),
    );
    if (found) cards[shot] = found;
  }
</script>

<svelte:head><title>Hand over · Jungoptic</title></svelte:head>
<main class="mx-auto h-full max-w-5xl overflow-y-auto px-3.5 py-4">
  <h1 class="text-lg">Hand over</h1>
  <p class="mt-1 mb-4 max-w-prose text-muted">
    A shot card has both pictures, every layer's settings, the verdicts with their reasons, and the cautions. It says
    what was really shot where a take is circled, and the plan where none is.
  </p>
  {#if problem}<p class="mb-3 text-shows" role="alert">{problem}</p>{/if}
  <ul class="border-t border-line">
    {#each place.shots ?? [] as shot (shot.id)}
      {@const card = cards[shot.id]}
      {@const busy = card?.state === "waiting" || card?.state === "working"}
      <li class="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line py-3">
        <span class="num min-w-14 text-lg">{shot.code}</span>
        <b class="w-72 min-w-0 truncate text-lg max-sm:w-auto" title={shot.title}>{shot.title}</b>
        {#if shot.verdict}<span class="[&>span>span]:min-w-16"
            ><Counts shows={shot.shows} tight={shot.tight} holds={shot.holds} /></span
          >{:else}<span class="text-muted">no plates laid out yet</span>{/if}
        <span class="ml-auto flex items-center gap-2" aria-live="polite">
          {#if busy && card}
            <progress class="h-2 w-28 accent-ink" max="100" value={card.progress} aria-label="Making the card"
            ></progress>
            <button class="btn" onclick={() => stop(shot.id)}>Stop</button>
          {:else}
            {#if card?.state === "ready"}
              <a class="btn btn-solid" href={`/api/cards/${card.id}/pdf`} target="_blank" rel="noopener"
                >Open the {card.paper === "a4" ? "A4" : "Letter"} card</a
              >
            {:else if card}<span class="text-muted">{card.message}</span>{/if}
            <button class="btn" onclick={() => make(shot.id, "a4")}>Make card, A4</button>
            <button class="btn" onclick={() => make(shot.id, "letter")}>US Letter</button>
          {/if}
        </span>
      </li>
    {:else}
      <li class="py-6 text-muted">{place.shots ? "No shots yet, so no cards." : "Reading the shots…"}</li>
    {/each}
  </ul>
</main>
