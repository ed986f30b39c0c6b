<!-- The way of a hyperlapse from above, and its numbers: the plan is typed in, the rest follows from it. -->
<script lang="ts">
  import Choice from "../../lib/ui/Choice.svelte";
  import { lasting, metres, type Hyperlapse, type Plan } from "./aim";
  import type { Desk } from "./desk.svelte";

  let { desk, told }: { desk: Desk; told: Hyperlapse } = $props();
  const KINDS = [
    ["line", "a line"],
    ["arc", "an arc"],
  ] as const;
  type Key = Exclude<keyof Plan, "kind" | "steady_on" | "goes_on">;
  const ALONG: readonly [Key, string][] = [
    ["length_m", "Path, m"],
    ["away_m", "Point away, m"],
    ["ahead_m", "Point along it, m"],
  ];
  const RHYTHM: readonly [Key, string][] = [
    ["interval_s", "Interval, s"],
    ["exposure_s", "Exposure, s"],
    ["writing_s", "Writing the file, s"],
    ["step_s", "Stepping and aiming, s"],
  ];
  const MOVES: readonly [Key, string][] = [
    ["clouds_m_s", "Clouds go, m/s"],
    ["clouds_away_m", "and are away, m"],
    ["people_m_s", "People go, m/s"],
    ["people_away_m", "and are away, m"],
  ];
  const FRAME: readonly [Key, string][] = [
    ["mark_x", "Mark from the left, %"],
    ["mark_y", "Mark from the top, %"],
    ["margin_pct", "Wider on each side, %"],
  ];
  const SHARES: readonly Key[] = ["mark_x", "mark_y"];
  const along = $derived(told.plan.kind === "arc" ? ALONG.slice(0, 2) : ALONG);
  const tenths = (px: number) => px.toFixed(px < 10 ? 1 : 0);
  const factor = (key: Key) => (SHARES.includes(key) ? 100 : 1);
  const DIGITS = 5;
  const valueOf = (key: Key) => Number((factor(key) * (told.plan[key] ?? 0)).toPrecision(DIGITS));
  /** What was said no to of a field. */
  const refusedAt = (key: Key) =>
    desk.asking.problems.find((one) => one.field.endsWith(`.${key}`))?.message ?? "";
  function typed(event: Event, key: Key) {
    const field = event.currentTarget as HTMLInputElement;
    const to = Number(field.value.replace(",", "."));
    if (!field.value.trim() || !Number.isFinite(to)) field.value = String(valueOf(key));
    else if (to !== valueOf(key)) void desk.writes.hyperlapse({ [key]: to / factor(key) });
  }

  // --- from above: the first station below left, the point ahead
  const WIDE = 280;
  const HIGH = 150;
  const ROOM = 14;
  const point = $derived(
    told.plan.kind === "arc"
      ? ([0, told.plan.away_m ?? 0] as const)
      : ([told.plan.ahead_m ?? 0, told.plan.away_m ?? 0] as const),
  );
  const bounds = $derived.by(() => {
    const xs = [point[0], ...told.stations.map((one) => one.right_m)];
    const ys = [point[1], ...told.stations.map((one) => one.ahead_m)];
    return { left: Math.min(...xs), right: Math.max(...xs), low: Math.min(...ys), high: Math.max(...ys) };
  });
  const scale = $derived(
    Math.min(
      (WIDE - 2 * ROOM) / Math.max(bounds.right - bounds.left, 1e-6),
      (HIGH - 2 * ROOM) / Math.max(bounds.high - bounds.low, 1e-6),
    ),
  );
  const at = (right: number, ahead: number) =>
    [
      WIDE / 2 + (right - (bounds.left + bounds.right) / 2) * scale,
      HIGH / 2 - (ahead - (bounds.low + bounds.high) / 2) * scale,
    ] as const;
  const TICKS = 25; // so many stations are drawn at most
  const drawn = $derived(
    told.stations.filter((_, i) => i % Math.max(1, Math.ceil(told.stations.length / TICKS)) === 0),
  );
  const line = $derived(told.stations.map((one) => at(one.right_m, one.ahead_m).join(",")).join(" "));
  const here = $derived(told.stations[desk.next]);
</script>

{#snippet fields(rows: readonly [Key, string][])}
  <div class="grid grid-cols-[1fr_5.5rem] items-center gap-y-1">
    {#each rows as [key, name] (key)}
      <label for={`hyper-${key}`} class="text-muted">{name}</label>
      <input
        id={`hyper-${key}`}
        class="field num"
        inputmode="decimal"
        value={valueOf(key)}
        disabled={!desk.takes}
        aria-invalid={!!refusedAt(key)}
        onchange={(event) => typed(event, key)}
      />
      {#if refusedAt(key)}<p class="col-span-2 text-shows" role="alert">{refusedAt(key)}</p>{/if}
    {/each}
  </div>
{/snippet}

<section class="px-3 py-2" aria-label="Way">
  <div class="flex items-center gap-2">
    <h2 class="text-muted">Along</h2>
    <Choice
      label="Along"
      value={told.plan.kind ?? "line"}
      options={KINDS}
      onchange={(to) => void desk.writes.hyperlapse({ kind: to })}
    />
  </div>
  <svg
    viewBox={`0 0 ${WIDE} ${HIGH}`}
    class="mt-1.5 w-full bg-panel"
    role="img"
    aria-label={`From above: ${told.stations.length} photographs along ${metres(told.plan.length_m ?? 0)}`}
  >
    {#each drawn as one, i (i)}
      {@const [x, y] = at(one.right_m, one.ahead_m)}
      {@const [px, py] = at(...point)}
      <line x1={x} y1={y} x2={px} y2={py} stroke="var(--line)" stroke-width="0.6" />
    {/each}
    <polyline points={line} fill="none" stroke="var(--text)" stroke-width="1.6" />
    {#each [point] as one (one)}
      {@const [x, y] = at(...one)}
      <path d={`M${x - 6} ${y} h12 M${x} ${y - 6} v12`} stroke="var(--text)" stroke-width="1.4" />
    {/each}
    {#if here}
      {@const [x, y] = at(here.right_m, here.ahead_m)}
      <circle cx={x} cy={y} r="4" fill="var(--text)" />
    {/if}
  </svg>
  <dl class="mt-1 mb-2 grid grid-cols-[1fr_auto] gap-x-3">
    <dt class="text-muted">{told.stations.length} photographs, a step</dt>
    <dd class="num text-right">{metres(told.step_m)}</dd>
    <dt class="text-muted">Takes in all</dt>
    <dd class="num text-right">{lasting(told.rhythm.takes_s)}</dd>
  </dl>
  {@render fields(along)}
</section>
<section class="border-t border-line px-3 py-2" aria-label="Rhythm">
  <h2 class="text-muted">Rhythm</h2>
  {@render fields(told.plan.goes_on ? RHYTHM.slice(0, 3) : RHYTHM)}
  <label class="mt-1 flex min-h-6 items-center gap-2">
    <input
      type="checkbox"
      checked={told.plan.goes_on}
      disabled={!desk.takes}
      onchange={(event) => void desk.writes.hyperlapse({ goes_on: event.currentTarget.checked })}
    />
    goes on while it exposes
  </label>
  <p class="text-muted">
    Open for <span class="num">{told.open_deg.toFixed(told.open_deg < 10 ? 1 : 0)}°</span> of the interval.
  </p>
  {#if told.sharp_s !== null}
    <p class="mt-1 text-tight">
      {told.name} smears: stop to expose, or expose for
      <span class="num">{told.sharp_s.toPrecision(2)}</span> s at most.
    </p>
  {/if}
  {#if told.rhythm.lacks_s > 0}
    <p class="mt-1 text-tight">
      Too quick by <span class="num">{told.rhythm.lacks_s.toFixed(2)}</span> s: make the interval
      <span class="num">{told.rhythm.least_s.toFixed(2)}</span>.
    </p>
  {/if}
</section>
<section class="border-t border-line px-3 py-2" aria-label="What moves">
  <h2 class="text-muted">What moves meanwhile, a frame</h2>
  <table class="mb-1 w-full">
    <thead class="text-muted">
      <tr>
        <th></th><th class="text-right font-normal">goes, px</th>
        <th class="text-right font-normal">smears, px</th>
      </tr>
    </thead>
    <tbody>
      {#each told.movers as one (one.name)}
        <tr>
          <th class="text-left font-normal">{one.name}</th>
          <td class={["num text-right", one.strobes && "text-tight"]}>{tenths(one.px)}</td>
          <td class="num text-right">{tenths(one.smears_px)}</td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if told.movers.some((one) => one.strobes)}
    <p class="text-muted">
      What jumps is not joined by the eye: a shorter interval or step, a longer exposure through a filter, or
      keep it out of the frame.
    </p>
  {/if}
  {@render fields(MOVES)}
</section>
<section class="border-t border-line px-3 py-2" aria-label="In the photograph">
  <h2 class="text-muted">In the photograph</h2>
  {@render fields(FRAME)}
  <p class="mt-1 text-muted">
    The margin is what the aims may take: <span class="num">{told.spare_px[0]!.toFixed(0)}</span> px at the
    sides, <span class="num">{told.spare_px[1]!.toFixed(0)}</span> at top and bottom.
  </p>
</section>
