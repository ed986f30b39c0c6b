<!-- The set from the side or from above, to scale, with the stack hung from the depth ruler under it. -->
<script lang="ts">
  import type { Bench, Layer, Standing } from "../../lib/api/client";
  import DrawnLamps from "./DrawnLamps.svelte";
  import DrawnMoves from "./DrawnMoves.svelte";
  import DrawnSet from "./DrawnSet.svelte";
  import {
    fitted,
    FLOOR_GAP,
    headOf,
    NAMES,
    round,
    shifted,
    ticksOf,
    type Field,
    type Handles,
    type Held,
    type Shifted,
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
  }: {
    bench: Bench;
    selected: number | null;
    writes: boolean;
    /** What a field is being turned to, or undefined when it stands as shown. */
    tried: (
      what: "set_ups" | "layers" | "lamps" | "backings",
      id: number,
      field: string,
    ) => number | undefined;
    onselect: (layer: number) => void;
    onstart: () => void;
    onmove: (fields: Partial<Record<Field, number>>) => void;
    onplace: (layer: Layer, near_m: number) => void;
    onlamp: (lamp: number, fields: Record<string, number>) => void;
    onsheet: (backing: number, fields: Record<string, number>) => void;
    onset: (label: string) => void;
    oncancel: () => void;
  } = $props();

  let side = $state(true);
  let width = $state(1280);
  let height = $state(200);
  const set = $derived(bench.selected);
  const stands = $derived<Standing | null>(set?.standing ?? null);
  const layer = $derived(bench.layers.find((one) => one.id === set?.layer_id) ?? null);
  const unit = $derived(1 / factor("length", bench.units));
  const unitName = $derived(unitOf("length", bench.units, "m"));

  const HEAD = $derived(headOf(stands));
  let frozen = $state<{ view: View; distance: number } | null>(null);

  const backing = $derived(bench.set_ups.find((one) => one.id === set?.set_up_id)?.backing ?? null);
  // While a hand is on the drawing the set stands still and the camera moves.
  const view = $derived(
    frozen && stands
      ? {
          scale: frozen.view.scale,
          camera: frozen.view.camera + (frozen.distance - stands.distance_m) * frozen.view.scale,
        }
      : fitted(stands, side, width, height),
  );
  const floor = $derived(side ? height - FLOOR_GAP : HEAD + (height - FLOOR_GAP - HEAD) / 2);
  const px = (z: number) => view.camera + z * view.scale;
  const py = (y: number) => floor - y * view.scale;

  const lensY = $derived(stands && side ? py(stands.lens_height_m) : floor);
  const axis = $derived(stands && side ? stands.tilt_deg : 0);

  const ticks = $derived(ticksOf(view, width, unit, unitName));

  // Moving things by hand: what is held, where the pointer was, what the values were.
  type Grip = { x: number; y: number; from: Standing; field: Held; at: number };
  let grip: Grip | null = null;
  function down(event: PointerEvent, field: Held, at = 0) {
    if (!writes || !stands || event.button) return;
    event.preventDefault();
    (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
    (event.currentTarget as SVGElement).focus();
    grip = { x: event.clientX, y: event.clientY, from: stands, field, at };
    frozen = { view: fitted(stands, side, width, height), distance: stands.distance_m };
    onstart();
  }
  const behind = $derived(
    stands && set
      ? stands.distance_m -
          (set.dials.find((dial) => dial.field === "distance_m")?.value ?? stands.distance_m)
      : 0,
  );
  function move(event: PointerEvent) {
    if (!grip || !frozen) return;
    const dx = (event.clientX - grip.x) / frozen.view.scale;
    const dy = (grip.y - event.clientY) / frozen.view.scale;
    const from = grip.from;
    if (grip.field === "camera") {
      const distance = Math.max(round(from.distance_m - dx - behind), 0.05);
      onmove(
        side
          ? { distance_m: distance, lens_height_m: round(from.lens_height_m + dy) }
          : { distance_m: distance },
      );
    } else if (grip.field === "lamp" || grip.field === "aim" || grip.field === "sheet")
      place(moved(grip.field, grip.at, dx, dy, from));
    else if (grip.field === "focus")
      onmove({ focus_distance_m: Math.max(round(from.focus_m + dx, 3), 0.05) });
    else onmove({ ground_height_m: Math.max(round(from.ground_height_m + dy), 0) });
  }
  function up() {
    if (!grip) return;
    const what = NAMES[grip.field];
    grip = null;
    frozen = null;
    onset(what);
  }
  function place(to: Shifted | null, fields = to?.fields) {
    if (to && fields) (to.what === "lamps" ? onlamp : onsheet)(to.id, fields);
  }
  const moved = (what: "lamp" | "aim" | "sheet", at: number, dx: number, dy: number, from: Standing) =>
    shifted(what, at, dx, dy, from, from.distance_m - behind, side, backing);
  let settling = 0;
  function nudge(event: KeyboardEvent, field: Held, at = 0) {
    if (event.key === "Escape") {
      grip = null;
      frozen = null;
      oncancel();
      return;
    }
    const x = { ArrowLeft: -1, ArrowRight: 1 }[event.key] ?? 0;
    const y = { ArrowDown: -1, ArrowUp: 1 }[event.key] ?? 0;
    if (!writes || !stands || (!x && !y)) return;
    event.preventDefault();
    const step = (event.shiftKey ? 0.05 : 0.005) * Math.max(stands.distance_m, 0.2);
    const by = (name: Field, shown: number, add: number, least = -Infinity) => ({
      [name]: Math.max(round(((set && tried("set_ups", set.set_up_id, name)) ?? shown) + add), least),
    });
    onstart();
    if (field === "camera")
      onmove(
        x
          ? by("distance_m", stands.distance_m - behind, -x * step, 0.05)
          : by("lens_height_m", stands.lens_height_m, y * step),
      );
    else if (field === "lamp" || field === "aim" || field === "sheet") {
      const each = event.shiftKey ? 0.1 : 0.01;
      const shown = moved(field, at, 0, 0, stands);
      const to = moved(field, at, x * each, y * each, stands);
      if (!shown || !to) return;
      place(
        to,
        Object.fromEntries(
          Object.entries(to.fields).map(([name, value]) => [
            name,
            round((tried(to.what, to.id, name) ?? shown.fields[name]!) + value - shown.fields[name]!, 3),
          ]),
        ),
      );
    } else if (field === "focus") onmove(by("focus_distance_m", stands.focus_m, (x || y) * step, 0.05));
    else onmove(by("ground_height_m", stands.ground_height_m, (y || x) * step, 0));
    window.clearTimeout(settling);
    settling = window.setTimeout(() => onset(NAMES[field]), 350);
  }

  const handles = $derived<Handles>({ writes, down, move, up, nudge });
</script>

<section class="flex h-full min-h-0 flex-col" aria-label="The set, and the stack on its depth ruler">
  <div class="relative min-h-0 flex-1" bind:clientWidth={width} bind:clientHeight={height}>
    <div
      class="absolute top-1.5 left-3.5 z-10 flex items-baseline gap-3.5"
      role="tablist"
      aria-label="Drawing"
    >
      {#each [[true, "From the side"], [false, "From above"]] as const as [value, name] (name)}
        <button
          role="tab"
          aria-selected={side === value}
          class={[
            "cursor-pointer border-b-2 pb-0.5",
            side === value ? "border-ink font-strong" : "border-transparent text-muted hover:text-ink",
          ]}
          onclick={() => (side = value)}>{name}</button
        >
      {/each}
      {#if stands}<span class="num text-sm text-muted max-sm:hidden">{stands.caption}</span>{/if}
    </div>
    {#if stands && layer}
      <svg
        {width}
        {height}
        class="absolute inset-0 block select-none"
        role="group"
        aria-label={side ? "From the side" : "From above"}
      >
        <clipPath id="above-floor"
          ><rect x="0" y="0" {width} height={side ? floor : height - FLOOR_GAP} /></clipPath
        >
        <DrawnSet
          {stands}
          kind={layer.kind}
          {side}
          {px}
          {py}
          camera={view.camera}
          {lensY}
          {width}
          {height}
          {floor}
        />
        <text
          x={Math.min(Math.max(px(stands.focus_m), width < 640 ? 150 : 640), width - 142)}
          y={width < 640 ? 44 : 18}
          text-anchor="middle"
          class="note">{stands.band_text}</text
        >
        <!-- plane of focus -->
        <g
          role="slider"
          tabindex={writes ? 0 : -1}
          aria-label="Plane of focus"
          aria-valuenow={stands.focus_m}
          aria-valuetext={stands.band_text}
          class={writes ? "cursor-ew-resize" : ""}
          onpointerdown={(event) => down(event, "focus")}
          onpointermove={move}
          onpointerup={up}
          onpointercancel={up}
          onkeydown={(event) => nudge(event, "focus")}
        >
          <path
            d={`M${px(stands.focus_m)} ${HEAD - 4} V${side ? floor : height - FLOOR_GAP}`}
            stroke="transparent"
            stroke-width="16"
          />
          <path
            d={`M${px(stands.focus_m)} ${HEAD - 4} V${side ? floor : height - FLOOR_GAP}`}
            stroke="var(--text)"
            stroke-dasharray="2 3"
          />
          <path d={`M${px(stands.focus_m)} ${HEAD - 6} l5 5 l-5 5 l-5 -5 z`} fill="var(--text)" />
        </g>
        {#if stands.sheet}
          {@const sheet = stands.sheet}
          <!-- the backing at its true size -->
          <g
            role="slider"
            tabindex={writes ? 0 : -1}
            aria-label="Backing"
            aria-valuenow={sheet.z}
            aria-valuetext={`${sheet.name}, ${((sheet.z - stands.distance_m) / unit).toFixed(2)} ${unitName} behind; arrow keys move it`}
            class={writes ? "cursor-move" : ""}
            onpointerdown={(event) => down(event, "sheet")}
            onpointermove={move}
            onpointerup={up}
            onpointercancel={up}
            onkeydown={(event) => nudge(event, "sheet")}
          >
            <path
              d={`M${px(sheet.z)} ${py(side ? sheet.bottom : sheet.left)} V${py(side ? sheet.top : sheet.right)}`}
              stroke="transparent"
              stroke-width="18"
            />
            <path
              d={`M${px(sheet.z)} ${py(side ? sheet.bottom : sheet.left)} V${py(side ? sheet.top : sheet.right)}`}
              stroke="var(--text)"
              stroke-width="7"
            />
            <path
              d={`M${px(sheet.z)} ${py(side ? sheet.bottom : sheet.left)} V${py(side ? sheet.top : sheet.right)}`}
              stroke={sheet.colour}
              stroke-width="4.5"
            />
          </g>
        {/if}
        <DrawnLamps {stands} {side} {px} {py} {unit} {unitName} {handles} />
        {#if side}
          <!-- the model's ground -->
          {@const groundX = px(
            stands.distance_m + Math.min(stands.far_m - stands.distance_m, stands.distance_m) / 2,
          )}
          <g
            role="slider"
            tabindex={writes ? 0 : -1}
            aria-label="Height of the ground"
            aria-valuenow={stands.ground_height_m}
            aria-valuetext={`raised ${(stands.ground_height_m / unit).toFixed(3)} ${unitName}`}
            class={writes ? "cursor-ns-resize" : ""}
            onpointerdown={(event) => down(event, "ground")}
            onpointermove={move}
            onpointerup={up}
            onpointercancel={up}
            onkeydown={(event) => nudge(event, "ground")}
          >
            <circle cx={groundX} cy={py(stands.ground_height_m)} r="12" fill="transparent" />
            <circle
              cx={groundX}
              cy={py(stands.ground_height_m)}
              r="4.5"
              fill="var(--ground)"
              stroke="var(--text)"
              stroke-width="2"
            />
          </g>
        {/if}
        <DrawnMoves {stands} {side} {px} {py} {view} {lensY} {width} top={HEAD} />
        <!-- the camera -->
        <g
          role="slider"
          tabindex={writes ? 0 : -1}
          aria-label="Camera"
          aria-valuenow={stands.lens_height_m}
          aria-valuetext={`lens ${(stands.lens_height_m / unit).toFixed(3)} ${unitName} high, ${(stands.distance_m / unit).toFixed(3)} ${unitName} from the layer; arrow keys move it`}
          class={writes ? "cursor-move" : ""}
          data-handle="camera"
          onpointerdown={(event) => down(event, "camera")}
          onpointermove={move}
          onpointerup={up}
          onpointercancel={up}
          onkeydown={(event) => nudge(event, "camera")}
        >
          <rect x={view.camera - 54} y={lensY - 20} width="60" height="40" fill="transparent" />
          {#if side}
            <path
              d={`M${view.camera - 29} ${lensY + 10} L${view.camera - 46} ${floor} M${view.camera - 29} ${lensY + 10} L${view.camera - 12} ${floor}`}
              stroke="var(--text)"
              stroke-width="2"
            />
          {/if}
          <g transform={`rotate(${-axis} ${view.camera} ${lensY})`}>
            <rect x={view.camera - 46} y={lensY - 12} width="34" height="24" fill="var(--text)" />
            <rect x={view.camera - 12} y={lensY - 7} width="12" height="14" fill="var(--text)" />
            <circle cx={view.camera - 29} cy={lensY} r="3.5" fill="var(--ground)" />
          </g>
        </g>
        {#each ticks as tick (tick.at)}
          <path d={`M${tick.at} ${height - FLOOR_GAP} v${tick.label ? 7 : 4}`} stroke="var(--mark)" />
          {#if tick.label && tick.at < width - 30}<text
              x={tick.at + 3}
              y={height - FLOOR_GAP + 18}
              class="note small">{tick.label}</text
            >{/if}
        {/each}
      </svg>
    {:else if layer === null}
      <p class="absolute inset-0 grid place-content-center text-muted">
        Choose a filmed layer to see its set. A picture has no camera to draw.
      </p>
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
      frozen = stands ? { view: fitted(stands, side, width, height), distance: stands.distance_m } : null;
    }}
    {onplace}
    {onstart}
    {onset}
    ondrop={() => (frozen = null)}
  />
</section>
