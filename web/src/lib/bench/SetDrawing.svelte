<!-- The set from the side or from above, to scale, with the stack hung from the depth ruler under it. -->
<script lang="ts">
  import type { Bench, Layer, Standing } from "../api/client";
  import Verdict from "../ui/Verdict.svelte";
  import Hatch from "./Hatch.svelte";
  import { combineName, kindName } from "./hatch";

  type Field = "distance_m" | "lens_height_m" | "focus_distance_m" | "ground_height_m";
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
    tried: (what: "set_ups" | "layers" | "lamps" | "backings", id: number, field: string) => number | undefined;
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
  const unit = $derived(bench.units === "metric" ? 1 : 0.3048);
  const unitName = $derived(bench.units === "metric" ? "m" : "ft");

  const CAMERA_X = 120;
  const FLOOR_GAP = 26;
  const HEAD = $derived(stands?.lamps.length ? 48 : 30);
  type View = { scale: number; camera: number };
  let frozen = $state<{ view: View; distance: number } | null>(null);

  const reach = $derived.by(() => {
    if (!stands) return 1;
    if (stands.sheet) return Math.max(stands.sheet.z, stands.focus_m, ...stands.lamps.map((lamp) => lamp.z)) * 1.35;
    const own = Math.min(stands.far_m, Math.max(stands.focus_m, stands.distance_m) * 2.6);
    return Math.max(own, ...stands.lamps.map((lamp) => lamp.z)) * 1.12;
  });
  const backing = $derived(bench.set_ups.find((one) => one.id === set?.set_up_id)?.backing ?? null);
  const halfAcross = $derived.by(() => {
    const seen = (stands?.solids ?? []).flatMap((solid) =>
      solid.above.filter(([z]) => z! < reach).map(([, x]) => Math.abs(x!)),
    );
    const cone = stands ? reach * Math.tan((stands.view_across_deg * Math.PI) / 360) : 1;
    const aside = [
      ...(stands?.lamps ?? []).map((lamp) => Math.abs(lamp.x)),
      Math.abs(stands?.sheet?.left ?? 0),
      Math.abs(stands?.sheet?.right ?? 0),
    ];
    return Math.max(0.2, cone * 0.5, Math.min(Math.max(0, ...seen), cone * 1.5), ...aside);
  });
  const fitted = $derived.by((): View => {
    if (!stands) return { scale: 1, camera: CAMERA_X };
    const tops = stands.solids.flatMap((solid) => solid.side.map(([z, y]) => (z! < reach ? y! : 0)));
    const tall = Math.max(
      stands.lens_height_m * 1.12,
      stands.wanted_height_m * 1.1,
      ...tops.map((top) => top * 1.08),
      ...stands.lamps.map((lamp) => lamp.y * 1.1),
      (stands.sheet?.top ?? 0) * 1.08,
      0.05,
    );
    const vertical = side ? (height - FLOOR_GAP - HEAD) / tall : (height - FLOOR_GAP - HEAD) / 2 / (halfAcross * 1.1);
    return { scale: Math.min((width - CAMERA_X - 30) / reach, vertical), camera: CAMERA_X };
  });
  // While a hand is on the drawing the set stands still and the camera moves.
  const view = $derived(
    frozen && stands
      ? {
          scale: frozen.view.scale,
          camera: frozen.view.camera + (frozen.distance - stands.distance_m) * frozen.view.scale,
        }
      : fitted,
  );
  const floor = $derived(side ? height - FLOOR_GAP : HEAD + (height - FLOOR_GAP - HEAD) / 2);
  const px = (z: number) => view.camera + z * view.scale;
  const py = (y: number) => floor - y * view.scale;
  const path = (points: number[][]) =>
    "M" + points.map(([z, v]) => `${px(z!).toFixed(1)} ${py(v!).toFixed(1)}`).join("L") + "Z";
  const rad = (deg: number) => (deg * Math.PI) / 180;

  const lensY = $derived(stands && side ? py(stands.lens_height_m) : floor);
  const axis = $derived(stands && side ? stands.tilt_deg : 0);
  const half = $derived(stands ? (side ? stands.view_up_deg : stands.view_across_deg) / 2 : 0);
  const lineTo = (deg: number) => {
    const length = (width - view.camera) / Math.max(Math.cos(rad(deg)), 0.05);
    return `${view.camera + length * Math.cos(rad(deg))} ${lensY - length * Math.sin(rad(deg))}`;
  };

  const ticks = $derived.by(() => {
    const span = (width - view.camera) / view.scale / unit;
    const step =
      [0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 5000].find(
        (one) => span / one <= Math.max(width / 116, 3),
      ) ?? 10000;
    const small = step / 5;
    const out: { at: number; label: string }[] = [];
    for (let n = 0; n * small <= span; n++) {
      const value = n * small;
      out.push({ at: px(value * unit), label: n % 5 ? "" : `${Number(value.toFixed(2))} ${unitName}` });
    }
    return out;
  });

  // Moving things by hand: what is held, where the pointer was, what the values were.
  type Held = "camera" | "focus" | "ground" | "lamp" | "aim" | "sheet";
  type Grip = { x: number; y: number; from: Standing; field: Held; at: number };
  const NAMES: Record<Held, string> = {
    camera: "Move the camera",
    focus: "Pull focus",
    ground: "Raise the model",
    lamp: "Move the lamp",
    aim: "Aim the lamp",
    sheet: "Move the backing",
  };
  let grip: Grip | null = null;
  function down(event: PointerEvent, field: Held, at = 0) {
    if (!writes || !stands || event.button) return;
    event.preventDefault();
    (event.currentTarget as SVGElement).setPointerCapture(event.pointerId);
    (event.currentTarget as SVGElement).focus();
    grip = { x: event.clientX, y: event.clientY, from: stands, field, at };
    frozen = { view: fitted, distance: stands.distance_m };
    onstart();
  }
  const round = (value: number, places = 4) => Number(value.toFixed(places));
  const behind = $derived(
    stands && set
      ? stands.distance_m - (set.dials.find((dial) => dial.field === "distance_m")?.value ?? stands.distance_m)
      : 0,
  );
  function move(event: PointerEvent) {
    if (!grip || !frozen) return;
    const dx = (event.clientX - grip.x) / frozen.view.scale;
    const dy = (grip.y - event.clientY) / frozen.view.scale;
    const from = grip.from;
    if (grip.field === "camera") {
      const distance = Math.max(round(from.distance_m - dx - behind), 0.05);
      onmove(side ? { distance_m: distance, lens_height_m: round(from.lens_height_m + dy) } : { distance_m: distance });
    } else if (grip.field === "lamp" || grip.field === "aim" || grip.field === "sheet")
      place(shifted(grip.field, grip.at, dx, dy, from));
    else if (grip.field === "focus") onmove({ focus_distance_m: Math.max(round(from.focus_m + dx, 3), 0.05) });
    else onmove({ ground_height_m: Math.max(round(from.ground_height_m + dy), 0) });
  }
  function up() {
    if (!grip) return;
    const what = NAMES[grip.field];
    grip = null;
    frozen = null;
    onset(what);
  }
  type Shifted = { what: "lamps" | "backings"; id: number; fields: Record<string, number> };
  function place(to: Shifted | null, fields = to?.fields) {
    if (to && fields) (to.what === "lamps" ? onlamp : onsheet)(to.id, fields);
  }
  /** A lamp, its aim or the sheet, moved by metres of the drawing; places are counted from the near end of the set-up's nearest layer. */
  function shifted(what: "lamp" | "aim" | "sheet", at: number, dx: number, dy: number, from: Standing): Shifted | null {
    const near = from.distance_m - behind;
    if (what === "sheet") {
      if (!backing || !from.sheet) return null;
      const middle = (from.sheet.left + from.sheet.right) / 2;
      const behind_m = round(from.sheet.z + dx - near, 3);
      return {
        what: "backings",
        id: backing.id,
        fields: side
          ? { behind_m, bottom_m: round(from.sheet.bottom + dy, 3) }
          : { behind_m, across_m: round(middle + dy, 3) },
      };
    }
    const lamp = from.lamps[at];
    const id = from.lamp_ids[at];
    if (!lamp || id === undefined) return null;
    const [z, v] = what === "lamp" ? [lamp.z, side ? lamp.y : lamp.x] : [lamp.aim_z, side ? lamp.aim_y : lamp.aim_x];
    const along = round(z + dx - near, 3);
    const other = round(v + dy, 3);
    const fields: Record<string, number> =
      what === "lamp"
        ? side
          ? { behind_m: along, height_m: other }
          : { behind_m: along, across_m: other }
        : side
          ? { aim_behind_m: along, aim_height_m: other }
          : { aim_behind_m: along, aim_across_m: other };
    return { what: "lamps", id, fields };
  }
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
      const shown = shifted(field, at, 0, 0, stands);
      const to = shifted(field, at, x * each, y * each, stands);
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

  // The stack: cards hung from their place on the ruler, kept apart, nearest at the left.
  const CARD = 142;
  const GAP = 4;
  const hung = $derived.by(() => {
    const end = width - 14;
    const at = bench.layers.map((one) => Math.min(px(one.ruler_m), end));
    const left: number[] = [];
    at.forEach((x, i) => left.push(Math.max(x - CARD / 2, i ? left[i - 1]! + CARD + GAP : 14)));
    let limit = end + GAP;
    for (let i = left.length - 1; i >= 0; i--) {
      left[i] = Math.min(left[i]!, limit - GAP - CARD);
      limit = left[i]!;
    }
    const shift = Math.max(0, 14 - (left[0] ?? 14));
    return bench.layers.map((one, i) => ({ layer: one, x: at[i]!, left: left[i]! + shift }));
  });
  const stackWidth = $derived(Math.max(width, ...hung.map((one) => one.left + CARD + 14)));

  let carried: { layer: Layer; x: number; from: number; moved: boolean } | null = null;
  function lift(event: PointerEvent, one: Layer) {
    if (event.button) return;
    carried = { layer: one, x: event.clientX, from: one.ruler_m, moved: false };
    if (writes) (event.currentTarget as Element).setPointerCapture(event.pointerId);
  }
  const perRuler = (one: Layer) => one.near_m / one.ruler_m;
  function carry(event: PointerEvent) {
    if (!carried || !writes) return;
    const dx = event.clientX - carried.x;
    if (!carried.moved && Math.abs(dx) < 4) return;
    if (!carried.moved) {
      onstart();
      frozen = stands ? { view: fitted, distance: stands.distance_m } : null;
    }
    carried.moved = true;
    onplace(carried.layer, Math.max(round((carried.from + dx / view.scale) * perRuler(carried.layer), 2), 0.1));
  }
  function drop() {
    const held = carried;
    carried = null;
    frozen = null;
    if (!held) return;
    if (held.moved) onset(`Move ${held.layer.name}`);
  }
  function cardKey(event: KeyboardEvent, one: Layer) {
    const by = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!by || !writes) return;
    event.preventDefault();
    onstart();
    const near = tried("layers", one.id, "near_m") ?? one.near_m;
    onplace(one, round(near * (event.shiftKey ? 1.1 : 1.01) ** by, 3));
    window.clearTimeout(settling);
    settling = window.setTimeout(() => onset(`Move ${one.name}`), 350);
  }
</script>

<section class="flex h-full min-h-0 flex-col" aria-label="The set, and the stack on its depth ruler">
  <div class="relative min-h-0 flex-1" bind:clientWidth={width} bind:clientHeight={height}>
    <div class="absolute top-1.5 left-3.5 z-10 flex items-baseline gap-3.5" role="tablist" aria-label="Drawing">
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
        <Hatch id="set" />
        <clipPath id="above-floor"><rect x="0" y="0" {width} height={side ? floor : height - FLOOR_GAP} /></clipPath>
        {#if side}<rect x="0" y={floor} {width} height={height - floor} fill="var(--panel)" />{/if}
        <path
          d={`M${view.camera} ${lensY} L${lineTo(axis + half)} L${lineTo(axis - half)} Z`}
          fill="var(--panel)"
          clip-path="url(#above-floor)"
        />
        <rect
          x={px(stands.band_near_m)}
          y="0"
          width={Math.max((stands.band_far_m === null ? width : px(stands.band_far_m)) - px(stands.band_near_m), 0)}
          height={side ? floor : height - FLOOR_GAP}
          fill="var(--band)"
        />
        <path
          d={`M${view.camera} ${lensY} L${lineTo(axis + half)} M${view.camera} ${lensY} L${lineTo(axis - half)}`}
          clip-path="url(#above-floor)"
          stroke="var(--text)"
          stroke-opacity="0.75"
          fill="none"
        />
        <path d={`M${view.camera} ${lensY} L${lineTo(axis)}`} stroke="var(--mark)" stroke-dasharray="9 3 2 3" />
        {#each stands.solids as solid, i (i)}
          <path
            d={path(side ? solid.side : solid.above)}
            fill={layer.kind === "live" && !side ? "none" : `url(#set-${layer.kind})`}
            stroke="var(--text)"
            stroke-width="1.3"
            stroke-linejoin="round"
          />
        {/each}
        {#if side}
          <path
            d={`M${px(stands.distance_m)} ${py(stands.ground_height_m)} H${Math.min(px(stands.far_m), width)}`}
            stroke="var(--text)"
            stroke-width="2.5"
          />
          {#if stands.ground_height_m > 0}
            {#each [0.12, 0.88] as share (share)}
              {@const legX = px(stands.distance_m + (stands.far_m - stands.distance_m) * share)}
              <path d={`M${legX} ${py(stands.ground_height_m)} V${floor}`} stroke="var(--mark)" stroke-width="1.5" />
            {/each}
          {/if}
          {#if Math.abs(stands.wanted_height_m - stands.lens_height_m) > 0.0005}
            <path
              d={`M${Math.max(view.camera - 76, 0)} ${py(stands.wanted_height_m)} H${width}`}
              stroke="var(--shows)"
              stroke-dasharray="5 4"
            />
            <text x={view.camera + 60} y={py(stands.wanted_height_m) - 5} class="note" style:fill="var(--shows)"
              >{stands.wants_text}</text
            >
          {/if}
          <path d={`M0 ${floor} H${width}`} stroke="var(--line)" />
        {/if}
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
        {#each stands.lamps as lamp, i (stands.lamp_ids[i] ?? i)}
          {@const lx = px(lamp.z)}
          {@const ly = py(side ? lamp.y : lamp.x)}
          {@const ax = px(lamp.aim_z)}
          {@const ay = py(side ? lamp.aim_y : lamp.aim_x)}
          {@const turn = (Math.atan2(ay - ly, ax - lx) * 180) / Math.PI}
          {@const beam = Math.min(lamp.beam_deg, 150) / 2}
          {@const long = Math.hypot(ax - lx, ay - ly)}
          <path
            d={`M${lx} ${ly} l${long * Math.cos(rad(turn - beam))} ${long * Math.sin(rad(turn - beam))} M${lx} ${ly} l${long * Math.cos(rad(turn + beam))} ${long * Math.sin(rad(turn + beam))}`}
            stroke={lamp.colour}
            stroke-opacity="0.55"
            stroke-dasharray="6 5"
            clip-path="url(#above-floor)"
          />
          <path d={`M${lx} ${ly} L${ax} ${ay}`} stroke="var(--mark)" stroke-dasharray="1 4" />
          <g
            role="slider"
            tabindex={writes ? 0 : -1}
            aria-label={`Aim of ${lamp.name}`}
            aria-valuenow={lamp.aim_z}
            aria-valuetext={`aimed ${(lamp.aim_y / unit).toFixed(2)} ${unitName} high; arrow keys turn it`}
            class={writes ? "cursor-crosshair" : ""}
            onpointerdown={(event) => down(event, "aim", i)}
            onpointermove={move}
            onpointerup={up}
            onpointercancel={up}
            onkeydown={(event) => nudge(event, "aim", i)}
          >
            <circle cx={ax} cy={ay} r="12" fill="transparent" />
            <path d={`M${ax - 4} ${ay} h8 M${ax} ${ay - 4} v8`} stroke="var(--text)" />
          </g>
          <g
            role="slider"
            tabindex={writes ? 0 : -1}
            aria-label={lamp.name}
            aria-valuenow={side ? lamp.y : lamp.x}
            aria-valuetext={`${lamp.role}, ${lamp.text}, ${(lamp.y / unit).toFixed(2)} ${unitName} high; arrow keys move it`}
            class={writes ? "cursor-move" : ""}
            onpointerdown={(event) => down(event, "lamp", i)}
            onpointermove={move}
            onpointerup={up}
            onpointercancel={up}
            onkeydown={(event) => nudge(event, "lamp", i)}
          >
            <circle cx={lx} cy={ly} r="15" fill="transparent" />
            <g transform={`rotate(${turn} ${lx} ${ly})`}>
              <path
                d={`M${lx - 9} ${ly - 4} H${lx - 2} L${lx + 5} ${ly - 9} V${ly + 9} L${lx - 2} ${ly + 4} H${lx - 9} Z`}
                fill={lamp.colour}
                stroke="var(--text)"
                stroke-width="1.3"
              />
            </g>
            <text x={lx} y={ly - 13} text-anchor="middle" class="note small">{lamp.name}</text>
          </g>
        {/each}
        {#if side}
          <!-- the model's ground -->
          {@const groundX = px(stands.distance_m + Math.min(stands.far_m - stands.distance_m, stands.distance_m) / 2)}
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
        {#if stands.key_azimuth_deg !== null && stands.key_elevation_deg !== null && !stands.lamps.some((lamp) => lamp.role === "key")}
          <!-- where the key comes from: a direction, not a place -->
          {@const toward = side
            ? [
                -Math.cos(rad(stands.key_azimuth_deg)) * Math.cos(rad(stands.key_elevation_deg)),
                Math.sin(rad(stands.key_elevation_deg)),
              ]
            : [-Math.cos(rad(stands.key_azimuth_deg)), Math.sin(rad(stands.key_azimuth_deg))]}
          {@const kx = width - 190}
          {@const ky = HEAD + 52}
          <g stroke="var(--text)" fill="none">
            <path
              d={`M${kx + toward[0]! * 34} ${ky - toward[1]! * 34} L${kx + toward[0]! * 12} ${ky - toward[1]! * 12}`}
              stroke-width="1.5"
            />
            <path d={`M${kx - 5} ${ky} h10 M${kx} ${ky - 5} v10`} />
            <circle cx={kx + toward[0]! * 40} cy={ky - toward[1]! * 40} r="6" stroke-width="1.5" fill="var(--ground)" />
          </g>
          {@const below = toward[0]! > 0.2 && Math.abs(toward[1]!) < 0.6}
          <text x={kx + (below ? 0 : 22)} y={ky + (below ? 24 : 4)} class="note small"
            >key {String(Math.round(stands.key_azimuth_deg)).replace("-", "−")}°, {Math.round(
              stands.key_elevation_deg,
            )}° up</text
          >
        {/if}
        {#if stands.travel_m}
          {@const alongView = stands.move_kind === "push"}
          {#if alongView || !side}
            <!-- the way that the camera goes -->
            <path
              d={alongView
                ? `M${view.camera} ${lensY} h${stands.travel_m * view.scale}`
                : `M${view.camera} ${lensY} v${-stands.travel_m * view.scale}`}
              stroke="var(--text)"
              stroke-width="1.5"
              stroke-dasharray="7 3"
            />
            <circle
              cx={alongView ? px(stands.travel_m) : view.camera}
              cy={alongView ? lensY : py(stands.travel_m)}
              r="4"
              fill="var(--ground)"
              stroke="var(--text)"
              stroke-width="1.5"
            />
          {/if}
        {/if}
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
          {#if tick.label && tick.at < width - 30}<text x={tick.at + 3} y={height - FLOOR_GAP + 18} class="note small"
              >{tick.label}</text
            >{/if}
        {/each}
      </svg>
    {:else if layer === null}
      <p class="absolute inset-0 grid place-content-center text-muted">
        Choose a filmed layer to see its set. A picture has no camera to draw.
      </p>
    {/if}
  </div>
  <div class="relative h-[76px] shrink-0 overflow-x-auto overflow-y-hidden bg-panel">
    <div class="relative h-full" style:width={`${stackWidth}px`}>
      <svg width={stackWidth} height="28" class="absolute inset-0" aria-hidden="true">
        {#each hung as one (one.layer.id)}
          <path d={`M${one.x} 0 V8 L${one.left + CARD / 2} 18 V24`} fill="none" stroke="var(--mark)" />
        {/each}
      </svg>
      {#each hung as one (one.layer.id)}
        {@const on = one.layer.id === selected}
        <button
          class={[
            "absolute top-6 flex h-[46px] cursor-pointer items-center gap-2 border pl-2 text-left",
            on ? "border-ink bg-ink text-ground" : "border-line bg-ground",
          ]}
          style:left={`${one.left}px`}
          style:width={`${CARD}px`}
          aria-pressed={on}
          title={one.layer.note}
          onclick={() => onselect(one.layer.id)}
          onpointerdown={(event) => lift(event, one.layer)}
          onpointermove={carry}
          onpointerup={drop}
          onpointercancel={drop}
          onkeydown={(event) => cardKey(event, one.layer)}
        >
          <svg width="11" height="34" class="shrink-0" aria-hidden="true"
            ><Hatch id={`card-${one.layer.id}`} /><rect
              x="0.5"
              y="0.5"
              width="10"
              height="33"
              fill={`url(#card-${one.layer.id}-${one.layer.kind})`}
              stroke={on ? "var(--ground)" : "var(--text)"}
            /></svg
          >
          <span class="min-w-0 flex-1">
            <span class="block truncate font-strong">{one.layer.name}</span>
            <span class={["block truncate text-xs", on ? "" : "text-muted"]}
              >{one.layer.is_hero ? "hero" : kindName(one.layer.kind)} · {combineName(
                one.layer.combine,
                one.layer.key_colour,
              )}</span
            >
          </span>
          <span class="mr-1.5 grid place-items-center gap-0.5">
            {#if one.layer.items.length}<Verdict verdict={one.layer.verdict} inverted={on} />{/if}
            {#if one.layer.circled_take}<span class="num text-xs" title="circled take">t{one.layer.circled_take}</span
              >{/if}
          </span>
        </button>
      {/each}
    </div>
  </div>
</section>

<style>
  .note {
    font: 450 11.5px var(--font-mono);
    fill: var(--text);
    paint-order: stroke;
    stroke: var(--panel);
    stroke-width: 3px;
    stroke-linejoin: round;
  }
  .note.small {
    font-size: 11px;
    fill: var(--muted);
  }
</style>
