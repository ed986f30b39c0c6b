<!-- The line over the Bench: which shot, what will show, how it is judged, and what can be done next. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Bench, Layer } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import { session } from "../../lib/session.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Counts from "../../lib/ui/Counts.svelte";
  import UnitsChoice from "../../lib/ui/UnitsChoice.svelte";

  let {
    bench,
    data,
    shot,
    layer,
    onbasis,
    onsolve,
  }: {
    bench: BenchState;
    data: Bench;
    shot: string;
    layer: Layer | null;
    onbasis: (basis: "planned" | "shot") => void;
    onsolve: () => void;
  } = $props();
</script>

<div
  class="flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5 py-1"
>
  <a
    class={["btn !border-line !px-2", !data.previous_id && "hidden"]}
    href={`#/shots/${data.previous_id}/bench`}
    aria-label="Previous shot">‹</a
  >
  <h1 class="flex min-w-0 items-baseline gap-2 text-lg">
    <span class="num font-normal text-muted">{data.code}</span><span class="truncate">{data.title}</span>
  </h1>
  <a
    class={["btn !border-line !px-2", !data.next_id && "hidden"]}
    href={`#/shots/${data.next_id}/bench`}
    aria-label="Next shot">›</a
  >
  {#if data.layers.length}<span aria-live="polite"
      ><Counts shows={data.shows} tight={data.tight} holds={data.holds} accepted={data.accepted} /></span
    >{/if}
  {#if data.hero_basis !== "plan"}<span class="text-muted">hero by {data.hero_basis}</span>{/if}
  <div class="ml-auto flex flex-wrap items-center gap-2">
    {#if data.any_takes}
      <Choice
        label="Judged by"
        value={bench.looking.basis}
        options={[
          ["planned", "Planned"],
          ["shot", "As shot"],
        ]}
        onchange={onbasis}
      />
    {/if}
    <Choice
      label="School"
      value={session.school}
      options={vocabulary.schools.map((one) => [one.key as typeof session.school, one.name] as const)}
      onchange={(school) => session.prefer({ school })}
    />
    <UnitsChoice />
    <button
      class="btn !border-line"
      disabled={!bench.steps.can}
      onclick={() => bench.undo()}
      aria-label="Undo"
      {@attach tip(() => bench.steps.label)}>Undo</button
    >
    <button class="btn btn-solid" onclick={onsolve} disabled={!layer || layer.is_hero || !layer.set_up_id}
      >Solve <span class="key">s</span></button
    >
    <a class="btn !border-line" href={`#/shots/${shot}/photograph`}>Photograph</a>
    <a class="btn !border-line" href={`#/shots/${shot}/plan`}>Board</a>
    <a class="btn" href={`#/shots/${shot}/log`}>Log a take <span class="key">t</span></a>
  </div>
</div>
