<!--
  What is drawn over a live picture, delivered px: the hero's horizon, the ground in metres, silhouettes where
  the hero wants them, the lines and zones of the board.
-->
<script lang="ts">
  import type { Bench } from "../../lib/api/client";
  import DrawnLine from "../../lib/draw/DrawnLine.svelte";
  import { pathOf, type Point } from "../../lib/draw/lines";
  import type { LineUp } from "./lining.svelte";

  let {
    known,
    bench,
    layer,
    drawn,
    k,
  }: {
    known: LineUp;
    bench: Bench;
    layer: number;
    /** Which of it. */
    drawn: readonly string[];
    /** Delivered px for each px of the screen. */
    k: number;
  } = $props();
  const w = $derived(bench.delivery_width_px);
  const h = $derived(bench.delivery_height_px);
  const shows = (what: string) => drawn.includes(what);
  const split = $derived((bench.shot.values.split_px as number | null) ?? null);
  const own = $derived(bench.layers.find((one) => one.id === layer) ?? null);
  const others = $derived(bench.layers.filter((one) => one.id !== layer));
  const outline = (points: number[][]) => pathOf(points as Point[], true);
  const open = (points: number[][]) => pathOf(points as Point[], false);
  const NAME_PX = 14;
  /** Lines across with the place of their names: at the left border, where there is room for them. */
  const named = $derived.by(() => {
    const found: { line: LineUp["ground"][number]; y: number }[] = [];
    for (const line of known.ground) {
      const [a, b] = line.points as [Point, Point];
      if (!a || !b || line.axis !== "ahead") continue;
      const y = a[1] + ((b[1] - a[1]) * (0 - a[0])) / (b[0] - a[0] || 1);
      const above = found.at(-1)?.y ?? Infinity;
      if (y > 0 && y < h && Math.abs(above - y) > NAME_PX * k) found.push({ line, y });
    }
    return found;
  });
</script>

{#if shows("ground")}
  {#each known.ground as line, i (i)}
    <path d={open(line.points)} class="dark" stroke-width={2.6 * k} />
    <path d={open(line.points)} class="light" stroke-width={1.1 * k} stroke-opacity="0.85" />
  {/each}
  {#each named as { line, y } (y)}
    <text x={6 * k} y={y - 3 * k} class="tag" style:--k={k}
      >{line.in_set === line.text ? line.text : `${line.in_set} = ${line.text}`}</text
    >
  {/each}
{/if}
{#if shows("silhouettes")}
  {#each others as one (one.id)}
    {#each one.outlines as part, i (i)}
      <path d={outline(part.wanted)} class="dark" stroke-width={2.6 * k} stroke-opacity="0.5" />
      <path
        d={outline(part.wanted)}
        class="light"
        stroke-width={1 * k}
        stroke-dasharray={`${2 * k} ${4 * k}`}
      />
    {/each}
  {/each}
  {#each own?.outlines ?? [] as part, i (i)}
    <path d={outline(part.wanted)} class="dark" stroke-width={4.4 * k} />
    <path d={outline(part.wanted)} class="light" stroke-width={1.8 * k} />
  {/each}
{/if}
{#if shows("lines")}
  {#each bench.lines as line, i (line.id)}
    <DrawnLine {line} number={i + 1} {k} width={w} height={h} />
  {/each}
  {#if split !== null && !bench.lines.some((line) => line.kind === "split")}
    <path d={`M${split} 0 V${h}`} class="dark" stroke-width={4 * k} />
    <path
      d={`M${split} 0 V${h}`}
      class="light"
      stroke-width={1.8 * k}
      stroke-dasharray={`${12 * k} ${4 * k}`}
    />
    <text x={split + 5 * k} y={16 * k} class="tag" style:--k={k}>split</text>
  {/if}
  {#if own?.values.matte_line_px != null && !bench.lines.some((line) => line.kind === "matte")}
    {@const y = Number(own.values.matte_line_px)}
    <path d={`M0 ${y} H${w}`} class="dark" stroke-width={4 * k} />
    <path d={`M0 ${y} H${w}`} class="light" stroke-width={1.8 * k} stroke-dasharray={`${12 * k} ${4 * k}`} />
    <text x={w - 6 * k} y={y - 5 * k} text-anchor="end" class="tag" style:--k={k}>matte line</text>
  {/if}
{/if}
{#if shows("horizon")}
  <path d={open(known.horizon)} class="dark" stroke-width={3.4 * k} />
  <path d={open(known.horizon)} class="light" stroke-width={1.4 * k} stroke-dasharray={`${7 * k} ${5 * k}`} />
  <text x={w - 6 * k} y={known.horizon[1]![1]! - 5 * k} text-anchor="end" class="tag" style:--k={k}
    >horizon</text
  >
{/if}

<style>
  .dark {
    fill: none;
    stroke: #000;
    stroke-opacity: 0.65;
  }
  .light {
    fill: none;
    stroke: #fff;
  }
  .tag {
    font: 500 calc(11px * var(--k)) var(--font-mono);
    fill: #fff;
    paint-order: stroke;
    stroke: rgb(0 0 0 / 0.75);
    stroke-width: calc(2.6px * var(--k));
    stroke-linejoin: round;
  }
</style>
