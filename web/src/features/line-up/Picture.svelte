<!--
  The live picture where it lies in the delivered frame, and over it what it should be: mixed, as a
  difference, blinking, or its edges alone.
-->
<script lang="ts">
  import { middle, placeIn } from "../../lib/draw/lines";
  import { edgesOf } from "./edges";
  import Overlay from "./Overlay.svelte";
  import type { Lining } from "./lining.svelte";

  let {
    lining,
    way,
    mixed,
    drawn,
  }: { lining: Lining; way: string; mixed: number; drawn: readonly string[] } = $props();

  const BLINK_MS = 700; // slower than anything that could harm who looks at it
  let across = $state(600);
  let up = $state(400);
  let lit = $state(true);
  const known = $derived(lining.known!);
  const bench = $derived(lining.bench!);
  const w = $derived(bench.delivery_width_px);
  const h = $derived(bench.delivery_height_px);
  const wide = $derived(Math.min(across, (up * w) / h));
  const k = $derived(w / Math.max(wide, 1));
  const place = (box: readonly number[]) =>
    `left:${(100 * box[0]!) / w}%;top:${(100 * box[1]!) / h}%;width:${(100 * box[2]!) / w}%;` +
    `height:${(100 * box[3]!) / h}%`;
  const opacity = $derived(way === "mix" ? mixed : way === "blink" ? (lit ? 1 : 0) : 1);

  $effect(() => {
    if (way !== "blink") return;
    const timer = window.setInterval(() => (lit = !lit), BLINK_MS);
    return () => window.clearInterval(timer);
  });
  const NONE = { of: "", url: "" };
  let edges = $state.raw(NONE);
  $effect(() => {
    const of = way === "edges" ? (lining.laid?.url ?? "") : "";
    if (!of) return;
    let wanted = true;
    let url = "";
    void edgesOf(of).then((made) => {
      if (!wanted || !made) return URL.revokeObjectURL(made);
      url = made;
      edges = { of, url };
    });
    return () => {
      wanted = false;
      if (url) URL.revokeObjectURL(url);
      edges = NONE;
    };
  });
  /** Without a pointer it is set where one begins on the board, to be moved there. */
  function set(event: MouseEvent) {
    const { currentTarget } = event;
    const byKey = event.detail === 0;
    void lining.setMark(byKey ? middle("actor", w, h)[0]! : placeIn(currentTarget as Element, event, w, h));
  }
  function live(video: HTMLVideoElement) {
    video.srcObject = lining.stream;
    lining.shows(video);
    return () => lining.shows(null);
  }
</script>

<div
  bind:clientWidth={across}
  bind:clientHeight={up}
  class="flex h-full min-h-0 w-full items-center justify-center overflow-hidden bg-black"
>
  <div
    class="relative isolate overflow-hidden bg-black"
    style:width={`${wide}px`}
    style:aspect-ratio={`${w} / ${h}`}
    role="img"
    aria-label={`Live picture of ${known.layer} in the delivered frame`}
  >
    <div class="absolute inset-0 isolate">
      {#if lining.stream}
        <video
          {@attach live}
          autoplay
          playsinline
          muted
          class="absolute object-cover"
          style={place(lining.boxOf(known))}
        ></video>
      {:else if lining.shown}
        <img
          src={lining.shown}
          alt=""
          class="absolute max-w-none will-change-transform"
          style={place(lining.boxOf(known))}
        />
      {/if}
      {#if lining.laid && way !== "live"}
        {@const edged = way === "edges" && edges.of === lining.laid.url}
        {#if way !== "edges" || edged}
          <img
            src={edged ? edges.url : lining.laid.url}
            alt=""
            class="absolute max-w-none will-change-transform"
            style={place(lining.laid.box)}
            style:opacity
            style:mix-blend-mode={way === "difference" ? "difference" : undefined}
          />
        {/if}
      {/if}
    </div>
    <svg viewBox={`0 0 ${w} ${h}`} class="absolute inset-0 h-full w-full will-change-transform">
      <Overlay {known} {bench} layer={lining.layer} {drawn} {k} />
    </svg>
    {#if lining.setting}
      <button
        class="absolute inset-0 cursor-crosshair"
        aria-label="Where the actor stands: touch the place of their feet, or press Enter for the middle"
        {@attach (button) => button.focus()}
        onclick={set}
        onkeydown={(event) => event.key === "Escape" && void lining.beginToSet(false)}
      ></button>
    {/if}
    {#if !lining.source}
      <p
        class="absolute inset-x-6 bottom-5 text-center text-white"
        style="text-shadow:0 0 4px #000,0 0 2px #000"
      >
        No live picture yet: choose a camera, or the simulated one.
      </p>
    {/if}
  </div>
</div>
