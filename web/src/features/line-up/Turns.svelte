<!-- What was measured last, as large as it must be to be read from the head: which dial, by how much. -->
<script lang="ts">
  import Verdict from "../../lib/ui/Verdict.svelte";
  import type { Lining } from "./lining.svelte";

  let { lining }: { lining: Lining } = $props();
  const told = $derived(lining.measured);
  const px = (value: number) => (Math.abs(value) < 10 ? value.toFixed(1) : value.toFixed(0));
  const signed = (value: number, digits: number) => {
    const text = Math.abs(value).toFixed(digits);
    return `${value < 0 && Number(text) ? "−" : "+"}${text}`;
  };
  const widest = $derived(Math.max(...(told?.turns ?? []).map((turn) => turn.px), 1));
</script>

<section aria-label="Measured" class="px-3.5 py-3" aria-live="off">
  {#if told && !told.nothing && told.verdict}
    <p class="flex items-center gap-2.5">
      <Verdict verdict={told.verdict} size={20} label={false} />
      <b class="text-xl"
        ><span class="num">{px(told.off_px ?? 0)}</span> <span class="font-normal text-muted">px off</span></b
      >
      <span class="ml-auto text-muted">{told.verdict}, the limit is {px(told.holds_px ?? 0)} px</span>
    </p>
    {#if told.turns.length}
      <ol class="mt-2.5 grid gap-2">
        {#each told.turns as turn, i (turn.dial)}
          <li>
            <p class="flex items-baseline gap-2">
              <span class={i ? "" : "text-lg font-strong"}>{turn.to_do}</span>
              <span class="num ml-auto whitespace-nowrap"
                >{px(turn.px)} <span class="text-muted">px</span></span
              >
            </p>
            <span class="mt-0.5 block h-0.5 bg-ink" style:width={`${(100 * turn.px) / widest}%`}></span>
          </li>
        {/each}
      </ol>
    {:else}<p class="mt-2.5 text-lg font-strong">In register. Lock it.</p>{/if}
    <dl class="num mt-3 grid grid-cols-[auto_1fr] gap-x-3 text-muted">
      <dt class="font-sans">shift</dt>
      <dd>{signed(told.shift_px[0] ?? 0, 1)} across, {signed(told.shift_px[1] ?? 0, 1)} down</dd>
      <dt class="font-sans">within</dt>
      <dd>{(told.within_px ?? 0).toFixed(1)} px</dd>
      <dt class="font-sans">turn, size</dt>
      <dd>{signed(told.turn_deg ?? 0, 2)}°, {signed(told.size_pct ?? 0, 2)} %</dd>
      <dt class="font-sans">points</dt>
      <dd>{told.points} of {told.followed}, {(told.rest_px ?? 0).toFixed(1)} px left</dd>
    </dl>
  {:else if told?.nothing}
    <p>{told.nothing}</p>
  {:else if lining.source && lining.against === null}
    <p>
      Against what is drawn one lines up by eye. Against a picture that is held, every dial is measured: hold
      one when it stands as it should.
    </p>
  {:else if lining.source}
    <p class="text-muted">Looking…</p>
  {:else}
    <p class="text-muted">
      What is off is said here, in pixels of the delivered frame: which dial to turn, and by how much.
    </p>
  {/if}
</section>
