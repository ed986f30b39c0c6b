<!--
  The board, or the view through the lens, with its lines. Drawn by mouse, finger or keyboard; every point can
  be moved.
-->
<script lang="ts">
  import type { Bench } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import { handles } from "../../lib/draw/handle";
  import DrawnLine from "../../lib/draw/DrawnLine.svelte";
  import {
    middle,
    placeIn,
    pointsOf,
    shape,
    type BoardLine,
    type LineKind,
    type Point,
  } from "../../lib/draw/lines";

  let {
    bench,
    data,
    picture,
    tool = $bindable(null),
    chosen = $bindable(null),
    clean,
  }: {
    bench: BenchState;
    data: Bench;
    picture: string | null;
    tool: LineKind | null;
    chosen: number | null;
    clean: boolean;
  } = $props();

  let svg = $state<SVGSVGElement | null>(null);
  let across = $state(600);
  let drawing = $state<Point[]>([]);
  let pointer = $state<Point | null>(null);
  const w = $derived(data.delivery_width_px);
  const h = $derived(data.delivery_height_px);
  const k = $derived(w / Math.max(across, 1));
  const writes = $derived(bench.writes);

  $effect(() => {
    if (tool === null) drawing = [];
  });

  const round = (value: number) => Math.round(value * 10) / 10;
  function at(event: PointerEvent | MouseEvent): Point {
    const [x, y] = placeIn(svg!, event, w, h);
    return [Math.round(x), Math.round(y)];
  }
  async function finish(points: Point[]) {
    const kind = tool;
    if (!kind) return;
    tool = null;
    drawing = [];
    const name = vocabulary.line(kind).name;
    const made = await bench.add(`Draw a ${name.toLowerCase()}`, { what: "line", fields: { kind, points } });
    if (made) chosen = made;
  }
  export function placeInMiddle() {
    if (tool) void finish(middle(tool, w, h));
  }
  function pressed(event: PointerEvent) {
    if (!tool || !writes || event.button) return;
    event.preventDefault();
    const here = at(event);
    const { most, least } = vocabulary.line(tool);
    const first = drawing[0];
    if (
      first &&
      vocabulary.line(tool).shape === "zone" &&
      drawing.length >= least &&
      Math.hypot(here[0] - first[0], here[1] - first[1]) < 12 * k
    )
      return void finish(drawing);
    const last = drawing.at(-1);
    if (last && Math.hypot(here[0] - last[0], here[1] - last[1]) < 6 * k && drawing.length >= least)
      return void finish(drawing);
    drawing = [...drawing, here];
    if (drawing.length >= most) void finish(drawing);
  }
  const lineOf = (id: number) => data.lines.find((one) => one.id === id);
  /** A whole line, or one of its points ("12" or "12:3"). */
  const hold = handles((key: string) => {
    const [id, index] = key.split(":").map(Number) as [number, number | undefined];
    let start: Point[] = [];
    let from: Point = [0, 0];
    return {
      able: () => writes && !tool,
      take: (event) => {
        const line = lineOf(id);
        start = line ? pointsOf(line) : [];
        if (!(event instanceof PointerEvent)) return;
        from = at(event);
        bench.trial.remember();
      },
      move: (_, event) => {
        const here = at(event); // never out of the frame, however far the pointer goes
        const [dx, dy] = [here[0] - from[0], here[1] - from[1]];
        const points = start.map(([x, y], i): Point =>
          index === undefined || index === i ? [round(x + dx), round(y + dy)] : [x, y],
        );
        bench.try("lines", id, { points });
      },
      drop: () => void bench.commit("Move a line"),
      cancel: () => bench.forget(),
      step: (way, big) => {
        const by = big ? 20 : 2;
        const points = start.map(([x, y], i) => (i === index ? [x + way.x * by, y - way.y * by] : [x, y]));
        void bench.set("Move a line", "lines", id, { points });
      },
    };
  });
  function choose(event: PointerEvent, line: BoardLine) {
    if (!tool && !event.button) chosen = line.id;
  }
  function remove(event: KeyboardEvent, line: BoardLine, point: number) {
    if (!writes || (event.key !== "Delete" && event.key !== "Backspace")) return;
    event.preventDefault();
    const points = pointsOf(line);
    if (points.length > vocabulary.line(line.kind).least)
      void bench.set("Remove a point", "lines", line.id, { points: points.filter((_, i) => i !== point) });
    else void bench.set("Remove a line", "lines", line.id, { removed: true });
  }
  function follow(event: PointerEvent) {
    if (tool) pointer = at(event);
  }
  /** A point in the middle of a stretch, put there by a double click. */
  function split(event: MouseEvent, line: BoardLine) {
    if (!writes || vocabulary.line(line.kind).most < 3) return;
    const here = at(event);
    const points = pointsOf(line);
    const ends = vocabulary.line(line.kind).shape === "zone" ? points.length : points.length - 1;
    let best = 0;
    let nearest = Infinity;
    for (let i = 0; i < ends; i++) {
      const [a, b] = [points[i]!, points[(i + 1) % points.length]!];
      const off =
        Math.hypot(here[0] - a[0], here[1] - a[1]) +
        Math.hypot(here[0] - b[0], here[1] - b[1]) -
        Math.hypot(a[0] - b[0], a[1] - b[1]);
      if (off < nearest) [nearest, best] = [off, i];
    }
    void bench.set("Add a point", "lines", line.id, {
      points: [...points.slice(0, best + 1), here, ...points.slice(best + 1)],
    });
  }
  export function key(event: KeyboardEvent): boolean {
    if (!tool) return false;
    if (event.key === "Escape") {
      if (drawing.length) drawing = [];
      else tool = null;
      return true;
    }
    if (event.key === "Enter" && drawing.length >= vocabulary.line(tool).least) {
      void finish(drawing);
      return true;
    }
    if (event.key === "Backspace" && drawing.length) {
      drawing = drawing.slice(0, -1);
      return true;
    }
    return false;
  }
</script>

<svg
  bind:this={svg}
  bind:clientWidth={across}
  viewBox={`0 0 ${w} ${h}`}
  class={["block h-auto w-full touch-none bg-black select-none", tool && "cursor-crosshair"]}
  style:aspect-ratio={`${w} / ${h}`}
  role="group"
  aria-label={`Board of ${data.code}${tool ? `: drawing a ${vocabulary.line(tool).name.toLowerCase()}` : ""}`}
  onpointerdown={pressed}
  onpointermove={follow}
  onpointerleave={() => (pointer = null)}
>
  {#if picture}<image href={picture} width={w} height={h} preserveAspectRatio="xMidYMid meet" />
  {:else}<rect width={w} height={h} fill="#2a2a2a" /><path
      d={`M0 0L${w} ${h}M${w} 0L0 ${h}`}
      stroke="#444"
      stroke-width={k}
    />{/if}
  {#if !clean}
    {#each data.lines as line, i (line.id)}
      {@const points = pointsOf(line)}
      {@const on = chosen === line.id}
      <DrawnLine {line} number={i + 1} {k} width={w} height={h} {on} />
      {#if points.length > 1}
        <!-- svelte-ignore a11y_no_static_element_interactions -->
        <path
          d={shape(line.kind, points)}
          fill={vocabulary.line(line.kind).shape === "zone" ? "#000" : "none"}
          fill-opacity="0"
          stroke="#000"
          stroke-opacity="0"
          stroke-width={16 * k}
          class={tool ? "" : "cursor-move"}
          pointer-events={tool ? "none" : "all"}
          onpointerdown={(event) => choose(event, line)}
          {@attach hold(String(line.id))}
          ondblclick={(event) => split(event, line)}
        />
      {/if}
      {#each points as point, j (j)}
        {#if on || points.length === 1}
          <!-- svelte-ignore a11y_no_static_element_interactions -->
          <circle
            cx={point[0]}
            cy={point[1]}
            r={18 * k}
            fill="transparent"
            class="cursor-move"
            pointer-events={tool ? "none" : "all"}
            onpointerdown={(event) => choose(event, line)}
            {@attach hold(`${line.id}:${j}`)}
          />
          <rect
            x={point[0] - 6 * k}
            y={point[1] - 6 * k}
            width={12 * k}
            height={12 * k}
            fill={points.length === 1 ? "transparent" : "#fff"}
            stroke="#000"
            stroke-width={points.length === 1 ? 0 : 1.6 * k}
            class="cursor-move focus:stroke-[4]"
            role="slider"
            tabindex={writes && !tool ? 0 : -1}
            aria-label={`${vocabulary.line(line.kind).name} ${i + 1}, point ${j + 1}`}
            aria-valuenow={point[0]}
            aria-valuetext={`${Math.round(point[0])} across, ${Math.round(point[1])} down`}
            onpointerdown={(event) => choose(event, line)}
            onkeydown={(event) => remove(event, line, j)}
            {@attach hold(`${line.id}:${j}`)}
          />
        {/if}
      {/each}
    {/each}
    {#if tool && drawing.length}
      {@const all = pointer ? [...drawing, pointer] : drawing}
      <g pointer-events="none">
        <path d={shape(tool, all)} fill="none" stroke="#fff" stroke-width={4.5 * k} />
        <path
          d={shape(tool, all)}
          fill="none"
          stroke="#000"
          stroke-width={2 * k}
          stroke-dasharray={`${4 * k} ${3 * k}`}
        />
        {#each drawing as point, j (j)}<rect
            x={point[0] - 4 * k}
            y={point[1] - 4 * k}
            width={8 * k}
            height={8 * k}
            fill="#fff"
            stroke="#000"
            stroke-width={1.4 * k}
          />{/each}
      </g>
    {/if}
  {/if}
</svg>
