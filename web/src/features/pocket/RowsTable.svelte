<!-- A list that a calculation answers with, a line each. -->
<script lang="ts">
  import type { Units } from "../../lib/units";
  import { inWords } from "./format";

  let { title, rows, units }: { title: string; rows: Record<string, unknown>[]; units: Units } = $props();
</script>

<h2 class="mt-5 mb-1">{title}</h2>
<div class="overflow-x-auto">
  <table class="w-full max-w-3xl">
    <thead
      ><tr class="border-b border-ink text-left"
        >{#each Object.keys(rows[0]!) as key (key)}<th class="py-1 pr-4 font-strong"
            >{key
              .replace(/_(m|px|deg|mm)$/, ", $1")
              .replaceAll("_", " ")
              .replace(", deg", ", °")}</th
          >{/each}</tr
      ></thead
    >
    <tbody>
      {#each rows as row, r (r)}<tr class="border-b border-line"
          >{#each Object.entries(row) as [key, cell] (key)}<td class="num py-1 pr-4"
              >{inWords(cell, "", units)}</td
            >{/each}</tr
        >{/each}
    </tbody>
  </table>
</div>
