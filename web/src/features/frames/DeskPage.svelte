<!--
  The animator's desk: the picture as large as it can be, take and what is to be said beside it, the exposure
  sheet as a strip below.
-->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import { letter, typing, undoes } from "../../lib/ui/keys";
  import { steadyBox } from "./aim";
  import Aims from "./Aims.svelte";
  import { Clips } from "./clips.svelte";
  import { Desk } from "./desk.svelte";
  import HyperOver from "./HyperOver.svelte";
  import HyperSide from "./HyperSide.svelte";
  import Seen from "./Seen.svelte";
  import Side from "./Side.svelte";
  import Strip from "./Strip.svelte";
  import { now } from "../../lib/ui/when";
  import { framesOf, sinceBreak } from "./strip";

  let { params }: { params: { sheet: string } } = $props();
  let desk = $state(new Desk(0));
  const clips = new Clips();
  let box = $state<number[] | null>(null);

  $effect(() => {
    const id = Number(params.sheet);
    untrack(() => {
      if (desk.id === id) return;
      desk.close();
      desk = new Desk(id);
      void desk.read().then(() => {
        if (!desk.sheet) return;
        if (desk.sheet.hyperlapse) desk.look = "live";
        clips.how = desk.sheet.backing ? "keyed" : "mixed";
        place.opened(desk.sheet.production_id);
        place.shot = desk.sheet.shot_id;
      });
    });
  });
  whenOthersWrite(
    () => desk.read(),
    (told) => told.shot === null || !desk.sheet || told.shot === desk.sheet.shot_id,
  );
  onDestroy(() => desk.close());
  $effect(() => {
    const plate = desk.sheet?.clips.find((one) => one.use === "plate") ?? null;
    const others = desk.sheet?.beside ?? [];
    for (const one of others) void clips.seen[one.layer_id];
    untrack(() => clips.lay(plate, others));
  });
  onDestroy(() => clips.close());
  const sheet = $derived(desk.sheet);
  const taken = $derived(desk.poses.filter((one) => desk.inStrip[one.id]).length);
  const length = $derived(framesOf(desk.poses));
  const hours = (value: number) => `${value < 10 ? value.toFixed(1) : Math.round(value)} h`;

  // --- a hyperlapse: shown steady, its reference point marked by hand
  let steady = $state(false);
  let pointing = $state(false);
  const laid = $derived.by(() => {
    const told = sheet?.hyperlapse;
    if (!told?.steadied) return undefined;
    const { kept } = told.steadied;
    const shifts = Object.fromEntries(told.aims.map((one) => [one.place, one.shift ?? [0, 0]]));
    return (place: number) => steadyBox(shifts[place] ?? [0, 0], kept);
  });
  async function marked(x: number, y: number) {
    pointing = false;
    const point = sheet?.points.find((one) => one.id === sheet.hyperlapse?.point_id);
    if (point && desk.exposure) await desk.writes.place(point, desk.exposure, { x, y });
  }

  const LONG_H = 1; // from here on a break is asked for
  const LOOKS_MS = 60_000;
  let time = $state(now());
  const ticks = window.setInterval(() => (time = now()), LOOKS_MS);
  onDestroy(() => window.clearInterval(ticks));
  const worked = $derived(sinceBreak(sheet?.stretch, time));
  const FEW_FRAMES = 300; // from here on it is said how many more the disk takes
  const OWN = "[role=listbox], [aria-haspopup=listbox], [role=dialog], [role=slider], [role=radiogroup]";
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) return void desk.way.undo();
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || typing(event)) return;
    if ((event.target as Element | null)?.closest?.(OWN)) return;
    if (desk.pedal.asks) {
      desk.pedal.heard(event.key === "Escape" ? null : event.code);
      return void event.preventDefault();
    }
    // only steps go on while a key is held
    if (event.repeat && !event.key.startsWith("Arrow")) return;
    const onButton = (event.target as Element | null)?.closest?.("button, a, summary");
    if (event.code === desk.pedal.code) {
      void desk.take();
      return void event.preventDefault();
    }
    const key = letter(event);
    if (event.key === "ArrowLeft") desk.step(-1, event.shiftKey);
    else if (event.key === "ArrowRight") desk.step(1, event.shiftKey);
    else if (event.key === "Escape" && desk.marking) desk.marking = false;
    else if (event.key === "Escape" && desk.points.pointing) desk.points.pointing = null;
    else if (event.key === "Escape" && pointing) pointing = false;
    else if (event.key === "Home") desk.go(0);
    else if (event.key === "End") desk.go(null);
    else if (event.key === " " && !onButton) desk.play();
    else if (event.key === "Enter" && !onButton) void desk.take();
    else if (key === "t") void desk.take();
    else if (key === "a") void desk.again();
    else if (key === "r") void desk.writes.turned();
    else if (key === "v") desk.blinks = true;
    else if (key === "p") desk.points.shown = !desk.points.shown;
    else if (key === "o") desk.look = desk.look === "mix" ? "live" : "mix";
    else return;
    event.preventDefault();
  }
  function released(event: KeyboardEvent) {
    if (event.key === "v") desk.blinks = false;
  }
</script>

<svelte:window onkeydown={pressed} onkeyup={released} />
<svelte:head><title>{sheet ? `Frames ${sheet.code}` : "Frames"} · Jungoptic</title></svelte:head>

{#if desk.missing}
  <CannotShow why={desk.missing} />
{:else if sheet}
  <main class="flex h-full min-h-0 flex-col max-lg:overflow-y-auto">
    <header
      class={[
        "flex min-h-[40px] shrink-0 items-center gap-x-4 gap-y-1 border-b border-line px-3.5",
        "max-lg:flex-wrap",
      ]}
    >
      <a class="link text-muted" href="#/frames">Frames</a>
      <h1 class="flex min-w-0 items-baseline gap-2 text-lg">
        <span class="num font-normal text-muted">{sheet.code}</span><span class="truncate">{sheet.title}</span
        >
        <span class="truncate font-normal text-muted">{sheet.layer}</span>
      </h1>
      {#if desk.way.can}
        <button
          class="btn ml-auto max-w-56 min-w-0 !border-line"
          title={desk.way.label}
          onclick={() => void desk.way.undo()}><span class="truncate">Undo: {desk.way.label}</span></button
        >
      {/if}
      <span class={["num shrink-0", !desk.way.can && "ml-auto"]}
        >{taken}
        <span class="text-muted">of {desk.poses.length} {sheet.hyperlapse ? "photographs" : "poses"}</span
        ></span
      >
      {#if length !== sheet.length_frames}
        <span class="num shrink-0 text-tight" title="The sheet and the shot are not of one length"
          >sheet {length}, shot {sheet.length_frames} frames</span
        >
      {/if}
      {#if sheet.room_frames !== null && sheet.room_frames < FEW_FRAMES}
        <span class="num shrink-0 text-tight" role="status"
          >{sheet.room_frames
            ? `room for ${sheet.room_frames} frames on the server's disk`
            : "the server's disk is full: frames wait on this device"}</span
        >
      {/if}
      {#if worked >= LONG_H}
        <span class="num shrink-0"
          >{worked.toFixed(1)} h without a break: stand up, and lamps off while nobody is here</span
        >
      {/if}
      {#if sheet.pace && !sheet.hyperlapse}
        <span class="num shrink-0 text-muted max-sm:hidden"
          ><span class="text-ink">{sheet.pace.s_per_hour.toFixed(1)}</span> s an hour · {hours(
            sheet.pace.left_h,
          )} left</span
        >
      {/if}
    </header>
    <div class="grid min-h-0 flex-1 max-lg:flex-none lg:grid-cols-[1fr_20rem]">
      {#if sheet.hyperlapse}
        {@const told = sheet.hyperlapse}
        <div class="min-h-0 max-lg:aspect-video">
          <Seen {desk} laid={steady ? laid : undefined}>
            {#snippet over(size)}
              {#if !steady}<HyperOver
                  {desk}
                  {told}
                  {size}
                  {pointing}
                  onpoint={(x, y) => void marked(x, y)}
                />{/if}
            {/snippet}
          </Seen>
        </div>
        <HyperSide {desk} {told} bind:steady bind:pointing />
      {:else}
        <div class="min-h-0 max-lg:aspect-video"><Seen {desk} {box} {clips} /></div>
        <Side {desk} {clips} onpoint={(to) => (box = to)} />
      {/if}
    </div>
    {#if sheet.hyperlapse}<Aims {desk} told={sheet.hyperlapse} />{/if}
    <Strip {desk} />
  </main>
{:else}
  <main class="grid h-full place-content-center text-muted">Reading the exposure sheet…</main>
{/if}
