<!-- One measurement, step by step: what to do, what was filmed, what came of it, what it changes. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import { isGoing } from "../../lib/events/job.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import { undoes } from "../../lib/ui/keys";
  import { tip } from "../../lib/ui/tip.svelte";
  import { when } from "../../lib/ui/when";
  import Changes from "./Changes.svelte";
  import { Measured } from "./measurement.svelte";
  import Pictures from "./Pictures.svelte";

  let { params }: { params: { measurement: string } } = $props();
  const one = new Measured(() => Number(params.measurement));
  onDestroy(() => one.film.close());
  $effect(() => {
    if (place.production && params.measurement && session.units) void one.read();
  });
  whenOthersWrite(
    () => one.fresh(),
    (told) => told.shot === null,
  );
  let over = $state(0);
  $effect(() => {
    const { job } = one.film;
    if (!job || isGoing(job) || job.id === over) return;
    over = job.id;
    void one.fresh();
  });
  const HEAD = [
    "flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5",
    "py-1",
  ];
  const known = $derived(one.known);
  const guide = $derived(one.guide);
  const open = $derived(Boolean(known && !known.kept_at && !known.removed));
  const logs = $derived(place.role === "supervisor" || place.role === "crew");
  const busy = $derived(one.asking.busy || isGoing(one.film.job) || one.sending !== null);
  const keeps = $derived(known?.values.some((each) => each.kept) ?? false);
</script>

<svelte:window onkeydown={(event) => undoes(event) && void one.back.undo()} />
<svelte:head><title>{known?.name ?? "Measurement"} · Jungoptic</title></svelte:head>
{#if one.missing}
  <CannotShow why={one.missing} />
{:else if known && guide}
  <main class="flex h-full flex-col">
    <header class={HEAD}>
      <a class="link text-muted" href="#/kit/measure">Measure</a>
      <h1 class="text-lg">{known.name}</h1>
      {#if guide.of !== "mode"}<span class="text-muted">with {known.recording}</span>{/if}
      {#if logs}<span class="ml-auto flex gap-2">
          <button
            class="btn !border-line"
            disabled={!one.back.can || busy}
            {@attach tip(() => one.back.label)}
            onclick={() => one.back.undo()}>Undo</button
          >
          <button class="btn !border-line" disabled={busy} onclick={() => one.discard(!known.removed)}
            >{known.removed ? "Bring back" : "Discard"}</button
          >
        </span>{/if}
    </header>
    {#if known.removed}<p class="shrink-0 border-b border-line bg-raised px-3.5 py-1.5" role="status">
        It is discarded. What of it is in the kit stays there.
      </p>{/if}
    <div class="min-h-0 flex-1 overflow-y-auto lg:grid lg:grid-cols-[minmax(0,26rem)_minmax(0,1fr)]">
      <section class="px-3.5 py-3 lg:border-r lg:border-line" aria-labelledby="how">
        <h2 id="how">How</h2>
        <ol class="mt-1 list-decimal space-y-2 pl-5">
          {#each guide.steps as step (step)}<li>{step}</li>{/each}
        </ol>
        {#if guide.chart}
          <p class="mt-3">
            <a class="btn" href={`/api/charts/${guide.chart}.pdf`} target="_blank" rel="noopener"
              >Open the chart, PDF</a
            >
          </p>
          {#if guide.chart === "board"}<p class="mt-1.5 text-muted">
              Or show it on a flat screen: how large it is does not matter, that it is flat does.
            </p>{/if}
        {/if}
        {#if guide.fields.length}
          <h3 class="mt-4">Say for it</h3>
          {#each guide.fields as field (field.name)}
            <FieldRow
              {field}
              units={session.units}
              value={known.asked[field.name]}
              disabled={!open || !logs}
              problem={one.asking.at(field.name)}
              onset={async (value) => (await one.say(field.name, value)) !== undefined}
            />
          {/each}
        {/if}
      </section>
      <div class="min-w-0">
        {#if one.asking.whole}<p class="border-b border-ink bg-raised px-3.5 py-2" role="alert">
            {one.asking.whole}
          </p>{/if}
        <Pictures {one} {guide} open={open && logs} {busy} />
        <section class="border-t border-line px-3.5 py-3" aria-labelledby="came">
          <h2 id="came">What came of it</h2>
          {#if known.values.length}
            <p class="mt-1 max-w-prose text-lg">{known.says}</p>
            <table class="mt-2 w-full max-w-2xl">
              <thead>
                <tr class="text-left text-sm text-muted">
                  <th class="border-b border-line py-0.5 font-normal">Measured</th>
                  <th class="border-b border-line pl-3 text-right font-normal">value</th>
                  <th class="border-b border-line pl-3 font-normal"
                    ><span class="max-sm:sr-only">95 of 100</span> within</th
                  >
                  <th class="border-b border-line pl-3 text-right font-normal"
                    >{known.kept_at ? "kit said" : "kit says"}</th
                  >
                </tr>
              </thead>
              <tbody>
                {#each known.values as value (value.title)}
                  <tr class={[!value.kept && "text-muted"]}>
                    <th class="border-b border-line py-1 text-left font-normal">{value.title}</th>
                    <td class="num border-b border-line pl-3 text-right whitespace-nowrap">{value.text}</td>
                    <td class="num border-b border-line pl-3 text-sm whitespace-nowrap text-muted"
                      >{value.off}</td
                    >
                    <td class="num border-b border-line pl-3 text-right whitespace-nowrap">{value.now}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
            {#if known.kept_at}
              <p class="mt-2" role="status">
                In the kit since {when(known.kept_at)}. What stands on it is planned with this now.
              </p>
            {:else if open && place.role === "supervisor"}
              <button class="btn btn-solid mt-3" disabled={busy} onclick={() => one.accept()}
                >{keeps ? "Take it into the kit" : "Keep it with the kit"}</button
              >
            {:else if open}<p class="mt-2 text-muted">The supervisor takes it into the kit.</p>{/if}
          {:else}
            <p class="mt-1 text-muted">{known.missing}</p>
          {/if}
        </section>
        {#if one.effects && known.values.length}<Changes
            effects={one.effects}
            kept={Boolean(known.kept_at)}
            {keeps}
          />{/if}
      </div>
    </div>
  </main>
{:else}<main class="grid h-full place-content-center text-muted">Reading…</main>{/if}
