<!--
  The sun of an outdoor job: its way over the sky on the day and in the weeks around, the hero's key with its
  tolerance, the horizon that hides it, and what turning the model would do.
-->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { place } from "../../lib/place.svelte";
  import { clockOf, lasting, type DaysBoard, type Job } from "./days.svelte";
  import { horizonOf, horizonText } from "./horizon";

  let {
    board,
    job,
    date,
    now,
    at,
  }: { board: DaysBoard; job: Job; date: string; now: number | null; at: number } = $props();
  type Chart = Schemas["SunChartOut"];
  type Day = Schemas["SunDayOut"];

  const asking = new Asking();
  let chart = $state.raw<Chart | null>(null);
  // svelte-ignore state_referenced_locally
  let minute = $state(now ?? at);
  let tracing = $state(false);
  let typed = $state("");

  async function read() {
    await asking.read(async () => {
      const path = { production_id: place.production!, set_up_id: job.set_up_id };
      const query = { day: date, block: job.block };
      chart = await answered(
        client.GET("/api/productions/{production_id}/sun-charts/{set_up_id}", { params: { path, query } }),
      );
    });
  }
  void read();

  const W = 390;
  const H = 210;
  const LEFT = 26;
  const BOTTOM = 20;
  const LOW = -6;
  const today = $derived(chart?.days.find((one) => one.date === chart?.day));
  const every = $derived(chart?.days.flatMap((one) => one.course) ?? []);
  const west = $derived(Math.max(300, ...every.map((one) => one.azimuth_deg)));
  const east = $derived(Math.min(60, ...every.map((one) => one.azimuth_deg)));
  const top = $derived(Math.max(30, ...every.map((one) => one.height_deg)) + 4);
  const x = (azimuth: number) => LEFT + ((azimuth - east) / (west - east)) * (W - LEFT);
  const y = (height: number) => H - BOTTOM - ((height - LOW) / (top - LOW)) * (H - BOTTOM - 4);
  const line = (day: Day) =>
    day.course
      .map(
        (one, step) => `${step ? "L" : "M"}${x(one.azimuth_deg).toFixed(1)},${y(one.height_deg).toFixed(1)}`,
      )
      .join(" ");
  /** What lies within so many degrees of the key: a circle on the sky, wider here the higher it stands. */
  function around(key: Schemas["SunKeyOut"], degrees: number) {
    if (key.turns) {
      const [high, low] = [y(key.height_deg + degrees), y(Math.max(LOW, key.height_deg - degrees))];
      return `M${LEFT},${high} H${W} V${low} H${LEFT} Z`;
    }
    const points = Array.from({ length: 49 }, (_, step) => {
      const turn = (step / 48) * 2 * Math.PI;
      const height = key.height_deg + degrees * Math.sin(turn);
      const wide = degrees / Math.max(0.2, Math.cos((height * Math.PI) / 180));
      return `${x(key.azimuth_deg + wide * Math.cos(turn)).toFixed(1)},${y(height).toFixed(1)}`;
    });
    return `M${points.join(" L")} Z`;
  }
  const horizon = $derived(tracing ? (horizonOf(typed) ?? chart?.horizon ?? []) : (chart?.horizon ?? []));
  const hill = $derived.by(() => {
    if (!horizon.length) return `M${LEFT},${y(0)} H${W} V${y(LOW)} H${LEFT} Z`;
    const sorted = [...horizon].sort((a, b) => a.azimuth_deg - b.azimuth_deg);
    const [first, last] = [sorted[0]!, sorted.at(-1)!];
    const points = [
      { azimuth_deg: last.azimuth_deg - 360, height_deg: last.height_deg },
      ...sorted,
      { azimuth_deg: first.azimuth_deg + 360, height_deg: first.height_deg },
    ];
    const crest = points.map((one) => `${x(one.azimuth_deg)},${y(one.height_deg)}`).join(" L");
    return `M${crest} V${y(LOW)} H${x(points[0]!.azimuth_deg)} Z`;
  });
  const arcs = $derived(
    (today?.windows ?? []).map((window) => ({
      ...window,
      path: line({
        ...today!,
        course: today!.course.filter((one) => one.minute >= window.start_min && one.minute <= window.end_min),
      }),
    })),
  );
  const point = $derived(
    today?.course.reduce((best, one) =>
      Math.abs(one.minute - minute) < Math.abs(best.minute - minute) ? one : best,
    ),
  );
  const key = $derived(chart?.key ?? null);
  const whole = (degrees: number) => `${Math.round(degrees)}°`;
  const names = [
    [90, "E"],
    [135, "SE"],
    [180, "S"],
    [225, "SW"],
    [270, "W"],
  ] as const;
  /** What holds lies within what is tight. */
  const open = $derived.by(() => {
    const here = today?.windows.filter((one) => one.start_min <= minute && one.end_min >= minute) ?? [];
    return here.find((one) => one.holds) ?? here[0];
  });
  const verdict = $derived(open ? (open.holds ? "Holds" : "Tight") : key ? "Shows" : "too high or too low");
  const stands = $derived(
    point
      ? `The sun at ${whole(point.azimuth_deg)}, ${whole(point.height_deg)} up` +
          (point.hidden ? ", hidden" : "") +
          (key ? `; ${Math.round(point.off_deg)}° off the key: ` : ": ")
      : "",
  );
  const turned = $derived(
    point && key
      ? point.turning_helps
        ? `Camera turned to look ${whole(point.heading_deg)} (now ${whole(key.heading_deg)})` +
          (job.model ? ", the model with it: " : ": ") +
          `${Math.round(point.off_turned_deg)}° off.`
        : `Turning does not help now: the height alone is ${Math.round(point.off_turned_deg)}° off.`
      : "",
  );
  const weeks = $derived(
    (chart?.days ?? []).map((day) => ({
      ...day,
      said: day.windows
        .filter((one) => one.holds || !day.windows.some((other) => other.holds))
        .map((one) => `${clockOf(one.start_min)} to ${clockOf(one.end_min)}${one.holds ? "" : " (tight)"}`)
        .join(", "),
    })),
  );
  const saidToday = $derived(weeks.find((one) => one.date === chart?.day)?.said || "no window");
  const own = $derived(board.data?.places.find((one) => one.name === chart?.place));

  function trace(event: PointerEvent) {
    if (!tracing) return;
    const box = (event.currentTarget as SVGElement).getBoundingClientRect();
    const azimuth =
      east + (((event.clientX - box.left) / box.width) * W - LEFT) * ((west - east) / (W - LEFT));
    const height =
      LOW + ((H - BOTTOM - ((event.clientY - box.top) / box.height) * H) / (H - BOTTOM - 4)) * (top - LOW);
    if (azimuth < 0 || azimuth > 360 || height < 0) return;
    const others = (horizonOf(typed) ?? []).filter((one) => Math.abs(one.azimuth_deg - azimuth) > 3);
    typed = horizonText([...others, { azimuth_deg: Math.round(azimuth), height_deg: Math.round(height) }]);
  }
  async function keep() {
    const points = horizonOf(typed);
    if (!points || !own) return;
    const fields = own.site ? { horizon: points } : { place_id: own.id, horizon: points };
    if (await board.say(`Horizon of ${own.name}`, "site", own.site, fields)) {
      tracing = false;
      await read();
    }
  }
</script>

<section class="px-3.5 py-2.5" aria-label={`The sun for ${job.name}`}>
  <h2>The sun for <span class="num font-normal">{job.shots[0]}</span> {job.name}</h2>
  {#if asking.said}
    <p class="mt-1 text-muted">{asking.said}</p>
  {:else if chart && today}
    <svg
      viewBox="0 0 {W} {H}"
      class={["mt-1 block w-full", tracing && "cursor-crosshair touch-none"]}
      role="img"
      aria-label={`Azimuth against height; ${today.name}: ${saidToday}`}
      onpointerdown={trace}
    >
      <clipPath id="sky"><rect x={LEFT} y="0" width={W - LEFT} height={H - BOTTOM} /></clipPath>
      {#each [0, 15, 30, 45, 60] as height (height)}
        {#if height < top}
          <line x1={LEFT} x2={W} y1={y(height)} y2={y(height)} stroke="var(--line)" stroke-width="0.5" />
          <text x={LEFT - 4} y={y(height) + 3} text-anchor="end" class="num fill-muted text-[10px]"
            >{height}°</text
          >
        {/if}
      {/each}
      {#each names as [azimuth, name] (name)}
        <text x={x(azimuth)} y={H - 5} text-anchor="middle" class="fill-muted text-[10px]">{name}</text>
      {/each}
      <g clip-path="url(#sky)">
        {#if key}
          <path d={around(key, key.tight_deg)} fill="none" stroke="var(--tight)" stroke-dasharray="3 3" />
          <path d={around(key, key.holds_deg)} fill="none" stroke="var(--holds)" />
        {/if}
        {#each chart.days as day (day.date)}
          {#if day !== today}<path d={line(day)} fill="none" stroke="var(--line)" />{/if}
        {/each}
        <path d={line(today)} fill="none" stroke="var(--mark)" stroke-width="1.5" />
        {#each arcs as arc (`${arc.start_min} ${arc.holds}`)}
          <path
            d={arc.path}
            fill="none"
            stroke={arc.holds ? "var(--holds)" : "var(--tight)"}
            stroke-width={arc.holds ? 5 : 3}
          />
        {/each}
        <path d={hill} fill="var(--raised)" stroke="var(--mark)" />
        {#if point}
          <circle cx={x(point.azimuth_deg)} cy={y(point.height_deg)} r="5" fill="currentColor" />
        {/if}
      </g>
    </svg>
    <label class="mt-1 flex items-center gap-2">
      <span class="num w-12">{clockOf(minute)}</span>
      <input
        type="range"
        class="min-w-0 flex-1 accent-ink"
        aria-label="Time of day"
        aria-valuetext={`${clockOf(minute)}: ${stands}${verdict}`}
        min={today.course[0]?.minute ?? 0}
        max={today.course.at(-1)?.minute ?? 1430}
        step="10"
        bind:value={minute}
      />
    </label>
    <p aria-live="polite">
      <span class="text-muted">{stands}</span><b
        class={verdict === "Holds" ? "text-holds" : verdict === "Tight" ? "text-tight" : ""}>{verdict}</b
      >{#if open}<span class="text-muted">, {lasting(Math.max(0, open.end_min - minute))} more</span>{/if}
    </p>
    {#if turned}<p class="text-muted">{turned}</p>{/if}
    <table class="mt-2 w-full">
      <caption class="sr-only">Windows in the weeks around</caption>
      <tbody>
        {#each weeks as week (week.date)}
          <tr class="border-t border-line">
            <th class={["py-0.5 text-left font-normal", week.date === chart.day && "!font-strong"]}
              >{week.name}</th
            >
            <td class="num py-0.5 text-right">{week.said || "no window"}</td>
          </tr>
        {/each}
      </tbody>
    </table>
    {#if board.writes && own}
      {#if tracing}
        <label class="mt-2 block"
          ><span class="text-muted"
            >Horizon at {chart.place}: direction and height in degrees, or click it on the chart</span
          >
          <input class="field num" placeholder="90 4, 140 12, 200 3" bind:value={typed} /></label
        >
        {#if horizonOf(typed) === null}<p role="alert">
            Pairs of direction (0 to 360) and height (0 to 90), with commas between: 90 4, 140 12.
          </p>{/if}
        {#if board.asking.said}<p role="alert">{board.asking.said}</p>{/if}
        <div class="mt-1.5 flex gap-2">
          <button class="btn !border-line" disabled={horizonOf(typed) === null} onclick={keep}
            >Save the horizon</button
          >
          <button class="link" onclick={() => (tracing = false)}>Leave it</button>
        </div>
      {:else}
        <button
          class="link mt-2"
          onclick={() => {
            typed = horizonText(chart!.horizon);
            tracing = true;
          }}>{chart.horizon.length ? "Change the horizon" : "Say what hides the sun here"}</button
        >
      {/if}
    {/if}
  {:else}
    <p class="mt-1 text-muted">Reading the sun…</p>
  {/if}
</section>
