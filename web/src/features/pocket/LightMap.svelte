<!-- Light over a surface, seen from above: as bright as it is bright. -->
<script lang="ts">
  import { inWords } from "./format";

  let { title, map, units }: { title: string; map: number[][]; units: "metric" | "imperial" } = $props();
  const most = $derived(Math.max(...map.flat()));
  const shade = (value: number) => Math.round(255 * Math.sqrt(Math.max(value, 0) / (most || 1)));
</script>

<h2 class="mt-5 mb-1">{title}</h2>
<div
  class="grid w-full max-w-[520px] border border-line"
  style:grid-template-columns={`repeat(${map[0]!.length}, 1fr)`}
  role="img"
  aria-label={`${title}: darkest ${inWords(Math.min(...map.flat()), "lx", units)}, brightest ${inWords(Math.max(...map.flat()), "lx", units)}`}
>
  {#each map as row, r (r)}{#each row as cell, k (k)}{@const grey = shade(cell)}<span
        class="aspect-square"
        style:background={`rgb(${grey} ${grey} ${grey})`}
      ></span>{/each}{/each}
</div>
