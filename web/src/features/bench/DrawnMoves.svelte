<!-- What has a direction and no place: where the key comes from, and the way that the camera goes. -->
<script lang="ts">
  import type { Standing } from "../../lib/api/client";
  import { rad, type Drawing } from "./drawing";

  let { stands, drawing }: { stands: Standing; drawing: Drawing } = $props();
  const { side, px, py, lensY, width, top, camera, scale } = $derived(drawing);
  const placed = $derived(stands.lamps.some((lamp) => lamp.role === "key"));
</script>

{#if stands.key_azimuth_deg !== null && stands.key_elevation_deg !== null && !placed}
  <!-- where the key comes from: a direction, not a place -->
  {@const toward = side
    ? [
        -Math.cos(rad(stands.key_azimuth_deg)) * Math.cos(rad(stands.key_elevation_deg)),
        Math.sin(rad(stands.key_elevation_deg)),
      ]
    : [-Math.cos(rad(stands.key_azimuth_deg)), Math.sin(rad(stands.key_azimuth_deg))]}
  {@const kx = width - 190}
  {@const ky = top + 52}
  <g stroke="var(--text)" fill="none">
    <path
      d={`M${kx + toward[0]! * 34} ${ky - toward[1]! * 34} L${kx + toward[0]! * 12} ${ky - toward[1]! * 12}`}
      stroke-width="1.5"
    />
    <path d={`M${kx - 5} ${ky} h10 M${kx} ${ky - 5} v10`} />
    <circle
      cx={kx + toward[0]! * 40}
      cy={ky - toward[1]! * 40}
      r="6"
      stroke-width="1.5"
      fill="var(--ground)"
    />
  </g>
  {@const below = toward[0]! > 0.2 && Math.abs(toward[1]!) < 0.6}
  <text x={kx + (below ? 0 : 22)} y={ky + (below ? 24 : 4)} class="note small"
    >key {String(Math.round(stands.key_azimuth_deg)).replace("-", "−")}°, {Math.round(
      stands.key_elevation_deg,
    )}° up</text
  >
{/if}
{#if stands.travel_m}
  {@const alongView = stands.move_kind === "push"}
  {#if alongView || !side}
    <!-- the way that the camera goes -->
    <path
      d={alongView
        ? `M${camera} ${lensY} h${stands.travel_m * scale}`
        : `M${camera} ${lensY} v${-stands.travel_m * scale}`}
      stroke="var(--text)"
      stroke-width="1.5"
      stroke-dasharray="7 3"
    />
    <circle
      cx={alongView ? px(stands.travel_m) : camera}
      cy={alongView ? lensY : py(stands.travel_m)}
      r="4"
      fill="var(--ground)"
      stroke="var(--text)"
      stroke-width="1.5"
    />
  {/if}
{/if}
