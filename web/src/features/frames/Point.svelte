<!-- One point of the figure. -->
<script lang="ts">
  import Verdict from "../../lib/ui/Verdict.svelte";
  import type { Desk } from "./desk.svelte";
  import { spansOf, spansText, type FigurePoint, type PointKey } from "./path";

  let { desk, point }: { desk: Desk; point: FigurePoint } = $props();
  const EASES = ["eases_in", "eases_out"] as const;
  const WALK = [
    ["begins", "from frame"],
    ["step_frames", "frames a step"],
    ["steps", "steps"],
    ["right_px", "a step right, px"],
    ["down_px", "a step down, px"],
    ["lift_px", "lifted by, px"],
  ] as const;
  let walk = $state({ begins: 1, step_frames: 12, steps: 4, right_px: 60, down_px: 0, lift_px: 12 });
  let leads = $state(true);
  let reach = $state(4);
  let rests = $state(3);

  const points = $derived(desk.points);
  const gate = $derived(desk.sheet?.gate_px ?? [1, 1]);
  const here = $derived(points.seenIn(point, points.photograph));
  const frame = $derived(points.photograph ? (desk.seen?.place ?? 0) + 1 : 0);
  const asks = (as: "key" | "seen") => points.pointing?.id === point.id && points.pointing.as === as;
  const px = (share: number, side: number) => Number((share * gate[side]!).toFixed(1));
  const mm = (value: number | null) => (value === null ? "" : ` (${value.toFixed(1)} mm)`);

  /** The number in a field; what is none gives back what stood there. */
  function typed(event: Event, stood: number): number {
    const field = event.currentTarget as HTMLInputElement;
    const to = Number(field.value.replace(",", ".").replace("−", "-"));
    if (field.value.trim() && Number.isFinite(to)) return to;
    field.value = String(stood);
    return stood;
  }
  function named(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = field.value.trim();
    if (!to) field.value = point.name;
    else if (to !== point.name) void desk.writes.point(point, { name: to }, `${point.name} renamed`);
  }
  function changed(i: number, fields: Partial<PointKey>) {
    const { frame: of } = point.keys[i]!;
    void points.keys(point, (keys) => keys.map((one) => (one.frame === of ? { ...one, ...fields } : one)));
  }
  function placed(i: number, side: number, event: Event) {
    const key = point.keys[i]!;
    const stood = px(side ? key.y : key.x, side);
    const to = typed(event, stood);
    if (to !== stood) changed(i, { [side ? "y" : "x"]: to / gate[side]! });
  }
  function seen(side: number, event: Event) {
    if (!points.photograph) return;
    const stood = here ? px(side ? here.y : here.x, side) : gate[side]! / 2;
    const to = typed(event, stood) / gate[side]!;
    void desk.writes.place(point, points.photograph, { [side ? "y" : "x"]: to });
  }
  function stands(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const planted = spansOf(field.value);
    if (planted) void desk.writes.point(point, { planted }, `when ${point.name} stands`);
    else field.value = spansText(point.planted);
  }
</script>

<article class="mt-1 border-t border-line pt-1.5 first-of-type:border-t-0" aria-label={point.name}>
  <div class="flex items-center gap-2">
    <input
      class="field min-w-0 flex-1"
      maxlength="60"
      aria-label={`Name of ${point.name}`}
      value={point.name}
      disabled={!desk.takes}
      onchange={named}
    />
    {#if desk.takes}<button
        class="link min-h-6"
        onclick={() => void desk.writes.point(point, { removed: true }, `take ${point.name} away`)}
        >take away</button
      >{/if}
  </div>
  {#if point.strobing.length && point.fastest_px}
    <p class="text-tight">
      {point.strobing.length === 1 ? "A step strobes" : `${point.strobing.length} steps strobe`}: up to
      <span class="num">{point.fastest_px.toFixed(0)}</span> px without blur. Go on ones, or slower.
    </p>
  {/if}
  {#each point.slides as slide (`${slide.first} ${slide.last}`)}
    {#if slide.px !== null && slide.verdict}
      <p class="flex items-center gap-2">
        <Verdict verdict={slide.verdict} />
        <span
          >Stands <span class="num">{slide.first}–{slide.last}</span>: slid
          <span class="num">{slide.px.toFixed(1)} px{mm(slide.mm)}</span></span
        >
      </p>
    {/if}
  {/each}
  {#if desk.takes}
    <div class="mt-1 flex flex-wrap items-center gap-2">
      <button class="btn !border-line" aria-pressed={asks("key")} onclick={() => points.ask(point.id, "key")}
        >Key at frame {points.frame}</button
      >
      <button
        class="btn !border-line"
        aria-pressed={asks("seen")}
        disabled={!points.photograph}
        onclick={() => points.ask(point.id, "seen")}>Mark it{frame ? ` in ${frame}` : ""}</button
      >
    </div>
    {#if points.pointing?.id === point.id}
      <p role="status">
        Click on the picture where {point.name}
        {asks("key") ? `is to be at frame ${points.frame} of the shot.` : "is seen."}
      </p>
    {/if}
    {#if points.photograph}
      <div class="mt-1 flex flex-wrap items-center gap-1 text-muted" role="group" aria-label="Seen at">
        <span>{here ? (here.marked ? "marked at" : "found at") : "not found; it is at"}</span>
        {#each ["right", "down"] as way, side (way)}
          <input
            class="field num w-20"
            aria-label={`${point.name} in frame ${frame}, px ${way}`}
            value={here ? px(side ? here.y : here.x, side) : ""}
            onchange={(event) => seen(side, event)}
          />
        {/each}<span>px</span>
      </div>
    {/if}
  {/if}
  <details class="mt-1">
    <summary class="min-h-6 cursor-pointer text-muted"
      >Path: <span class="num">{point.keys.length}</span> {point.keys.length === 1 ? "key" : "keys"}</summary
    >
    {#if point.keys.length}
      <table class="mt-1 w-full">
        <thead class="text-left text-muted">
          <tr>
            {#each ["frame", "right", "down", "in %", "out %", ""] as head, i (i)}
              <th class="font-normal">{head}</th>
            {/each}
          </tr>
        </thead>
        <tbody>
          {#each point.keys as key, i (key.frame)}
            <tr>
              <td
                ><input
                  class="field num !w-11 !px-1"
                  aria-label={`Key ${i + 1} of ${point.name}, frame`}
                  value={key.frame}
                  disabled={!desk.takes}
                  onchange={(event) => changed(i, { frame: Math.round(typed(event, key.frame)) })}
                /></td
              >
              {#each ["right", "down"] as way, side (way)}
                <td
                  ><input
                    class="field num !w-15 !px-1"
                    aria-label={`Key ${i + 1} of ${point.name}, px ${way}`}
                    value={px(side ? key.y : key.x, side)}
                    disabled={!desk.takes}
                    onchange={(event) => placed(i, side, event)}
                  /></td
                >
              {/each}
              {#each EASES as ease (ease)}
                <td
                  ><input
                    class="field num !w-11 !px-1"
                    aria-label={`Key ${i + 1} of ${point.name}, ${ease.replace("_", " ")}, %`}
                    value={Math.round(100 * (key[ease] ?? 0))}
                    disabled={!desk.takes}
                    onchange={(event) =>
                      changed(i, { [ease]: typed(event, Math.round(100 * (key[ease] ?? 0))) / 100 })}
                  /></td
                >
              {/each}
              <td
                >{#if desk.takes}<button
                    class="link min-h-6 min-w-6"
                    aria-label={`Leave key ${i + 1} of ${point.name} out`}
                    onclick={() =>
                      void points.keys(point, (keys) => keys.filter((one) => one.frame !== key.frame))}
                    >×</button
                  >{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {/if}
    <label class="flex min-h-6 items-center gap-1.5"
      ><input
        type="checkbox"
        class="size-4 accent-ink"
        checked={point.arcs}
        disabled={!desk.takes}
        onchange={(event) =>
          void desk.writes.point(point, { arcs: event.currentTarget.checked }, `arcs of ${point.name}`)}
      />in arcs through the keys, else straight</label
    >
    <label class="mt-1 flex items-center gap-2"
      ><span class="text-muted">Stands, frames</span>
      <input
        class="field num min-w-0 flex-1"
        placeholder="1–9, 25–33"
        aria-label={`${point.name} stands from frame to frame`}
        value={spansText(point.planted)}
        disabled={!desk.takes}
        onchange={stands}
      /></label
    >
    {#if desk.takes}
      <div class="mt-1.5 flex flex-wrap items-center gap-1.5">
        <span class="grow text-muted">After the last key</span>
        <button
          class="btn !border-line"
          disabled={point.keys.length < 2}
          onclick={() =>
            void desk.writes.point(
              point,
              { settle: { reach_px: reach, poses: rests, on: desk.poses[desk.at]?.hold ?? 2 } },
              `${point.name} settles`,
            )}>Settle</button
        >
        <span class="basis-full"></span>
        <input type="number" class="field num w-14" aria-label="Goes beyond by, px" bind:value={reach} />
        <span class="text-muted">px beyond,</span>
        <input type="number" class="field num w-12" aria-label="Rests after, poses" bind:value={rests} />
        <span class="text-muted">poses to rest</span>
      </div>
      <details class="mt-1">
        <summary class="min-h-6 cursor-pointer text-muted">A walk of this foot</summary>
        <div class="mt-1 grid grid-cols-[1fr_5rem] items-center gap-y-1">
          {#each WALK as [key, name] (key)}
            <label for={`${key}-${point.id}`} class="text-muted">{name}</label>
            <input id={`${key}-${point.id}`} type="number" class="field num" bind:value={walk[key]} />
          {/each}
        </div>
        <label class="flex min-h-6 items-center gap-1.5"
          ><input type="checkbox" class="size-4 accent-ink" bind:checked={leads} />makes the first step</label
        >
        <button
          class="btn !border-line"
          disabled={!point.keys.length}
          onclick={() =>
            void desk.writes.point(point, { walk: { ...walk, leads } }, `a walk of ${point.name}`)}
          >Write the walk</button
        >
        <p class="text-muted">From where its first key stands; its other keys are written anew.</p>
      </details>
    {/if}
  </details>
</article>
