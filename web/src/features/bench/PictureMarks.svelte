<!--
  A layer's picture with what is drawn on it. Drawn by mouse, finger or keyboard; every point can be moved,
  and is seen enlarged while it is.
-->
<script lang="ts">
  import type { Snippet } from "svelte";
  import { handles } from "../../lib/draw/handle";
  import { DRAWN_PX, markInMiddle, markPath, type Mark, type MarkKind } from "../../lib/draw/marks";
  import { dashes, pathOf, placeIn, type Point } from "../../lib/draw/lines";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let {
    href,
    width,
    height,
    marks,
    horizon,
    within = 0,
    tool = $bindable(null),
    chosen = $bindable(null),
    writes,
    labels = [],
    under,
    over,
    ontry,
    onset,
    ondrop,
    oncancel,
  }: {
    href: string;
    width: number;
    height: number;
    marks: Mark[];
    /** Where the horizon lies by what is drawn, and within how many px of the picture. */
    horizon: Point[] | null;
    within?: number;
    tool: MarkKind | null;
    chosen: number | null;
    writes: boolean;
    /** What each mark tells, beside it. */
    labels?: string[];
    /** Drawn under the marks and over them; gets how many px of the picture one of the screen is. */
    under?: Snippet<[number]>;
    over?: Snippet<[number]>;
    /** Marks that the hand has moved and not let go of. */
    ontry: (marks: Mark[]) => void;
    /** Marks as they are to be kept. */
    onset: (label: string, marks: Mark[]) => void;
    ondrop: () => void;
    oncancel: () => void;
  } = $props();

  const LOUPE = 5;
  let svg = $state<SVGSVGElement | null>(null);
  let across = $state(600);
  let drawing = $state<Point[]>([]);
  let pointer = $state<Point | null>(null);
  let looked = $state<Point | null>(null);
  const k = $derived(width / Math.max(across, 1));
  const side = $derived(130 * k);

  $effect(() => {
    if (tool === null) drawing = [];
  });

  const tenth = (value: number) => Math.round(value * 10) / 10;
  function at(event: PointerEvent): Point {
    const [x, y] = placeIn(svg!, event, width, height);
    return [tenth(x), tenth(y)];
  }
  const far = (a: Point, b: Point) => Math.hypot(a[0] - b[0], a[1] - b[1]) > DRAWN_PX * k;
  function finish(points: Point[]) {
    const kind = tool!;
    drawing = [];
    pointer = looked = null;
    const last = marks.findLast((mark) => mark.kind === kind);
    const height_m = last?.height_m ?? vocabulary.mark(kind).height_m ?? undefined;
    const made: Mark = { kind, points, ...(height_m && { height_m }) };
    onset(`Draw: ${vocabulary.mark(kind).name.toLowerCase()}`, [...marks, made]);
    chosen = marks.length;
  }
  export function placeInMiddle() {
    if (tool) finish(markInMiddle(tool, width, height));
  }
  function add(point: Point) {
    drawing = [...drawing, point];
    if (drawing.length >= vocabulary.mark(tool!).points.length) finish(drawing);
  }
  function pressed(event: PointerEvent) {
    if (!tool || !writes || event.button) return;
    event.preventDefault();
    svg!.setPointerCapture(event.pointerId);
    add(at(event));
  }
  function followed(event: PointerEvent) {
    if (tool) pointer = looked = at(event);
  }
  /** Let go some way off, a press has drawn a line. */
  function released(event: PointerEvent) {
    const last = drawing.at(-1);
    if (tool && last && far(last, at(event))) add(at(event));
    if (event.pointerType !== "mouse") looked = null;
  }
  const moved = (index: number, point: number, to: Point): Mark[] =>
    marks.map((mark, i) =>
      i === index ? { ...mark, points: mark.points.map((old, j) => (j === point ? to : old)) } : mark,
    );
  const hold = handles((key: string) => {
    const [index, point] = key.split(":").map(Number) as [number, number];
    let start: Point = [0, 0];
    return {
      able: () => writes && !tool,
      take: (event) => {
        start = marks[index]?.points[point] ?? [0, 0];
        chosen = index;
        if (event instanceof PointerEvent) looked = start;
      },
      move: (_, event) => {
        looked = at(event);
        ontry(moved(index, point, looked));
      },
      drop: () => {
        looked = null;
        ondrop();
      },
      cancel: () => {
        looked = null;
        oncancel();
      },
      step: (way, big) => {
        const by = (big ? 20 : 1) * Math.max(1, Math.round(k));
        onset(
          "Move a mark",
          moved(index, point, [tenth(start[0] + way.x * by), tenth(start[1] - way.y * by)]),
        );
      },
    };
  });
  function key(event: KeyboardEvent, index: number) {
    if (!writes || (event.key !== "Delete" && event.key !== "Backspace")) return;
    event.preventDefault();
    chosen = null;
    onset(
      "Remove a mark",
      marks.filter((_, i) => i !== index),
    );
  }
  // The enlarged piece stands in the corner that the hand is not in.
  const loupe = $derived.by(() => {
    if (!looked) return null;
    const right = looked[0] < width / 2;
    const low = looked[1] < side * 1.6 && !right;
    const x = right ? width - side - 8 * k : 8 * k;
    const y = low ? height - side - 8 * k : 8 * k;
    const arm = side * 0.15;
    return {
      x,
      y,
      cross:
        `M${x + side / 2} ${y + side / 2 - arm}v${2 * arm}` +
        `M${x + side / 2 - arm} ${y + side / 2}h${2 * arm}`,
      box: `${looked[0] - side / LOUPE / 2} ${looked[1] - side / LOUPE / 2} ${side / LOUPE} ${side / LOUPE}`,
    };
  });
</script>

<svg
  bind:this={svg}
  bind:clientWidth={across}
  viewBox={`0 0 ${width} ${height}`}
  class={["block max-h-full max-w-full touch-none bg-black select-none", tool && "cursor-crosshair"]}
  style:aspect-ratio={`${width} / ${height}`}
  role="group"
  aria-label={`The picture${tool ? `: drawing, ${vocabulary.mark(tool).name.toLowerCase()}` : ""}`}
  onpointerdown={pressed}
  onpointermove={followed}
  onpointerup={released}
  onpointerleave={() => (pointer = looked = null)}
>
  <image {href} {width} {height} preserveAspectRatio="none" />
  {@render under?.(k)}
  {#if horizon}
    <g pointer-events="none">
      {#if within > k}<path
          d={pathOf(
            [
              ...horizon.map(([x, y]): Point => [x, y - within]),
              ...horizon.map(([x, y]): Point => [x, y + within]).reverse(),
            ],
            true,
          )}
          fill="#fff"
          fill-opacity="0.22"
        />{/if}
      {#each [["#fff", 3], ["#000", 1]] as const as [colour, wide] (colour)}<path
          d={pathOf(horizon, false)}
          stroke={colour}
          stroke-opacity="0.75"
          stroke-width={wide * k}
          stroke-dasharray={`${2 * k} ${6 * k}`}
        />{/each}
    </g>
  {/if}
  {#each marks as mark, i (i)}
    {@const words = vocabulary.mark(mark.kind)}
    {@const on = chosen === i}
    <g pointer-events="none">
      <path d={markPath(mark)} fill="none" stroke="#fff" stroke-width={(on ? 5 : 3.6) * k} />
      <path
        d={markPath(mark)}
        fill="none"
        stroke="#000"
        stroke-width={(on ? 2.4 : 1.5) * k}
        stroke-dasharray={dashes(words.dash, k)}
      />
    </g>
    {#each mark.points as [x, y], j (j)}
      <circle
        cx={x}
        cy={y}
        r={16 * k}
        fill="transparent"
        class="cursor-move"
        pointer-events={tool ? "none" : "all"}
        {@attach hold(`${i}:${j}`)}
      />
      <circle
        cx={x}
        cy={y}
        r={(on ? 5 : 3.5) * k}
        fill={on ? "#000" : "#fff"}
        stroke={on ? "#fff" : "#000"}
        stroke-width={1.4 * k}
        class="cursor-move focus:stroke-[6]"
        pointer-events={tool ? "none" : "all"}
        role="slider"
        tabindex={writes && !tool ? 0 : -1}
        aria-label={`${words.name} ${i + 1}, ${words.points[j]}`}
        aria-valuenow={x}
        aria-valuetext={`${Math.round(x)} across, ${Math.round(y)} down`}
        onkeydown={(event) => key(event, i)}
        {@attach hold(`${i}:${j}`)}
      />
    {/each}
    {@const [x, y] = mark.points[0]!}
    <g pointer-events="none">
      <circle
        cx={x}
        cy={y - 15 * k}
        r={8.5 * k}
        fill={on ? "#000" : "#fff"}
        stroke={on ? "#fff" : "#000"}
        stroke-width={1.3 * k}
      />
      <text
        {x}
        y={y - 11 * k}
        text-anchor="middle"
        font-size={11 * k}
        font-weight="650"
        fill={on ? "#fff" : "#000"}>{i + 1}</text
      >
      {#if labels[i]}<text
          x={x + 13 * k}
          y={y - 11 * k}
          font-size={12.5 * k}
          font-weight="650"
          fill="#fff"
          stroke="#000"
          stroke-width={3.2 * k}
          stroke-linejoin="round"
          paint-order="stroke"
          class="num">{labels[i]}</text
        >{/if}
    </g>
  {/each}
  {@render over?.(k)}
  {#if tool && drawing.length}
    {@const points = pointer ? [...drawing, pointer] : drawing}
    <g pointer-events="none">
      {#each [["#fff", 4], ["#000", 1.6]] as const as [colour, wide] (colour)}<path
          d={markPath({ kind: tool, points })}
          fill="none"
          stroke={colour}
          stroke-width={wide * k}
        />{/each}
      {#each drawing as [x, y], j (j)}<circle
          cx={x}
          cy={y}
          r={4 * k}
          fill="#fff"
          stroke="#000"
          stroke-width={1.4 * k}
        />{/each}
    </g>
  {/if}
  {#if loupe}
    <g pointer-events="none">
      <rect
        x={loupe.x}
        y={loupe.y}
        width={side}
        height={side}
        fill="#000"
        stroke="#fff"
        stroke-width={3 * k}
      />
      <svg x={loupe.x} y={loupe.y} width={side} height={side} viewBox={loupe.box}>
        <image {href} {width} {height} preserveAspectRatio="none" />
      </svg>
      {#each [["#fff", 3], ["#000", 1]] as const as [colour, wide] (colour)}<path
          d={loupe.cross}
          stroke={colour}
          stroke-width={wide * k}
        />{/each}
    </g>
  {/if}
</svg>
