<!--
  What stands on a set: the cone of view, the depth that holds, the solids in their hatching, the ground, the
  height that the lens wants.
-->
<script lang="ts">
  import type { Standing } from "../../lib/api/client";
  import { FLOOR_GAP, rad, type Drawing } from "./drawing";
  import Hatch from "../../lib/draw/Hatch.svelte";

  let { stands, kind, drawing }: { stands: Standing; kind: string; drawing: Drawing } = $props();
  const { side, px, py, camera, lensY, width, height, floor } = $derived(drawing);

  const axis = $derived(side ? stands.tilt_deg : 0);
  const path = (points: number[][]) =>
    "M" + points.map(([z, v]) => `${px(z!).toFixed(1)} ${py(v!).toFixed(1)}`).join("L") + "Z";
  const half = $derived((side ? stands.view_up_deg : stands.view_across_deg) / 2);
  const lineTo = (deg: number) => {
    const length = (width - camera) / Math.max(Math.cos(rad(deg)), 0.05);
    return `${camera + length * Math.cos(rad(deg))} ${lensY - length * Math.sin(rad(deg))}`;
  };
</script>

<Hatch id="set" />
{#if side}<rect x="0" y={floor} {width} height={height - floor} fill="var(--panel)" />{/if}
<path
  d={`M${camera} ${lensY} L${lineTo(axis + half)} L${lineTo(axis - half)} Z`}
  fill="var(--panel)"
  clip-path="url(#above-floor)"
/>
<rect
  x={px(stands.band_near_m)}
  y="0"
  width={Math.max((stands.band_far_m === null ? width : px(stands.band_far_m)) - px(stands.band_near_m), 0)}
  height={side ? floor : height - FLOOR_GAP}
  fill="var(--band)"
/>
<path
  d={`M${camera} ${lensY} L${lineTo(axis + half)} M${camera} ${lensY} L${lineTo(axis - half)}`}
  clip-path="url(#above-floor)"
  stroke="var(--text)"
  stroke-opacity="0.75"
  fill="none"
/>
<path d={`M${camera} ${lensY} L${lineTo(axis)}`} stroke="var(--mark)" stroke-dasharray="9 3 2 3" />
{#each stands.solids as solid, i (i)}
  <path
    d={path(side ? solid.side : solid.above)}
    fill={kind === "live" && !side ? "none" : `url(#set-${kind})`}
    stroke="var(--text)"
    stroke-width="1.3"
    stroke-linejoin="round"
  />
{/each}
{#if side}
  <path
    d={`M${px(stands.distance_m)} ${py(stands.ground_height_m)} H${Math.min(px(stands.far_m), width)}`}
    stroke="var(--text)"
    stroke-width="2.5"
  />
  {#if stands.ground_height_m > 0}
    {#each [0.12, 0.88] as share (share)}
      {@const legX = px(stands.distance_m + (stands.far_m - stands.distance_m) * share)}
      <path d={`M${legX} ${py(stands.ground_height_m)} V${floor}`} stroke="var(--mark)" stroke-width="1.5" />
    {/each}
  {/if}
  {#if Math.abs(stands.wanted_height_m - stands.lens_height_m) > 0.0005}
    <path
      d={`M${Math.max(camera - 76, 0)} ${py(stands.wanted_height_m)} H${width}`}
      stroke="var(--shows)"
      stroke-dasharray="5 4"
    />
    <text x={camera + 60} y={py(stands.wanted_height_m) - 5} class="note" style:fill="var(--shows)"
      >{stands.wants_text}</text
    >
  {/if}
  <path d={`M0 ${floor} H${width}`} stroke="var(--line)" />
{/if}
