<!-- One thing that was moved: from which frame of the shot to which, how far, what it comes to. -->
<script lang="ts">
  import { untrack } from "svelte";
  import Select from "../../lib/ui/Select.svelte";
  import type { Desk } from "./desk.svelte";
  import type { SheetCheat } from "./writes";

  let {
    desk,
    cheat,
    frame,
    lamps,
  }: {
    desk: Desk;
    cheat: SheetCheat;
    /** The frame of the shot that is looked at. */
    frame: number;
    lamps: readonly string[];
  } = $props();
  /** Nothing is said of it yet: it stays open while that is typed. */
  const fresh = untrack(() => !cheat.right_mm && !cheat.up_mm && !cheat.back_mm && !cheat.away);
  const SAME = 0.005; // a half percent of a lamp's light
  const WAYS = [
    ["right_mm", "right"],
    ["up_mm", "up"],
    ["back_mm", "back"],
  ] as const;
  const span = $derived(
    cheat.last_frame === cheat.first_frame
      ? `frame ${cheat.first_frame}`
      : `frames ${cheat.first_frame}–${cheat.last_frame ?? "end"}`,
  );
  const options = $derived(
    (lamps.includes(cheat.name) ? lamps : [cheat.name, ...lamps]).map((name) => [name, name] as const),
  );
  const stops = (value: number) => `${value < 0 ? "−" : "+"}${Math.abs(value).toFixed(3)}`;
  const shown = (value: number) => String(Number(value.toFixed(2))).replace("-", "−");
  const put = (fields: Parameters<typeof desk.writes.cheat>[1]) => void desk.writes.cheat(cheat, fields);
  /** The number that was typed; null where it is none, and the field shows what stands. */
  function typed(event: Event, stands: string): number | null {
    const field = event.currentTarget as HTMLInputElement;
    const to = Number(field.value.replace("−", "-").replace(",", "."));
    if (field.value.trim() && Number.isFinite(to)) return to;
    field.value = stands;
    return null;
  }
  function named(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = field.value.trim();
    if (!to) field.value = cheat.name;
    else if (to !== cheat.name) put({ name: to });
  }
  function way(name: (typeof WAYS)[number][0], event: Event) {
    const to = typed(event, shown(cheat[name]));
    if (to !== null && to !== cheat[name]) put({ [name]: to });
  }
  function begins(event: Event) {
    const to = typed(event, String(cheat.first_frame));
    if (to !== null && Math.round(to) !== cheat.first_frame) put({ first_frame: Math.round(to) });
  }
  function ends(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    if (!field.value.trim()) return cheat.last_frame !== null && put({ to_end: true });
    const to = typed(event, String(cheat.last_frame ?? ""));
    if (to !== null && Math.round(to) !== cheat.last_frame) put({ last_frame: Math.round(to) });
  }
  function dimmed(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    if (!field.value.trim()) return cheat.level !== null && put({ as_planned: true });
    const to = typed(event, level);
    if (to !== null) put({ level: to / 100 });
  }
  const level = $derived(cheat.level === null ? "" : shown(100 * cheat.level));
</script>

<details class="border-t border-line py-1.5" open={fresh}>
  <summary class="flex min-h-6 cursor-pointer items-baseline gap-2">
    <span class="truncate">{cheat.name}</span>
    <span class="num ml-auto shrink-0 text-muted">{span}</span>
  </summary>
  <div class="mt-1 flex items-center gap-2">
    <div class="min-w-0 flex-1">
      {#if cheat.kind === "lamp" && lamps.length && desk.takes}
        <Select label="Which lamp" value={cheat.name} {options} onchange={(name) => put({ name })} />
      {:else}
        <input
          class="field w-full"
          maxlength="60"
          aria-label={`Name of ${cheat.name}`}
          value={cheat.name}
          disabled={!desk.takes}
          onchange={named}
        />
      {/if}
    </div>
    {#if desk.takes}<button class="link min-h-6" onclick={() => put({ removed: true })}>take away</button
      >{/if}
  </div>
  <div class="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label={`Frames of ${cheat.name}`}>
    <span class="text-muted">from frame</span>
    <input
      class="field num w-14"
      aria-label={`${cheat.name}, from frame`}
      value={cheat.first_frame}
      disabled={!desk.takes}
      onchange={begins}
    />
    <span class="text-muted">to</span>
    <input
      class="field num w-14"
      placeholder="end"
      aria-label={`${cheat.name}, to frame`}
      value={cheat.last_frame ?? ""}
      disabled={!desk.takes}
      onchange={ends}
    />
    {#if desk.takes && frame > cheat.first_frame && cheat.last_frame === null}
      <button class="link min-h-6" onclick={() => put({ last_frame: frame - 1 })}>back before {frame}</button>
    {/if}
  </div>
  {#if !cheat.away}
    <div class="mt-1 flex flex-wrap items-center gap-1" role="group" aria-label={`Way of ${cheat.name}`}>
      {#each WAYS as [name, word] (name)}
        <label class="flex items-center gap-1"
          ><span class="text-muted">{word}</span><input
            class="field num w-14"
            aria-label={`${cheat.name}, ${word}, mm`}
            value={shown(cheat[name])}
            disabled={!desk.takes}
            onchange={(event) => way(name, event)}
          /></label
        >
      {/each}<span class="text-muted">mm</span>
    </div>
  {/if}
  <div class="mt-1 flex flex-wrap items-center gap-x-3 gap-y-1">
    {#if cheat.kind === "lamp" && !cheat.away}
      <label class="flex items-center gap-1"
        ><span class="text-muted">dimmed to</span><input
          class="field num w-14"
          placeholder="plan"
          aria-label={`${cheat.name}, dimmed to, %`}
          value={level}
          disabled={!desk.takes}
          onchange={dimmed}
        /><span class="text-muted">%</span></label
      >
    {/if}
    <label class="flex min-h-6 items-center gap-1.5"
      ><input
        type="checkbox"
        class="size-4 accent-ink"
        checked={cheat.away}
        disabled={!desk.takes}
        onchange={(event) => put({ away: event.currentTarget.checked })}
      />{cheat.kind === "lamp" ? "off, or out of the set" : "out of the set"}</label
    >
  </div>
  <input
    class="field mt-1 w-full"
    maxlength="80"
    placeholder="why, where it is put back to"
    aria-label={`Note on ${cheat.name}`}
    value={cheat.note}
    disabled={!desk.takes}
    onchange={(event) => put({ note: event.currentTarget.value.trim() })}
  />
  {#if cheat.text}<p class="mt-1">{cheat.text}</p>{/if}
  {#if cheat.held && desk.takes && (cheat.right_mm || cheat.up_mm || cheat.back_mm)}
    {@const { level: holds, right_mm, up_mm, back_mm } = cheat.held}
    <div class="mt-1 flex flex-wrap gap-2">
      {#if holds <= 1 && Math.abs(holds - (cheat.level ?? 0)) > SAME}
        <button class="btn !border-line" onclick={() => put({ level: Number(holds.toFixed(4)) })}
          >Set it to {Math.round(100 * holds)} %</button
        >
      {/if}
      <button
        class="btn !border-line"
        title="As far from the figure, and from where its light came"
        onclick={() =>
          put({
            right_mm: Number(right_mm.toFixed(1)),
            up_mm: Number(up_mm.toFixed(1)),
            back_mm: Number(back_mm.toFixed(1)),
          })}>Put it on its own ray</button
      >
    </div>
  {/if}
  {#if cheat.seen}
    <p class="mt-1 flex flex-wrap items-baseline gap-x-2">
      <span class="text-muted">photographed</span>
      <span class="num">{stops(cheat.seen.stops)} stop</span>
      {#if cheat.seen.side}<span class="num text-muted">{cheat.seen.side} {stops(cheat.seen.side_stops)}</span
        >{/if}
      <button class="link min-h-6" onclick={() => desk.go(cheat.seen!.place)}
        >look at frame {cheat.seen.place + 1}</button
      >
    </p>
  {/if}
</details>
