<!--
  The stack: cards hung from their place on the depth ruler, kept apart, nearest at the left; carried along
  it.
-->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Layer } from "../../lib/api/client";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { handles } from "../../lib/draw/handle";
  import { round, type View } from "./drawing";
  import Hatch from "../../lib/draw/Hatch.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let {
    layers,
    selected,
    writes,
    width,
    view,
    tried,
    onselect,
    onlift,
    onplace,
    onstart,
    onset,
    ondrop,
    oncancel,
  }: {
    layers: Layer[];
    selected: number | null;
    writes: boolean;
    width: number;
    view: View;
    tried: (what: "layers", id: number, field: string) => number | undefined;
    onselect: (layer: number) => void;
    /** A card begins to move under the hand. */
    onlift: () => void;
    onplace: (layer: Layer, near_m: number) => void;
    onstart: () => void;
    onset: (label: string) => void;
    ondrop: () => void;
    /** It is where it was before the hand took it. */
    oncancel: () => void;
  } = $props();

  const CARD = 142;
  const GAP = 4;
  const hung = $derived.by(() => {
    const end = width - 14;
    const at = layers.map((one) => Math.min(view.camera + one.ruler_m * view.scale, end));
    const left: number[] = [];
    at.forEach((x, i) => left.push(Math.max(x - CARD / 2, i ? left[i - 1]! + CARD + GAP : 14)));
    let limit = end + GAP;
    for (let i = left.length - 1; i >= 0; i--) {
      left[i] = Math.min(left[i]!, limit - GAP - CARD);
      limit = left[i]!;
    }
    const shift = Math.max(0, 14 - (left[0] ?? 14));
    return layers.map((one, i) => ({ layer: one, x: at[i]!, left: left[i]! + shift }));
  });
  const stackWidth = $derived(Math.max(width, ...hung.map((one) => one.left + CARD + 14)));

  const layerOf = (id: number) => layers.find((one) => one.id === id);
  /** A card is carried along the ruler; a click only chooses it. */
  const card = handles((id: number) => {
    let from: Layer | undefined;
    let lifted = false;
    return {
      able: () => writes,
      slack: 4,
      take: (event) => {
        from = layerOf(id);
        lifted = false;
        if (event instanceof KeyboardEvent) onstart();
      },
      move: (way) => {
        if (!from) return;
        if (!lifted) onlift();
        lifted = true;
        const near = (from.ruler_m + way.x / view.scale) * (from.near_m / from.ruler_m);
        onplace(from, Math.max(round(near, 2), 0.1));
      },
      drop: (moved) => {
        ondrop();
        if (moved) onset(`Move ${from?.name}`);
      },
      step: (way, big) => {
        if (!way.x || !from) return;
        const near = tried("layers", id, "near_m") ?? from.near_m;
        onplace(from, round(near * (big ? 1.1 : 1.01) ** way.x, 3));
      },
      settle: () => onset(`Move ${from?.name}`),
      cancel: () => {
        ondrop();
        oncancel();
      },
    };
  });
</script>

<div class="relative h-[76px] shrink-0 overflow-x-auto overflow-y-hidden bg-panel">
  <div class="relative h-full" style:width={`${stackWidth}px`}>
    <svg width={stackWidth} height="28" class="absolute inset-0" aria-hidden="true">
      <Hatch id="card" />
      {#each hung as one (one.layer.id)}
        <path d={`M${one.x} 0 V8 L${one.left + CARD / 2} 18 V24`} fill="none" stroke="var(--mark)" />
      {/each}
    </svg>
    {#each hung as one (one.layer.id)}
      {@const on = one.layer.id === selected}
      <button
        class={[
          "absolute top-6 flex h-[46px] cursor-pointer items-center gap-2 border pl-2 text-left",
          on ? "border-ink bg-ink text-ground" : "border-line bg-ground",
        ]}
        style:left={`${one.left}px`}
        style:width={`${CARD}px`}
        aria-pressed={on}
        {@attach tip(() => one.layer.note)}
        onclick={() => onselect(one.layer.id)}
        {@attach card(one.layer.id)}
      >
        <svg width="11" height="34" class="shrink-0" aria-hidden="true"
          ><rect
            x="0.5"
            y="0.5"
            width="10"
            height="33"
            fill={`url(#card-${one.layer.kind})`}
            stroke={on ? "var(--ground)" : "var(--text)"}
          /></svg
        >
        <span class="min-w-0 flex-1">
          <span class="block truncate font-strong">{one.layer.name}</span>
          <span class={["block truncate text-xs", on ? "" : "text-muted"]}
            >{one.layer.is_hero ? "hero" : vocabulary.kind(one.layer.kind)} · {vocabulary.combine(
              one.layer.combine,
              one.layer.key_colour,
            )}</span
          >
        </span>
        <span class="mr-1.5 grid place-items-center gap-0.5">
          {#if one.layer.items.length}<Verdict verdict={one.layer.verdict} inverted={on} />{/if}
          {#if one.layer.circled_take}<span class="num text-xs" {@attach tip(() => "circled take")}
              >t{one.layer.circled_take}</span
            >{/if}
        </span>
      </button>
    {/each}
  </div>
</div>
