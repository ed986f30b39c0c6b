<!--
  Line-up: the live picture under the hero's frame and the drawn geometry; how far it is off, which dial to
  turn, a tone that rises as it closes; a level.
-->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import Slider from "../../lib/ui/Slider.svelte";
  import { undoes } from "../../lib/ui/keys";
  import { clock } from "../../lib/ui/when";
  import FromRecording from "./FromRecording.svelte";
  import LevelOf from "./LevelOf.svelte";
  import { DRAWN, Lining } from "./lining.svelte";
  import { choices, SIMULATED } from "./sources";
  import Marks from "./Marks.svelte";
  import Mask from "./Mask.svelte";
  import Picture from "./Picture.svelte";
  import Simulated from "./Simulated.svelte";
  import { Tone } from "./tone";
  import Turns from "./Turns.svelte";

  let { params }: { params: { layer: string } } = $props();
  let lining = $state(new Lining(0));
  let way = $state<"live" | "mix" | "difference" | "blink" | "edges">("mix");
  let mixed = $state(0.5);
  let drawn = $state(["horizon", "silhouettes", "lines"]);
  let sounds = $state(false);
  const tone = new Tone();

  $effect(() => {
    const layer = Number(params.layer);
    void session.units;
    untrack(() => {
      if (lining.layer !== layer) {
        lining.stop();
        lining = new Lining(layer);
      }
      void lining.read().then(() => lining.known && place.opened(lining.known.production_id));
    });
  });
  $effect(() => {
    const told = lining.measured;
    if (sounds) tone.say(told && !told.nothing ? (told.place ?? null) : null);
  });
  onDestroy(() => {
    lining.stop();
    tone.stop();
  });
  const known = $derived(lining.known);
  const movedPx = $derived(known ? Math.hypot(...known.moved_px) : 0);
  const title = $derived(known ? `Line-up ${known.code} ${known.layer}` : "Line-up");
  const logs = $derived(known?.role === "supervisor" || known?.role === "crew");
  const HEAD = [
    "flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1",
    "border-b border-line px-3.5 py-1",
  ];
  const WAYS = [
    ["live", "Live"],
    ["mix", "Mix"],
    ["difference", "Difference"],
    ["blink", "Blink"],
    ["edges", "Edges"],
  ] as const;
  const DRAWN_THINGS = [
    ["horizon", "horizon"],
    ["ground", "ground"],
    ["silhouettes", "silhouettes"],
    ["lines", "lines and zones"],
  ] as const;
  const sourceOptions = $derived(choices(lining.devices, "no live picture"));
  const overOptions = $derived([
    [DRAWN, "what is drawn"] as const,
    ...lining.frames.map((one) => {
      const what = one.note || (one.take_number ? `take ${one.take_number}` : "held");
      const own = one.layer_id === lining.layer;
      const layer = own ? null : lining.bench?.layers.find((each) => each.id === one.layer_id);
      const whose = layer ? `${layer.name}, ` : "";
      return [String(one.id), `${whose}${what}, ${clock(one.photographed_at)}`] as const;
    }),
  ]);
  function toggle(what: string) {
    drawn = drawn.includes(what) ? drawn.filter((one) => one !== what) : [...drawn, what];
  }
  function listen() {
    sounds = !sounds;
    if (sounds) tone.begin();
    else tone.stop();
  }
</script>

<svelte:window onkeydown={(event) => undoes(event) && void lining.way.undo()} />
<svelte:head><title>{title} · Jungoptic</title></svelte:head>
{#if lining.missing}
  <CannotShow why={lining.missing} />
{:else if known && lining.bench}
  <main class="flex h-full min-h-0 flex-col max-lg:overflow-y-auto">
    <header class={HEAD}>
      <a class="link text-muted" href={`#/shots/${known.shot_id}/log`}>Log</a>
      <h1 class="flex min-w-0 items-baseline gap-2 text-lg">
        <span class="num font-normal text-muted">{known.code}</span><span class="truncate">{known.layer}</span
        >
      </h1>
      <span class="num ml-auto truncate text-muted max-lg:hidden"
        >{known.planned.map((one) => `${one.label.toLowerCase()} ${one.text}`).join(" · ")}</span
      >
    </header>
    <div class="grid min-h-0 flex-1 lg:grid-cols-[1fr_21rem]">
      <div class="flex min-h-0 min-w-0 flex-col">
        <div class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3.5 py-1.5">
          <Choice label="How it is laid over" value={way} options={WAYS} onchange={(to) => (way = to)} />
          {#if way === "mix"}<Slider
              label="Mix"
              class="w-28"
              most={1}
              step={0.05}
              value={mixed}
              onchange={(to) => (mixed = to)}
            />{/if}
          <div class="flex flex-wrap items-center gap-x-3 lg:ml-auto" role="group" aria-label="Drawn over it">
            {#each DRAWN_THINGS as [key, name] (key)}
              <label class="flex min-h-6 items-center gap-1.5 pointer-coarse:min-h-11"
                ><input
                  type="checkbox"
                  class="size-4 accent-ink"
                  checked={drawn.includes(key)}
                  onchange={() => toggle(key)}
                />{name}</label
              >
            {/each}
          </div>
        </div>
        <div class="min-h-0 flex-1 max-lg:aspect-video max-lg:flex-none">
          <Picture {lining} {way} {mixed} {drawn} />
        </div>
      </div>
      <aside
        class="min-h-0 overflow-y-auto border-line max-lg:overflow-visible lg:border-l"
        aria-label="Line-up"
      >
        <Turns {lining} />
        <section class="grid gap-2 border-t border-line px-3.5 py-3" aria-label="Pictures">
          <label class="grid grid-cols-[4rem_1fr] items-center gap-2"
            ><span class="text-muted">Live</span><Select
              label="Live picture"
              value={lining.source}
              options={sourceOptions}
              onchange={(to) => void lining.begin(to)}
            /></label
          >
          <label class="grid grid-cols-[4rem_1fr] items-center gap-2"
            ><span class="text-muted">Against</span><Select
              label="Against"
              value={lining.over}
              options={overOptions}
              onchange={(to) => void lining.choose(to)}
            /></label
          >
          {#if movedPx >= 1}
            <label class="flex min-h-6 items-center gap-2 pointer-coarse:min-h-11"
              ><input
                type="checkbox"
                class="size-4 accent-ink"
                checked={lining.moved}
                onchange={() => void lining.move(!lining.moved)}
              />moved {movedPx.toFixed(0)} px, as the composite moves it</label
            >
          {/if}
          {#if lining.problem}<p role="alert">{lining.problem}</p>{/if}
          {#if lining.away}<p role="alert">
              The server cannot be reached: nothing is measured meanwhile.
            </p>{/if}
          {#if lining.asking.said}<p role="alert">{lining.asking.said}</p>{/if}
          <div class="flex flex-wrap gap-2">
            {#if logs}<button
                class="btn min-h-11"
                disabled={!lining.films || lining.asking.busy}
                onclick={() => void lining.hold()}>Hold this picture</button
              >{/if}
            <button class="btn min-h-11 !border-line" aria-pressed={sounds} onclick={listen}
              >{sounds ? "Tone off" : "Tone"}</button
            >
            {#if lining.way.can}<button
                class="btn min-h-11 !border-line"
                onclick={() => void lining.way.undo()}>Undo</button
              >{/if}
          </div>
          {#if lining.rate}<p class="num text-sm text-muted">
              {lining.rate.toFixed(0)} pictures a second
            </p>{/if}
          {#if logs && lining.recordings.length}<FromRecording {lining} />{/if}
        </section>
        <Marks {lining} writes={known.role === "supervisor"} />
        <LevelOf {known} />
        <Mask layer={lining.layer} range={known.mask_mm} />
        {#if lining.source === SIMULATED}<Simulated {lining} />{/if}
      </aside>
    </div>
  </main>
{:else}
  <main class="grid h-full place-content-center text-muted">Reading the plan…</main>
{/if}
