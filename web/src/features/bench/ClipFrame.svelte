<!-- One frame of a clip, chosen by scrubbing: the clip itself stays on this device. -->
<script lang="ts">
  import Slider from "../../lib/ui/Slider.svelte";
  import { frameOf } from "./looks.svelte";

  let {
    file,
    onuse,
    onclose,
  }: { file: File; onuse: (frame: File) => void | Promise<void>; onclose: () => void } = $props();

  const STEP_S = 1 / 24;
  const href = $derived(URL.createObjectURL(file));
  $effect(() => {
    const address = href;
    return () => URL.revokeObjectURL(address);
  });
  let video = $state<HTMLVideoElement | null>(null);
  let seconds = $state(0);
  let most = $state(0);
  let wrong = $state("");
  function to(value: number) {
    seconds = value;
    if (video) video.currentTime = value;
  }
</script>

<div class="grid min-h-0 flex-1 place-items-center overflow-hidden bg-black max-sm:aspect-video">
  <video
    bind:this={video}
    src={href}
    muted
    playsinline
    preload="auto"
    class="max-h-full max-w-full"
    onloadedmetadata={() => (most = video?.duration ?? 0)}
    onerror={() =>
      (wrong = `“${file.name}” does not play in this browser: export one frame of it as a picture.`)}
  ></video>
</div>
<div class="flex flex-wrap items-center gap-3 border-t border-line px-3 py-2">
  {#if wrong}
    <p role="alert" class="flex-1">{wrong}</p>
  {:else}
    <Slider
      label="Time in the clip"
      class="min-w-40 flex-1"
      {most}
      step={STEP_S}
      value={seconds}
      onchange={to}
    />
    <span class="num w-20 text-right">{seconds.toFixed(2)} s</span>
    <button
      class="btn btn-solid"
      disabled={!most}
      onclick={async () => video && onuse(await frameOf(video, file.name))}>Use this frame</button
    >
  {/if}
  <button class="btn" onclick={onclose}>Leave it</button>
</div>
