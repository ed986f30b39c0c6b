<!-- Everything of the production that is made frame by frame: how far it is, and the pace. -->
<script lang="ts">
  import { push } from "svelte-spa-router";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import { session } from "../../lib/session.svelte";

  let found = $state.raw<Schemas["FramesOut"] | null>(null);
  let on = $state(2);
  const frameByFrame = $derived(vocabulary.kind("frame_by_frame"));
  const asking = new Asking();
  const production = $derived(place.production);
  $effect(() => {
    void production;
    if (session.person) void read();
  });
  whenOthersWrite(() => read());
  async function read() {
    if (!production) return;
    const params = { path: { production_id: production } };
    found =
      (await asking.read(() =>
        answered(client.GET("/api/productions/{production_id}/frames", { params })),
      )) ?? found;
  }
  const logs = $derived(found?.role === "supervisor" || found?.role === "crew");
  const APART = 0.05; // s an hour: less is no other pace
  const other = $derived.by(() => {
    const { s_per_hour: real, planned_s_per_hour: planned } = found ?? {};
    return real && planned && Math.abs(real - planned) >= APART ? Number(real.toFixed(1)) : null;
  });
  async function plan(seconds: number) {
    if (!production || !found) return;
    const params = { path: { production_id: production } };
    const body = { version: found.figures_version, changes: { seconds_per_hour: seconds } };
    const done = await asking.run(() =>
      answered(client.PATCH("/api/productions/{production_id}/figures", { params, body })),
    );
    if (done) await read();
  }
  let hyperlapse = $state("");
  async function beginHyperlapse() {
    const made = await asking.run(() =>
      answered(
        client.POST("/api/layers/{layer_id}/hyperlapse", {
          params: { path: { layer_id: Number(hyperlapse) } },
          body: {},
        }),
      ),
    );
    if (made) void push(`/frames/${made.id}`);
  }
  async function begin(layer: number) {
    const made = await asking.run(() =>
      answered(
        client.POST("/api/layers/{layer_id}/exposure-sheet", {
          params: { path: { layer_id: layer } },
          body: { on },
        }),
      ),
    );
    if (made) void push(`/frames/${made.id}`);
  }
  const hours = (value: number | null) => (value === null ? "–" : `${value.toFixed(1)} h`);
</script>

<svelte:head><title>Frames · Jungoptic</title></svelte:head>
<main class="h-full overflow-y-auto p-3.5">
  <div class="mx-auto max-w-4xl">
    <h1 class="text-lg">Frames</h1>
    <p class="text-muted">
      What is made frame by frame. The desk sees each frame as it is taken, and says what moved that should
      not have before the next one is.
    </p>
    {#if !found}
      <p class="mt-4 text-muted" role="status">{asking.said || "Reading what is made frame by frame…"}</p>
    {:else if !found.sheets.length}
      <p class="mt-4">Nothing here is made frame by frame.</p>
      <p class="text-muted">
        Give a shot a layer of the kind <b>{frameByFrame}</b> on its Bench: it stands here then.
      </p>
    {:else}
      <table class="mt-4 w-full">
        <thead class="text-left text-muted">
          <tr class="border-b border-line">
            <th class="py-1 font-normal">Shot</th>
            <th class="font-normal">Layer</th>
            <th class="text-right font-normal">Taken</th>
            <th class="text-right font-normal">To look at</th>
            <th class="text-right font-normal">Pace</th>
            <th class="text-right font-normal">Left</th>
            <th></th>
          </tr>
        </thead>
        <tbody>
          {#each found.sheets as one (one.layer_id)}
            <tr class="border-b border-line">
              <td class="py-2"><span class="num text-muted">{one.code}</span> {one.title}</td>
              <td>{one.layer}</td>
              <td class="num text-right">{one.sheet_id ? `${one.taken} / ${one.poses}` : "–"}</td>
              <td class="num text-right">{one.sheet_id ? one.warned : "–"}</td>
              <td class="num text-right"
                >{one.s_per_hour === null ? "–" : `${one.s_per_hour.toFixed(1)} s/h`}</td
              >
              <td class="num text-right">{hours(one.left_h)}</td>
              <td class="pl-4 text-right">
                {#if one.sheet_id}
                  <a class="btn" href={`#/frames/${one.sheet_id}`}
                    >{one.hyperlapse ? "Open the camera" : "Open the desk"}</a
                  >
                {:else if logs}
                  <span class="inline-flex items-center gap-2">
                    <label class="flex items-center gap-1.5"
                      >on <input
                        type="number"
                        class="field num w-12"
                        min="1"
                        max="12"
                        bind:value={on}
                      /></label
                    >
                    <button class="btn" disabled={asking.busy} onclick={() => void begin(one.layer_id)}
                      >Begin its sheet</button
                    >
                  </span>
                {/if}
              </td>
            </tr>
          {/each}
        </tbody>
      </table>
      <p class="mt-2 text-right">
        <span class="num">{hours(found.left_h)}</span>
        <span class="text-muted"
          >at the table, at {found.s_per_hour === null ? "the planned pace" : "the pace as it is"}</span
        >
      </p>
      <p class="flex flex-wrap items-center justify-end gap-x-3 gap-y-1">
        <span class="text-muted">
          Days and costs plan with
          <span class="num text-ink">{found.planned_s_per_hour.toFixed(1)}</span> s of film an hour.
        </span>
        {#if other !== null && found.role === "supervisor"}
          <button class="btn" disabled={asking.busy} onclick={() => void plan(other)}
            >Plan with {other.toFixed(1)}</button
          >
        {/if}
      </p>
    {/if}
    {#if found && logs && found.for_hyperlapses.length}
      <section class="mt-6 border-t border-line pt-3">
        <h2>A hyperlapse</h2>
        <p class="text-muted">
          A photograph for each frame of the shot, along a line or an arc, each aimed at one point: the camera
          page says how well, and what that costs.
        </p>
        <p class="mt-2 flex flex-wrap items-center gap-2">
          <span class="w-72"
            ><Select
              label="Filmed layer"
              value={hyperlapse}
              options={[
                ["", "of which layer?"],
                ...found.for_hyperlapses.map(
                  (one) => [String(one.layer_id), `${one.code} ${one.layer}`] as const,
                ),
              ]}
              onchange={(to) => (hyperlapse = to)}
            /></span
          >
          <button class="btn" disabled={asking.busy || !hyperlapse} onclick={() => void beginHyperlapse()}
            >Plan it</button
          >
        </p>
      </section>
    {/if}
    {#if found && asking.said}<p class="mt-2" role="alert">{asking.said}</p>{/if}
  </div>
</main>
