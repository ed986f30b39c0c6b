<!-- Where in the frame the board was seen, and in which parts it was not yet. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";

  let { pictures }: { pictures: Schemas["PictureTold"][] } = $props();
  const COLUMNS = 4;
  const ROWS = 3;
  const W = 256;
  const H = 144;
  const NAMES = ["top left", "top", "top", "top right", "left", "", "", "right"];
  const LAST = ["bottom left", "bottom", "bottom", "bottom right"];
  const points = $derived(pictures.flatMap((each) => each.px));
  const empty = $derived(
    [...NAMES, ...LAST]
      .map((name, place) => ({ name, place }))
      .filter(({ place }) => !points.some(([x, y]) => cell(x!, y!) === place)),
  );
  const cell = (x: number, y: number) =>
    Math.min(COLUMNS - 1, Math.floor(x * COLUMNS)) + COLUMNS * Math.min(ROWS - 1, Math.floor(y * ROWS));
  const missing = $derived([...new Set(empty.map((each) => each.name).filter(Boolean))].slice(0, 3));
  const says = $derived(
    missing.length ? `Not seen yet: ${missing.join(", ")}.` : "The whole frame is covered.",
  );
</script>

<figure class="shrink-0">
  <svg
    width={W}
    height={H}
    viewBox={`0 0 ${W} ${H}`}
    class="block max-w-full border border-line bg-panel"
    role="img"
    aria-label={says}
  >
    {#each empty as { place } (place)}
      <rect
        x={((place % COLUMNS) * W) / COLUMNS}
        y={(Math.floor(place / COLUMNS) * H) / ROWS}
        width={W / COLUMNS}
        height={H / ROWS}
        fill="var(--raised)"
      />
    {/each}
    {#each points as [x, y], number (number)}
      <rect x={x! * W - 0.6} y={y! * H - 0.6} width="1.2" height="1.2" fill="var(--text)" />
    {/each}
  </svg>
  <figcaption class="mt-0.5 text-sm text-muted">{says}</figcaption>
</figure>
