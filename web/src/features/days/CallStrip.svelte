<!-- Somebody on a day of the board: when they are called, when they work, and, hollow, when they wait. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import { clockOf, lasting, SUN, type BoardDay, type DaysBoard } from "./days.svelte";

  let {
    board,
    day,
    person,
    from,
    to,
    width,
  }: {
    board: DaysBoard;
    day: BoardDay;
    person: string;
    /** First and last minute that are drawn over the width of the column, px. */
    from: number;
    to: number;
    width: number;
  } = $props();

  const LEFT = SUN + 4;
  const SEEN = 4; // px: what is less is what the grid leaves over
  const call = $derived(day.calls.find((one) => one.person === person));
  const works = $derived(day.slots.filter((slot) => board.job(slot.job)?.people.includes(person)));
  const x = (minute: number) => ((minute - from) / (to - from)) * (width - LEFT - 6);
  const told = $derived(
    call
      ? `${person}: called ${clockOf(call.from_min)}, gone ${clockOf(call.to_min)}` +
          (call.waits_min ? `, waits ${lasting(call.waits_min)}` : "")
      : "",
  );
</script>

{#snippet bar(start: number, end: number, look: string)}
  <div
    class={["absolute top-[5px] h-[8px]", look]}
    style:left={`${x(start) - x(call!.from_min)}px`}
    style:width={`${x(end) - x(start)}px`}
  ></div>
{/snippet}

{#if call}
  <div
    class="absolute top-0 h-full"
    style:left={`${LEFT + x(call.from_min)}px`}
    style:width={`${x(call.to_min) - x(call.from_min)}px`}
    {@attach tip(() => told)}
  >
    <div class="absolute top-[8px] h-[2px] w-full bg-mark"></div>
    {#each call.waits as { start_min: start, end_min: end } (start)}
      {#if x(end) - x(start) >= SEEN}{@render bar(start, end, "border border-tight bg-ground")}{/if}
    {/each}
    {#each works as slot (slot.job)}{@render bar(slot.start_min, slot.end_min, "bg-mark")}{/each}
  </div>
{/if}
