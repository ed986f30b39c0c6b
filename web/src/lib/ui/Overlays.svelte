<!-- What was measured of a picture, drawn over it: its lines, areas, circles and points with their words. -->
<script lang="ts">
  import type { Schemas } from "../api/client";
  import { wordsOf } from "./words-on-picture";

  type Drawn = Schemas["OverlayOut"];
  let { overlays, size }: { overlays: readonly Drawn[]; size: { width: number; height: number } } = $props();

  /** The colour of what shows, on pictures of any theme. */
  const SHOWS = "#ff6a3c";
  const px = (place: readonly number[]) => [place[0]! * size.width, place[1]! * size.height] as const;
  const points = (places: readonly (readonly number[])[]) =>
    places.map((place) => px(place).join(",")).join(" ");
  const STROKES = { plain: "white", faint: "rgb(255 255 255 / 0.55)", shows: SHOWS };
  const radius = (one: Drawn) => {
    const [a, b] = [px(one.places[0]!), px(one.places[1] ?? one.places[0]!)];
    return Math.max(4, Math.hypot(a[0] - b[0], a[1] - b[1]));
  };
  const words = $derived(wordsOf(overlays, size, (one) => (one.kind === "circle" ? radius(one) + 5 : 6)));
</script>

{#each overlays as one, index (index)}
  {@const stroke = STROKES[one.weight]}
  {#if one.kind === "circle"}
    <circle
      cx={px(one.places[0]!)[0]}
      cy={px(one.places[0]!)[1]}
      r={radius(one)}
      fill="none"
      {stroke}
      stroke-width="2"
    />
  {:else if one.kind === "point"}
    {@const [x, y] = px(one.places[0]!)}
    <circle
      cx={x}
      cy={y}
      r={one.weight === "shows" ? 5 : 1.8}
      fill={one.weight === "plain" ? "white" : "none"}
      {stroke}
      stroke-width={one.weight === "shows" ? 2 : 1}
    />
  {:else if one.kind === "area"}
    <polygon
      points={points(one.places)}
      fill="none"
      {stroke}
      stroke-width={one.weight === "faint" ? 1 : 1.8}
    />
  {:else}
    <polyline
      points={points(one.places)}
      fill="none"
      {stroke}
      stroke-width={one.weight === "faint" ? 1 : 1.8}
    />
  {/if}
{/each}
{#each words as { one, at }, index (index)}
  <text
    class={["on-picture", one.weight === "shows" && "font-strong"]}
    x={at.x}
    y={at.y}
    text-anchor={at.anchor}
    fill={one.weight === "shows" ? SHOWS : "white"}>{one.text}</text
  >
{/each}
