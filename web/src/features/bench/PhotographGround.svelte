<!-- Under the marks of a photograph: the layers in it, what the frame takes of it, its ground in metres. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { pathOf, type Point } from "../../lib/draw/lines";

  let {
    picture,
    frame,
    ground,
    href,
    k,
    text,
  }: {
    picture: { width_px: number; height_px: number };
    /** The delivered frame in it: left, top, right, bottom. */
    frame: [number, number, number, number];
    ground: Schemas["GroundLineOut"][];
    /** The layers in it, as large as the frame. */
    href: string | null;
    /** Its px for each of the screen. */
    k: number;
    text: (value: number, unit: string) => string;
  } = $props();

  const [left, top, right, bottom] = $derived(frame);
  const STROKES = [
    ["#000", 2.6, 0.35],
    ["#fff", 1, 0.75],
  ] as const;
  /** Where a line carries its metres: as far left as it is in the picture. */
  function named(points: Point[]): Point | null {
    const [a, b] = points;
    if (!a || !b || a[0] === b[0]) return null;
    const x = picture.width_px * 0.012;
    const y = a[1] + ((x - a[0]) / (b[0] - a[0])) * (b[1] - a[1]);
    return y > 0 && y < picture.height_px ? [x, y] : null;
  }
  /** Names that have room: far lines lie close. */
  const names = $derived.by(() => {
    let last = Infinity;
    return ground.flatMap((line) => {
      const at = line.axis === "ahead" ? named(line.points as Point[]) : null;
      if (!at || last - at[1] < 13 * k) return [];
      last = at[1];
      return [{ at, metres: line.metres }];
    });
  });
</script>

<g pointer-events="none">
  {#if href}
    <image {href} x={left} y={top} width={right - left} height={bottom - top} preserveAspectRatio="none" />
  {/if}
  <path
    d={`M0 0H${picture.width_px}V${picture.height_px}H0ZM${left} ${top}V${bottom}H${right}V${top}Z`}
    fill="#000"
    fill-opacity="0.42"
    fill-rule="evenodd"
  />
  <rect
    x={left}
    y={top}
    width={right - left}
    height={bottom - top}
    fill="none"
    stroke="#fff"
    stroke-width={1.2 * k}
  />
  {#each ground as line (`${line.axis}${line.metres}`)}
    {#each STROKES as [colour, wide, opacity] (colour)}
      <path
        d={pathOf(line.points as Point[], false)}
        fill="none"
        stroke={colour}
        stroke-opacity={opacity * (line.axis === "aside" && line.metres !== 0 ? 0.6 : 1)}
        stroke-width={wide * k}
      />
    {/each}
  {/each}
  {#each names as { at, metres } (metres)}
    <text
      x={at[0]}
      y={at[1] - 3 * k}
      font-size={11 * k}
      class="num"
      fill="#fff"
      stroke="#000"
      stroke-width={2.8 * k}
      stroke-linejoin="round"
      paint-order="stroke">{text(metres, "m")}</text
    >
  {/each}
</g>
