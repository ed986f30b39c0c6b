<!-- What was measured of a picture, drawn over it: its lines, areas, circles and points with their words. -->
<script lang="ts">
  import type { Schemas } from "../api/client";

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
  const APART_PX = 24;
  const TRIED = 12;
  type At = { x: number; y: number; anchor: "start" | "end" };
  /** Where its words stand beside a place of it: inside the picture. */
  function beside(one: Drawn, place: readonly number[]): At {
    const [x, y] = px(place);
    const off = one.kind === "circle" ? radius(one) + 5 : 6;
    const end = x > size.width * 0.7;
    return {
      x: Math.min(Math.max(2, end ? x - off : x + off), size.width - 2),
      y: Math.min(Math.max(14, y + 4), size.height - 6),
      anchor: end ? "end" : "start",
    };
  }
  const space = (at: At, others: readonly At[]) =>
    Math.min(...others.map((other) => Math.hypot(at.x - other.x, 2 * (at.y - other.y))));
  /**
   * Words beside what they are about: points and areas first; a line's where it is farthest from the others
   * that have theirs, and of what says the same once.
   */
  const words = $derived.by(() => {
    const placed: { one: Drawn; at: At }[] = [];
    const told = overlays.filter((one) => one.text);
    for (const one of told.filter((each) => each.kind !== "line"))
      placed.push({ one, at: beside(one, one.places[0]!) });
    for (const one of told.filter((each) => each.kind === "line")) {
      const step = Math.max(1, Math.floor(one.places.length / TRIED));
      const taken = placed.map((each) => each.at);
      let best: At | null = null;
      for (let index = 0; index < one.places.length; index += step) {
        const at = beside(one, one.places[index]!);
        if (!best || space(at, taken) > space(best, taken)) best = at;
      }
      const again = placed.some((each) => each.one.kind === "line" && each.one.text === one.text);
      if (best && !again && (!taken.length || space(best, taken) > APART_PX)) placed.push({ one, at: best });
    }
    return placed;
  });
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
