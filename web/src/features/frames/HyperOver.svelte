<!--
  Over the picture of a hyperlapse: the guide mark, what is delivered of the photograph, and where the
  reference point is in the one that is looked at.
-->
<script lang="ts">
  import type { Desk } from "./desk.svelte";
  import type { Hyperlapse } from "./aim";

  let {
    desk,
    told,
    size,
    pointing = false,
    onpoint,
  }: {
    desk: Desk;
    told: Hyperlapse;
    size: readonly [number, number];
    pointing?: boolean;
    onpoint: (x: number, y: number) => void;
  } = $props();
  const ARM_PX = 26;
  const GAP_PX = 7;
  const CROSS_PX = 5;

  const mark = $derived([(told.plan.mark_x ?? 0.5) * size[0], (told.plan.mark_y ?? 0.5) * size[1]] as const);
  const edge = $derived([
    (told.spare_px[0]! / told.frame_px[0]!) * size[0],
    (told.spare_px[1]! / told.frame_px[1]!) * size[1],
  ] as const);
  const seen = $derived.by(() => {
    if (desk.live && desk.looked === null) return null;
    const exposure = desk.exposure;
    const point = desk.sheet?.points.find((one) => one.id === told.point_id);
    const at = point?.seen.find((one) => one.exposure_id === exposure?.id);
    return at ? ([at.x * size[0], at.y * size[1]] as const) : null;
  });
  const guide = $derived(
    `M${mark[0] - ARM_PX} ${mark[1]} h${ARM_PX - GAP_PX} m${2 * GAP_PX} 0 h${ARM_PX - GAP_PX}` +
      ` M${mark[0]} ${mark[1] - ARM_PX} v${ARM_PX - GAP_PX} m0 ${2 * GAP_PX} v${ARM_PX - GAP_PX}`,
  );
  const cross = ([x, y]: readonly [number, number]) =>
    `M${x - CROSS_PX} ${y - CROSS_PX} l${2 * CROSS_PX} ${2 * CROSS_PX} m0 ${-2 * CROSS_PX}` +
    ` l${-2 * CROSS_PX} ${2 * CROSS_PX}`;
  function clicked(event: PointerEvent) {
    if (!pointing) return;
    const box = (event.currentTarget as Element).getBoundingClientRect();
    onpoint((event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height);
  }
</script>

<!-- The numbers beside say the same. -->
<svg
  class={["absolute inset-0 m-auto", pointing ? "cursor-crosshair touch-none" : "pointer-events-none"]}
  width={size[0]}
  height={size[1]}
  viewBox={`0 0 ${size[0]} ${size[1]}`}
  onpointerdown={clicked}
  aria-hidden="true"
>
  {#if edge[0] > 0}
    <rect
      x={edge[0]}
      y={edge[1]}
      width={size[0] - 2 * edge[0]}
      height={size[1] - 2 * edge[1]}
      class="light"
      stroke-width="1"
      stroke-opacity="0.45"
    />
  {/if}
  <path d={guide} class="dark" stroke-width="4" />
  <path d={guide} class="light" stroke-width="2" />
  {#if seen}
    <path d={`M${mark[0]} ${mark[1]} L${seen[0]} ${seen[1]}`} class="dark" stroke-width="3" />
    <path d={`M${mark[0]} ${mark[1]} L${seen[0]} ${seen[1]}`} class="light" stroke-width="1" />
    <path d={cross(seen)} class="dark" stroke-width="4" />
    <path d={cross(seen)} class="light" stroke-width="2" />
  {/if}
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
</style>
