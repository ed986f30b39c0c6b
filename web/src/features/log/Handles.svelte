<!-- Places on a photograph that are moved by finger, mouse and keys; a line joins them, or a circle. -->
<script lang="ts">
  type Place = [number, number];
  let {
    places = $bindable(),
    names,
    round,
    size,
    onleave,
  }: {
    places: Place[];
    names: readonly string[];
    /** The second lies on the rim of a circle about the first. */
    round: boolean;
    size: { width: number; height: number };
    onleave: () => void;
  } = $props();
  const STEP = 0.0025;
  const KEYS: Record<string, Place> = {
    ArrowLeft: [-1, 0],
    ArrowRight: [1, 0],
    ArrowUp: [0, -1],
    ArrowDown: [0, 1],
  };
  let over = $state<HTMLElement | null>(null);
  let held = $state<number | null>(null);

  const within = (value: number) => Math.min(1, Math.max(0, value));
  function put(index: number, x: number, y: number) {
    const [dx, dy] = [within(x) - places[index]![0], within(y) - places[index]![1]];
    // the rim goes with its middle
    const goes = (place: Place, at: number): Place =>
      at === index || (round && index === 0) ? [place[0] + dx, place[1] + dy] : place;
    places = places.map(goes);
  }
  function moved(event: PointerEvent) {
    if (held === null) return;
    const frame = over!.getBoundingClientRect();
    put(held, (event.clientX - frame.left) / frame.width, (event.clientY - frame.top) / frame.height);
  }
  function keyed(event: KeyboardEvent, index: number) {
    if (event.key === "Escape") {
      onleave();
      event.stopPropagation();
    }
    const way = KEYS[event.key];
    if (!way) return;
    const step = STEP * (event.shiftKey ? 10 : 1);
    put(index, places[index]![0] + step * way[0], places[index]![1] + step * way[1]);
    event.preventDefault();
    event.stopPropagation();
  }
  const px = (place: Place) => [place[0] * size.width, place[1] * size.height] as const;
  const radius = $derived(
    round ? Math.hypot(px(places[0]!)[0] - px(places[1]!)[0], px(places[0]!)[1] - px(places[1]!)[1]) : 0,
  );
</script>

<div bind:this={over} class="absolute inset-0">
  <svg class="absolute inset-0 h-full w-full" viewBox={`0 0 ${size.width} ${size.height}`} aria-hidden="true">
    {#if round}
      <circle
        cx={px(places[0]!)[0]}
        cy={px(places[0]!)[1]}
        r={radius}
        fill="none"
        stroke="white"
        stroke-width="1.5"
      />
    {:else}
      <polygon
        points={places.map((one) => px(one).join(",")).join(" ")}
        fill="none"
        stroke="white"
        stroke-width="1.5"
      />
    {/if}
  </svg>
  {#each places as place, index (names[index])}
    <button
      class="absolute grid size-11 -translate-1/2 cursor-move touch-none place-content-center"
      style:left={`${100 * place[0]}%`}
      style:top={`${100 * place[1]}%`}
      aria-label={`Move the ${names[index]}: arrow keys, with shift farther; Escape leaves`}
      onkeydown={(event) => keyed(event, index)}
      onpointerdown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        held = index;
      }}
      onpointermove={moved}
      onpointerup={() => (held = null)}
      onpointercancel={() => (held = null)}
      ><span
        class={[
          "block size-4 rounded-full border-2 border-white",
          held === index ? "bg-white" : "bg-black/40",
        ]}
      ></span></button
    >
  {/each}
</div>
