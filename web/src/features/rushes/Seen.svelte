<!--
  The picture as large as it can be, with what was measured drawn over it; marks are made on it by mouse,
  finger and keys.
-->
<script lang="ts">
  import { untrack } from "svelte";
  import type { Beside } from "./beside.svelte";
  import Over from "./Over.svelte";
  import Overlays from "../../lib/ui/Overlays.svelte";
  import { MARK_NAMES, SHAPES } from "./rows";
  import type { Rushing } from "./rushing.svelte";

  let { rushing, beside }: { rushing: Rushing; beside: Beside } = $props();
  const HELP = "Arrow keys move the cross, Enter puts a place, Escape leaves.";
  let width = $state(0);
  let height = $state(0);
  let film = $state<HTMLVideoElement | null>(null);
  let cross = $state<[number, number]>([0.5, 0.5]);
  let over = $state<HTMLElement | null>(null);

  const rush = $derived(rushing.rush!);
  const size = $derived.by(() => {
    const share = Math.min(width / rush.width_px, height / rush.height_px);
    return { width: Math.max(1, rush.width_px * share), height: Math.max(1, rush.height_px * share) };
  });
  const px = (place: readonly number[]) => [place[0]! * size.width, place[1]! * size.height] as const;
  const points = (places: readonly (readonly number[])[]) =>
    places.map((place) => px(place).join(",")).join(" ");
  const box = (places: readonly (readonly number[])[]) => {
    const [a, b] = [px(places[0]!), px(places[1] ?? cross)];
    return {
      x: Math.min(a[0], b[0]),
      y: Math.min(a[1], b[1]),
      width: Math.abs(a[0] - b[0]),
      height: Math.abs(a[1] - b[1]),
    };
  };

  // The film follows the frame that is wanted, one seek at a time; while it plays the frame follows the film.
  let seeks = false;
  function seek() {
    if (!film || rushing.playing) return;
    const wanted = (rushing.frame + 0.5) / rush.rate_fps;
    if (film.seeking || Math.abs(film.currentTime - wanted) < 0.01 / rush.rate_fps) return;
    seeks = true;
    film.currentTime = wanted;
  }
  $effect(() => {
    void rushing.frame;
    void film;
    untrack(seek);
  });
  function sought() {
    if (!seeks) return;
    seeks = false;
    seek();
  }
  $effect(() => {
    const own = film;
    if (!own || !rushing.playing) return;
    untrack(() => {
      if (rushing.frame >= rushing.frames - 1) rushing.go(0);
      own.currentTime = (rushing.frame + 0.5) / rush.rate_fps;
    });
    let waits = 0;
    const follow = () => {
      rushing.go(Math.floor(own.currentTime * rush.rate_fps));
      waits = requestAnimationFrame(follow);
    };
    own.play().then(follow, () => (rushing.playing = false));
    return () => {
      cancelAnimationFrame(waits);
      own.pause();
    };
  });
  $effect(() => {
    if (rushing.marking && over) over.focus();
  });

  const KEYS: Record<string, [number, number]> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  const within = (value: number) => Math.min(1, Math.max(0, value));
  function keyed(event: KeyboardEvent) {
    const way = KEYS[event.key];
    if (way) {
      const step = event.shiftKey ? 0.05 : 0.005;
      cross = [within(cross[0] + step * way[0]), within(cross[1] + step * way[1])];
    } else if (event.key === "Enter") {
      const kind = rushing.marking!.kind;
      const open = SHAPES[kind] === "line" || SHAPES[kind] === "zone";
      const last = rushing.marking!.places.at(-1);
      if (open && rushing.enough && last?.[0] === cross[0] && last[1] === cross[1]) void rushing.keepMark();
      else void rushing.put([...cross]);
    } else if (event.key === "Escape") rushing.marking = null;
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  function placed(event: PointerEvent): [number, number] {
    const frame = over!.getBoundingClientRect();
    return [
      within((event.clientX - frame.left) / frame.width),
      within((event.clientY - frame.top) / frame.height),
    ];
  }
  let pressed: [number, number] | null = null;
  function down(event: PointerEvent) {
    if (event.button) return;
    over!.setPointerCapture(event.pointerId);
    cross = pressed = placed(event);
    void rushing.put([...pressed]);
  }
  function up(event: PointerEvent) {
    const place = placed(event);
    cross = place;
    const far = pressed && Math.hypot(place[0] - pressed[0], place[1] - pressed[1]) > 0.01;
    pressed = null;
    if (far && rushing.marking && SHAPES[rushing.marking.kind] === "region") void rushing.put([...place]);
  }

  const marks = $derived(rush.marks.filter((one) => one.kind !== rushing.marking?.kind));
</script>

<div
  class="relative h-full min-h-0 w-full overflow-hidden bg-black"
  bind:clientWidth={width}
  bind:clientHeight={height}
>
  <div
    class="absolute top-1/2 left-1/2 -translate-1/2"
    style:width={`${size.width}px`}
    style:height={`${size.height}px`}
  >
    <div
      class="absolute inset-0 isolate"
      style:filter={beside.other && beside.mode === "difference" ? `brightness(${beside.times})` : undefined}
    >
      {#if rush.kind === "clip"}
        <video
          bind:this={film}
          src={rush.proxy}
          preload="auto"
          muted
          playsinline
          class="h-full w-full"
          aria-label={`${rush.name}, frame ${rushing.frame}`}
          onseeked={sought}
          onloadeddata={seek}
          onended={() => (rushing.playing = false)}
        ></video>
      {:else}
        <img src={rush.proxy} alt={rush.name} class="h-full w-full" />
      {/if}
      {#if beside.other}<Over {rushing} {beside} />{/if}
    </div>
    <svg
      class="pointer-events-none absolute inset-0 h-full w-full"
      viewBox={`0 0 ${size.width} ${size.height}`}
      aria-hidden="true"
    >
      {#each marks as one (one.kind)}
        {#if SHAPES[one.kind] === "region"}
          <rect {...box(one.places)} fill="none" stroke="white" stroke-dasharray="4 3" />
        {:else if SHAPES[one.kind] === "line"}
          <polyline points={points(one.places)} fill="none" stroke="white" stroke-dasharray="4 3" />
        {:else}
          <polygon points={points(one.places)} fill="none" stroke="white" stroke-dasharray="4 3" />
        {/if}
        {@const [x, y] = px(one.places[0]!)}
        <text class="on-picture" x={x + 5} y={y + 14}>{MARK_NAMES[one.kind]}</text>
      {/each}
      <Overlays overlays={rushing.drawn?.overlays ?? []} {size} />
      {#if rushing.marking}
        {@const places = rushing.marking.places}
        {@const shape = SHAPES[rushing.marking.kind]}
        {@const found = places.length ? null : rushing.proposed}
        {#if found && shape === "region"}
          <rect {...box(found)} fill="rgb(255 255 255 / 0.08)" stroke="white" stroke-dasharray="2 4" />
        {:else if found}
          <polyline points={points(found)} fill="none" stroke="white" stroke-dasharray="2 4" />
        {/if}
        {#if places.length && shape === "region"}
          <rect {...box(places)} fill="rgb(255 255 255 / 0.12)" stroke="white" />
        {:else if places.length}
          <polyline points={points([...places, cross])} fill="none" stroke="white" />
        {/if}
        {@const [x, y] = px(cross)}
        <path d={`M${x - 12} ${y} H${x + 12} M${x} ${y - 12} V${y + 12}`} stroke="white" stroke-width="1.5" />
      {/if}
    </svg>
    {#if rushing.marking}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex, a11y_no_noninteractive_element_interactions -->
      <div
        bind:this={over}
        class="absolute inset-0 cursor-crosshair touch-none"
        role="application"
        tabindex="0"
        aria-label={`Mark ${MARK_NAMES[rushing.marking.kind]}. ${HELP}`}
        onkeydown={keyed}
        onpointerdown={down}
        onpointermove={(event) => (cross = placed(event))}
        onpointerup={up}
      ></div>
    {/if}
  </div>
</div>
