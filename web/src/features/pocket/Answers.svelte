<!-- The answers of a card: each number with its unit, and the way back to a set-up. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Units } from "../../lib/units";
  import { grid, inWords, records, unitHere } from "./format";

  let {
    card,
    answer,
    units,
    dim,
    settable,
    onset,
    says,
  }: {
    card: Schemas["CalculationOut"];
    answer: Record<string, unknown>;
    units: Units;
    dim: boolean;
    settable: string[];
    onset?: (output: string) => void;
    says: (output: string) => string;
  } = $props();
</script>

<dl class={["grid grid-cols-[repeat(auto-fit,minmax(9.5rem,1fr))] gap-x-6 gap-y-1", dim && "opacity-40"]}>
  {#each card.outputs as output (output.name)}
    {@const value = answer[output.name]}
    {@const map = grid(value)}
    {#if !map && !records(value)}
      <div
        {@attach tip(() => output.help)}
        class={Array.isArray(value) && value.length > 4 ? "col-span-full" : ""}
      >
        <dt class="text-sm text-muted">{output.title}</dt>
        <dd class="flex items-baseline gap-1.5">
          <b class={["num", Array.isArray(value) && value.length > 4 ? "text-base" : "text-[19px]"]}
            >{value === null ? "—" : inWords(value, output.unit, units)}</b
          >
          <span class={value === null ? "text-sm text-muted" : "num text-muted"}
            >{value === null ? output.help : unitHere(output.unit, units)}</span
          >
          {#if onset && settable.includes(output.name) && typeof value === "number"}
            <button class="btn ml-2 print:hidden" onclick={() => onset(output.name)}
              >{says(output.name)}</button
            >
          {/if}
        </dd>
      </div>
    {/if}
  {/each}
</dl>
