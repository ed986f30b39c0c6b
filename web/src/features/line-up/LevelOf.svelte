<!-- The telephone laid on the camera: tilt, roll and heading beside what is planned. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import { Level } from "./level.svelte";
  import type { LineUp } from "./lining.svelte";

  let { known }: { known: LineUp } = $props();
  const level = new Level();
  onDestroy(() => level.stop());
  const handheld = window.matchMedia("(pointer: coarse)").matches;
  const lines = $derived.by(() => {
    const now = level.now;
    if (!now) return [];
    const rows = [
      { name: "Tilt", is: now.tilt, plan: known.tilt_deg, more: "down", less: "up" },
      { name: "Roll", is: now.roll, plan: known.roll_deg, more: "to the left", less: "to the right" },
    ];
    return rows.map((row) => {
      const off = row.is - row.plan;
      const done = Math.abs(off) < Math.max(0.1, level.within);
      return {
        ...row,
        to_do: done ? "as planned" : `${Math.abs(off).toFixed(1)}° ${off > 0 ? row.more : row.less}`,
      };
    });
  });
</script>

{#if handheld || level.on}
  <section aria-label="Level" class="border-t border-line px-3.5 py-3">
    <div class="flex flex-wrap items-center gap-2">
      <h2 class="text-muted">Level</h2>
      {#if level.on}
        <button class="btn ml-auto min-h-11 !border-line" onclick={() => level.prove()}
          >{level.first ? "Turned round: read" : "Prove it"}</button
        >
        <button class="btn min-h-11 !border-line" onclick={() => level.stop()}>Stop</button>
      {:else}
        <button class="btn ml-auto min-h-11 !border-line" onclick={() => void level.begin()}
          >Use this telephone</button
        >
      {/if}
    </div>
    {#if level.problem}<p class="mt-1" role="alert">{level.problem}</p>{/if}
    {#if level.on}
      {#if level.first}<p class="mt-1">Turn it round by half a turn on the same surface, and read again.</p>
      {:else}<p class="mt-1 text-muted">
          Lay it on the camera, screen up, its top towards the set. ± {Math.max(level.within, 0.1).toFixed(
            1,
          )}°.
        </p>{/if}
      {#each lines as line (line.name)}
        <p class="mt-1 flex items-baseline gap-3">
          <span class="w-12">{line.name}</span>
          <b class="num text-xl">{line.is.toFixed(1)}°</b>
          <span class="num text-muted">plan {line.plan.toFixed(1)}°</span>
          <b class="ml-auto">{line.to_do}</b>
        </p>
      {/each}
      {#if level.now && level.now.heading !== null}
        <p class="mt-1 flex items-baseline gap-3">
          <span class="w-12">Looks</span>
          <b class="num text-xl">{level.now.heading.toFixed(0)}°</b>
          <span class="num text-muted">plan {known.heading_deg.toFixed(0)}°</span>
          <span class="ml-auto text-muted">iron near it pulls it</span>
        </p>
      {/if}
    {/if}
  </section>
{/if}
