<!--
  What the solver found: up to three ways, what shows least first, each with what it changes and costs; and
  the scales side by side.
-->
<script lang="ts">
  import type { Answer, Schemas } from "../../lib/api/client";
  import Counts from "../../lib/ui/Counts.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let {
    name,
    answers,
    busy,
    problem,
    writes,
    scale,
    scales,
    onuse,
    onscales,
    onscale,
    onstop,
    onclose,
  }: {
    name: string;
    answers: Answer[];
    busy: boolean;
    problem: string;
    writes: boolean;
    scale: number;
    scales: Schemas["ScaleRowOut"][] | "asked" | null;
    onuse: (answer: Answer) => void;
    onscales: () => void;
    onscale: (scale: number) => void;
    onstop: () => void;
    onclose: () => void;
  } = $props();
  const HEADS = ["Scale", "Size", "Distance", "Equal blur", "Rate", "Light", "Worst", ""];
</script>

{#snippet trying(what: string)}
  <p class="flex gap-4 p-4.5 text-muted">
    {what}<button class="link" onclick={onstop}>Stop</button>
  </p>
{/snippet}

<section class="flex h-full min-h-0 flex-col bg-ground" aria-label="Solve">
  <div class="flex h-[35px] shrink-0 items-center gap-3 border-b border-line px-4.5">
    <h2 class="truncate">Solve: {name}</h2>
    <button
      class="btn !border-line"
      aria-expanded={scales !== null}
      disabled={scales === "asked"}
      onclick={onscales}>Choose a scale</button
    >
    <button class="btn ml-auto" onclick={onclose}>Close <span class="key">Esc</span></button>
  </div>
  <div class="min-h-0 flex-1 overflow-y-auto" aria-live="polite">
    {#if scales === "asked"}
      {@render trying("Trying the common scales…")}
    {:else if scales}
      <table class="w-full border-collapse">
        <caption class="px-4.5 pt-2 pb-1 text-left text-muted"
          >The same thing at the common scales, each solved over the whole kit.</caption
        >
        <thead>
          <tr class="border-b border-line text-left text-muted">
            {#each HEADS as head (head)}<th class="px-1.5 py-1 font-normal first:pl-4.5">{head}</th>{/each}
          </tr>
        </thead>
        <tbody>
          {#each scales as row (row.scale)}
            <tr class={["border-b border-line align-top", row.scale === scale && "bg-panel"]}>
              <th scope="row" class="num py-1 pr-1.5 pl-4.5 text-left">1:{row.scale}</th>
              <td class="num px-1.5 py-1 text-sm">{row.size}</td>
              <td class="num px-1.5 py-1 text-sm">{row.distance}</td>
              <td class="num px-1.5 py-1 text-sm">{row.stop_wanted}</td>
              <td class="num px-1.5 py-1 text-sm">{Math.round(row.rate_wanted_fps)}</td>
              <td class="num px-1.5 py-1 text-sm">{row.light}</td>
              <td class="px-1.5 py-1">
                <span class="inline-flex items-center gap-1.5"
                  ><Verdict verdict={row.verdict} />{row.worst || "all holds"}</span
                >
                {#each row.against as one (one)}<span class="block text-sm text-muted">{one}</span>{/each}
              </td>
              <td class="py-1 pr-4.5 text-right"
                >{#if row.scale !== scale}<button
                    class="link"
                    disabled={!writes}
                    onclick={() => onscale(row.scale)}>use</button
                  >{:else}<span class="text-muted">now</span>{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {:else if busy}
      {@render trying("Trying every lens, stop, rate and ISO of the kit…")}
    {:else if problem}
      <p class="p-4.5" role="alert">{problem}</p>
    {:else if !answers.length}
      <p class="p-4.5">
        The locked values exclude everything that the kit has. Unlock one barrel and solve again.
      </p>
    {:else}
      {#each answers as answer, i (i)}
        <article class="border-b border-line px-4.5 py-3">
          <div class="mb-1.5 flex items-center gap-3">
            <Verdict verdict={answer.verdict} size={14} label={false} />
            <b class="text-lg">{i === 0 ? "Shows least" : `Way ${i + 1}`}</b>
            <Counts shows={answer.shows} tight={answer.tight} holds={answer.holds} />
            <button
              class={["btn ml-auto", i === 0 && "btn-solid"]}
              disabled={!writes}
              onclick={() => onuse(answer)}>Use this</button
            >
          </div>
          {#if answer.changes.length}
            <dl class="mb-2 grid grid-cols-[repeat(auto-fill,minmax(13rem,1fr))] gap-x-6">
              {#each answer.changes as change (change.field)}
                <div class="flex items-baseline gap-2 border-b border-line py-0.5">
                  <dt class="truncate">{change.label}</dt>
                  <dd class="num ml-auto whitespace-nowrap">
                    <span class="text-muted line-through">{change.before}</span> <b>{change.after}</b>
                  </dd>
                </div>
              {/each}
            </dl>
          {:else}<p class="mb-1">It stands as it should: nothing to change.</p>{/if}
          {#each answer.sentences as sentence (sentence)}<p class="max-w-prose text-muted">
              {sentence}
            </p>{/each}
        </article>
      {/each}
    {/if}
  </div>
</section>
