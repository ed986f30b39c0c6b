<!-- What this device has for a place without a server, and how it comes here. -->
<script lang="ts">
  import { along, type Which } from "../../lib/offline/along.svelte";
  import { installed } from "../../lib/offline/installed.svelte";
  import { outbox, photographs } from "../../lib/offline/outbox.svelte";
  import { reach } from "../../lib/offline/reach.svelte";
  import { persist } from "../../lib/offline/store";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import { clock, date } from "../../lib/ui/when";

  let stays = $state<boolean | null>(null);
  void navigator.storage?.persisted?.().then((found) => (stays = found));
  if (!place.shots) place.readShots(session).catch(() => undefined);
  const taken = $derived(new Date(along.at).toISOString());
  const here = $derived((place.shots ?? []).filter((one) => along.shots[one.id]));
  const missing = $derived((place.shots ?? []).filter((one) => !along.shots[one.id]));

  async function take(which: Which) {
    if (!session.person) return;
    stays = await persist();
    await along.take(session.person, which);
  }
</script>

<svelte:head><title>What this device has · Jungoptic</title></svelte:head>
{#snippet line(what: string, has: string, more = "")}
  <div class="grid gap-x-4 border-t border-line py-2 sm:grid-cols-[12rem_9rem_1fr]">
    <dt class="text-muted">{what}</dt>
    <dd class="font-strong">{has}</dd>
    {#if more}<dd class="text-muted">{more}</dd>{/if}
  </div>
{/snippet}

<main class="h-full overflow-y-auto">
  <div class="max-w-3xl px-4 py-5">
    <h1 class="text-lg">What this device has</h1>
    <p class="mt-1 text-muted">
      Where there is no server, the Log, the cards with their cautions and likely verdicts, the day and Pocket
      work from what was taken along. Takes are always kept here until the server has said yes.
    </p>
    <dl class="mt-4 border-b border-line">
      {@render line(
        "The program",
        installed.ready ? "here" : "not here yet",
        installed.why || "It opens without a server once it was opened with one.",
      )}
      {@render line(
        "Shots",
        `${here.length} of ${place.shots?.length ?? 0}`,
        missing.length
          ? `not here: ${missing
              .map((one) => one.code)
              .slice(0, 8)
              .join(", ")}${missing.length > 8 ? " …" : ""}`
          : "all of the production",
      )}
      {@render line("Calculators", String(along.cards), along.cards ? "around where each card stands" : "")}
      {@render line(
        "Up to date",
        along.at ? clock(taken) : "not yet",
        along.at ? `on ${date(taken)}` : "Nothing was taken along yet.",
      )}
      {@render line(
        "Takes that wait",
        String(outbox.waiting.length),
        outbox.waiting.length ? "sent once each, in their order" : "every one has arrived",
      )}
      {@render line(
        "Photographs that wait",
        String(photographs.waiting.length),
        photographs.waiting.length ? "sent after their takes" : "every one has arrived",
      )}
      {@render line(
        "Kept for good",
        stays === null ? "not known" : stays ? "yes" : "no",
        stays === false
          ? "This browser may clear it away when the device is full: put the page on the home screen."
          : "",
      )}
    </dl>
    {#if along.busy}
      <div class="mt-4 flex items-center gap-3">
        <span class="min-w-0 flex-1"
          ><Progress
            value={along.total ? (100 * along.done) / along.total : 0}
            label="Taking along"
            class="w-full"
          /></span
        >
        <span class="num">{along.done} of {along.total}</span>
        <button class="btn" onclick={() => along.stop()}>Stop</button>
      </div>
    {:else}
      <p class="mt-4 flex flex-wrap gap-2">
        <button class="btn btn-solid" disabled={reach.away} onclick={() => take("next")}
          >Take the next day along</button
        >
        <button class="btn" disabled={reach.away} onclick={() => take("all")}>Take every shot along</button>
      </p>
      {#if reach.away}<p class="mt-2 text-muted">
          There is no connection: more can be taken along when it is back.
        </p>{/if}
    {/if}
    {#if along.problem}<p class="mt-2" role="alert">{along.problem}</p>{/if}
    <p class="mt-4 max-w-prose text-muted">
      A telephone does this by itself whenever it has a connection. To have the page on the home screen,
      choose
      <b>Install</b> or <b>Add to Home Screen</b> in the browser’s menu.
    </p>
  </div>
</main>
