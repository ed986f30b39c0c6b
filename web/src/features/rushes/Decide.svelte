<!--
  Keep, mend or shoot again: what each costs of the amount that is looked at; the decision with its reason.
-->
<script lang="ts">
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { when } from "../../lib/ui/when";
  import type { Column, Rushing } from "./rushing.svelte";

  let { rushing, column }: { rushing: Rushing; column: Column } = $props();
  type Choice = "keep" | "mend" | "again";
  let choosing = $state<Choice | null>(null);
  let way = $state("");
  let reason = $state("");
  const ways = $derived(
    rushing.ways?.columns.find((one) => one.what === column.what && one.amount === column.amount),
  );
  const mends = $derived(ways?.mends ?? []);
  const again = $derived(rushing.ways?.again ?? null);
  const decides = $derived(rushing.list?.role === "supervisor");
  const hours = (value: number | null | undefined) =>
    value == null ? "" : `, ${Number(value.toPrecision(2))} h`;
  const DONE = { keep: "Kept as it is", mend: "To be mended", again: "To be shot again" } as const;
  const ASKS = {
    keep: "Why it may stay",
    mend: "Why, for whoever composites",
    again: "Why, for the day's sheet",
  } as const;
  const CONFIRM = { keep: "Keep it", mend: "Mend it", again: "Shoot it again" } as const;
  const less = $derived<Choice | null>(ways?.pays ? "mend" : again ? "again" : null);

  function begin(choice: Choice) {
    choosing = choosing === choice ? null : choice;
    way = mends[0]?.way ?? "";
    reason = "";
  }
  async function decide() {
    if (!choosing) return;
    const done = await rushing.decide(column, choosing, choosing === "mend" ? way : "", reason);
    if (done) choosing = null;
  }
</script>

{#if column.decided}
  {@const { choice, by, at, reason: why } = column.decided}
  <p>
    <b>{DONE[choice]}</b>{choice === "mend" ? `: ${column.decided.way}` : ""}{hours(column.decided.hours)}.
    {#if why}“{why}”{/if}
    <span class="text-muted">{by}, {when(at)}</span>
    {#if decides}<button
        class="link text-muted"
        disabled={rushing.asking.busy}
        onclick={() => void rushing.decide(column, "")}>decide again</button
      >{/if}
  </p>
{:else if rushing.ways}
  {#if mends.length}
    <ul class="grid gap-0.5">
      {#each mends as mend (mend.way)}
        <li class="flex flex-wrap items-baseline gap-x-2">
          <span title={mend.formula}>{mend.way}{hours(mend.hours)}</span>
          {#each mend.costs as cost (cost.item)}
            <span class="flex items-center gap-1 text-muted"
              ><Verdict verdict={cost.verdict} />{cost.label.toLowerCase()}
              <span class="num">{Number(cost.amount.toPrecision(2))} {cost.unit}</span></span
            >
          {/each}
        </li>
      {/each}
    </ul>
  {:else}<p class="text-muted">No composite mends this.</p>{/if}
  {#if again}
    <p class="text-muted">
      <span title={again.formula}>Shooting again{hours(again.hours)} of all people together.</span>
      {again.when}
    </p>
  {/if}
  {#if decides}
    <div class="flex flex-wrap gap-2">
      <button
        class={["btn pointer-coarse:min-h-11", less === "again" && !choosing && "btn-solid"]}
        aria-expanded={choosing === "again"}
        onclick={() => begin("again")}>Shoot again</button
      >
      {#if mends[0]}<button
          class={["btn pointer-coarse:min-h-11", less === "mend" && !choosing && "btn-solid"]}
          aria-expanded={choosing === "mend"}
          onclick={() => begin("mend")}>Mend{hours(mends[0].hours)}</button
        >{/if}
      <button
        class="btn pointer-coarse:min-h-11"
        aria-expanded={choosing === "keep"}
        onclick={() => begin("keep")}>Keep</button
      >
    </div>
    {#if choosing}
      <form
        class="grid gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void decide();
        }}
      >
        {#if choosing === "mend" && mends.length > 1}
          <fieldset class="grid gap-1">
            <legend class="sr-only">How</legend>
            {#each mends as mend (mend.way)}
              <label class="flex items-center gap-2 pointer-coarse:min-h-11"
                ><input type="radio" name="way" value={mend.way} bind:group={way} />{mend.way}{hours(
                  mend.hours,
                )}</label
              >
            {/each}
          </fieldset>
        {/if}
        <label class="grid gap-1"
          ><span class="text-muted">{ASKS[choosing]}</span>
          <input class="field" maxlength="400" required={choosing === "keep"} bind:value={reason} />
        </label>
        {#if choosing === "again"}<p class="text-muted">
            Its circle is taken away, and its job stands among the days again.
          </p>{/if}
        <p class="flex items-center gap-2">
          <button class="btn pointer-coarse:min-h-11" disabled={rushing.asking.busy}
            >{CONFIRM[choosing]}</button
          >
          <button type="button" class="link text-muted" onclick={() => (choosing = null)}>leave</button>
        </p>
        {#if rushing.asking.said}<p role="alert">{rushing.asking.said}</p>{/if}
      </form>
    {/if}
  {/if}
  {#if rushing.ways.says}<p class="text-muted">{rushing.ways.says}</p>{/if}
{/if}
