<!--
  An engraved barrel: ticks crowd towards the edges of the ring, a fixed index above, the hero's mark and the
  bracket that holds below.
-->
<script lang="ts">
  import type { Dial } from "../../lib/api/client";
  import { handle } from "../../lib/draw/handle";
  import { kept, shown, unitOf, type Units } from "../../lib/units";

  let {
    dial,
    held: under,
    units,
    problem = "",
    disabled = false,
    locked = false,
    lockable = false,
    onstart,
    onturn,
    onset,
    oncancel,
    onlock,
  }: {
    dial: Dial;
    /** Where it stands under the hand; as the server answered where nothing is said. */
    held?: number;
    units: Units;
    problem?: string;
    disabled?: boolean;
    locked?: boolean;
    lockable?: boolean;
    onstart: () => void;
    onturn: (value: number) => void;
    onset: () => void;
    oncancel: () => void;
    onlock: () => void;
  } = $props();

  const value = $derived(under ?? dial.value);
  let ring = $state(236);
  const HEIGHT = 47;
  const RADIUS = $derived(ring / 2);
  const id = $props.id();

  // Where a value stands on the ring, in turns of the finger: logarithmic for stops and distances, even for
  // angles.
  const marks = $derived(dial.marks);
  const spacing = $derived.by(() => {
    const majors = marks.filter((mark) => mark.major);
    const spots = (majors.length > 3 ? majors : marks).map((mark) => position(mark.value));
    const gaps = spots
      .slice(1)
      .map((spot, i) => spot - spots[i]!)
      .sort((a, b) => a - b);
    return gaps[Math.floor(gaps.length / 2)] || 1;
  });
  const scale = $derived((0.46 / spacing) * Math.min(1, 236 / ring));
  const least = $derived(dial.ring === "log" ? Math.max(dial.low, 1e-4) / 4 : 0);
  function position(value: number): number {
    return dial.ring === "log" ? Math.log2(Math.max(value, least || 1e-5)) : value;
  }
  function valueAt(spot: number): number {
    return dial.ring === "log" ? 2 ** spot : spot;
  }
  const here = $derived(position(value));
  const angle = (value: number) => (position(value) - here) * scale;
  const x = (value: number) => RADIUS + RADIUS * Math.sin(Math.max(-1.57, Math.min(1.57, angle(value))));
  const seen = (value: number) => Math.abs(angle(value)) < 1.35;

  const isHere = (mark: number) => Math.abs(mark - value) < 2e-3 * (Math.abs(value) || 1);
  const bare = $derived(
    marks.some((mark) => isHere(mark.value) && mark.label) ? "" : shown(value, dial.quantity, units),
  );
  // Names stand only where they do not run into one another: the middle first, then outward.
  const labelled = $derived.by(() => {
    // A free ring's own value stands in the middle when no engraving does.
    const placed: { left: number; right: number; value: number }[] = bare
      ? [{ left: RADIUS - bare.length * 4.3 - 3, right: RADIUS + bare.length * 4.3 + 3, value: NaN }]
      : [];
    const spots = marks
      .map((mark) => ({ mark, angle: Math.abs(angle(mark.value)) }))
      .filter(({ mark, angle: off }) => off < 1.2 && (mark.major || isHere(mark.value)))
      .sort((a, b) => a.angle - b.angle);
    for (const { mark, angle: off } of spots) {
      const half = (mark.label.length * (isHere(mark.value) ? 8.6 : 3.4 + 3.4 * Math.cos(off))) / 2 + 3;
      const at = x(mark.value);
      if (placed.every((one) => at + half < one.left || at - half > one.right))
        placed.push({ left: at - half, right: at + half, value: mark.value });
    }
    return new Set(placed.map((one) => one.value));
  });

  const clampFree = (value: number) =>
    Math.min(
      Math.max(value, dial.ring === "log" ? dial.low / 4 : dial.low),
      dial.high * (dial.ring === "log" ? 4 : 1),
    );
  const able = $derived(marks.filter((mark) => mark.can));
  function nearest(value: number): number {
    const spot = position(value);
    return able.reduce(
      (best, mark) =>
        Math.abs(position(mark.value) - spot) < Math.abs(position(best) - spot) ? mark.value : best,
      able[0]?.value ?? value,
    );
  }
  function rounded(value: number): number {
    if (dial.quantity === "light") return Number(value.toPrecision(3));
    return dial.ring === "log" && Math.abs(value) < 0.2
      ? Number(value.toPrecision(3))
      : Number(value.toFixed(3));
  }

  function stepped(by: number, big: boolean): number {
    if (dial.steps) {
      const sorted = able.map((mark) => mark.value).sort((a, b) => a - b);
      const from = sorted.findIndex((mark) => mark >= value * (1 - 1e-3));
      const at = from < 0 ? sorted.length - 1 : from;
      const between = sorted[at] !== undefined && Math.abs(sorted[at]! / value - 1) > 1e-3;
      const whole = marks.some((mark) => !mark.major) ? 3 : 2;
      const to = at + by * (big ? whole : 1) + (between && by > 0 ? -1 : 0);
      return sorted[Math.min(Math.max(to, 0), sorted.length - 1)] ?? value;
    }
    const step = big ? dial.big_step : dial.step;
    return rounded(
      clampFree(dial.ring === "log" ? Math.max(value, dial.low / 4) * step ** by : value + by * step),
    );
  }
  let grip = 0; // where the ring was taken
  const held = handle({
    able: () => !disabled,
    take: () => {
      grip = here;
      onstart();
    },
    move: (way) => {
      const spot = grip - way.x / RADIUS / scale;
      const to = dial.steps ? nearest(valueAt(spot)) : rounded(clampFree(valueAt(spot)));
      if (to !== value) onturn(to);
    },
    drop: () => onset(),
    step: (way, big) => onturn(stepped(way.x || way.y, big)),
    end: (last) => {
      const ends = dial.steps ? able.map((mark) => mark.value) : [dial.low, dial.high];
      onturn(last ? Math.max(...ends) : Math.min(...ends));
    },
    settle: () => onset(),
    cancel: () => oncancel(),
  });
  function digit(event: KeyboardEvent) {
    if (disabled || !/^[\d.]$/.test(event.key)) return;
    field?.focus();
    field?.select();
  }

  // The number can also be typed; engraved names stand for their exact values.
  let typed = $state<string | null>(null);
  let typedProblem = $state("");
  let field = $state<HTMLInputElement>();
  const text = $derived.by(() => {
    const mark = dial.steps ? marks.find((one) => Math.abs(one.value / value - 1) < 2e-3) : undefined;
    return mark?.label ?? shown(value, dial.quantity, units);
  });
  function enter() {
    if (typed === null) return;
    const plain = typed.trim().replace(/^f\//i, "");
    const named = marks.find((mark) => dial.steps && mark.label === plain);
    const entered = named?.value ?? kept(typed, dial.quantity, units);
    if (!Number.isFinite(entered)) {
      typedProblem = `${dial.label} must be a number; “${typed}” was typed.`;
      return;
    }
    typed = null;
    typedProblem = "";
    if (Math.abs(entered - value) <= 1e-9) return;
    onstart();
    onturn(entered);
    onset();
  }
  const unit = $derived(unitOf(dial.quantity, units, dial.unit));
  const wrong = $derived(typedProblem || problem);
</script>

<div class="min-w-0" bind:clientWidth={ring}>
  <div class="flex h-6 items-baseline gap-1.5 overflow-hidden">
    <label for={`${id}-field`} class="shrink-0 text-sm">{dial.label}</label>
    {#if dial.wants_text && !locked}<span class="truncate text-sm font-strong text-shows"
        >wants {dial.wants_text}</span
      >{/if}
    {#if lockable}
      <button
        class={[
          "h-6 min-w-7 shrink-0 cursor-pointer px-1 text-xs leading-6",
          locked ? "bg-ink text-ground" : "text-muted underline-offset-2 hover:underline",
        ]}
        aria-pressed={locked}
        aria-label={`Lock ${dial.label.toLowerCase()} when solving`}
        onclick={onlock}>{locked ? "locked" : "lock"}</button
      >
    {/if}
    <span class="ml-auto flex min-w-0 shrink-0 items-baseline">
      {#if dial.field === "f_number"}<span class="num text-[14px] font-strong">f/</span>{/if}
      <input
        id={`${id}-field`}
        bind:this={field}
        class={[
          "num w-14 bg-transparent text-right text-[14px] font-strong outline-offset-0",
          wrong && "text-shows",
        ]}
        style:width={`${Math.max(text.length, typed?.length ?? 0, 1) + 0.1}ch`}
        inputmode="decimal"
        autocomplete="off"
        {disabled}
        value={typed ?? text}
        aria-invalid={!!wrong}
        aria-describedby={wrong ? `${id}-problem` : undefined}
        oninput={(event) => (typed = event.currentTarget.value)}
        onblur={enter}
        onkeydown={(event) => {
          if (event.key === "Enter") enter();
          if (event.key === "Escape") {
            typed = null;
            typedProblem = "";
            oncancel();
          }
        }}
      /><span class="num ml-0.5 text-sm text-muted">{unit}</span>
    </span>
  </div>
  <svg
    viewBox={`0 0 ${ring} ${HEIGHT}`}
    preserveAspectRatio="none"
    class={["block h-[47px] w-full touch-none select-none", disabled ? "cursor-default" : "cursor-ew-resize"]}
    role="slider"
    tabindex={disabled ? -1 : 0}
    aria-label={dial.label}
    aria-valuenow={value}
    aria-valuemin={dial.low}
    aria-valuemax={dial.high}
    aria-valuetext={`${dial.text}${dial.wants_text ? `, wants ${dial.wants_text}` : ""}`}
    aria-disabled={disabled}
    data-dial={dial.field}
    onkeydown={digit}
    {@attach held}
  >
    <defs>
      <linearGradient id={`${id}-ring`}>
        <stop offset="0" stop-color="var(--ring-edge)" /><stop
          offset="0.5"
          stop-color="var(--ring-middle)"
        /><stop offset="1" stop-color="var(--ring-edge)" />
      </linearGradient>
    </defs>
    <rect width={ring} height={HEIGHT} fill={`url(#${id}-ring)`} />
    {#each marks as mark, i (i)}
      {#if seen(mark.value)}
        {@const at = x(mark.value)}
        {@const shrink = Math.cos(angle(mark.value))}
        {@const current = isHere(mark.value)}
        <path
          d={`M${at} 0 V${mark.major ? 11 : 7}`}
          stroke="var(--text)"
          stroke-opacity={0.35 + 0.65 * shrink}
        />
        {#if labelled.has(mark.value)}
          <text
            x={at}
            y="30"
            text-anchor="middle"
            font-size={current ? 14 : 8 + 4 * shrink}
            font-weight={current ? 650 : 450}
            fill={current ? "var(--text)" : mark.can ? "var(--muted)" : "var(--mark)"}
            text-decoration={mark.can ? undefined : "line-through"}
            class="num">{mark.label}</text
          >
        {/if}
      {/if}
    {/each}
    {#if bare}<text
        x={RADIUS}
        y="30"
        text-anchor="middle"
        font-size="14"
        font-weight="650"
        fill="var(--text)"
        class="num">{bare}</text
      >{/if}
    {#if dial.holds_low !== null && seen(dial.holds_low)}
      {@const left = x(dial.holds_low)}
      {@const right = dial.holds_high === null ? ring : Math.max(x(dial.holds_high), left + 2)}
      <path
        d={`M${left} 37 V42 H${right}${dial.holds_high === null ? "" : " V37"}`}
        fill="none"
        stroke="var(--text)"
        stroke-width="1.4"
      />
    {/if}
    {#if dial.hero !== null && seen(dial.hero)}
      <path d={`M${x(dial.hero) - 4} 47 h8 l-4 -7 z`} fill="var(--text)"
        ><title>the hero stands here</title></path
      >
    {/if}
    {#if dial.wants !== null && seen(dial.wants)}
      <path d={`M${x(dial.wants) - 4} 0 h8 l-4 6 z`} fill="var(--shows)"
        ><title>wants {dial.wants_text}</title></path
      >
    {/if}
    <path d={`M${RADIUS - 5} 0 h10 l-5 8 z`} fill="var(--text)" />
  </svg>
  {#if wrong}<p
      id={`${id}-problem`}
      class="mt-1 text-shows"
      role="alert"
      {@attach (line) => line.scrollIntoView({ block: "nearest" })}
    >
      {wrong}
    </p>{/if}
</div>
