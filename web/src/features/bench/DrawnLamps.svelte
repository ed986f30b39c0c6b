<!-- The lamps of a set in its drawing, with their beams and where they are aimed; a hand can take hold of both. -->
<script lang="ts">
  import type { Standing } from "../../lib/api/client";
  import { rad, type Handles } from "./drawing";

  let {
    stands,
    side,
    px,
    py,
    unit,
    unitName,
    handles,
  }: {
    stands: Standing;
    side: boolean;
    px: (z: number) => number;
    py: (y: number) => number;
    unit: number;
    unitName: string;
    handles: Handles;
  } = $props();
</script>

{#each stands.lamps as lamp, i (stands.lamp_ids[i] ?? i)}
  {@const lx = px(lamp.z)}
  {@const ly = py(side ? lamp.y : lamp.x)}
  {@const ax = px(lamp.aim_z)}
  {@const ay = py(side ? lamp.aim_y : lamp.aim_x)}
  {@const turn = (Math.atan2(ay - ly, ax - lx) * 180) / Math.PI}
  {@const beam = Math.min(lamp.beam_deg, 150) / 2}
  {@const long = Math.hypot(ax - lx, ay - ly)}
  <path
    d={`M${lx} ${ly} l${long * Math.cos(rad(turn - beam))} ${long * Math.sin(rad(turn - beam))} M${lx} ${ly} l${long * Math.cos(rad(turn + beam))} ${long * Math.sin(rad(turn + beam))}`}
    stroke={lamp.colour}
    stroke-opacity="0.55"
    stroke-dasharray="6 5"
    clip-path="url(#above-floor)"
  />
  <path d={`M${lx} ${ly} L${ax} ${ay}`} stroke="var(--mark)" stroke-dasharray="1 4" />
  <g
    role="slider"
    tabindex={handles.writes ? 0 : -1}
    aria-label={`Aim of ${lamp.name}`}
    aria-valuenow={lamp.aim_z}
    aria-valuetext={`aimed ${(lamp.aim_y / unit).toFixed(2)} ${unitName} high; arrow keys turn it`}
    class={handles.writes ? "cursor-crosshair" : ""}
    onpointerdown={(event) => handles.down(event, "aim", i)}
    onpointermove={handles.move}
    onpointerup={handles.up}
    onpointercancel={handles.up}
    onkeydown={(event) => handles.nudge(event, "aim", i)}
  >
    <circle cx={ax} cy={ay} r="12" fill="transparent" />
    <path d={`M${ax - 4} ${ay} h8 M${ax} ${ay - 4} v8`} stroke="var(--text)" />
  </g>
  <g
    role="slider"
    tabindex={handles.writes ? 0 : -1}
    aria-label={lamp.name}
    aria-valuenow={side ? lamp.y : lamp.x}
    aria-valuetext={`${lamp.role}, ${lamp.text}, ${(lamp.y / unit).toFixed(2)} ${unitName} high; arrow keys move it`}
    class={handles.writes ? "cursor-move" : ""}
    onpointerdown={(event) => handles.down(event, "lamp", i)}
    onpointermove={handles.move}
    onpointerup={handles.up}
    onpointercancel={handles.up}
    onkeydown={(event) => handles.nudge(event, "lamp", i)}
  >
    <circle cx={lx} cy={ly} r="15" fill="transparent" />
    <g transform={`rotate(${turn} ${lx} ${ly})`}>
      <path
        d={`M${lx - 9} ${ly - 4} H${lx - 2} L${lx + 5} ${ly - 9} V${ly + 9} L${lx - 2} ${ly + 4} H${lx - 9} Z`}
        fill={lamp.colour}
        stroke="var(--text)"
        stroke-width="1.3"
      />
    </g>
    <text x={lx} y={ly - 13} text-anchor="middle" class="note small">{lamp.name}</text>
  </g>
{/each}
