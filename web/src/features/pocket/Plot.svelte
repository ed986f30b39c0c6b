<!-- One answer against one value, with the chosen place on the line. -->
<script lang="ts">
  import type { Units } from "../../lib/units";
  import { figure, unitHere } from "./format";

  type Row = { value: number; y: number };
  let {
    rows,
    here,
    log,
    xTitle,
    xUnit,
    yTitle,
    yUnit,
    units,
  }: {
    rows: Row[];
    here: number;
    log: boolean;
    xTitle: string;
    xUnit: string;
    yTitle: string;
    yUnit: string;
    units: Units;
  } = $props();

  const W = 520;
  const H = 190;
  const L = 58;
  const B = 34;
  const xs = $derived(rows.map((row) => (log ? Math.log(row.value) : row.value)));
  const ys = $derived(rows.map((row) => row.y));
  const low = $derived(Math.min(...ys));
  const high = $derived(Math.max(...ys));
  const x = (value: number) =>
    L + ((value - Math.min(...xs)) / (Math.max(...xs) - Math.min(...xs) || 1)) * (W - L - 14);
  const y = (value: number) => H - B - ((value - low) / (high - low || 1)) * (H - B - 16);
  const line = $derived(
    rows.map((row, i) => `${i ? "L" : "M"}${x(xs[i]!).toFixed(1)} ${y(row.y).toFixed(1)}`).join(""),
  );
  const at = $derived(
    rows.reduce(
      (best, row) => (Math.abs(row.value - here) < Math.abs(best.value - here) ? row : best),
      rows[0]!,
    ),
  );
</script>

<svg
  viewBox={`0 0 ${W} ${H}`}
  class="w-full max-w-[640px]"
  role="img"
  aria-label={`${yTitle} against ${xTitle}`}
>
  <path d={`M${L} 10 V${H - B} H${W - 10}`} fill="none" stroke="var(--mark)" />
  <text x={L - 6} y="18" text-anchor="end">{figure(high, yUnit, units)}</text>
  <text x={L - 6} y={H - B} text-anchor="end">{figure(low, yUnit, units)}</text>
  <text x={L} y={H - B + 15}>{figure(rows[0]!.value, xUnit, units)}</text>
  <text x={W - 10} y={H - B + 15} text-anchor="end">{figure(rows.at(-1)!.value, xUnit, units)}</text>
  <text x={(L + W) / 2} y={H - 4} text-anchor="middle" class="title"
    >{xTitle}{xUnit ? `, ${unitHere(xUnit, units)}` : ""}</text
  >
  <path d={line} fill="none" stroke="var(--text)" stroke-width="2" />
  {#if at}
    <path
      d={`M${x(log ? Math.log(at.value) : at.value)} ${H - B} V${y(at.y)} H${L}`}
      fill="none"
      stroke="var(--mark)"
      stroke-dasharray="3 3"
    />
    <circle
      cx={x(log ? Math.log(at.value) : at.value)}
      cy={y(at.y)}
      r="5"
      fill="var(--ground)"
      stroke="var(--text)"
      stroke-width="2"
    />
  {/if}
</svg>

<style>
  text {
    font: 450 11px var(--font-mono);
    fill: var(--muted);
  }
  .title {
    font-family: var(--font-sans);
  }
</style>
