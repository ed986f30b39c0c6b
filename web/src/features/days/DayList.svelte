<!-- On a telephone: one day as a list, the next job on top. -->
<script lang="ts">
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { clockOf, lasting, type DaysBoard } from "./days.svelte";

  let { board }: { board: DaysBoard } = $props();
  const days = $derived(board.days);
  const today = new Date().toISOString().slice(0, 10);
  let chosen = $state<string | null>(null);
  const next = $derived(
    days.find((day) => day.date >= today && day.slots.length) ??
      days.find((day) => day.slots.length) ??
      days[0],
  );
  const day = $derived(days.find((one) => one.date === chosen) ?? next);
  const index = $derived(day ? days.indexOf(day) : 0);
</script>

{#if day}
  <section class="flex min-h-0 flex-1 flex-col sm:hidden" aria-label={day.name}>
    <div class="flex items-stretch border-b border-line">
      <button
        class="min-h-11 px-4"
        aria-label="The day before"
        disabled={index === 0}
        onclick={() => (chosen = days[index - 1]!.date)}>‹</button
      >
      <div class="flex-1 self-center text-center">
        <b>{day.name}</b>
        <div class="text-sm text-muted">
          {day.places.join(", ") || "nothing is filmed"}{day.daylight[0]
            ? `; sun ${clockOf(day.daylight[0].start_min)} to ${clockOf(day.daylight[0].end_min)}`
            : ""}
        </div>
      </div>
      <button
        class="min-h-11 px-4"
        aria-label="The day after"
        disabled={index === days.length - 1}
        onclick={() => (chosen = days[index + 1]!.date)}>›</button
      >
    </div>
    <ol class="min-h-0 flex-1 overflow-y-auto">
      {#each [...day.slots].sort((a, b) => a.start_min - b.start_min) as slot, number (slot.job)}
        {@const job = board.job(slot.job)}
        {@const breaks = board.breaksOf(slot.job)}
        {#if job}
          {#if number && slot.change_min}<li class="border-b border-line px-3.5 py-1.5 text-sm text-muted">
              change {slot.change.map((one) => one.kind).join(", ")}, {lasting(slot.change_min)}
            </li>{/if}
          <li class="flex gap-3 border-b border-line px-3.5 py-2.5">
            <span class="num w-12 shrink-0 text-lg">{clockOf(slot.start_min)}</span>
            <div class="min-w-0 flex-1">
              <div class="text-lg">
                <span class="num">{job.shots[0]}</span> <b>{job.name}</b>
              </div>
              <div class="text-muted">
                takes <span class="num">{clockOf(slot.takes_from_min)}</span> to
                <span class="num">{clockOf(slot.takes_to_min)}</span>, done
                <span class="num">{clockOf(slot.end_min)}</span>
              </div>
              <div class="text-muted">
                {[job.place, job.camera, job.lens, job.model, job.backing].filter(Boolean).join(", ")}
              </div>
              <div class="text-muted">{job.people.join(", ")}</div>
              {#each breaks as one, number (number)}
                <p class="mt-1 flex gap-1.5">
                  <span class="mt-0.5"><Verdict verdict={one.warns ? "tight" : "shows"} label={false} /></span
                  >{one.sentence}
                </p>
              {/each}
            </div>
          </li>
        {/if}
      {:else}
        <li class="px-3.5 py-4 text-muted">Nothing is filmed on this day.</li>
      {/each}
    </ol>
  </section>
{/if}
