<!--
  The paths of the figure's points over the picture: a tick at every pose, keys as lozenges, where the next
  pose is planned as a ring, crosses where the point was seen.
-->
<script lang="ts">
  import type { Desk } from "./desk.svelte";
  import type { FigurePoint } from "./path";

  let { desk, size }: { desk: Desk; size: readonly [number, number] } = $props();
  const TICK_PX = 1.8;
  const RING_PX = 9;
  const CROSS_PX = 4;
  const KEY_PX = 5;

  const ABOUT = 12; // so many poses before and after are marked one by one
  const FAINTEST = 0.15;

  const points = $derived(desk.points);
  const near = (place: number) => Math.abs(place - desk.at) <= ABOUT;
  const placeOf = $derived.by(() => {
    const places = Object.fromEntries(desk.poses.map((pose) => [pose.id, pose.place]));
    return Object.fromEntries((desk.sheet?.exposures ?? []).map((one) => [one.id, places[one.pose_id]]));
  });
  const faint = (place: number) => Math.max(FAINTEST, 1 - Math.abs(place - desk.at) / ABOUT);
  const at = (share: readonly number[]) => [share[0]! * size[0], share[1]! * size[1]] as const;
  const line = (point: FigurePoint) =>
    point.places
      .map((one) =>
        at(one)
          .map((side) => side.toFixed(1))
          .join(","),
      )
      .join(" ");
  const target = (point: FigurePoint) => {
    const place = point.places[desk.at];
    return place ? at(place) : null;
  };
  const lozenge = ([x, y]: readonly [number, number]) =>
    `M${x} ${y - KEY_PX} L${x + KEY_PX} ${y} L${x} ${y + KEY_PX} L${x - KEY_PX} ${y} Z`;
  const cross = ([x, y]: readonly [number, number]) =>
    `M${x - CROSS_PX} ${y - CROSS_PX} l${2 * CROSS_PX} ${2 * CROSS_PX} m0 ${-2 * CROSS_PX}` +
    ` l${-2 * CROSS_PX} ${2 * CROSS_PX}`;

  function clicked(event: PointerEvent) {
    const seen = (event.currentTarget as Element).getBoundingClientRect();
    const share = [(event.clientX - seen.left) / seen.width, (event.clientY - seen.top) / seen.height];
    void points.clicked(share[0]!, share[1]!);
  }
</script>

<!-- Typed numbers beside say the same. -->
<svg
  class={["absolute inset-0 m-auto", points.pointing ? "cursor-crosshair touch-none" : "pointer-events-none"]}
  width={size[0]}
  height={size[1]}
  viewBox={`0 0 ${size[0]} ${size[1]}`}
  onpointerdown={clicked}
  aria-hidden="true"
>
  {#each points.all as point (point.id)}
    {@const ring = target(point)}
    <polyline points={line(point)} class="dark" stroke-width="3" />
    <polyline points={line(point)} class="light" stroke-width="1" stroke-opacity="0.6" />
    {#each point.places as place, i (i)}
      {@const [x, y] = at(place)}
      {#if near(i)}<circle cx={x} cy={y} r={TICK_PX} class="tick" />{/if}
      {#if point.strobing.includes(i)}
        <path d={`M${x - 4} ${y + 9} h8`} class="dark" stroke-width="4" />
        <path d={`M${x - 4} ${y + 9} h8`} class="light" stroke-width="2" />
      {/if}
    {/each}
    {#each point.keys as key (key.frame)}
      <path d={lozenge(at([key.x, key.y]))} class="dark" stroke-width="3.5" />
      <path d={lozenge(at([key.x, key.y]))} class="light" stroke-width="1.5" />
    {/each}
    {#each point.seen.filter((one) => near(placeOf[one.exposure_id] ?? -1)) as one (one.exposure_id)}
      {@const here = one.exposure_id === points.photograph?.id}
      <g opacity={here ? 1 : faint(placeOf[one.exposure_id] ?? 0)}>
        <path d={cross(at([one.x, one.y]))} class="dark" stroke-width="3" />
        <path d={cross(at([one.x, one.y]))} class="light" stroke-width={here ? 2 : 1} />
      </g>
    {/each}
    {#if ring}
      <circle cx={ring[0]} cy={ring[1]} r={RING_PX} class="dark" stroke-width="3.5" />
      <circle cx={ring[0]} cy={ring[1]} r={RING_PX} class="light" stroke-width="1.5" />
      <text x={ring[0] + 14} y={ring[1] - 10} class="num">{point.name}</text>
    {/if}
  {/each}
</svg>

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
  .tick {
    fill: #fff;
    stroke: #000;
    stroke-opacity: 0.65;
    stroke-width: 1;
  }
  text {
    font-size: 11px;
    fill: #fff;
    paint-order: stroke;
    stroke: #000;
    stroke-opacity: 0.65;
    stroke-width: 3px;
  }
</style>
