<!-- Another take over the picture: wiped, blinking, mixed, or as an amplified difference. -->
<script lang="ts">
  import { untrack } from "svelte";
  import { laidBy, type Beside } from "./beside.svelte";
  import type { Rushing } from "./rushing.svelte";

  let { rushing, beside }: { rushing: Rushing; beside: Beside } = $props();
  const BLINKS_MS = 450;
  const rush = $derived(rushing.rush!);
  const other = $derived(beside.other!);
  let film = $state<HTMLVideoElement | null>(null);
  let away = $state(false);
  const lies = $derived(beside.laid ? laidBy(rush, other.recording_id) : "");
  /** The same time after each slate. */
  const frame = $derived(
    Math.min(Math.max(rushing.frame - rush.begins + other.begins, 0), Math.max(other.frames - 1, 0)),
  );
  function seek() {
    if (!film || film.seeking) return;
    const wanted = (frame + 0.5) / other.rate_fps;
    if (Math.abs(film.currentTime - wanted) > 0.01 / other.rate_fps) film.currentTime = wanted;
  }
  $effect(() => {
    void frame;
    void film;
    untrack(seek);
  });
  $effect(() => {
    if (beside.mode !== "blink") return;
    const timer = setInterval(() => (away = !away), BLINKS_MS);
    return () => {
      clearInterval(timer);
      away = false;
    };
  });
  const clip = $derived(beside.mode === "wipe" ? `inset(0 0 0 ${100 * beside.at}%)` : undefined);
  const opacity = $derived(beside.mode === "mix" ? 0.5 : away ? 0 : 1);
</script>

<div class="pointer-events-none absolute inset-0 overflow-hidden" style:clip-path={clip}>
  <div
    class="h-full w-full"
    style:transform={lies || undefined}
    style:opacity
    style:mix-blend-mode={beside.mode === "difference" ? "difference" : undefined}
  >
    {#if other.kind === "clip"}
      <video
        bind:this={film}
        src={other.proxy}
        preload="auto"
        muted
        playsinline
        class="h-full w-full"
        aria-label={`${other.name}, frame ${frame}`}
        onseeked={seek}
        onloadeddata={seek}
      ></video>
    {:else}
      <img src={other.proxy} alt={other.name} class="h-full w-full" />
    {/if}
  </div>
</div>
{#if beside.mode === "wipe"}
  <div
    class="pointer-events-none absolute inset-y-0 w-px bg-white"
    style:left={`${100 * beside.at}%`}
    aria-hidden="true"
  ></div>
{/if}
