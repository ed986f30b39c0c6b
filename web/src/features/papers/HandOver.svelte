<!-- Hand over: the shot cards, made by the workers, with progress. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import ShotCard from "./ShotCard.svelte";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import Counts from "../../lib/ui/Counts.svelte";

  const asking = new Asking();
  /** The newest card of each shot, by shot. */
  let cards = $state.raw<Record<number, Schemas["JobOut"]> | null>(null);

  async function read() {
    await asking.read(async () => {
      await place.readShots(session);
      if (!place.production) return;
      const params = {
        path: { production_id: place.production },
        query: { kind: "card", last_of_each_shot: true },
      };
      const jobs = await answered(client.GET("/api/productions/{production_id}/jobs", { params }));
      cards = Object.fromEntries(jobs.map((one) => [one.shot, one]));
    });
  }
  void read();
  whenOthersWrite(() => place.readShots(session));
</script>

<svelte:head><title>Hand over · Jungoptic</title></svelte:head>
<main class="mx-auto h-full max-w-5xl overflow-y-auto px-3.5 py-4">
  <h1 class="text-lg">Hand over</h1>
  <p class="mt-1 mb-4 max-w-prose text-pretty text-muted">
    A shot card has both pictures, every layer's settings, the verdicts with their reasons, and the cautions.
    It says what was really shot where a take is circled, and the plan where none is.
  </p>
  {#if asking.said}<p class="mb-3 text-shows" role="alert">{asking.said}</p>{/if}
  <ul class="border-t border-line">
    {#each place.shots ?? [] as shot (shot.id)}
      <li class="flex flex-wrap items-center gap-x-4 gap-y-2 border-b border-line py-3">
        <span class="num min-w-14 text-lg">{shot.code}</span>
        <b class="w-72 min-w-0 truncate text-lg max-sm:w-auto" {@attach tip(() => shot.title)}>{shot.title}</b
        >
        {#if shot.verdict}<span class="max-sm:w-full [&>span>span]:min-w-16"
            ><Counts shows={shot.shows} tight={shot.tight} holds={shot.holds} /></span
          >{:else}<span class="text-muted">no plates laid out yet</span>{/if}
        <span class="ml-auto flex min-h-[26px] flex-wrap items-center justify-end gap-2" aria-live="polite">
          {#if cards}<ShotCard shot={shot.id} version={shot.version} last={cards[shot.id] ?? null} />{/if}
        </span>
      </li>
    {:else}
      <li class="py-6 text-muted">{place.shots ? "No shots yet, so no cards." : "Reading the shots…"}</li>
    {/each}
  </ul>
</main>
