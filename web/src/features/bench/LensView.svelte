<!--
  The picture as the lens will see it: every layer where it will sit, the hero's horizon, and the worst
  verdict at its place.
-->
<script lang="ts">
  import type { Bench, Item, Layer } from "../../lib/api/client";
  import DrawnLine from "../../lib/draw/DrawnLine.svelte";

  let {
    bench,
    selected,
    item,
    picture,
    asFilmed,
  }: { bench: Bench; selected: number | null; item: Item | null; picture: string | null; asFilmed: boolean } =
    $props();

  // Letters keep their size on the screen, however large the picture is drawn.
  let across = $state(600);
  let up = $state(300);
  const margin = $derived(Number(bench.shot.values.margin_pct ?? 0) > 0);
  const MARGIN = $derived(margin ? 0.05 : 0.02);
  const sheet = $derived(bench.selected?.sheet ?? null);
  const split = $derived((bench.shot.values.split_px as number | null) ?? null);
  // What is drawn on the board speaks instead of the numbers of shot and layer.
  const drawn = $derived(new Set(bench.lines.map((line) => line.kind)));
  const w = $derived(bench.delivery_width_px);
  const h = $derived(bench.delivery_height_px);
  const k = $derived(
    Math.max((w * (1 + 2 * MARGIN)) / Math.max(across, 1), (h * (1 + 2 * MARGIN)) / Math.max(up, 1)),
  );
  const view = $derived(`${-w * MARGIN} ${-h * MARGIN} ${w * (1 + 2 * MARGIN)} ${h * (1 + 2 * MARGIN)}`);
  const backToFront = $derived([...bench.layers].reverse());
  const chosen = $derived(bench.layers.find((layer) => layer.id === selected) ?? null);

  const ABOUT_SHEET = new Set(["backing_edge", "evenness", "backing_shadow", "spill", "backing_colour"]);
  const path = (points: number[][]) =>
    points.length ? "M" + points.map(([x, y]) => `${x} ${y}`).join("L") + "Z" : "";
  /** A blur disc of b px spreads like a Gaussian of b/4. */
  const spread = (blur: number) => blur / 4;

  function moved(layer: Layer): boolean {
    return layer.outlines.some((one) =>
      one.points.some(
        ([x, y], i) => Math.hypot(x! - (one.wanted[i]?.[0] ?? x!), y! - (one.wanted[i]?.[1] ?? y!)) > 2,
      ),
    );
  }

  /** Where a contour carries its name: inside the sheet, each one a little lower than the last. */
  function labelled(points: number[][], i: number): number[] {
    const xs = (sheet?.edge ?? []).map((one) => one[0]!);
    const ys = (sheet?.edge ?? []).map((one) => one[1]!);
    const inset = 8 * k;
    const inside = points.filter(
      ([x, y]) =>
        x! > Math.min(...xs) + inset &&
        x! < Math.max(...xs) - inset &&
        y! > Math.min(...ys) + inset &&
        y! < Math.min(Math.max(...ys), h) - inset,
    );
    const wanted = Math.min(...ys) + (Math.max(...ys) - Math.min(...ys)) * (0.2 + 0.17 * i);
    return (inside.length ? inside : points).reduce((best, one) =>
      Math.abs(one[1]! - wanted) < Math.abs(best[1]! - wanted) ? one : best,
    );
  }

  type Box = { left: number; top: number; right: number; bottom: number };
  function box(layer: Layer, key: string): Box | null {
    const upright = layer.outlines.filter((one) => one.points.length);
    const softest = Math.max(...upright.map((one) => one.blur_px));
    const parts = key === "focus_far" ? upright.filter((one) => one.blur_px > softest * 0.8) : upright;
    const points = parts.flatMap((one) => one.points);
    if (!points.length) return null;
    const clamp = (value: number, most: number) => Math.min(Math.max(value, 0), most);
    const xs = points.map((point) => clamp(point[0]!, w));
    const ys = points.map((point) => clamp(point[1]!, h));
    return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
  }
  const callout = $derived.by(() => {
    if (!chosen || !item || item.verdict === "holds") return null;
    if (sheet && ABOUT_SHEET.has(item.item)) {
      const clamp = (value: number, most: number) => Math.min(Math.max(value, 0), most);
      const xs = sheet.crossed.map((one) => clamp(one[0]!, w));
      const ys = sheet.crossed.map((one) => clamp(one[1]!, h));
      return { left: Math.min(...xs), right: Math.max(...xs), top: Math.min(...ys), bottom: Math.max(...ys) };
    }
    const found = box(chosen, item.item);
    return found && found.right - found.left > 8 && found.bottom - found.top > 8 ? found : null;
  });
  const label = $derived.by(() => {
    if (!item || item.verdict === "holds") return "";
    const what = item.item.startsWith("focus") ? "soft" : item.label.toLowerCase();
    return `${item.amount_text} ${item.unit} ${what}`;
  });
</script>

<svg
  bind:clientWidth={across}
  bind:clientHeight={up}
  style={`--k:${k}`}
  viewBox={view}
  class="block h-full w-full bg-black"
  role="img"
  aria-label={`Through the lens: ${bench.code}, ${bench.aspect}`}
>
  <defs>
    {#each backToFront as layer (layer.id)}
      {#each layer.outlines as part, i (i)}
        <linearGradient id={`fill-${layer.id}-${i}`} x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stop-color={part.colour} /><stop offset="1" stop-color={part.colour_low} />
        </linearGradient>
        {#if part.blur_px > 0.4}
          <filter id={`soft-${layer.id}-${i}`} x="-30%" y="-30%" width="160%" height="160%"
            ><feGaussianBlur stdDeviation={spread(part.blur_px)} /></filter
          >
        {/if}
      {/each}
    {/each}
  </defs>
  {#if picture}
    <rect x={-w} y={-h} width={3 * w} height={3 * h} fill="#151515" />
    <image href={picture} x="0" y="0" width={w} height={h} preserveAspectRatio="none" />
  {:else}
    <rect x={-w} y={-h} width={3 * w} height={3 * h} fill="#6b6b6b" />
    {#each backToFront as layer (layer.id)}
      {#each layer.outlines as part, i (i)}
        <path
          d={path(part.points)}
          fill={`url(#fill-${layer.id}-${i})`}
          filter={part.blur_px > 0.4 ? `url(#soft-${layer.id}-${i})` : undefined}
        />
      {/each}
    {/each}
  {/if}
  {#if sheet && asFilmed}
    {#each sheet.contours as line, i (i)}
      <path d={path(line.points)} fill="none" stroke="#000" stroke-opacity="0.5" stroke-width="5" />
      <path d={path(line.points)} fill="none" stroke="#fff" stroke-width="2" />
      {@const at = labelled(line.points, i)}
      <text x={at[0]} y={at[1]! + 14 * k} class="tag small" text-anchor="middle">{line.label}</text>
    {/each}
  {/if}
  {#if sheet}
    <path d={path(sheet.edge)} fill="none" stroke="#000" stroke-opacity="0.6" stroke-width="7" />
    <path d={path(sheet.edge)} fill="none" stroke={sheet.colour} stroke-width="4" />
    {#if item?.item.startsWith("backing") || asFilmed}
      <path d={path(sheet.crossed)} fill="none" stroke="#fff" stroke-width="2" stroke-dasharray="12 6" />
      {#each sheet.shadows as shadow, i (i)}
        <path d={path(shadow)} fill="none" stroke="#000" stroke-dasharray="4 6" stroke-width="3" />
      {/each}
    {/if}
  {/if}
  {#if !asFilmed}
    {#each bench.lines as line, i (line.id)}<DrawnLine
        {line}
        number={i + 1}
        {k}
        width={w}
        height={h}
      />{/each}
  {/if}
  {#if !asFilmed && split !== null && !drawn.has("split")}
    <path d={`M${split} 0 V${h}`} stroke="#000" stroke-opacity="0.6" stroke-width="7" />
    <path d={`M${split} 0 V${h}`} stroke="#fff" stroke-width="3" stroke-dasharray="24 8 4 8" />
    <text x={split + 5 * k} y={15 * k} class="tag small">split</text>
  {/if}
  {#if !asFilmed && chosen?.values.matte_line_px != null && !drawn.has("matte")}
    {@const line = Number(chosen.values.matte_line_px)}
    <path d={`M0 ${line} H${w}`} stroke="#000" stroke-opacity="0.6" stroke-width="7" />
    <path d={`M0 ${line} H${w}`} stroke="#fff" stroke-width="3" stroke-dasharray="24 8 4 8" />
    <text x={w - 6 * k} y={line - 5 * k} text-anchor="end" class="tag small">matte line</text>
  {/if}
  {#if bench.cut_box}
    {@const [left, top, right, bottom] = bench.cut_box as [number, number, number, number]}
    <path
      d={`M0 0 H${w} V${h} H0 Z M${left} ${top} V${bottom} H${right} V${top} Z`}
      fill="#000"
      fill-opacity={bench.shot.values.vertical_only ? 0.6 : 0.25}
      fill-rule="evenodd"
    />
    <rect
      x={left}
      y={top}
      width={right - left}
      height={bottom - top}
      fill="none"
      stroke="#fff"
      stroke-width="2.5"
      stroke-dasharray="6 6"
    />
    <text x={left + 5 * k} y={bottom - 6 * k} class="tag small">cut-down</text>
  {/if}
  {#if margin}
    {@const [left, top, right, bottom] = bench.needed_box as [number, number, number, number]}
    <rect
      x={left}
      y={top}
      width={right - left}
      height={bottom - top}
      fill="none"
      stroke="#fff"
      stroke-opacity="0.7"
      stroke-width="2"
      stroke-dasharray="2 8"
    />
  {/if}
  {#if chosen && !asFilmed && moved(chosen)}
    {#each chosen.outlines as part, i (i)}
      <path d={path(part.wanted)} fill="none" stroke="#000" stroke-width="5" stroke-opacity="0.5" />
      <path d={path(part.wanted)} fill="none" stroke="#fff" stroke-width="2.2" stroke-dasharray="10 8" />
    {/each}
  {/if}
  <path d={`M0 ${bench.horizon_px} H${w}`} stroke="#fff" stroke-width="2" stroke-dasharray="2 10" />
  <text x={6 * k} y={bench.horizon_px - 4 * k} class="tag">{bench.horizon_text}</text>
  <path
    d={`M${-w} ${-h} H${2 * w} V${2 * h} H${-w} Z M0 0 V${h} H${w} V0 Z`}
    fill="#000"
    fill-opacity="0.55"
    fill-rule="evenodd"
  />
  <rect x="0" y="0" width={w} height={h} fill="none" stroke="#fff" stroke-width="2.5" />
  <text x={w - 6 * k} y={15 * k} text-anchor="end" class="tag">{bench.aspect}</text>
  {#if callout && item}
    <rect
      x={callout.left}
      y={callout.top}
      width={callout.right - callout.left}
      height={callout.bottom - callout.top}
      fill="none"
      stroke="#000"
      stroke-opacity="0.6"
      stroke-width="9"
    />
    <rect
      x={callout.left}
      y={callout.top}
      width={callout.right - callout.left}
      height={callout.bottom - callout.top}
      fill="none"
      stroke={item.verdict === "shows" ? "#ff8a66" : "#f0bd5c"}
      stroke-width="4"
    />
    <text
      x={Math.min(Math.max(callout.left + 4 * k, 6 * k), Math.max(w - label.length * 8 * k, 0))}
      y={callout.top > 34 * k ? callout.top - 5 * k : callout.top + 30 * k}
      class="tag strong"
      style:fill={item.verdict === "shows" ? "#ff9c7d" : "#f3c876"}>{label}</text
    >
  {/if}
  {#if chosen && !asFilmed && moved(chosen)}<text x={w - 6 * k} y={h - 6 * k} text-anchor="end" class="tag"
      >dashed: where the hero wants it</text
    >{/if}
</svg>

<style>
  .tag {
    font: 500 calc(11.5px * var(--k)) var(--font-mono);
    fill: #fff;
    paint-order: stroke;
    stroke: rgb(0 0 0 / 0.75);
    stroke-width: calc(2.6px * var(--k));
    stroke-linejoin: round;
  }
  .tag.small {
    font-size: calc(11px * var(--k));
  }
  .tag.strong {
    font-weight: 700;
    font-size: calc(12.5px * var(--k));
    fill: inherit;
  }
</style>
