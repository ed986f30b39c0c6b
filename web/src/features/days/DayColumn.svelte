<!--
  One day of the board behind its jobs: the sun's height, its windows, and between the jobs what is changed.
-->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import { clockOf, lasting, SUN, type BoardDay, type DaysBoard, type Slot } from "./days.svelte";

  let {
    board,
    day,
    from,
    to,
    px,
    top,
    width,
  }: {
    board: DaysBoard;
    day: BoardDay;
    /** First and last minute that are drawn, and how many px a minute is. */
    from: number;
    to: number;
    px: number;
    /** Where the first minute stands. */
    top: number;
    width: number;
  } = $props();

  const HIGHEST_DEG = 62;
  const y = (minute: number) => top + (minute - from) * px;
  const slots = $derived([...day.slots].sort((a, b) => a.start_min - b.start_min));
  /** The sun's height to the right, the day downward. */
  const sun = $derived.by(() => {
    const points: string[] = [];
    day.sun.forEach((height, step) => {
      const minute = (step * board.data!.latest_min) / (day.sun.length - 1);
      if (minute < from || minute > to) return;
      points.push(`${((Math.max(height, 0) / HIGHEST_DEG) * SUN).toFixed(1)},${y(minute).toFixed(1)}`);
    });
    return points.length ? `M0,${y(from)} L${points.join(" L")} L0,${y(to)} Z` : "";
  });
  const windows = $derived(slots.flatMap((slot) => slot.windows.map((window) => ({ ...window, slot }))));

  const told = (slot: Slot) =>
    slot.change
      .map((one) => (one.kind === "place" ? `to ${board.job(slot.job)?.place}` : one.kind))
      .join(", ");
</script>

<div class="relative shrink-0 border-l border-line" style:width={`${width}px`} style:height={`${y(to)}px`}>
  {#if sun}
    <svg width={SUN} height={y(to)} class="absolute left-0 top-0" aria-hidden="true">
      <path d={sun} fill="var(--line)" />
    </svg>
    {#each day.daylight as { start_min: rise, end_min: set } (rise)}
      {#if rise > from && rise < to}
        <span class="num absolute left-1 text-xs text-muted" style:top={`${y(rise) - 16}px`}
          >{clockOf(rise)}</span
        >
      {/if}
      {#if set > from && set < to}
        <span class="num absolute left-1 text-xs text-muted" style:top={`${y(set)}px`}>{clockOf(set)}</span>
      {/if}
    {/each}
  {/if}
  {#each windows as window (`${window.slot.job} ${window.holds} ${window.start_min}`)}
    <div
      class={["absolute left-0 border", window.holds ? "border-holds" : "border-tight"]}
      style:width={`${SUN}px`}
      style:top={`${y(window.start_min)}px`}
      style:height={`${(window.end_min - window.start_min) * px}px`}
      {@attach tip(
        () =>
          `${window.holds ? "Holds" : "Tight"} ${clockOf(window.start_min)} to ${clockOf(window.end_min)}: ` +
          `the sun as the key of ${board.job(window.slot.job)?.name ?? ""}`,
      )}
    ></div>
  {/each}
  {#each slots as slot, number (slot.job)}
    {@const before = slots[number - 1]}
    {@const gap = before ? (slot.start_min - before.end_min) * px : 0}
    {#if before && gap >= 9}
      <div
        class={[
          "absolute flex items-center border-l border-dotted border-mark pl-2 text-muted",
          gap < 18 ? "text-xs leading-none" : "text-sm",
        ]}
        style:left={`${SUN + 8}px`}
        style:right="4px"
        style:top={`${y(before.end_min)}px`}
        style:height={`${gap}px`}
      >
        <span class="truncate"
          >{#if slot.change_min}<span class="num">{lasting(slot.change_min)}</span>
            {told(slot)}{:else}nothing to change{/if}{slot.idle_min >= 15
            ? `; ${lasting(slot.idle_min)} left`
            : ""}</span
        >
      </div>
    {/if}
  {/each}
</div>
