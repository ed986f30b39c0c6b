<!--
  The slate, held before the lens: code, layer, take, and a code as large as the screen allows. Showing it
  opens the take.
-->
<script lang="ts">
  import { Dialog } from "bits-ui";
  import { onMount } from "svelte";
  import type { Schemas } from "../../lib/api/client";
  import { clap, drawn, measured, MODULES, pxAMm, QUIET, SHARE, type Opened } from "./slate";

  let {
    shot,
    layer,
    opened,
    text,
    reaches,
    onclose,
    ontake,
  }: {
    shot: string;
    layer: string;
    opened: Opened;
    text: string;
    reaches: Schemas["SlateReach"][];
    onclose: () => void;
    ontake: () => void;
  } = $props();
  const FLASH_MS = 120;
  /** A width that was typed is not lost to the last digit of a division. */
  const ROUNDED = 1 + 1e-9;
  let box = $state(0);
  let perMm = $state(pxAMm());
  let dark = $state(false);
  let measuring = $state(false);
  const wide_mm = $derived((box * SHARE) / perMm);
  const path = $derived(drawn(text));
  /** What was worked out for a code that is no wider than this one. */
  const reach = $derived(reaches.findLast((one) => one.code_mm <= wide_mm * ROUNDED));

  onMount(() => {
    let lock: WakeLockSentinel | null = null;
    navigator.wakeLock?.request("screen").then(
      (found) => (lock = found),
      () => undefined, // the screen goes dark as it always does
    );
    return () => void lock?.release();
  });
  function flash() {
    dark = true;
    window.setTimeout(() => (dark = false), FLASH_MS);
  }
  function typed(value: string) {
    const mm = Number(value.replace(",", "."));
    if (!(mm > 0)) return;
    measured(box * SHARE, mm);
    perMm = pxAMm();
    measuring = false;
  }
</script>

<Dialog.Root open onOpenChange={(stays) => stays || onclose()}>
  <Dialog.Portal>
    <Dialog.Content class="fixed inset-0 z-50 flex flex-col bg-white text-black outline-none">
      <Dialog.Title class="sr-only">Slate</Dialog.Title>
      <div class="flex shrink-0 items-end justify-between gap-3 px-4 pt-3">
        <p class="min-w-0">
          <b class="num block text-4xl leading-none">{shot}</b>
          <span class="mt-1 block truncate text-lg">{layer}</span>
        </p>
        <p class="text-right">
          <span class="block">take</span><b class="num text-6xl leading-none">{opened.number}</b>
        </p>
      </div>
      <div class="grid min-h-0 flex-1 place-content-center">
        <div style:width="min(100vw, 100vh - 16rem)" bind:clientWidth={box}>
          <svg
            viewBox={[-QUIET, -QUIET, MODULES + 2 * QUIET, MODULES + 2 * QUIET].join(" ")}
            shape-rendering="crispEdges"
            role="img"
            aria-label={`Code of ${shot}, ${layer}, take ${opened.number}`}
            class="block w-full"><path d={path} fill="#000" /></svg
          >
        </div>
      </div>
      <div class="shrink-0 px-4 pb-[max(0.75rem,env(safe-area-inset-bottom))]">
        <p>
          <b>{reach?.text ?? "Too small for a reach to be told: use a larger screen."}</b>
          {#if measuring}
            <label class="inline-flex items-center gap-2"
              >From the left edge of the code to its right:
              <!-- svelte-ignore a11y_autofocus -->
              <input
                class="num h-11 w-20 border border-black px-2"
                inputmode="decimal"
                autofocus
                onchange={(event) => typed(event.currentTarget.value)}
              /> mm</label
            >
          {:else}
            The code is {Math.round(wide_mm)} mm wide here.
            <button class="min-h-6 underline underline-offset-2" onclick={() => (measuring = true)}
              >Measure it</button
            >
          {/if}
        </p>
        <div class="mt-2 grid grid-cols-3 gap-2">
          <button class="min-h-14 border-2 border-black text-lg font-strong" onclick={onclose}
            >Put away</button
          >
          <button class="min-h-14 border-2 border-black text-lg font-strong" onclick={() => void clap(flash)}
            >Clap</button
          >
          <button class="min-h-14 bg-black text-lg font-strong text-white" onclick={ontake}
            >Take {opened.number}</button
          >
        </div>
      </div>
      {#if dark}<div class="absolute inset-0 bg-black" aria-hidden="true"></div>{/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
