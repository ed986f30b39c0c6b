<!--
  Every way to make the shot in one table: hours by craft with their formula, kit, days, cautions, what will
  show.
-->
<script lang="ts">
  import { untrack } from "svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import type { Units } from "../../lib/units";
  import type { PlanState } from "./plan.svelte";
  import { hours } from "../../lib/hours";

  let { plan, units }: { plan: PlanState; units: Units } = $props();
  const costing = $derived(plan.plan?.costing ?? null);
  const crafts = $derived(
    (costing?.crafts ?? []).filter((craft) =>
      costing?.options.some((one) => one.crafts.some((own) => own.craft === craft)),
    ),
  );
  let opened = $state(untrack(() => plan.plan?.costing.chosen ?? ""));
  const of = (option: NonNullable<typeof costing>["options"][number], craft: string) =>
    option.crafts.filter((one) => one.craft === craft).reduce((sum, one) => sum + one.hours, 0);
  const longest = $derived(Math.max(1, ...(costing?.options ?? []).map((one) => one.hours)));
  const job = $derived((costing?.job ?? {}) as Record<string, unknown>);
</script>

{#if costing?.options.length}
  <div class="overflow-x-auto">
    <table class="w-full">
      <thead>
        <tr class="text-left">
          <th class="px-2 py-1 font-strong">Method</th>
          <th class="px-2 py-1 text-right font-strong">Hours</th>
          <th class="w-32 px-2 py-1 max-sm:hidden"><span class="sr-only">Share</span></th>
          {#each crafts as craft (craft)}<th class="px-2 py-1 text-right font-strong max-sm:hidden"
              >{craft}</th
            >{/each}
          <th class="px-2 py-1 text-right font-strong">Days</th>
          <th class="px-2 py-1 text-right font-strong max-sm:hidden">Other light later</th>
          <th class="px-2 py-1 font-strong max-sm:hidden">Kit it wants</th>
          <th class="px-2 py-1 font-strong max-sm:hidden">Will show</th>
          <th class="px-2 py-1"></th>
        </tr>
      </thead>
      <tbody>
        {#each costing.options as one (one.key)}
          {@const open = opened === one.key}
          <tr class={["border-t border-line align-top", one.chosen && "bg-panel"]}>
            <td class="min-w-36 px-2 py-1.5">
              <button
                class="cursor-pointer text-left"
                aria-expanded={open}
                onclick={() => (opened = open ? "" : one.key)}
                ><b class="underline decoration-dotted underline-offset-2">{one.name}</b></button
              >
              {#if costing.fitting.includes(one.key)}<span class="ml-1 text-sm text-muted">recipe</span>{/if}
              <span class="block text-sm text-muted">{one.layers.join(", ")}</span>
            </td>
            <td class="num px-2 py-1.5 text-right">{hours(one.hours)}</td>
            <td class="px-2 py-2.5 max-sm:hidden">
              <span
                class="flex h-2 border border-mark"
                style:width={`${(100 * one.hours) / longest}%`}
                aria-hidden="true"
              >
                {#each crafts as craft, i (craft)}<span
                    class={i % 2 ? "bg-mark" : "bg-ink"}
                    style:width={`${(100 * of(one, craft)) / Math.max(one.hours, 0.01)}%`}
                  ></span>{/each}
              </span>
            </td>
            {#each crafts as craft (craft)}
              {@const value = of(one, craft)}
              <td class="num px-2 py-1.5 text-right max-sm:hidden"
                >{value ? Number(value.toFixed(1)) : "–"}</td
              >
            {/each}
            <td class="num px-2 py-1.5 text-right">{one.days.toFixed(1)}</td>
            <td class="num px-2 py-1.5 text-right max-sm:hidden">{hours(one.mended.hours)}</td>
            <td class="max-w-52 px-2 py-1.5 max-sm:hidden">
              {#each one.wanted as kit (kit.what)}<span class="block"
                  >{#if !kit.has}<b>not there:</b>{/if}
                  {kit.what}</span
                >{:else}<span class="text-muted">nothing more</span>{/each}
            </td>
            <td class="max-w-72 px-2 py-1.5 max-sm:hidden">{one.shows.join(" ") || "–"}</td>
            <td class="px-2 py-1 text-right">
              {#if one.chosen}<b class="inline-block bg-ink px-2 py-0.5 text-ground">chosen</b>
              {:else}<button
                  class="btn !border-line"
                  disabled={!plan.writes}
                  onclick={() => plan.cost({ chosen: one.key })}>Choose</button
                >{/if}
            </td>
          </tr>
          {#if open}
            <tr class={one.chosen ? "bg-panel" : ""}>
              <td colspan={8 + crafts.length} class="px-2 pb-2">
                <p class="text-muted">{one.school}</p>
                <ul class="mt-1">
                  {#each one.crafts as craft, i (i)}<li>
                      {craft.craft} <span class="num">{hours(craft.hours)}</span>
                      <span class="num text-muted">= {craft.formula}</span>
                    </li>{/each}
                </ul>
                {#each one.savings as saving (saving.what)}<p>
                    {saving.what[0]!.toUpperCase()}{saving.what.slice(1)}
                    {saving.taken ? "saves" : "would save"}
                    <span class="num">{hours(saving.hours)}</span>{saving.taken ? ", and is so here." : "."}
                  </p>{/each}
                <p>
                  Other light on it once all is filmed: {one.mended.craft}
                  <span class="num">{hours(one.mended.hours)}</span>
                  <span class="num text-muted">= {one.mended.formula}</span>
                </p>
                {#if one.cautions.length}<p>Cautions: {one.cautions.join(", ")}.</p>{/if}
                <p class="sm:hidden">{one.shows.join(" ")}</p>
              </td>
            </tr>
          {/if}
        {/each}
      </tbody>
    </table>
  </div>
  <section class="mt-3 px-2">
    <h3 class="text-muted">
      What the hours follow from{costing.said.length ? "" : ", as the shot stands"}
      {#if costing.said.length && plan.writes}<button
          class="link ml-2"
          onclick={() => plan.cost(Object.fromEntries(costing.said.map((name) => [name, null])))}
          >as the shot stands again</button
        >{/if}
    </h3>
    <div class="gap-x-8 sm:columns-2 lg:columns-3">
      {#each costing.fields as field (field.name)}
        <div class="break-inside-avoid">
          <FieldRow
            {field}
            {units}
            label={costing.said.includes(field.name) ? `${field.title} ·` : field.title}
            value={job[field.name]}
            disabled={!plan.writes}
            problem={plan.asking.at(field.name)}
            onset={(value) => plan.cost({ [field.name]: value as number })}
          />
        </div>
      {/each}
    </div>
    <p class="mt-1 text-sm text-muted">
      A point behind a name says that somebody said it. The figures behind the formulas are the production's:
      <a class="link" href="#/figures">Rates and stock</a>.
    </p>
  </section>
{:else if costing}
  <p class="p-3 text-muted">No plates yet, so there is nothing to reckon. Choose a recipe first.</p>
{/if}
