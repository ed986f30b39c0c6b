<!--
  The steps of a take, hands free: called out, counted down; one touch marks what happens. Read from across
  the room.
-->
<script lang="ts">
  import { Dialog } from "bits-ui";
  import { onMount } from "svelte";
  import { prefer, preferred } from "../../lib/offline/preferences";
  import { drawn, MODULES, QUIET } from "./slate";
  import { beeper, Running, speak, type Ran, type Step } from "./running.svelte";

  let {
    shot,
    layer,
    number,
    steps,
    code,
    onclose,
    ontake,
  }: {
    shot: string;
    layer: string;
    number: number;
    steps: readonly Step[];
    /** What the slate's code says. */
    code: string;
    onclose: (ran: Ran | null) => void;
    ontake: (ran: Ran | null) => void;
  } = $props();
  let spoken = $state(preferred("steps spoken") !== "no");
  const tones = beeper();
  const run = new Running(
    // svelte-ignore state_referenced_locally
    steps,
    (says) => spoken && speak(says),
    (last) => tones.beep(last),
  );
  const step = $derived(run.step);
  const share = $derived(step?.seconds ? run.left_s / step.seconds : 0);
  const LOOK = "min-h-16 border-2 border-white text-lg font-strong disabled:opacity-40";

  onMount(() => {
    let lock: WakeLockSentinel | null = null;
    navigator.wakeLock?.request("screen").then(
      (found) => (lock = found),
      () => undefined, // the screen goes dark as it always does
    );
    run.begin();
    return () => {
      run.stop();
      tones.close();
      if ("speechSynthesis" in window) window.speechSynthesis.cancel();
      void lock?.release();
    };
  });
  function hush(on: boolean) {
    spoken = on;
    prefer("steps spoken", on ? null : "no");
    if (!on && "speechSynthesis" in window) window.speechSynthesis.cancel();
  }
  function pressed(event: KeyboardEvent) {
    if (event.target instanceof HTMLButtonElement || event.target instanceof HTMLInputElement) return;
    if (event.key === " ") {
      event.preventDefault();
      run.next();
    } else if (event.key.toLowerCase() === "m") run.mark();
  }
</script>

<svelte:window onkeydown={pressed} />
<Dialog.Root open onOpenChange={(stays) => stays || onclose(run.ran)}>
  <Dialog.Portal>
    <Dialog.Content class="fixed inset-0 z-50 flex flex-col bg-black text-white outline-none">
      <Dialog.Title class="sr-only">Steps of {shot}, {layer}, take {number}</Dialog.Title>
      <div class="flex shrink-0 items-center gap-3 px-4 pt-3">
        <p class="min-w-0">
          <b class="num">{shot}</b> <span class="truncate">{layer}</span>, take <b class="num">{number}</b>
        </p>
        <label class="ml-auto flex min-h-11 items-center gap-2"
          ><input
            type="checkbox"
            class="size-5 accent-white"
            checked={spoken}
            onchange={(event) => hush(event.currentTarget.checked)}
          /> Spoken</label
        >
      </div>
      <div class="grid min-h-0 flex-1 content-center gap-4 px-4 text-center">
        {#if run.over}
          <p class="text-4xl font-strong">Done</p>
          <p class="num text-lg">
            {run.ran ? `rolled ${run.ran.rolled_s.toFixed(0)} s` : "the camera did not roll"}{run.marks.length
              ? `, ${run.marks.length} marked`
              : ""}
          </p>
        {:else if step}
          <p class="mx-auto max-w-4xl text-4xl leading-tight font-strong sm:text-6xl" aria-live="assertive">
            {step.says}
          </p>
          {#if step.key === "slate"}
            <svg
              viewBox={[-QUIET, -QUIET, MODULES + 2 * QUIET, MODULES + 2 * QUIET].join(" ")}
              shape-rendering="crispEdges"
              role="img"
              aria-label={`Code of ${shot}, ${layer}, take ${number}`}
              class="mx-auto w-[min(100%,100vh-30rem)] min-w-48 bg-white"><path d={drawn(code)} /></svg
            >
          {/if}
          {#if step.seconds}
            <p class="num text-[6rem] leading-none font-strong" role="timer" aria-label="Seconds left">
              {Math.ceil(run.left_s)}
            </p>
            <div class="mx-auto h-2 w-full max-w-xl border border-white" aria-hidden="true">
              <div class="h-full bg-white" style:width={`${100 * share}%`}></div>
            </div>
          {:else}<p class="text-lg">Touch <b>Next</b> when it is so.</p>{/if}
          <p class="text-lg opacity-80">
            {run.following ? `then: ${run.following.says}` : "then it is done"}
          </p>
        {/if}
        {#if run.rolls}<p class="num" role="status">
            <span class="mr-2 inline-block size-3 rounded-full bg-white align-baseline" aria-hidden="true"
            ></span>rolling{run.marks.length ? `, ${run.marks.length} marked` : ""}
          </p>{/if}
      </div>
      <div class="grid shrink-0 grid-cols-3 gap-2 px-4 pb-[max(0.75rem,env(safe-area-inset-bottom))]">
        {#if run.over}
          <button class={LOOK} onclick={() => onclose(run.ran)}>Put away</button>
          <button class={[LOOK, "col-span-2 bg-white text-black"]} onclick={() => ontake(run.ran)}
            >Take {number}</button
          >
        {:else}
          <button class={LOOK} onclick={() => run.stop()}>Stop</button>
          <button class={LOOK} disabled={!run.rolls} onclick={() => run.mark()}>Mark</button>
          <button class={[LOOK, "bg-white text-black"]} onclick={() => run.next()}>Next</button>
        {/if}
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
