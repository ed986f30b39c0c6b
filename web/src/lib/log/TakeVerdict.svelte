<!-- One take: its verdict, what was not as planned, and what shows. -->
<script lang="ts">
  import type { Schemas } from "../api/client";
  import Counts from "../ui/Counts.svelte";
  import Verdict from "../ui/Verdict.svelte";

  let {
    take,
    brief = false,
    onmark,
  }: { take: Schemas["TakeOut"]; brief?: boolean; onmark?: (take: Schemas["TakeOut"]) => void } = $props();
  let open = $state(false);
  const faults = $derived(take.items.filter((item) => item.verdict !== "holds"));
  const time = $derived(new Date(take.recorded_at).toLocaleTimeString([], { hour: "2-digit", minute: "2-digit" }));
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
  <p class="mt-1 text-muted">{take.slate} · {time} · {take.recorded_by} · against {take.against}</p>
  {#if !brief}<p class="mt-1"><Counts shows={take.shows} tight={take.tight} holds={take.holds} /></p>{/if}
  {#if take.differences.length}
    <p class="mt-1">
      Not as planned: {#each take.differences as one, i (one.field)}{i ? ", " : ""}{one.label.toLowerCase()}
        <b class="num">{one.after}</b> <span class="text-muted">(planned {one.before})</span>{/each}
    </p>
  {/if}
  {#if take.note}<p class="mt-1">“{take.note}”</p>{/if}
  {#if faults.length}
    {#if brief}<button class="link mt-1" aria-expanded={open} onclick={() => (open = !open)}
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
          </li>
        {/each}
      </ul>
    {/if}
  {:else}<p class="mt-1 text-muted">Everything holds.</p>{/if}
</article>
