<!-- Through the lens: the composite or one layer as filmed, before or after the finish, at any frame. -->
<script lang="ts">
  import Slider from "../../lib/ui/Slider.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Bench, Item } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import LensView from "./LensView.svelte";

  let {
    bench,
    data,
    item,
    onfinish,
    onframe,
  }: {
    bench: BenchState;
    data: Bench;
    /** What is pointed at. */
    item: Item | null;
    onfinish: (after: boolean) => void;
    onframe: (frame: number) => void;
  } = $props();
</script>

<div class="flex min-h-0 flex-col overflow-hidden border-r border-line max-lg:aspect-[4/3]">
  <div class="flex h-[35px] shrink-0 items-center gap-3 border-b border-line px-3.5">
    <Choice
      label="Through the lens"
      value={bench.looking.asFilmed ? "filmed" : "composite"}
      options={[
        ["composite", "Composite"],
        ["filmed", "As filmed"],
      ]}
      onchange={(value) => {
        bench.looking.asFilmed = value === "filmed";
        void bench.look();
      }}
    />
    {#if data.finish}
      <button
        class="link truncate text-muted"
        aria-pressed={bench.looking.afterFinish}
        onclick={() => onfinish(!bench.looking.afterFinish)}
        {@attach tip(() => data.finish)}
        >{bench.looking.afterFinish ? "after" : "before"} the finish <span class="key">f</span></button
      >
    {/if}
    <div class="ml-auto flex min-w-0 items-center gap-2 text-sm text-muted">
      <span class="max-sm:hidden">Frame</span>
      <Slider
        label="Frame"
        class="w-32 min-w-0"
        most={Number(data.shot.values.length_frames) - 1}
        value={bench.looking.frame}
        onchange={onframe}
      />
      <span class="num w-20 text-right whitespace-nowrap"
        >{data.frame} / {Number(data.shot.values.length_frames) - 1}</span
      >
    </div>
  </div>
  <div class="min-h-0 flex-1 bg-black">
    <LensView
      bench={data}
      selected={bench.looking.selected}
      {item}
      picture={bench.picture}
      asFilmed={bench.looking.asFilmed}
    />
  </div>
</div>
