<!-- The shelf of outlines: found by word, by group, each as it looks and as large as it is. -->
<script lang="ts">
  import { shown, unitOf, type Units } from "../../lib/units";
  import { pieces, shelf, type Outline } from "./looks.svelte";

  let {
    units,
    disabled,
    onchoose,
  }: { units: Units; disabled: boolean; onchoose: (outline: Outline) => void } = $props();

  const TILE = 64;
  const TILE_LOOK =
    "group flex cursor-pointer flex-col items-center gap-0.5 p-1 text-center hover:bg-ink " +
    "hover:text-ground focus-visible:bg-ink focus-visible:text-ground";
  let words = $state("");
  const groups = $derived.by(() => {
    const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
    const by: Record<string, Outline[]> = {};
    for (const one of shelf.outlines ?? [])
      if (wanted.every((word) => `${one.name} ${one.group}`.toLowerCase().includes(word)))
        (by[one.group ?? ""] ??= []).push(one);
    return Object.entries(by);
  });
  function box(one: Outline) {
    const k = TILE / Math.max(one.width_m, one.height_m);
    return [one.width_m * k, one.height_m * k] as const;
  }
</script>

<div class="sticky top-0 z-10 border-b border-line bg-raised px-3 py-2">
  <input
    class="field"
    placeholder="Find: boat, tree, child"
    aria-label="Find on the shelf"
    bind:value={words}
  />
</div>
{#each groups as [group, outlines] (group)}
  <h3 class="px-3 pt-2.5 pb-1 text-muted first-letter:uppercase">{group}</h3>
  <div class="grid grid-cols-[repeat(auto-fill,minmax(84px,1fr))] gap-px px-2">
    {#each outlines as one (one.name)}
      {@const [wide, high] = box(one)}
      <button class={TILE_LOOK} {disabled} onclick={() => onchoose(one)}>
        <svg
          class="h-18 w-full bg-[#8f8f8f]"
          viewBox={`${(wide - TILE) / 2 - 4} ${high - TILE - 4} ${TILE + 8} ${TILE + 8}`}
          aria-hidden="true"
        >
          {#each pieces(one, wide, high) as piece, i (i)}<path d={piece.d} fill={piece.fill} />{/each}
        </svg>
        <span class="text-sm leading-tight">{one.name}</span>
        <span
          class="num text-sm leading-tight text-muted group-hover:text-ground group-focus-visible:text-ground"
          >{shown(Number(one.height_m.toPrecision(2)), "length", units)} {unitOf("length", units, "m")}</span
        >
      </button>
    {/each}
  </div>
{:else}
  <p class="px-3 py-4 text-muted">
    {shelf.outlines
      ? "Nothing of that name lies here. Draw it as an SVG, or give it a picture."
      : "Reading the shelf…"}
  </p>
{/each}
