<!-- The set from the side or from above, to scale, with the stack hung from the depth ruler under it. -->
<script lang="ts">
  import { Tabs } from "bits-ui";
  import TabList from "../../lib/ui/TabList.svelte";
  import type { Bench, Layer, Standing } from "../../lib/api/client";
  import Handle from "../../lib/draw/Handle.svelte";
  import type { Hand } from "../../lib/draw/handle";
  import DrawnLamps from "./DrawnLamps.svelte";
  import DrawnMoves from "./DrawnMoves.svelte";
  import DrawnSet from "./DrawnSet.svelte";
  import {
    drawn,
    fitted,
    FLOOR_GAP,
    NAMES,
    round,
    shifted,
    ticksOf,
    underHand,
    type Field,
    type Handles,
    type Held,
    type Placed,
    type Shifted,
    type Tried,
    type View,
  } from "./drawing";
  import { factor, unitOf } from "../../lib/units";
  import StackRuler from "./StackRuler.svelte";

  let {
    bench,
    selected,
    writes,
    tried,
    onselect,
    onstart,
    onmove,
    onplace,
    onlamp,
    onsheet,
    onset,
    oncancel,
    onread,
  }: {
    bench: Bench;
    selected: number | null;
    writes: boolean;
    /** What a field is being turned to, or undefined when it stands as shown. */
    tried: Tried;
    onselect: (layer: number) => void;
    onstart: () => void;
    onmove: (fields: Partial<Record<Field, number>>) => void;
    onplace: (layer: Layer, near_m: number) => void;
    onlamp: (lamp: number, fields: Record<string, number>) => void;
    onsheet: (backing: number, fields: Record<string, number>) => void;
    onset: (label: string) => void;
    oncancel: () => void;
    /** The chosen layer's picture is to be read; null where it has none. */
    onread: (() => void) | null;
  } = $props();

  let side = $state(true);
  let width = $state(1280);
  let height = $state(200);
  const set = $derived(bench.selected);
  const answered = $derived<Standing | null>(set?.standing ?? null);
  /** The front edge of the set-up's nearest layer, as answered. */
  const near = $derived(set?.dials.find((dial) => dial.field === "distance_m")?.value);
  const layer = $derived(bench.layers.find((one) => one.id === set?.layer_id) ?? null);
  const unit = $derived(1 / factor("length", bench.units));
  const unitName = $derived(unitOf("length", bench.units, "m"));

  let frozen = $state<{ view: View; distance: number } | null>(null);

  const backing = $derived(bench.set_ups.find((one) => one.id === set?.set_up_id)?.backing ?? null);
  const stands = $derived(
    answered && set && underHand(answered, near ?? answered.distance_m, set.set_up_id, backing?.id, tried),
  );
  // While a hand is on the drawing the set stands still and the camera moves.
  const view = $derived(
    frozen && stands
      ? {
          scale: frozen.view.scale,
          camera: frozen.view.camera + (frozen.distance - stands.distance_m) * frozen.view.scale,
        }
      : fitted(stands, side, width, height),
  );
  const length = (metres: number, places = 3) => `${(metres / unit).toFixed(places)} ${unitName}`;
  const drawing = $derived(drawn(stands, view, side, width, height, length));
  const { px, py, floor, lensY } = $derived(drawing);
  const ticks = $derived(ticksOf(view, width, unit, unitName));

  const behind = $derived(answered ? answered.distance_m - (near ?? answered.distance_m) : 0);
  const freeze = () =>
    stands ? { view: fitted(stands, side, width, height), distance: stands.distance_m } : null;

  const isPlaced = (what: Held): what is Placed => what === "lamp" || what === "aim" || what === "sheet";
  function place(to: Shifted | null, fields = to?.fields) {
    if (to && fields) (to.what === "lamps" ? onlamp : onsheet)(to.id, fields);
  }
  const moved = (what: Placed, at: number, dx: number, dy: number, from: Standing) =>
    shifted(what, at, dx, dy, from, from.distance_m - behind, side, backing);

  /** What was held stands where the pointer has it, `from` where it stood. */
  function pull(what: Held, at: number, dx: number, dy: number, from: Standing) {
    if (what === "camera") {
      const distance_m = Math.max(round(from.distance_m - dx - behind), 0.05);
      onmove(side ? { distance_m, lens_height_m: round(from.lens_height_m + dy) } : { distance_m });
    } else if (isPlaced(what)) place(moved(what, at, dx, dy, from));
    else if (what === "focus") onmove({ focus_distance_m: Math.max(round(from.focus_m + dx, 3), 0.05) });
    else onmove({ ground_height_m: Math.max(round(from.ground_height_m + dy), 0) });
  }
  /** One step of an arrow key, from where keys have it already. */
  function step(what: Held, at: number, x: number, y: number, big: boolean, from: Standing) {
    const far = (big ? 0.05 : 0.005) * Math.max(from.distance_m, 0.2);
    const by = (name: Field, shown: number, add: number, least = -Infinity) =>
      onmove({
        [name]: Math.max(round(((set && tried("set_ups", set.set_up_id, name)) ?? shown) + add), least),
      });
    if (what === "camera" && x) by("distance_m", from.distance_m - behind, -x * far, 0.05);
    else if (what === "camera") by("lens_height_m", from.lens_height_m, y * far);
    else if (what === "focus") by("focus_distance_m", from.focus_m, (x || y) * far, 0.05);
    else if (what === "ground") by("ground_height_m", from.ground_height_m, (y || x) * far, 0);
    else if (isPlaced(what)) {
      const each = big ? 0.1 : 0.01;
      const shown = moved(what, at, 0, 0, from);
      const to = moved(what, at, x * each, y * each, from);
      if (!shown || !to) return;
      const fields = Object.entries(to.fields).map(([name, value]) => [
        name,
        round((tried(to.what, to.id, name) ?? shown.fields[name]!) + value - shown.fields[name]!, 3),
      ]);
      place(to, Object.fromEntries(fields) as Record<string, number>);
    }
  }

  let from: Standing | null = null;
  const hand = (what: Held, at = 0): Hand => ({
    take: (event) => {
      if (event instanceof PointerEvent) {
        from = stands;
        frozen = freeze();
      }
      onstart();
    },
    move: (way) => {
      const scale = frozen?.view.scale ?? view.scale;
      if (from) pull(what, at, way.x / scale, way.y / scale, from);
    },
    drop: () => {
      from = frozen = null;
      onset(NAMES[what]);
    },
    step: (way, big) => stands && step(what, at, way.x, way.y, big, stands),
    settle: () => onset(NAMES[what]),
    cancel: () => {
      from = frozen = null;
      oncancel();
    },
  });
  const handles = $derived<Handles>({ writes, hand });
  const up = $derived(side ? floor : height - FLOOR_GAP);
  const sheetLine = (sheet: NonNullable<Standing["sheet"]>) =>
    `M${px(sheet.z)} ${py(side ? sheet.bottom : sheet.left)} V${py(side ? sheet.top : sheet.right)}`;
  const groundX = (stands: Standing) =>
    px(stands.distance_m + Math.min(stands.far_m - stands.distance_m, stands.distance_m) / 2);
  const cameraText = (stands: Standing) =>
    `lens ${length(stands.lens_height_m)} high, ${length(stands.distance_m)} from the layer; ` +
    "arrow keys move it";
  const VIEWS = [
    ["side", "From the side"],
    ["above", "From above"],
  ] as const;
</script>

<section class="flex h-full min-h-0 flex-col" aria-label="The set, and the stack on its depth ruler">
  <div class="relative min-h-0 flex-1 contain-strict" bind:clientWidth={width} bind:clientHeight={height}>
    <Tabs.Root
      bind:value={() => (side ? "side" : "above"), (to) => (side = to === "side")}
      class="absolute top-1.5 left-3.5 z-10"
    >
      <TabList
        tabs={VIEWS}
        label="Drawing"
        look="line"
        class="!h-auto !items-baseline !gap-3.5 !border-0 !px-0"
      >
        {#snippet end()}
          {#if stands}<span class="num text-sm text-muted max-sm:hidden">{stands.caption}</span>{/if}
        {/snippet}
      </TabList>
    </Tabs.Root>
    {#if stands && layer}
      <svg
        {width}
        {height}
        class="absolute inset-0 block select-none"
        role="group"
        aria-label={side ? "From the side" : "From above"}
      >
        <clipPath id="above-floor"><rect x="0" y="0" {width} height={up} /></clipPath>
        <DrawnSet {stands} kind={layer.kind} {drawing} />
        <text
          x={Math.min(Math.max(px(stands.focus_m), width < 640 ? 150 : 640), width - 142)}
          y={width < 640 ? 44 : 18}
          text-anchor="middle"
          class="note">{stands.band_text}</text
        >
        <Handle
          label="Plane of focus"
          value={stands.focus_m}
          text={stands.band_text}
          able={writes}
          cursor="cursor-ew-resize"
          hand={hand("focus")}
        >
          {@const top = drawing.top}
          <path d={`M${px(stands.focus_m)} ${top - 4} V${up}`} stroke="transparent" stroke-width="16" />
          <path d={`M${px(stands.focus_m)} ${top - 4} V${up}`} stroke="var(--text)" stroke-dasharray="2 3" />
          <path d={`M${px(stands.focus_m)} ${top - 6} l5 5 l-5 5 l-5 -5 z`} fill="var(--text)" />
        </Handle>
        {#if stands.sheet}
          {@const sheet = stands.sheet}
          <!-- the backing at its true size -->
          <Handle
            label="Backing"
            value={sheet.z}
            text={`${sheet.name}, ${length(sheet.z - stands.distance_m, 2)} behind; arrow keys move it`}
            able={writes}
            hand={hand("sheet")}
          >
            <path d={sheetLine(sheet)} stroke="transparent" stroke-width="18" />
            <path d={sheetLine(sheet)} stroke="var(--text)" stroke-width="7" />
            <path d={sheetLine(sheet)} stroke={sheet.colour} stroke-width="4.5" />
          </Handle>
        {/if}
        <DrawnLamps {stands} {drawing} {handles} />
        {#if side}
          <Handle
            label="Height of the ground"
            value={stands.ground_height_m}
            text={`raised ${length(stands.ground_height_m)}`}
            able={writes}
            cursor="cursor-ns-resize"
            hand={hand("ground")}
          >
            <circle cx={groundX(stands)} cy={py(stands.ground_height_m)} r="12" fill="transparent" />
            <circle
              cx={groundX(stands)}
              cy={py(stands.ground_height_m)}
              r="4.5"
              fill="var(--ground)"
              stroke="var(--text)"
              stroke-width="2"
            />
          </Handle>
        {/if}
        <DrawnMoves {stands} {drawing} />
        <Handle
          label="Camera"
          value={stands.lens_height_m}
          text={cameraText(stands)}
          able={writes}
          name="camera"
          hand={hand("camera")}
        >
          <g transform={`translate(${view.camera} ${lensY})`}>
            <rect x="-54" y="-20" width="60" height="40" fill="transparent" />
            {#if side}
              <path
                d={`M-29 10 L-46 ${floor - lensY} M-29 10 L-12 ${floor - lensY}`}
                stroke="var(--text)"
                stroke-width="2"
              />
            {/if}
            <g transform={`rotate(${side ? -stands.tilt_deg : 0})`}>
              <rect x="-46" y="-12" width="34" height="24" fill="var(--text)" />
              <rect x="-12" y="-7" width="12" height="14" fill="var(--text)" />
              <circle cx="-29" cy="0" r="3.5" fill="var(--ground)" />
            </g>
          </g>
        </Handle>
        {#each ticks as tick, i (i)}
          <path d={`M${tick.at} ${height - FLOOR_GAP} v${tick.label ? 7 : 4}`} stroke="var(--mark)" />
          {#if tick.label && tick.at < width - 30}<text
              x={tick.at + 3}
              y={height - FLOOR_GAP + 18}
              class="note small">{tick.label}</text
            >{/if}
        {/each}
      </svg>
    {:else if layer === null}
      <div class="absolute inset-0 grid place-content-center justify-items-center gap-3 text-muted">
        <p>Choose a filmed layer to see its set. A picture has no set to draw.</p>
        {#if onread}<button class="btn text-ink" onclick={onread}
            >Read how it was taken off the picture</button
          >{/if}
      </div>
    {/if}
  </div>
  <StackRuler
    layers={bench.layers}
    {selected}
    {writes}
    {width}
    {view}
    {tried}
    {onselect}
    onlift={() => {
      onstart();
      frozen = freeze();
    }}
    {onplace}
    {onstart}
    {onset}
    ondrop={() => (frozen = null)}
    {oncancel}
  />
</section>
