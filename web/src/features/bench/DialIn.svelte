<!-- Dial in: the barrels of the selected set-up, the first of them always, the others on demand. -->
<script lang="ts" module>
  export const FIRST_DIALS = 5;
</script>

<script lang="ts">
  import type { Bench } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import type { Solving } from "./solving.svelte";
  import Barrel from "./Barrel.svelte";

  let {
    bench,
    set,
    solving,
    units,
    turns,
    open,
    more = $bindable(),
  }: {
    bench: BenchState;
    set: NonNullable<Bench["selected"]>;
    solving: Solving;
    units: Bench["units"];
    /** Whether the barrels turn. */
    turns: boolean;
    /** Whether all of them are shown; `more` is what was asked for. */
    open: boolean;
    more: boolean;
  } = $props();
</script>

<section
  class={[
    "relative shrink-0 overflow-y-auto border-t border-line pr-9 pl-3.5 max-lg:!h-auto max-lg:pr-3.5",
    open ? "h-[158px] has-[[role=alert]]:h-auto" : "h-[80px] lg:contain-strict has-[[role=alert]]:h-[124px]",
  ]}
  aria-label={`Dial in: ${set.set_up_name}`}
>
  <button
    class={[
      "absolute top-0 right-0 h-full w-6 cursor-pointer border-l border-line text-muted",
      "[writing-mode:vertical-rl] hover:text-ink max-lg:hidden",
    ]}
    aria-expanded={open}
    onclick={() => (more = !more)}>{open ? "fewer" : `${set.dials.length - FIRST_DIALS} more`}</button
  >
  <div class="grid grid-cols-5 gap-x-4 gap-y-2 pb-1.5 max-lg:grid-cols-3 max-sm:grid-cols-1">
    {#each set.dials as dial (dial.field)}
      <div class="min-w-0 snap-start">
        <Barrel
          {dial}
          held={turns ? bench.trial.now("set_ups", set.set_up_id, dial.field, dial.value) : undefined}
          {units}
          problem={bench.problemAt(dial.field)}
          disabled={!turns}
          locked={solving.locks.includes(dial.field)}
          lockable={turns && set.lockable.includes(dial.field)}
          onstart={() => bench.trial.remember()}
          onturn={(value) => bench.try("set_ups", set.set_up_id, { [dial.field]: value })}
          onset={() => bench.commit(dial.label)}
          oncancel={() => bench.forget()}
          onlock={() => solving.toggle(dial.field)}
        />
      </div>
    {/each}
  </div>
</section>
