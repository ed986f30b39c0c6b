<!-- Takes that wait on this device: what each would be given, and what was refused, to be mended. -->
<script lang="ts">
  import { outbox, type Kept } from "../../lib/offline/outbox.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { clock } from "../../lib/ui/when";
  import Stills from "./Stills.svelte";
  import type { ShotStills } from "./stills.svelte";

  let {
    takes,
    mending = "",
    stills,
    onback,
    scrolls = false,
  }: {
    takes: Kept[];
    mending?: string;
    /** Where photographs can be put onto them. */
    stills?: ShotStills;
    onback?: (key: string) => void;
    /** Beside what has to stay in reach however many wait: what is new, and what was refused, on top. */
    scrolls?: boolean;
  } = $props();
  const MANY = 2;
  const listed = $derived(
    scrolls ? [...takes].reverse().sort((a, b) => Number(!!b.problem) - Number(!!a.problem)) : takes,
  );
  const slated = (one: Kept) =>
    [one.code, one.name, one.number && `take ${one.number}`].filter(Boolean).join(" · ");
</script>

{#snippet listing()}
  {#each listed as one (one.key)}
    <div class="py-0.5">
      {#if one.problem}<p>
          <b>{slated(one)}: not logged.</b>
          {one.problem}
          {#if one.key === mending}<span class="text-muted">It is on the card: mend it and log it.</span>
          {:else if onback}<button class="link ml-1" onclick={() => onback(one.key)}
              >Put it back and mend it</button
            >{/if}
        </p>
      {:else if outbox.box.unkept.includes(one.key)}<p>
          <b>{slated(one)}: this device has no room to keep the take.</b>
          Leave this page open until it is sent.
        </p>
      {:else}<p>
          {slated(one)}: one take is waiting to be sent{one.body.recorded_at
            ? `, logged ${clock(one.body.recorded_at)}`
            : ""}.
        </p>{/if}
      {#if one.told}<p class="flex items-baseline gap-2">
          <Verdict verdict={one.told.verdict} label={false} /><b>Foretold: {one.told.verdict}.</b>
          <span class="text-muted">{one.told.sure || "Exact for what was set."}</span>
        </p>{/if}
      {#if stills}<Stills
          {stills}
          layer={one.layer}
          take={null}
          takeKey={one.key}
          what={slated(one)}
          writes
        />{/if}
    </div>
  {/each}
{/snippet}

{#if scrolls && takes.length > MANY}
  <p><span class="num font-strong">{takes.length}</span> takes wait here.</p>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="max-h-[26dvh] overflow-y-auto" role="group" aria-label="Takes that wait here" tabindex="0">
    {@render listing()}
  </div>
{:else}
  {@render listing()}
{/if}
