<!-- One shot on the wall: its picture, what it is, what will show, what is left to do. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Schemas } from "../../lib/api/client";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import ShotPicture from "./ShotPicture.svelte";
  import { day, hours, plural } from "../../lib/hours";

  let {
    shot,
    aspect,
    onkeydown,
  }: { shot: Schemas["WallLine"]; aspect: number; onkeydown: (event: KeyboardEvent) => void } = $props();
</script>

<a
  href={`#/shots/${shot.id}/plan`}
  data-wall={shot.id}
  class="flex min-w-0 flex-col border border-line bg-panel hover:border-mark"
  {onkeydown}
>
  <ShotPicture {shot} {aspect} />
  <span class="flex min-w-0 flex-1 flex-col gap-0.5 px-2.5 pt-1.5 pb-2">
    <span class="flex items-baseline gap-2">
      <span class="num text-muted">{shot.code}</span>
      <b class="min-w-0 flex-1 truncate text-lg" {@attach tip(() => shot.title)}>{shot.title}</b>
      {#if shot.verdict}
        <span class="flex shrink-0 items-center gap-1.5" {@attach tip(() => shot.worst)}
          ><Verdict verdict={shot.verdict} size={13} label={false} />{shot.verdict === "holds"
            ? vocabulary.verdict("holds").single
            : `${shot[shot.verdict]} ${vocabulary.verdict(shot.verdict).several}`}</span
        >
      {:else if shot.pending}<span class="text-muted">…</span>{/if}
    </span>
    <span class="line-clamp-2 min-h-[2lh] text-muted" {@attach tip(() => shot.description)}
      >{shot.recipes.length ? shot.recipes.join("; ") : shot.description || "Nothing said of it yet."}</span
    >
    <span class="mt-auto grid grid-cols-[1fr_auto] gap-x-3 pt-0.5 text-sm">
      <span class="truncate"
        ><span class="num">{shot.layers}</span>
        {shot.layers === 1 ? "layer" : "layers"}{shot.filmed
          ? `, ${shot.shot_layers} of ${shot.filmed} shot`
          : ""}</span
      >
      <span class="num text-right">{hours(shot.hours_left)} left</span>
      <span class="truncate">
        {#if shot.open_hazards.length}<b {@attach tip(() => shot.open_hazards.join(", "))}
            >{plural(shot.open_hazards.length, "caution")} open</b
          >{:else if shot.ready}<b class="bg-ink px-1 text-ground">ready</b>{:else}<span class="text-muted"
            >{shot.hazards.length ? "cautions signed off" : "no cautions"}</span
          >{/if}
      </span>
      <span class={["text-right", shot.shoot_on ? "num" : "text-muted"]}
        >{day(shot.shoot_on) || "no day yet"}</span
      >
    </span>
  </span>
</a>
