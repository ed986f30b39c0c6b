<!-- What of one's own kit can be measured in minutes, and what was. -->
<script lang="ts">
  import { push } from "svelte-spa-router";
  import { answered, client, writeKey, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { when } from "../../lib/ui/when";

  type Guide = Schemas["GuideOut"];
  const asking = new Asking();
  let all = $state.raw<Schemas["MeasuringOut"] | null>(null);
  let missing = $state("");
  let mode = $state("");
  let lens = $state("");
  let lamp = $state("");
  const path = $derived({ path: { production_id: place.production ?? 0 } });

  async function read() {
    if (!place.production) return;
    const asked = new Asking();
    const found = await asked.read(() =>
      answered(client.GET("/api/productions/{production_id}/measuring", { params: path })),
    );
    all = found ?? all;
    missing = all ? "" : asked.said;
  }
  $effect(() => {
    if (place.production) void read();
  });
  whenOthersWrite(read, (told) => told.shot === null);

  const camera = (id: number | null | undefined) => all?.cameras.find((each) => each.id === id)?.name ?? "";
  const modes = $derived(
    (all?.modes ?? []).map((each) => [String(each.id), `${camera(each.camera_id)}, ${each.name}`] as const),
  );
  const chosenMode = $derived(all?.modes.find((each) => String(each.id) === mode) ?? all?.modes[0]);
  const lenses = $derived.by(() => {
    const own = (all?.lenses ?? []).filter((each) => each.camera_id === chosenMode?.camera_id);
    const fit = own.length ? own : (all?.lenses ?? []).filter((each) => each.camera_id === null);
    return fit.map((each) => [String(each.id), each.name] as const);
  });
  const lamps = $derived((all?.lamps ?? []).map((each) => [String(each.id), each.name] as const));
  const chosen = $derived({
    mode: chosenMode ? String(chosenMode.id) : "",
    lens: lenses.find(([key]) => key === lens)?.[0] ?? lenses[0]?.[0] ?? "",
    lamp: lamps.find(([key]) => key === lamp)?.[0] ?? lamps[0]?.[0] ?? "",
  });
  const GROUPS = [
    ["lens", "The lens"],
    ["mode", "The camera"],
    ["lamp", "The lamp"],
  ] as const;
  const can = (guide: Guide) => Boolean(chosen.mode && chosen[guide.of]);

  async function begin(guide: Guide) {
    const begun = await asking.run(() =>
      answered(
        client.POST("/api/productions/{production_id}/measurements", {
          params: path,
          headers: { "Idempotency-Key": writeKey() },
          body: {
            version: all!.version,
            kind: guide.key,
            mode_id: Number(chosen.mode),
            lens_id: guide.of === "lens" ? Number(chosen.lens) : null,
            lamp_id: guide.of === "lamp" ? Number(chosen.lamp) : null,
            asked: {},
          },
        }),
      ),
    );
    if (begun) await push(`/kit/measure/${begun.id}`);
    else await read();
  }
  const logs = $derived(place.role === "supervisor" || place.role === "crew");
  const standing = (row: Schemas["MeasuredOut"]) =>
    row.kept_at ? `in the kit since ${when(row.kept_at)}` : `${row.pictures} pictures, not in the kit`;
  const NONE =
    "Enter a camera with what it records first, and a lens: what is measured is written into them.";
  const WHY = "A lens is seldom what is engraved on it. Measured, the plan is right before anybody films.";
</script>

<svelte:head><title>Measure your kit · Jungoptic</title></svelte:head>
{#if missing}
  <CannotShow why={missing} />
{:else if all}
  <main class="h-full overflow-y-auto pb-8">
    <div class="flex min-h-[42px] flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5 py-1">
      <a class="link text-muted" href="#/kit">Kit</a>
      <h1 class="text-lg">Measure your kit</h1>
      <p class="text-muted">{WHY}</p>
    </div>
    {#if asking.said}<p class="border-b border-ink bg-raised px-3.5 py-2" role="alert">{asking.said}</p>{/if}
    {#if !all.modes.length}
      <p class="max-w-prose px-3.5 py-4">{NONE} <a class="link" href="#/kit">To the kit</a></p>
    {:else}
      <div class="mx-3.5 grid max-w-4xl gap-x-4 gap-y-2 border-b border-line py-3 sm:grid-cols-3">
        <label>
          <span class="text-muted">Filmed with</span>
          <Select label="Recording" value={chosen.mode} options={modes} onchange={(key) => (mode = key)} />
        </label>
        <label>
          <span class="text-muted">Through</span>
          <Select label="Lens" value={chosen.lens} options={lenses} onchange={(key) => (lens = key)} />
        </label>
        <label>
          <span class="text-muted">Lit by</span>
          <Select label="Lamp" value={chosen.lamp} options={lamps} onchange={(key) => (lamp = key)} />
        </label>
      </div>
      {#each GROUPS as [of, title] (of)}
        <section class="px-3.5 pt-3" aria-labelledby={`of-${of}`}>
          <h2 id={`of-${of}`}>{title}</h2>
          <ul class="max-w-4xl">
            {#each all.guides.filter((each) => each.of === of) as guide (guide.key)}
              <li class="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line py-1.5">
                <p class="min-w-0 flex-1 max-sm:basis-full">
                  <b>{guide.title}</b>
                  <span class="block text-muted">{guide.tells}</span>
                </p>
                <span class="num text-sm text-muted">about {guide.minutes} min</span>
                {#if logs}<button
                    class="btn !border-line"
                    aria-label={`Measure: ${guide.title}`}
                    disabled={asking.busy || !can(guide)}
                    onclick={() => begin(guide)}>Measure</button
                  >{/if}
              </li>
            {/each}
          </ul>
        </section>
      {/each}
    {/if}
    <section class="px-3.5 pt-4" aria-labelledby="measured">
      <h2 id="measured">Measured</h2>
      <ul class="max-w-4xl">
        {#each all.measured as row (row.id)}
          <li class="flex flex-wrap items-baseline gap-x-4 border-b border-line py-1.5">
            <a class="link min-w-64 font-strong" href={`#/kit/measure/${row.id}`}>{row.name}</a>
            <span class="min-w-0 flex-1">{row.says}</span>
            <span class="text-sm text-muted">{standing(row)}; {row.begun_by}, {when(row.begun_at)}</span>
          </li>
        {:else}<li class="py-1 text-muted">
            Nothing yet: the kit stands as it was entered, focal lengths as engraved.
          </li>{/each}
      </ul>
    </section>
  </main>
{:else}<main class="grid h-full place-content-center text-muted">Reading the kit…</main>{/if}
