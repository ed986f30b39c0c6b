<!--
  The tolerance ladder: every item on one axis in multiples of its own tolerance, worst first; one opens in
  place.
-->
<script lang="ts">
  import type { Bench, Item, Layer, Schemas } from "../../lib/api/client";
  import Formula from "../../lib/ui/Formula.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";

  type Row = { layer: Layer; item: Item; key: string };
  let {
    bench,
    opened = $bindable(),
    why = $bindable(),
    sources,
    writes,
    onopen,
    onfix,
    onaccept,
  }: {
    bench: Bench;
    opened: string | null;
    why: boolean;
    sources: Map<string, Schemas["SourceOut"]>;
    writes: boolean;
    onopen: (layer: number) => void;
    onfix: (layer: Layer, fix: Schemas["FixOut"]) => void;
    onaccept: (layer: Layer, item: Item, reason: string, withdraw: boolean) => Promise<string>;
  } = $props();

  // What judges first, worst first; then what somebody accepted; what only informs comes last.
  const rank = (item: Item) => (item.informs ? 2 : item.accepted ? 1 : 0);
  const rows = $derived(
    bench.layers
      .flatMap((layer) => layer.items.map((item): Row => ({ layer, item, key: `${layer.id}:${item.item}` })))
      .sort((a, b) => rank(a.item) - rank(b.item) || b.item.ladder - a.item.ladder),
  );
  const many = $derived(bench.layers.length > 2);
  const otherSchool = $derived(vocabulary.school(bench.school === "measured" ? "covered" : "measured"));

  let accepting = $state<string | null>(null);
  let reason = $state("");
  let problem = $state("");
  async function accept(row: Row) {
    problem = await onaccept(row.layer, row.item, reason, false);
    if (problem) return;
    accepting = null;
    reason = "";
  }

  // The axis: 0 to 1 holds, 1 to 2 tight, beyond 2 compressed so that everything stays on it.
  const HOLDS = 44;
  const TIGHT = 132;
  const END = 212;
  function along(ladder: number): number {
    if (ladder <= 1) return ladder * HOLDS;
    if (ladder <= 2) return HOLDS + (ladder - 1) * (TIGHT - HOLDS);
    return TIGHT + (END - TIGHT) * (1 - 1 / (1 + (ladder - 2) / 2));
  }

  function toggle(row: Row) {
    opened = opened === row.key ? null : row.key;
    if (opened) onopen(row.layer.id);
  }
  const moveTo = (event: KeyboardEvent) => {
    if (event.key !== "ArrowDown" && event.key !== "ArrowUp") return;
    const all = [...(event.currentTarget as HTMLElement).querySelectorAll<HTMLElement>("li > button")];
    const at = all.indexOf(document.activeElement as HTMLElement);
    if (at < 0) return;
    event.preventDefault();
    all[Math.min(Math.max(at + (event.key === "ArrowDown" ? 1 : -1), 0), all.length - 1)]?.focus();
  };
</script>

<section class="flex h-full min-h-0 flex-col bg-ground" aria-label="Will it show?">
  <h2 class="sr-only">Will it show?</h2>
  <div class="row h-[29px] shrink-0 border-b border-line px-4.5 max-sm:!hidden">
    <span></span>
    <svg width={END + 12} height="14" class="overflow-visible" aria-hidden="true">
      <text x="0" y="11" class="axis">0</text>
      <text x={HOLDS} y="11" class="axis" text-anchor="middle">holds</text>
      <text x={TIGHT} y="11" class="axis" text-anchor="middle">tight</text>
      <text x={END} y="11" class="axis" text-anchor="end">shows</text>
    </svg>
  </div>
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <ul class="min-h-0 flex-1 overflow-y-auto" onkeydown={moveTo}>
    {#each rows as row (row.key)}
      {@const open = opened === row.key}
      <li class={["border-b border-line", open && "bg-panel"]}>
        <button
          class="row w-full cursor-pointer px-4.5 py-1 text-left hover:bg-panel max-sm:px-3"
          aria-expanded={open}
          onclick={() => toggle(row)}
        >
          <span class="min-w-0 truncate">
            <b>{row.item.label}</b>
            <span class="ml-1 text-muted"
              >{many && row.layer.id !== bench.selected?.layer_id ? `${row.layer.name} · ` : ""}{row.item
                .where}</span
            >
          </span>
          <svg width={END + 12} height="18" class="overflow-visible max-sm:hidden" aria-hidden="true">
            <path d={`M0 9 H${END}`} stroke="var(--line)" stroke-width="2" />
            <path d={`M${HOLDS} 3 V15 M${TIGHT} 3 V15`} stroke="var(--mark)" />
            {#if row.item.informs}
              <path
                d={`M0 9 H${along(row.item.ladder)}`}
                stroke="var(--mark)"
                stroke-width="2"
                stroke-dasharray="3 3"
              />
            {:else}
              <path
                d={`M0 9 H${along(row.item.ladder)}`}
                stroke={row.item.accepted ? "var(--mark)" : `var(--${row.item.verdict})`}
                stroke-width="3"
              />
              <g transform={`translate(${along(row.item.ladder) - 6} 3)`}>
                <rect x="0" y="0" width="12" height="12" fill={open ? "var(--panel)" : "var(--ground)"} />
                <Verdict verdict={row.item.verdict} label={false} />
              </g>
            {/if}
          </svg>
          <span class="flex items-baseline justify-end gap-1">
            <span class="sr-only"
              >{row.item.informs
                ? "for information"
                : row.item.accepted
                  ? "accepted"
                  : row.item.verdict},</span
            >
            {#if row.item.accepted}<span class="text-sm text-muted" aria-hidden="true">accepted</span>
            {:else if row.item.informs}<span class="text-sm text-muted" aria-hidden="true"
                >for information</span
              >{/if}
            <span class="self-center sm:hidden"><Verdict verdict={row.item.verdict} label={false} /></span>
            <b class="num text-[14px]">{row.item.amount_text}</b><span
              class="num w-13 shrink-0 text-sm text-muted">{row.item.unit}</span
            >
          </span>
        </button>
        {#if open}
          <div class="px-4.5 pb-3 max-sm:px-3">
            <p class="max-w-prose text-muted">
              {row.item.sentence}
              {#if row.item.covered_by}<span class="text-ink">Covered by {row.item.covered_by}.</span>{/if}
              {#if row.item.informs}<span class="text-ink"
                  >For information, it does not judge: {row.item.informs}.</span
                >{/if}
            </p>
            {#if row.item.accepted}
              <p class="mt-1">
                Accepted by {row.item.accepted.by}: “{row.item.accepted.reason}”
                {#if writes}<button
                    class="link ml-2"
                    onclick={() => onaccept(row.layer, row.item, "", true).then((said) => (problem = said))}
                    >Judge it again</button
                  >{/if}
              </p>
            {/if}
            {#if row.item.other_verdict !== row.item.verdict}
              <p class="mt-1 flex items-center gap-1.5">
                <Verdict verdict={row.item.other_verdict} label={false} />
                {otherSchool} would say {row.item.other_verdict}: up to {Number(
                  row.item.other_holds.toPrecision(2),
                )}
                {row.item.unit} holds. <span class="key">c</span>
              </p>
            {/if}
            <p class="mt-1">
              <Formula text={row.item.formula} />
              <button class="link ml-2" aria-expanded={why} onclick={() => (why = !why)}>why</button>
            </p>
            {#if why}
              <div class="mt-2 grid gap-x-8 gap-y-2 border-t border-line pt-2 lg:grid-cols-2">
                <dl class="grid grid-cols-[auto_1fr_auto] content-start gap-x-3">
                  {#each row.item.values ?? [] as value (value.symbol)}
                    <dt><Formula text={value.symbol} /></dt>
                    <dd class="text-muted">{value.meaning}</dd>
                    <dd class="num text-right">{value.text}</dd>
                  {/each}
                </dl>
                <ul class="content-start">
                  {#each row.item.sources as key (key)}
                    {@const source = sources.get(key)}
                    {#if source}
                      <li class="mb-1.5">
                        {source.title}. <span class="text-muted">{source.trust}. {source.note}</span>
                      </li>
                    {/if}
                  {/each}
                </ul>
              </div>
            {/if}
            {#if row.item.fixes?.length || (row.item.verdict !== "holds" && !row.item.accepted)}
              <div class="mt-2 flex flex-wrap gap-2">
                {#each row.item.fixes ?? [] as fix (fix.label)}
                  <button class="btn" disabled={!writes} onclick={() => onfix(row.layer, fix)}
                    >{fix.label}</button
                  >
                {/each}
                {#if row.item.verdict !== "holds" && !row.item.accepted && !row.item.informs}
                  <button
                    class="btn !border-line"
                    disabled={!writes}
                    aria-expanded={accepting === row.key}
                    onclick={() => (accepting = accepting === row.key ? null : row.key)}>Accept…</button
                  >
                {/if}
              </div>
            {/if}
            {#if accepting === row.key}
              <form
                class="mt-2 flex flex-wrap items-center gap-2"
                onsubmit={(event) => {
                  event.preventDefault();
                  void accept(row);
                }}
              >
                <label class="sr-only" for="reason">Why it may stay</label>
                <input
                  id="reason"
                  class="field min-w-40 flex-1"
                  placeholder="Why it may stay; the crew reads it on the card"
                  maxlength="400"
                  bind:value={reason}
                  aria-invalid={Boolean(problem)}
                />
                <button class="btn btn-solid">Accept</button>
                {#if problem}<p class="w-full" role="alert">{problem}</p>{/if}
              </form>
            {/if}
          </div>
        {/if}
      </li>
    {:else}
      <li class="p-4.5 text-muted">
        Nothing is held against the hero yet. Add a second layer, a model or an element, and every way in
        which it differs stands here, worst first.
      </li>
    {/each}
  </ul>
</section>

<style>
  .row {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 224px 98px;
    align-items: center;
    column-gap: 10px;
    min-height: 29px;
  }
  @media (max-width: 639px) {
    .row {
      grid-template-columns: minmax(0, 1fr) 118px;
      min-height: 44px;
    }
  }
  .axis {
    font: 450 11px var(--font-sans);
    fill: var(--muted);
  }
</style>
