<!--
  How one line of a board looks, with its number in the margin; `k` is delivered px for each px of the screen.
-->
<script lang="ts">
  import { vocabulary } from "../vocabulary.svelte";
  import { dashes, pathOf, pointsOf, shape, type BoardLine, type Point } from "./lines";

  let {
    line,
    number,
    k,
    width,
    height,
    on = false,
  }: { line: BoardLine; number: number; k: number; width: number; height: number; on?: boolean } = $props();

  const how = $derived(vocabulary.line(line.kind));
  const points = $derived(pointsOf(line));
  const drawn = $derived(shape(line.kind, points));
  const feather = $derived(line.kind === "split" ? Number(line.values.feather_px) : 0);
  const dash = $derived(dashes(how.dash, k));
  const within = (value: number, most: number) => Math.min(Math.max(value - 16 * k, 12 * k), most - 12 * k);
</script>

<g pointer-events="none">
  {#if points.length > 1}
    {#if how.fill}<path d={drawn} fill={how.fill === "light" ? "#fff" : "#000"} fill-opacity="0.25" />{/if}
    <path d={drawn} fill="none" stroke="#fff" stroke-width={(on ? 6 : 4.5) * k} />
    <path d={drawn} fill="none" stroke="#000" stroke-width={(on ? 3 : 1.8) * k} stroke-dasharray={dash} />
    {#if feather > 0}
      {#each [-1, 1] as side (side)}<path
          d={pathOf(
            points.map(([x, y]): Point => [x + (side * feather) / 2, y]),
            false,
          )}
          fill="none"
          stroke="#fff"
          stroke-opacity="0.8"
          stroke-width={k}
        />{/each}
    {/if}
  {:else if points[0]}
    {@const [x, y] = points[0]}
    {@const cross = `M${x - 11 * k} ${y}h${22 * k}M${x} ${y - 11 * k}v${22 * k}`}
    <path d={cross} stroke="#fff" stroke-width={5 * k} />
    <path d={cross} stroke="#000" stroke-width={2 * k} />
  {/if}
  {#if points[0]}
    {@const [x, y] = [within(points[0][0], width), within(points[0][1], height)]}
    <circle
      cx={x}
      cy={y}
      r={9 * k}
      fill={on ? "#000" : "#fff"}
      stroke={on ? "#fff" : "#000"}
      stroke-width={1.4 * k}
    />
    <text
      {x}
      y={y + 4 * k}
      text-anchor="middle"
      font-size={11.5 * k}
      font-weight="650"
      fill={on ? "#fff" : "#000"}>{number}</text
    >
  {/if}
</g>
