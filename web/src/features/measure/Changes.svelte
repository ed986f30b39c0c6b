<!-- What a measurement changes in the production, verdict by verdict. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { plural } from "../../lib/hours";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let {
    effects,
    kept,
    keeps,
  }: {
    effects: Schemas["EffectsOut"];
    kept: boolean;
    /** Whether anything of it goes into the kit. */ keeps: boolean;
  } = $props();
  const nothing = $derived.by(() => {
    if (!keeps) return "It is told, and no verdict stands on it.";
    return effects.shots
      ? `${plural(effects.shots, "shot")} filmed with it: no verdict moves by a quarter of what holds.`
      : "No planned shot is filmed with it.";
  });
</script>

<section class="border-t border-line px-3.5 py-3" aria-labelledby="changes">
  <h2 id="changes">What it {kept ? "changed" : "changes"} in the production</h2>
  {#if effects.lines.length}
    <ul class="mt-1 max-w-3xl">
      {#each effects.lines as line (`${line.shot} ${line.layer} ${line.item}`)}
        <li class="flex flex-wrap items-baseline gap-x-4 border-b border-line py-1">
          <a class="link min-w-48 flex-1" href={`#/shots/${line.shot_id}/bench`}
            >{line.shot}, {line.layer}: <span class="lowercase">{line.item}</span></a
          >
          <span class="num whitespace-nowrap">
            <Verdict verdict={line.planned_verdict} />
            {line.planned}
            <span class="text-muted">→</span>
            <Verdict verdict={line.verdict} /> <b>{line.really}</b>
          </span>
          {#if line.then && line.then_verdict}
            <span class="basis-full text-sm text-muted sm:pl-4"
              >set to {line.to_do}: <span class="num">{line.then}</span></span
            >
          {/if}
        </li>
      {/each}
    </ul>
    {#if effects.left_out}<p class="mt-1 text-sm text-muted">
        And {plural(effects.left_out, "smaller change")}.
      </p>{/if}
    <p class="mt-2 max-w-prose text-sm text-muted">
      As it was planned, then as this camera really films it. The shot’s Bench sets it again.
    </p>
  {:else}<p class="mt-1 text-muted">{nothing}</p>{/if}
</section>
