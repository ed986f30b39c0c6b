<!-- What changes over the frames: a line each, the frames themselves below; one scrubs on all of it. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import type { Rushing } from "./rushing.svelte";

  let { rushing, onbegin, onend }: { rushing: Rushing; onbegin: () => void; onend: () => void } = $props();
  let width = $state(0);
  const HEIGHT = 26;
  const NAMES: Record<string, string> = {
    light: "Light",
    camera: "Camera",
    sharpness: "Sharpness",
    movement: "Movement",
  };
  // what a line must go by to be drawn as high as it can be
  const LEAST: Record<string, number> = { light: 0.2, camera: 1, sharpness: 1, movement: 4 };

  const rush = $derived(rushing.rush!);
  const frames = $derived(rushing.frames);
  const at = (frame: number) => ((frame + 0.5) / frames) * width;
  const series = $derived(rush.clip?.series ?? []);
  const told = $derived(rush.clip?.lines ?? []);

  function path({ name, values, every }: Schemas["SeriesOut"]): string {
    const known = values.filter((value) => value !== null);
    if (!known.length) return "";
    const least = LEAST[name] ?? 1;
    const low = name === "light" ? Math.min(...known) : 0;
    const span = Math.max(least, Math.max(...known) - low);
    const lift = name === "light" ? (span - (Math.max(...known) - low)) / 2 : 0;
    let pen = "M";
    return values
      .map((value, index) => {
        if (value === null) {
          pen = "M";
          return "";
        }
        const x = at(index * every + (every - 1) / 2);
        const y = HEIGHT - 2 - ((value - low + lift) / span) * (HEIGHT - 4);
        const step = `${pen}${x.toFixed(1)} ${y.toFixed(1)}`;
        pen = "L";
        return step;
      })
      .join("");
  }
  const STEPS = [1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10000, 20000];
  const step = $derived(STEPS.find((one) => (one / frames) * width >= 46) ?? frames);
  const ticks = $derived(
    width ? Array.from({ length: Math.ceil(frames / step) }, (_, index) => index * step) : [],
  );
  // The strip has one picture for so many frames; as many are shown as have room.
  const strip = $derived.by(() => {
    const count = Math.ceil(frames / rush.strip_every);
    const tall = 26;
    const wide = (tall * rush.width_px) / rush.height_px;
    const room = Math.max(1, Math.floor(width / wide));
    const shown = Math.min(room, 400);
    return { count, tall, shown, places: Array.from({ length: shown }, (_, place) => place) };
  });
  const pictureFor = (place: number) => {
    const frame = ((place + 0.5) / strip.shown) * frames;
    return Math.min(strip.count - 1, Math.floor(frame / rush.strip_every));
  };

  let area = $state<HTMLElement | null>(null);
  let held = false;
  function scrub(event: PointerEvent) {
    if (!area) return;
    const from = area.getBoundingClientRect();
    rushing.go(Math.floor(((event.clientX - from.left) / from.width) * frames));
  }
  function down(event: PointerEvent) {
    if (event.button || (event.target as Element).closest("button")) return;
    event.preventDefault();
    held = true;
    rushing.playing = false;
    area!.setPointerCapture(event.pointerId);
    scrub(event);
  }
  const KEYS: Record<string, number> = { PageUp: 10, PageDown: -10, ArrowUp: 1, ArrowDown: -1 };
  function keyed(event: KeyboardEvent) {
    const by = KEYS[event.key];
    if (by === undefined) return;
    event.preventDefault();
    rushing.go(rushing.frame + by);
  }
  function spotText(name: string, { first, last, text }: Schemas["SpotOut"]) {
    const frames = first === last ? `frame ${first}` : `frames ${first} to ${last}`;
    return `${name}, ${frames}: ${text}`;
  }
</script>

<section class="shrink-0 border-t border-line bg-panel px-3.5 pt-1.5 pb-1" aria-label="Over the frames">
  <div
    bind:this={area}
    bind:clientWidth={width}
    class="relative cursor-ew-resize touch-pan-y select-none"
    role="group"
    aria-label="Frames"
    onpointerdown={down}
    onpointermove={(event) => held && scrub(event)}
    onpointerup={() => (held = false)}
    onpointercancel={() => (held = false)}
  >
    {#each series as one (one.name)}
      {@const line = told.find((each) => each.series === one.name)}
      <div class="relative">
        <p class="pointer-events-none relative z-10 flex gap-3 truncate leading-[17px]">
          <b class="shrink-0 bg-panel pr-1">{NAMES[one.name] ?? one.title}</b>
          <span class="truncate text-muted">{line?.says ?? ""}</span>
        </p>
        <svg {width} height={HEIGHT} class="block" aria-hidden="true">
          <path d={path(one)} fill="none" stroke="var(--text)" stroke-width="1.2" />
        </svg>
        {#each line?.spots ?? [] as spot (spot.first)}
          <button
            class={[
              "absolute bottom-0 cursor-pointer border bg-transparent",
              one.name === "camera" ? "border-shows" : "border-mark",
            ]}
            style:left={`${Math.min(width - 24, Math.max(0, at(spot.first) - 4))}px`}
            style:width={`${Math.max(24, at(spot.last) - at(spot.first) + 8)}px`}
            style:height={`${HEIGHT}px`}
            aria-label={spotText(NAMES[one.name] ?? one.title, spot)}
            title={spot.text}
            onfocus={() => rushing.go(spot.first)}
            onclick={() => rushing.go(spot.first)}
          ></button>
        {/each}
      </div>
    {/each}
    {#if rush.strip && width}
      <div class="mt-1.5 flex overflow-hidden" style:height={`${strip.tall}px`} aria-hidden="true">
        {#each strip.places as place (place)}
          <span
            class="shrink-0"
            style:width={`${width / strip.shown}px`}
            style:height={`${strip.tall}px`}
            style:background-image={`url(${rush.strip})`}
            style:background-size={`${(strip.count * width) / strip.shown}px ${strip.tall}px`}
            style:background-position={`${(-pictureFor(place) * width) / strip.shown}px 0`}
          ></span>
        {/each}
      </div>
    {/if}
    {#if rush.begins}
      <div
        class="pointer-events-none absolute top-0 bottom-[20px] left-0 border-r border-mark bg-ground/70"
        style:width={`${(rush.begins / frames) * width}px`}
      >
        <span class="absolute right-1 bottom-7 bg-panel px-1 text-sm whitespace-nowrap text-muted"
          >{rush.counts_said ? "left out" : "slate"}</span
        >
      </div>
    {/if}
    {#if rush.ends < frames - 1}
      <div
        class="pointer-events-none absolute top-0 right-0 bottom-[20px] border-l border-mark bg-ground/70"
        style:width={`${((frames - 1 - rush.ends) / frames) * width}px`}
      >
        <span class="absolute bottom-7 left-1 bg-panel px-1 text-sm whitespace-nowrap text-muted"
          >left out</span
        >
      </div>
    {/if}
    <svg {width} height="20" class="block overflow-visible" aria-hidden="true">
      {#each ticks as frame (frame)}
        <text
          x={at(frame)}
          y="11"
          class="note small"
          text-anchor={frame ? "middle" : "start"}
          opacity={Math.abs(at(frame) - at(rushing.frame)) < 26 ? 0 : 1}>{frame}</text
        >
      {/each}
    </svg>
    <span
      class="pointer-events-none absolute top-0 bottom-[18px] w-px -translate-x-1/2 bg-ink"
      style:left={`${at(rushing.frame)}px`}
    ></span>
    <div
      class="absolute bottom-0 grid h-6 min-w-6 -translate-x-1/2 place-content-center"
      style:left={`${at(rushing.frame)}px`}
      role="slider"
      tabindex="0"
      aria-label="Frame"
      aria-valuemin={0}
      aria-valuemax={frames - 1}
      aria-valuenow={rushing.frame}
      aria-valuetext={`Frame ${rushing.frame}`}
      onkeydown={keyed}
    >
      <span class="num bg-panel px-1 text-sm font-strong">{rushing.frame}</span>
    </div>
  </div>
  <p class="flex flex-wrap items-center gap-x-4 text-sm text-muted">
    <button
      class="btn !min-h-6 !border-line"
      aria-pressed={rushing.playing}
      onclick={() => (rushing.playing = !rushing.playing)}>{rushing.playing ? "Stop" : "Play"}</button
    >
    {#if rushing.writes}
      <button class="btn !min-h-6 !border-line" disabled={rushing.frame >= rush.ends} onclick={onbegin}
        >Begins here <span class="key max-sm:hidden">a</span></button
      >
      <button class="btn !min-h-6 !border-line" disabled={rushing.frame <= rush.begins} onclick={onend}
        >Ends here <span class="key max-sm:hidden">z</span></button
      >
      {#if rush.counts_said}<button class="link" onclick={() => void rushing.sayCounts(null, null)}
          >all of it counts</button
        >{/if}
    {/if}
    <span class="max-lg:hidden">arrows step a frame, Shift ten; Space plays; Tab goes to what was found</span>
    <span class="num ml-auto">{(rushing.frame / rush.rate_fps).toFixed(2)} s</span>
  </p>
</section>
