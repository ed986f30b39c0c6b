<!--
  One take: the verdict that it was given, what was not as planned, what shows; and how it stands against the
  plan of now.
-->
<script lang="ts">
  import { answered, client, Offline, type Schemas } from "../../lib/api/client";
  import { session } from "../../lib/session.svelte";
  import Counts from "../../lib/ui/Counts.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { clock } from "../../lib/ui/when";
  import FromFile from "./FromFile.svelte";

  let {
    take,
    brief = false,
    files = [],
    onmark,
  }: {
    take: Schemas["TakeOut"];
    brief?: boolean;
    files?: readonly Schemas["FromFileOut"][];
    onmark?: (take: Schemas["TakeOut"]) => void;
  } = $props();
  let open = $state(false);
  let now = $state.raw<Schemas["TakeNowOut"] | null>(null);
  let away = $state(false);
  const FILLED = {
    "": "",
    plan: "What nobody sent was filled from the plan as it stood when the take arrived.",
    later: "Logged before takes kept everything: lamps, backing and kit are from the plan as it stood later.",
  };
  const judgedAs = $derived(`judged ${clock(take.judged_at)} against ${take.against}`);
  /** Another telephone was quicker: what was called out is not its number. */
  const slatedAs = $derived(
    take.slate_number && take.slate_number !== take.number ? ` · slated as take ${take.slate_number}` : "",
  );
  const marked = $derived(
    take.marks.length
      ? `, marked at ${take.marks.map((mark) => `${mark.at_s.toFixed(1)} s (${mark.step})`).join(", ")}`
      : "",
  );
  const faults = $derived(take.items.filter((item) => item.verdict !== "holds"));
  /**
   * What is said otherwise now than it was given, as far as it matters: another verdict, or another amount of
   * what does not hold.
   */
  const moved = $derived.by(() => {
    const given = Object.fromEntries(take.items.map((one) => [one.item, one]));
    return (now?.items ?? [])
      .map((one) => ({ ...one, was: given[one.item] }))
      .filter(({ was, ...one }) => {
        const matters = one.verdict !== "holds" || (was && was.verdict !== "holds");
        return matters && (one.verdict !== was?.verdict || one.amount_text !== was.amount_text);
      });
  });

  async function judge() {
    try {
      const query = {
        units: session.units,
        school: session.school,
      } as const;
      const path = { take_id: take.id };
      now = await answered(client.GET("/api/takes/{take_id}/now", { params: { path, query } }));
      away = false;
    } catch (error) {
      if (!(error instanceof Offline)) throw error;
      away = true;
    }
  }
</script>

<article>
  <div class="flex items-center gap-2.5">
    <Verdict verdict={take.verdict} size={brief ? 14 : 20} label={false} />
    <h3 class={brief ? "" : "text-lg"}>
      Take {take.number}: {take.verdict}
    </h3>
    {#if take.circled}<span class="border border-ink px-1.5 text-sm font-strong">circled</span>{/if}
    {#if onmark}
      <button class="btn ml-auto" onclick={() => onmark(take)}>{take.circled ? "Uncircle" : "Circle"}</button>
    {/if}
  </div>
  <p class="mt-1 text-muted">
    {take.slate}{slatedAs} · {clock(take.recorded_at)} · {take.recorded_by} · {judgedAs}
  </p>
  {#if !brief}<p class="mt-1"><Counts shows={take.shows} tight={take.tight} holds={take.holds} /></p>{/if}
  {#if take.differences.length}
    <p class="mt-1">
      Not as planned: {#each take.differences as one, i (one.field)}{i ? ", " : ""}{one.label.toLowerCase()}
        <b class="num">{one.after}</b> <span class="text-muted">(planned {one.before})</span>{/each}
    </p>
  {/if}
  {#if take.rolled_s}<p class="mt-1">
      Rolled <b class="num">{take.rolled_s.toFixed(0)} s</b> by its steps{marked}
    </p>{/if}
  {#if take.in_it}<p class="mt-1">In it: {take.in_it}</p>{/if}
  {#if take.note}<p class="mt-1">“{take.note}”</p>{/if}
  <FromFile {files} />
  {#if FILLED[take.filled]}<p class="mt-1 text-muted">{FILLED[take.filled]}</p>{/if}
  {#if faults.length}
    {#if brief}<button class="link mt-1 mr-4" aria-expanded={open} onclick={() => (open = !open)}
        >{faults.length} {faults.length === 1 ? "item does" : "items do"} not hold</button
      >{/if}
    {#if open || !brief}
      <ul class="mt-2 grid gap-1.5">
        {#each faults as item (item.item)}
          <li class="grid grid-cols-[auto_1fr_auto] items-baseline gap-x-2">
            <Verdict verdict={item.verdict} /><b>{item.label}</b><span class="num"
              ><b>{item.amount_text}</b> <span class="text-muted">{item.unit}</span></span
            >
            <span class="col-span-2 col-start-2 text-muted">{item.sentence}</span>
            {#if item.to_do}<span class="col-span-2 col-start-2">→ {item.to_do}</span>{/if}
          </li>
        {/each}
      </ul>
    {/if}
  {:else}<p class="mt-1 text-muted">Everything holds.</p>{/if}
  {#if now}
    <div class="mt-2 border-t border-line pt-1.5">
      <p class="flex flex-wrap items-center gap-x-3">
        <b>Judged now: {now.verdict}</b>
        <Counts shows={now.shows} tight={now.tight} holds={now.holds} />
        <span class="text-muted">against {now.against} as it stands</span>
        <button class="link text-muted" onclick={() => (now = null)}>close</button>
      </p>
      {#if moved.length}
        <ul class="mt-1 grid gap-1">
          {#each moved as item (item.item)}
            <li class="grid grid-cols-[auto_1fr_auto] items-baseline gap-x-2">
              <Verdict verdict={item.verdict} /><span>{item.label}</span><span class="num"
                >{#if item.was}<span class="text-muted">{item.was.amount_text} →</span>{/if}
                {item.amount_text} <span class="text-muted">{item.unit}</span></span
              >
            </li>
          {/each}
        </ul>
      {:else}<p class="mt-1 text-muted">Nothing that matters has moved since.</p>{/if}
    </div>
  {:else}
    <button class="link mt-1 text-muted" onclick={judge}>Judge it now</button>
    {#if away}<span role="status" class="ml-2">The server cannot be reached.</span>{/if}
  {/if}
</article>
