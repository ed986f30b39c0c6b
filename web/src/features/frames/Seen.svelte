<!-- The picture: live with its onion skin, an exposure that is looked at, or the last seconds at rate. -->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import type { Snippet } from "svelte";
  import { edgesOf } from "../line-up/edges";
  import { middleOf } from "../line-up/sources";
  import type { Clips } from "./clips.svelte";
  import type { Desk } from "./desk.svelte";
  import Paths from "./Paths.svelte";
  import { addressOf, Pictures } from "./pictures";
  import { placedIn, shownOfLayer, Stacked, type Beside } from "./stacked";
  import { placeAt } from "./strip";
  import type { Box } from "./writes";

  let {
    desk,
    box = null,
    clips,
    laid,
    over,
  }: {
    desk: Desk;
    box?: number[] | null;
    /** What lies beneath the picture. */
    clips?: Clips | undefined;
    /** Where the photograph of a pose is laid: its left top and how large it is, shares of the picture. */
    laid?: ((place: number) => readonly [number, number, number]) | undefined;
    /** What stands over the picture. */
    over?: Snippet<[readonly [number, number]]>;
  } = $props();
  const SMALL_PX = 640;
  const LARGE_PX = 1280;
  const BRIGHTER = 2; // doublings of a difference
  const LINE_PX = 2;
  const AHEAD_S = 2; // so far ahead what is played is fetched
  const CLICK_PX = 4; // less is no box

  let wide = $state(0);
  let high = $state(0);
  let canvas = $state<HTMLCanvasElement | null>(null);
  let arrived = $state(0);
  let frame = $state(0);
  const pictures = new Pictures(() => arrived++);
  const stacked = new Stacked();
  let edges: { exposure: number; image: HTMLImageElement; url: string } | null = null;
  let edging = 0;
  let played: ImageBitmap | null = null; // closed, it has no width
  let playedAt = -1;
  onDestroy(() => {
    pictures.close();
    if (edges) URL.revokeObjectURL(edges.url);
  });

  const aspect = $derived(desk.sheet?.aspect ?? 16 / 9);
  const size = $derived.by(() => {
    const width = Math.min(wide, high * aspect);
    return [Math.floor(width), Math.floor(width / aspect)] as const;
  });
  const shownAt = (place: number) => {
    const pose = desk.poses[place];
    return (pose && desk.shown[pose.id]) ?? null;
  };
  type Drawable = CanvasImageSource;
  const pictureAt = (place: number): Drawable | null => {
    const one = shownAt(place);
    return one && pictures.best(one.id, Math.min(LARGE_PX, one.width_px), SMALL_PX);
  };

  $effect(() => {
    void [desk.came, arrived, desk.look, desk.mixed, desk.before, desk.after, desk.blinks];
    void [desk.looked, desk.sheet, frame, size, box, drawn, desk.playing, laid, desk.building.place];
    void [clips?.came, clips?.beneath, clips?.how, clips?.amount, clips?.frame];
    for (const layer in clips?.seen ?? {}) void clips!.seen[layer];
    if (!canvas) return;
    const began = performance.now();
    untrack(draw);
    desk.drawing = performance.now() - began;
  });
  // what lies beside and beneath follows what is seen
  $effect(() => {
    const now = desk.playing ? frame : (desk.poses[desk.at]?.frame ?? 1);
    void [clips?.beneath, desk.sheet?.clips];
    for (const layer in clips?.seen ?? {}) void clips!.seen[layer];
    untrack(() => clips?.go(now, desk.sheet?.rate_fps ?? 24));
  });
  // --- play: the frame of the shot goes by the clock, holds and all
  $effect(() => {
    if (!desk.playing) return;
    const { sheet } = desk;
    const { begins, ends } = desk.plays;
    if (!sheet || begins >= ends) return;
    const began = performance.now();
    const ahead = Math.min(ends - begins, Math.round(AHEAD_S * sheet.rate_fps));
    let asked = 0;
    const fetch = (at: number) => {
      const one = shownAt(placeAt(desk.poses, begins + ((at - begins) % (ends - begins))));
      if (one) pictures.at(addressOf(one.id, SMALL_PX));
      for (const layer of sheet.beside) {
        const shown =
          clips?.seen[layer.layer_id] &&
          shownOfLayer(layer.poses, begins + ((at - begins) % (ends - begins)));
        if (shown) pictures.at(addressOf(shown, SMALL_PX));
      }
    };
    // what comes first is asked for last: the newest that is wanted is fetched first
    for (let at = begins + ahead; at >= begins; at--) fetch(at);
    const turn = () => {
      const passed = Math.floor(((performance.now() - began) * sheet.rate_fps) / 1000);
      const now = begins + (passed % (ends - begins));
      if (now !== frame) fetch(now + ahead);
      frame = now;
      asked = requestAnimationFrame(turn);
    };
    untrack(turn); // what is shown now does not begin it anew
    return () => cancelAnimationFrame(asked);
  });

  function lay(on: CanvasRenderingContext2D, picture: Drawable, alpha = 1, place = -1) {
    on.globalAlpha = alpha;
    const [width, height] = [on.canvas.width, on.canvas.height];
    const [left, top, grown] = laid?.(place) ?? [0, 0, 1];
    if (!(picture instanceof HTMLVideoElement))
      on.drawImage(picture, left * width, top * height, grown * width, grown * height);
    else {
      on.drawImage(picture, ...middleOf(picture, aspect), 0, 0, width, height);
    }
    on.globalAlpha = 1;
  }
  /** The picture that all others are laid over: the live plate, where it is seen, lies beneath. */
  function base(on: CanvasRenderingContext2D, picture: Drawable | null, place = -1) {
    const plate = clips?.plate;
    const { sheet } = desk;
    const seen = (sheet?.beside ?? []).filter((one) => clips?.seen[one.layer_id]);
    if (!clips || !sheet || !(plate || seen.length)) return picture && lay(on, picture, 1, place);
    const [width, height] = [on.canvas.width, on.canvas.height];
    const own = sheet.laid_px;
    const whole = [0, 0, sheet.delivery_width_px, sheet.delivery_height_px];
    if (plate) on.drawImage(plate, ...placedIn(own, whole, width));
    const farthest = seen.toReversed();
    const behind = farthest.filter((one) => !one.in_front);
    for (const one of behind) beside(on, one);
    if (picture) {
      const of = picture instanceof HTMLVideoElement ? middleOf(picture, aspect) : undefined;
      const how = plate || behind.length ? clips.how : "whole";
      const to = [0, 0, width, height] as const;
      clips.noSheet = !stacked.over(on, picture, { how, sheet: sheet.backing, amount: clips.amount, to, of });
    }
    for (const one of farthest) if (one.in_front) beside(on, one);
  }
  /** Another layer of the shot at the frame that is looked at. */
  function beside(on: CanvasRenderingContext2D, one: Beside) {
    const shown = shownOfLayer(one.poses, clips!.frame);
    const address = shown && addressOf(shown, SMALL_PX);
    const picture = address ? pictures.at(address) : clips!.filmOf(one.layer_id);
    const to = placedIn(desk.sheet!.laid_px, one.laid_px, on.canvas.width);
    if (picture) stacked.over(on, picture, { how: one.laid, sheet: one.sheet, to });
  }
  function draw() {
    const on = canvas?.getContext("2d");
    if (!on || !size[0]) return;
    const dots = Math.min(window.devicePixelRatio || 1, 2);
    const [width, height] = size.map((side) => Math.round(side * dots)) as [number, number];
    if (on.canvas.width !== width || on.canvas.height !== height) {
      on.canvas.width = width;
      on.canvas.height = height;
    }
    on.fillStyle = "#000";
    on.fillRect(0, 0, width, height);
    paint(on);
    const outlined = drawn ? ordered(drawn) : box;
    if (outlined) {
      const [left, top, right, bottom] = outlined as Box;
      on.strokeStyle = getComputedStyle(on.canvas).getPropertyValue("--shows");
      on.lineWidth = LINE_PX * dots;
      on.strokeRect(left * width, top * height, (right - left) * width, (bottom - top) * height);
    }
  }
  function paint(on: CanvasRenderingContext2D) {
    if (desk.playing) {
      const at = placeAt(desk.poses, frame);
      const one = shownAt(at);
      const came = one && pictures.at(addressOf(one.id, SMALL_PX));
      if (came) [played, playedAt] = [came, at];
      base(on, played?.width ? played : null, playedAt); // one that is late leaves the one before it
      return;
    }
    const place = desk.looked ?? (desk.live ? desk.next : desk.last);
    if (desk.blinks) {
      const first = pictureAt(desk.poses[place]?.block ?? 0);
      if (first) lay(on, first);
      return;
    }
    if (desk.looked !== null || !desk.live) {
      const picture = pictureAt(place);
      base(on, picture, place);
      return;
    }
    base(on, desk.live);
    skin(on, place);
  }
  /** Over the live picture: the frames before and after, as they were asked for. */
  function skin(on: CanvasRenderingContext2D, place: number) {
    if (desk.look === "live") return;
    const by = desk.building.place; // a set is built up by one frame, and by no other
    const last = pictureAt(by ?? place - 1);
    if (desk.look === "difference" && last) {
      on.globalCompositeOperation = "difference";
      lay(on, last);
      on.globalCompositeOperation = "lighter";
      for (let i = 0; i < BRIGHTER; i++) on.drawImage(on.canvas, 0, 0);
      on.globalCompositeOperation = "source-over";
    } else if (desk.look === "edges") {
      const one = shownAt(by ?? place - 1);
      if (one && edges?.exposure === one.id) lay(on, edges.image);
      else if (one && edging !== one.id) void edgesFor(one.id);
    } else if (by !== null) {
      if (last) lay(on, last, desk.mixed);
    } else if (desk.look === "mix") {
      for (let back = desk.before; back >= 1; back--) {
        const picture = pictureAt(place - back);
        if (picture) lay(on, picture, desk.mixed / back);
      }
      for (let on_ = 1; on_ <= desk.after; on_++) {
        const picture = pictureAt(place + on_);
        if (picture) lay(on, picture, desk.mixed / (on_ + 1));
      }
    }
  }
  async function edgesFor(exposure: number) {
    edging = exposure;
    const url = await edgesOf(addressOf(exposure, SMALL_PX));
    if (!url || edging !== exposure) return;
    const image = new Image();
    image.src = url;
    await image.decode();
    if (edges) URL.revokeObjectURL(edges.url);
    edges = { exposure, image, url };
    arrived++;
  }
  // --- a piece of the set is marked: its box is drawn with a finger or a mouse
  let drawn = $state<Box | null>(null);
  const ordered = ([x, y, to, down]: Box): Box => [
    Math.min(x, to),
    Math.min(y, down),
    Math.max(x, to),
    Math.max(y, down),
  ];
  const shareOf = (event: PointerEvent) => {
    const seen = canvas!.getBoundingClientRect();
    const clamp = (share: number) => Math.min(Math.max(share, 0), 1);
    return [
      clamp((event.clientX - seen.left) / seen.width),
      clamp((event.clientY - seen.top) / seen.height),
    ] as const;
  };
  function begins(event: PointerEvent) {
    if (!desk.marking) return;
    const [x, y] = shareOf(event);
    canvas!.setPointerCapture(event.pointerId);
    drawn = [x, y, x, y];
    event.preventDefault();
  }
  function goesOn(event: PointerEvent) {
    if (drawn) drawn = [drawn[0], drawn[1], ...shareOf(event)];
  }
  async function ends() {
    const marked = drawn && ordered(drawn);
    drawn = null;
    if (!marked) return;
    if (Math.min((marked[2] - marked[0]) * size[0], (marked[3] - marked[1]) * size[1]) < CLICK_PX) return;
    desk.marking = false;
    await desk.writes.addPiece(marked);
  }
  const says = $derived.by(() => {
    if (desk.playing) return `plays ${desk.plays.words}`;
    if (desk.looked !== null) return `frame ${desk.looked + 1}`;
    return desk.live ? `live, for frame ${desk.next + 1}` : "no camera";
  });
</script>

<div
  class="relative h-full min-h-0 overflow-hidden bg-black"
  bind:clientWidth={wide}
  bind:clientHeight={high}
  role="img"
  aria-label={`The picture: ${says}`}
  data-frame={desk.playing ? frame : undefined}
>
  <canvas
    bind:this={canvas}
    class={["absolute inset-0 m-auto", desk.marking && "cursor-crosshair touch-none"]}
    onpointerdown={begins}
    onpointermove={goesOn}
    onpointerup={() => void ends()}
    onpointercancel={() => (drawn = null)}
    style:width={`${size[0]}px`}
    style:height={`${size[1]}px`}
  ></canvas>
  {#if desk.points.shown && !desk.playing && !desk.blinks}<Paths {desk} {size} />{/if}
  {#if !desk.playing && !desk.blinks}{@render over?.(size)}{/if}
  {#if !desk.live && desk.last < 0}
    <p class="absolute inset-0 m-auto h-fit w-fit px-4 text-center text-muted">
      {desk.takes ? "No camera yet: choose one beside." : "Nothing is taken yet."}
    </p>
  {/if}
</div>
