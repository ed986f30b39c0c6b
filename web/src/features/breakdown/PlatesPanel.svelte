<!-- The plates in filming order, why then, and what is ticked off at each. -->
<script lang="ts">
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import type { PlanState } from "./plan.svelte";

  let { plan }: { plan: PlanState } = $props();
</script>

{#if plan.plan?.plates.length}
  <table class="w-full">
    <thead class="max-sm:hidden"
      ><tr class="text-left">
        {#each ["", "Plate", "Set-up", "Why in this order", "Tick off"] as head, i (i)}<th
            class="px-2 py-1 font-strong">{head}</th
          >{/each}
      </tr></thead
    >
    <tbody>
      {#each plan.plan.plates as one, i (one.layer_id)}
        {@const again = i > 0 && plan.plan.plates[i - 1]!.set_up_id === one.set_up_id && one.set_up !== ""}
        <tr class="border-t border-line align-top max-sm:grid max-sm:grid-cols-[2rem_1fr] max-sm:py-1">
          <td class="num px-2 py-1.5 text-muted">{one.number}</td>
          <td class="px-2 py-1.5"
            ><b>{one.name}</b>{#if one.shot}<span class="ml-2 bg-ink px-1 text-ground">shot</span>{/if}
            <span class="block text-muted"
              >{vocabulary.kind(one.kind)}, {vocabulary.combine(one.combine, one.key_colour)}{one.scale !== 1
                ? `, 1:${one.scale}`
                : ""}{one.hero ? ", hero" : ""}</span
            ></td
          >
          <td class="px-2 py-1.5 max-sm:col-start-2"
            >{one.set_up ? (again ? "same, nothing moved" : one.set_up) : "–"}</td
          >
          <td class="max-w-80 px-2 py-1.5 max-sm:col-start-2">{one.why}</td>
          <td class="px-2 py-1 max-sm:col-start-2">
            {#each one.checks as check (check.text)}
              <label class="flex min-h-6.5 items-center gap-2 pointer-coarse:min-h-11"
                ><input
                  type="checkbox"
                  class="size-3.5 shrink-0 accent-(--text) pointer-coarse:size-6"
                  checked={check.done}
                  disabled={!plan.ticks}
                  onchange={(event) => plan.tick(one.layer_id, check.text, event.currentTarget.checked)}
                /><span class={check.done ? "text-muted line-through" : ""}>{check.text}</span></label
              >
            {/each}
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  <p class="mt-3 max-w-prose px-2 text-sm text-muted">{plan.plan.habits.join(" ")}</p>
{:else if plan.plan}
  <p class="p-3 text-muted">
    No plates yet. Choose a recipe: it fills the stack with plates, in the order in which they are filmed.
  </p>
{/if}
