<!-- Light over a surface, seen from above: as bright as it is bright. -->
<script lang="ts">
  import type { Units } from "../../lib/units";
  import { inWords } from "./format";

  let { title, map, units }: { title: string; map: number[][]; units: Units } = $props();
  const most = $derived(Math.max(...map.flat()));
  const shade = (value: number) => Math.round(255 * Math.sqrt(Math.max(value, 0) / (most || 1)));
  const light = (lux: number) => inWords(lux, "lx", units);
</script>

<h2 class="mt-5 mb-1">{title}</h2>
<div
  class="grid w-full max-w-[520px] border border-line"
  style:grid-template-columns={`repeat(${map[0]!.length}, 1fr)`}
  role="img"
  aria-label={`${title}: darkest ${light(Math.min(...map.flat()))}, brightest ${light(most)}`}
>
  {#each map as row, r (r)}{#each row as cell, k (k)}{@const grey = shade(cell)}<span
        class="aspect-square"
        style:background={`rgb(${grey} ${grey} ${grey})`}
      ></span>{/each}{/each}
</div>
