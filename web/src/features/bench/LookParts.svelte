<!-- The parts of a layer: names, how far back they stand, how thick they are, their colours. -->
<script lang="ts">
  import NumberCell from "../../lib/ui/NumberCell.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { unitOf, type Units } from "../../lib/units";
  import type { Part } from "./looks.svelte";

  let {
    parts,
    writes,
    units,
    onset,
    ontry,
    ondrop,
  }: {
    parts: Part[];
    writes: boolean;
    units: Units;
    onset: (label: string, parts: Part[]) => void;
    /** Colours that are being turned and not yet let go of. */
    ontry: (parts: Part[]) => void;
    ondrop: (label: string) => void;
  } = $props();

  const changed = (at: number, fields: Partial<Part>) =>
    parts.map((one, i) => (i === at ? { ...one, ...fields } : one));
  const NUMBERS = [
    ["behind_m", "Behind"],
    ["thickness_m", "Thick"],
  ] as const;
</script>

<table class="w-full">
  <thead>
    <tr class="border-b border-line text-left text-muted">
      <th class="px-3 py-1.5 font-normal">Part</th>
      {#each NUMBERS as [key, name] (key)}<th class="px-1 py-1.5 text-right font-normal"
          >{name} <span class="text-sm">{unitOf("length", units, "m")}</span></th
        >{/each}
      <th class="px-1 py-1.5 font-normal" colspan="2">Top, foot</th>
      <th><span class="sr-only">Remove</span></th>
    </tr>
  </thead>
  <tbody>
    {#each parts as part, i (i)}
      <tr class="border-b border-line">
        <td class="p-0"
          ><input
            class="cell min-w-24"
            maxlength="80"
            aria-label={`Name of part ${i + 1}`}
            disabled={!writes}
            {@attach typed(() => part.name)}
            onchange={(event) => onset("Name of a part", changed(i, { name: event.currentTarget.value }))}
          /></td
        >
        {#each NUMBERS as [key, name] (key)}
          <td class="w-16 p-0"
            ><NumberCell
              value={part[key]}
              label={`${name}, ${part.name}`}
              quantity="length"
              {units}
              step={0.01}
              disabled={!writes || (key === "thickness_m" && part.lies)}
              onset={(value) => onset(`${name} of ${part.name}`, changed(i, { [key]: value ?? 0 }))}
            /></td
          >
        {/each}
        {#each ["colour", "colour_low"] as const as key (key)}
          <td class="w-8 px-1"
            ><input
              type="color"
              class="block h-6 w-7 cursor-pointer border border-line bg-ground p-0.5"
              aria-label={`${key === "colour" ? "Colour" : "Colour at the foot"}, ${part.name}`}
              disabled={!writes}
              value={part[key] ?? part.colour}
              oninput={(event) => ontry(changed(i, { [key]: event.currentTarget.value }))}
              onchange={() => ondrop(`Colour of ${part.name}`)}
            /></td
          >
        {/each}
        <td class="w-7 px-1 text-right">
          {#if writes && parts.length > 1}<button
              class="cursor-pointer px-1 text-muted hover:text-ink"
              aria-label={`Remove ${part.name}`}
              onclick={() =>
                onset(
                  `Remove ${part.name}`,
                  parts.filter((_, at) => at !== i),
                )}>✕</button
            >{/if}
        </td>
      </tr>
    {:else}
      <tr
        ><td class="px-3 py-3 text-muted" colspan="6"
          >It has no parts: it is a box as large as the layer. Take something from the shelf.</td
        ></tr
      >
    {/each}
  </tbody>
</table>
