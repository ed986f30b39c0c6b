<!--
  A photograph of the place as the hero plate: horizon and one known height drawn on it tell where the camera
  was; then everything in it is measured, and the layers stand in it.
-->
<script lang="ts">
  import { addHero } from "./hero";
  import NotDone from "./NotDone.svelte";
  import { untrack } from "svelte";
  import type { Point } from "../../lib/draw/lines";
  import type { Mark, MarkKind } from "../../lib/draw/marks";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import { BenchState } from "../../lib/edit/shot.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import UnitsChoice from "../../lib/ui/UnitsChoice.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { quantityOf, shown, unitOf } from "../../lib/units";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import PhotographFeet from "./PhotographFeet.svelte";
  import PhotographGround from "./PhotographGround.svelte";
  import PhotographTells from "./PhotographTells.svelte";
  import MarkHint from "./MarkHint.svelte";
  import MarkTools from "./MarkTools.svelte";
  import PictureMarks from "./PictureMarks.svelte";

  let { params }: { params: { shot: string } } = $props();

  let bench = $state(new BenchState(0));
  let tool = $state<MarkKind | null>(null);
  let chosen = $state<number | null>(null);
  let standing = $state(true);
  let grid = $state(true);
  let refused = $state("");
  let over = $state(false);
  let busy = $state(false);
  let drawn = $state<ReturnType<typeof PictureMarks> | null>(null);

  $effect(() => {
    const id = Number(params.shot);
    untrack(() => {
      bench.close();
      bench = new BenchState(id);
      place.shot = id;
      void bench.load();
    });
  });
  $effect(() => () => untrack(() => bench.close()));
  void fieldBook.read();
  $effect(() => {
    void session.person?.units;
    untrack(() => bench.bench && bench.reread());
  });

  const data = $derived(bench.bench);
  const hero = $derived(data?.layers.find((one) => one.is_hero) ?? null);
  const units = $derived(data?.units ?? "metric");
  const writes = $derived(bench.writes);
  const picture = $derived(hero?.picture ?? null);
  const photograph = $derived(hero?.photograph ?? null);
  const frame = $derived((photograph?.frame_px ?? [0, 0, 1, 1]) as [number, number, number, number]);
  $effect(() => {
    if (hero && bench.looking.selected !== hero.id && !held) bench.select(hero.id);
  });
  const marks = $derived(
    hero ? (bench.trial.now("layers", hero.id, "marks", hero.values.marks as Mark[] | undefined) ?? []) : [],
  );
  const reading = $derived(hero?.reading ?? null);
  const text = (value: number, unit: string) => {
    const quantity = quantityOf(unit);
    const sign = unitOf(quantity, units, unit);
    return `${shown(value, quantity, units).replace("-", "−")}${sign === "°" ? "" : " "}${sign}`;
  };
  const round = (value: number) => Number(value.toPrecision(3));
  const labels = $derived(
    (reading?.stands ?? []).map((one) =>
      one
        ? one.height_m
          ? `${text(round(one.height_m.amount), "m")} high`
          : text(round(one.distance_m.amount), "m")
        : "",
    ),
  );

  async function give(file: File) {
    refused = "";
    busy = true;
    try {
      if (!hero) await addHero(bench);
      const target = bench.bench?.layers.find((one) => one.is_hero);
      if (target) refused = await bench.givePicture(target.id, file, true);
    } finally {
      busy = false;
    }
  }
  function chose(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    input.value = "";
    if (file) void give(file);
  }
  const keep = (label: string, wanted: Mark[]) =>
    hero && void bench.set(label, "layers", hero.id, { marks: wanted });

  let held = $state<number | null>(null);

  function pressed(event: KeyboardEvent) {
    if (event.target instanceof HTMLInputElement || event.altKey) return;
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
      event.preventDefault();
      void (event.shiftKey ? bench.redo() : bench.undo());
    } else if (event.ctrlKey || event.metaKey) return;
    else if (event.key === "Escape") tool = null;
    else if (event.key >= "1" && event.key <= String(vocabulary.marks.length) && writes && picture)
      tool = vocabulary.marks[Number(event.key) - 1]!.key;
  }
  const TURNS = [
    ["Layers in it", () => standing, () => (standing = !standing)],
    ["Ground in metres", () => grid, () => (grid = !grid)],
  ] as const;
  const TAKES = "image/png,image/jpeg,image/tiff,image/webp,.exr";
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{data ? `${data.code} photograph` : "Photograph"} · Jungoptic</title></svelte:head>

{#if bench.missing}
  <main class="grid h-full place-content-center gap-3 p-6 text-center">
    <p role="alert">{bench.missing}</p>
    <a class="btn mx-auto" href="#/">Go to the shots</a>
  </main>
{:else if !data}
  <main class="grid h-full place-content-center text-muted">
    {bench.offline ? "The server cannot be reached. Trying again…" : "Reading the shot…"}
  </main>
{:else}
  <main
    class={["flex h-full flex-col max-sm:overflow-y-auto", over && "outline-2 -outline-offset-2 outline-ink"]}
    ondragover={(event) => {
      if (!writes || !event.dataTransfer?.types.includes("Files")) return;
      event.preventDefault();
      over = true;
    }}
    ondragleave={() => (over = false)}
    ondrop={(event) => {
      over = false;
      const file = event.dataTransfer?.files[0];
      if (!file || !writes) return;
      event.preventDefault();
      void give(file);
    }}
  >
    <div
      class={[
        "flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1",
        "border-b border-line px-3.5 py-1",
      ]}
    >
      <a class="btn !border-line" href={`#/shots/${params.shot}/bench`}>‹ Bench</a>
      <h1 class="flex min-w-0 items-baseline gap-2 text-lg">
        <span class="num font-normal text-muted">{data.code}</span><span class="truncate">{data.title}</span>
        <span class="font-normal text-muted max-lg:hidden">the place, photographed</span>
      </h1>
      <div class="ml-auto flex flex-wrap items-center gap-2">
        {#if picture}
          {#each TURNS as [name, on, turn] (name)}
            <button class={["btn", on() ? "btn-solid" : "!border-line"]} aria-pressed={on()} onclick={turn}
              >{name}</button
            >
          {/each}
        {/if}
        <UnitsChoice />
        <button
          class="btn !border-line"
          disabled={!bench.steps.can}
          {@attach tip(() => bench.steps.label)}
          onclick={() => bench.undo()}>Undo</button
        >
        {#if writes && picture}<label class="btn !border-line"
            >Another photograph<input type="file" class="sr-only" accept={TAKES} onchange={chose} /></label
          >{/if}
      </div>
    </div>
    <NotDone {bench} bind:refused />
    {#if !picture || !hero}
      <div class="grid flex-1 place-content-center gap-3 p-6 text-center">
        <h2 class="text-lg">Drop a photograph of the place here</h2>
        <p class="mx-auto max-w-prose text-muted">
          Taken from where the camera will stand, with the lens that will be used. Its tags say which lens
          that was. Draw the horizon on it and one thing whose height you know, a person will do: then it
          tells how high the camera was and how it was tilted, how far away everything stands, and your models
          stand in it.
        </p>
        {#if writes}<label class="btn btn-solid mx-auto"
            >{busy ? "Taking it in…" : "Choose a photograph"}<input
              type="file"
              class="sr-only"
              accept={TAKES}
              disabled={busy}
              onchange={chose}
            /></label
          >{/if}
      </div>
    {:else}
      <div class="flex min-h-0 flex-1 max-sm:flex-none max-sm:flex-col">
        <div class="flex min-h-0 min-w-0 flex-1 flex-col max-sm:flex-none">
          <MarkTools bind:tool {writes} />
          <div class="grid min-h-0 flex-1 place-items-center overflow-hidden bg-black max-sm:p-0">
            <PictureMarks
              bind:this={drawn}
              href={`/api/layer-pictures/${picture.id}.jpg`}
              width={picture.width_px}
              height={picture.height_px}
              {marks}
              {labels}
              horizon={(reading?.horizon_px ?? null) as Point[] | null}
              within={reading?.horizon_within_px ?? 0}
              bind:tool
              bind:chosen
              {writes}
              ontry={(wanted) => {
                bench.trial.remember();
                bench.try("layers", hero.id, { marks: wanted });
              }}
              onset={keep}
              ondrop={() => void bench.commit("Move a mark")}
              oncancel={() => bench.forget()}
            >
              {#snippet under(k)}
                {#if photograph}
                  <PhotographGround
                    {picture}
                    {frame}
                    ground={grid ? (reading?.ground ?? []) : []}
                    href={standing ? bench.picture : null}
                    {k}
                    {text}
                  />
                {/if}
              {/snippet}
              {#snippet over(k)}
                {#if standing && photograph}
                  <PhotographFeet
                    {bench}
                    {frame}
                    {picture}
                    able={writes && !tool}
                    {k}
                    {text}
                    bind:held
                    onrefuse={(why) => (refused = why)}
                  />
                {/if}
              {/snippet}
            </PictureMarks>
          </div>
          <MarkHint bind:tool onmiddle={() => drawn?.placeInMiddle()}
            >{#if !marks.length}
              <span
                >First the <button class="link" onclick={() => (tool = "horizon")}>horizon</button>, or two
                <button class="link" onclick={() => (tool = "upright")}>uprights</button>; then one thing of
                <button class="link" onclick={() => (tool = "height")}>known height</button>.</span
              >
            {:else}
              <span class="text-muted"
                >Move any end; Delete takes a mark away. Layers are moved over the ground by their foot.</span
              >
            {/if}</MarkHint
          >
        </div>
        <PhotographTells {bench} {hero} {marks} {writes} {units} {text} bind:chosen onset={keep} />
      </div>
    {/if}
  </main>
{/if}
