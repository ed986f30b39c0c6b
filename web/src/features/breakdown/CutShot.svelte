<!-- One shot in the cut: as wide as it is long, its board cropped to that, what is left under it. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Schemas } from "../../lib/api/client";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { hours, plural } from "../../lib/hours";
  import ShotPicture from "./ShotPicture.svelte";

  type Line = Schemas["WallLine"];
  type Joint = Schemas["Joint"];
  let {
    shot,
    width,
    seconds,
    chosen,
    joint,
    first,
    last,
    onchoose,
    onopen,
    onkeydown,
  }: {
    shot: Line;
    width: number;
    seconds: number;
    chosen: boolean;
    /** What the comparison with the shot before says. */
    joint: Joint | null;
    /** It begins or ends a line. */
    first: boolean;
    last: boolean;
    onchoose: () => void;
    onopen: () => void;
    onkeydown: (event: KeyboardEvent) => void;
  } = $props();

  const MOST = 12;
  /** Whether it was chosen before the pointer came: a second press opens it, as Enter does. */
  let was = false;
  const plates = $derived(
    Array.from({ length: Math.min(shot.filmed, MOST) }, (_, i) =>
      i < shot.shot_layers ? "shot" : "planned",
    ),
  );
  const shows = $derived(joint && joint.verdict !== "holds" ? joint : null);
  const left = $derived(
    [
      `${seconds.toFixed(1)} s`,
      shot.fault ? "" : `${hours(shot.hours_left)} left`,
      shot.open_hazards.length ? plural(shot.open_hazards.length, "caution") : shot.ready ? "ready" : "",
    ]
      .filter(Boolean)
      .join(" · "),
  );
</script>

<button
  class="group relative flex min-w-0 shrink-0 cursor-pointer flex-col text-left outline-none"
  style:width={`${width}px`}
  data-wall={shot.id}
  aria-pressed={chosen}
  onpointerdown={() => (was = chosen)}
  onclick={(event) => (was || !event.detail ? onopen() : onchoose())}
  onfocus={onchoose}
  {onkeydown}
>
  <span
    class={[
      "relative block h-[118px] w-full max-sm:h-[88px]",
      chosen && "outline-2 outline-offset-0 outline-ink",
      "group-focus-visible:outline-[3px] group-focus-visible:outline-ink",
    ]}
  >
    <span class={["block h-full overflow-hidden", !first && "pl-[4px]"]}
      ><ShotPicture {shot} fill width={width > 260 ? 800 : 400} /></span
    >
  </span>
  {#if shows}
    {@const colour = shows.verdict === "shows" ? "var(--shows)" : "var(--tight)"}
    <span
      class="absolute top-0 left-0 z-10 h-[118px] w-[5px] max-sm:h-[88px]"
      style:background={colour}
      aria-hidden="true"
    ></span>
    <span
      class={[
        "absolute top-[48px] z-20 border bg-[#131313] px-1.5 py-px text-sm leading-tight text-[#f0f0f0]",
        "whitespace-nowrap max-sm:top-[34px]",
        first ? "left-0" : "left-[2px] -translate-x-1/2",
      ]}
      style:border-color={colour}
      {@attach tip(() => shows.items[0]!.sentence)}>{shows.items[0]!.short}</span
    >
  {/if}
  <span class={["flex min-w-0 flex-col gap-px pt-1.5 pb-3", !last && "pr-2", !first && "pl-[4px]"]}>
    <span class="flex h-3.5 items-center gap-[3px]">
      {#each plates as plate, i (i)}
        <span
          class={[
            "size-[9px] border",
            plate === "shot" ? "border-ink bg-ink" : "border-dashed border-(--mark)",
          ]}
        ></span>
      {/each}
      {#if shot.filmed}<span class="sr-only">{shot.shot_layers} of {shot.filmed} plates shot.</span>{/if}
      <span class="ml-auto"
        >{#if shot.verdict}<Verdict verdict={shot.verdict} size={12} />{:else if shot.fault}<span
            class="text-sm"
            {@attach tip(() => shot.fault)}>not judged</span
          >{:else if shot.pending}<span class="text-muted">…</span>{/if}</span
      >
    </span>
    <span class="flex min-w-0 items-baseline gap-1.5">
      <span class="num text-muted">{shot.code}</span>
      <b class="min-w-0 truncate" {@attach tip(() => shot.title)}>{shot.title}</b>
    </span>
    <span class="truncate text-sm text-muted" {@attach tip(() => left)}>{left}</span>
  </span>
</button>
