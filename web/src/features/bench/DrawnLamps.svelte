<!--
  The lamps of a set in its drawing, with their beams and where they are aimed; a hand can take hold of both.
-->
<script lang="ts">
  import type { Standing } from "../../lib/api/client";
  import Handle from "../../lib/draw/Handle.svelte";
  import { rad, type Drawing, type Handles } from "./drawing";

  let { stands, drawing, handles }: { stands: Standing; drawing: Drawing; handles: Handles } = $props();
  const { px, py, side, length } = $derived(drawing);

  const lamps = $derived(
    stands.lamps.map((lamp, at) => {
      const [x, y] = [px(lamp.z), py(side ? lamp.y : lamp.x)];
      const [aimX, aimY] = [px(lamp.aim_z), py(side ? lamp.aim_y : lamp.aim_x)];
      const turn = (Math.atan2(aimY - y, aimX - x) * 180) / Math.PI;
      const far = Math.hypot(aimX - x, aimY - y);
      const edge = (deg: number) =>
        `M${x} ${y} l${far * Math.cos(rad(turn + deg))} ${far * Math.sin(rad(turn + deg))}`;
      const half = Math.min(lamp.beam_deg, 150) / 2;
      return {
        ...lamp,
        at,
        id: stands.lamp_ids[at] ?? at,
        screen: { x, y, aimX, aimY, turn },
        beam: edge(-half) + edge(half),
      };
    }),
  );
</script>

{#each lamps as lamp (lamp.id)}
  {@const { x, y, aimX, aimY, turn } = lamp.screen}
  <path
    d={lamp.beam}
    stroke={lamp.colour}
    stroke-opacity="0.55"
    stroke-dasharray="6 5"
    clip-path="url(#above-floor)"
  />
  <path d={`M${x} ${y} L${aimX} ${aimY}`} stroke="var(--mark)" stroke-dasharray="1 4" />
  <Handle
    label={`Aim of ${lamp.name}`}
    value={lamp.aim_z}
    text={`aimed ${length(lamp.aim_y, 2)} high; arrow keys turn it`}
    able={handles.writes}
    cursor="cursor-crosshair"
    hand={handles.hand("aim", lamp.at)}
  >
    <circle cx={aimX} cy={aimY} r="12" fill="transparent" />
    <path d={`M${aimX - 4} ${aimY} h8 M${aimX} ${aimY - 4} v8`} stroke="var(--text)" />
  </Handle>
  <Handle
    label={lamp.name}
    value={side ? lamp.y : lamp.x}
    text={`${lamp.role}, ${lamp.text}, ${length(lamp.y, 2)} high; arrow keys move it`}
    able={handles.writes}
    hand={handles.hand("lamp", lamp.at)}
  >
    <circle cx={x} cy={y} r="15" fill="transparent" />
    <g transform={`translate(${x} ${y}) rotate(${turn})`}>
      <path d="M-9 -4 H-2 L5 -9 V9 L-2 4 H-9 Z" fill={lamp.colour} stroke="var(--text)" stroke-width="1.3" />
    </g>
    <text {x} y={y - 13} text-anchor="middle" class="note small">{lamp.name}</text>
  </Handle>
{/each}
