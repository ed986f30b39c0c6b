<!-- What was measured of a recording by one question: numbers, their errors, in words; measured anew. -->
<script lang="ts">
  import Progress from "../../lib/ui/Progress.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { isGoing } from "../../lib/events/job.svelte";
  import { when } from "../../lib/ui/when";
  import { amountText, MARK_NAMES, ROWS, type Row, type Tab, type What } from "./rows";
  import type { Measured, Rushing } from "./rushing.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let { rushing, tab }: { rushing: Rushing; tab: Tab } = $props();
  const rush = $derived(rushing.rush!);
  const rows = $derived(ROWS[tab].filter((row) => !row.clip || rush.kind === "clip"));
  const others = $derived(
    rushing.lines.filter((one) => one.recording_id !== rush.recording_id && one.seen && !one.fault),
  );
  const nameOf = (id: number) => {
    const line = rushing.lines.find((one) => one.recording_id === id);
    return line ? `${line.layer}, take ${line.take_number} · ${line.name}` : "another recording";
  };
  // against what each is held: as it was last, else a clean plate, else nothing
  let chosen = $state<Partial<Record<What, string>>>({});
  const clean = $derived(others.find((one) => one.cleans !== null && one.cleans === rush.set_up_id));
  const measured = (row: Row) => rush.measured.find((one) => one.what === row.what);
  const against = (row: Row): string => {
    if (!row.against) return "";
    const last = measured(row)?.against_id;
    const usual = last ?? (row.against === "must" ? (clean ?? others[0])?.recording_id : undefined);
    return chosen[row.what] ?? (usual ? String(usual) : "");
  };
  const options = (row: Row) => [
    ...(row.against === "may"
      ? [["", row.what === "still" ? "its own last frame" : "nothing"] as const]
      : []),
    ...others.map((one) => [String(one.recording_id), nameOf(one.recording_id)] as const),
  ];
  const verdictOf = (done: Measured, amount: string) =>
    rush.columns.find((one) => one.what === done.what && one.amount === amount)?.verdict;
  const going = $derived(isGoing(rushing.measuring.job));
  const lacks = (row: Row) => {
    if (row.against === "must" && !against(row)) return "There is nothing yet to hold it against.";
    if (row.needs && !rushing.markOf(row))
      return `Mark ${row.marks.map((kind) => MARK_NAMES[kind]).join(" or ")} first.`;
    return "";
  };
</script>

<ul>
  {#each rows as row (row.what)}
    {@const done = measured(row)}
    {@const lack = lacks(row)}
    {@const mine = rushing.measures === row.what}
    <li class={["grid gap-1.5 border-b border-line px-3.5 py-2.5", rushing.shown === row.what && "bg-panel"]}>
      <div class="flex items-baseline gap-3">
        <h3 class="min-w-0 flex-1 truncate">{row.name}</h3>
        {#if done?.amounts[0]}
          {@const verdict = verdictOf(done, done.amounts[0].name)}
          <span class="num flex items-center gap-1.5 font-strong"
            >{amountText(done.amounts[0])}{#if verdict}<Verdict {verdict} />{/if}</span
          >
        {/if}
      </div>
      {#if done}
        <p>{done.says}</p>
        {#if done.amounts.length > 1}
          <dl class="grid grid-cols-[1fr_auto] gap-x-3 text-muted">
            {#each done.amounts.slice(1) as amount (amount.name)}
              <dt class="truncate">{amount.title}</dt>
              {@const verdict = verdictOf(done, amount.name)}
              <dd class="num flex items-center justify-end gap-1.5">
                {amountText(amount)}{#if verdict}<Verdict {verdict} />{/if}
              </dd>
            {/each}
          </dl>
        {/if}
        <p class="text-sm text-muted">
          {#if done.frame !== null}<button class="link" onclick={() => rushing.go(done.frame ?? 0)}
              >Frame {done.frame}</button
            > ·{/if}
          {[
            done.against_id ? `against ${nameOf(done.against_id)}` : "",
            done.by,
            done.at ? when(done.at) : "",
          ]
            .filter(Boolean)
            .join(", ")}
        </p>
        {#if done.assumptions.length}
          <details class="text-sm text-muted">
            <summary class="cursor-pointer">What was taken for granted</summary>
            <ul class="grid gap-0.5 pt-1">
              {#each done.assumptions as text (text)}<li>{text}</li>{/each}
            </ul>
          </details>
        {/if}
      {/if}
      {#if rushing.writes}
        {#if row.against && (others.length || row.against === "may")}
          <label class="grid grid-cols-[4.2rem_1fr] items-center gap-2"
            ><span class="text-muted">Against</span><Select
              label={`${row.name}: against`}
              value={against(row)}
              options={options(row)}
              onchange={(to) => (chosen[row.what] = to)}
            /></label
          >
        {/if}
        <div class="flex flex-wrap items-center gap-2">
          <button
            class="btn pointer-coarse:min-h-11"
            disabled={Boolean(lack) || rushing.busy}
            onclick={() => void rushing.measure(row, Number(against(row)) || null)}
            aria-label={`${done ? "Measure again" : "Measure"}: ${row.name}`}
            >{done ? "Measure again" : "Measure"}</button
          >
          {#if done?.overlays.length}
            <button
              class="btn !border-line pointer-coarse:min-h-11"
              aria-pressed={rushing.shown === row.what}
              aria-label={`${rushing.shown === row.what ? "Hide" : "Draw"}: ${row.name}`}
              onclick={() => (rushing.shown = rushing.shown === row.what ? null : row.what)}
              >{rushing.shown === row.what ? "Hide" : "Draw"}</button
            >
          {/if}
          {#each row.marks as kind (kind)}
            {@const there = rushing.mark(kind).length > 0}
            <button
              class="btn !border-line pointer-coarse:min-h-11"
              disabled={!rush.set_up_id}
              onclick={() => rushing.begin(kind)}>Mark {MARK_NAMES[kind]}{there ? " anew" : ""}</button
            >
            {#if there}<button
                class="link text-muted"
                aria-label={`Forget the mark: ${MARK_NAMES[kind]}`}
                onclick={() => void rushing.forget(kind)}>forget</button
              >{/if}
          {/each}
        </div>
        {#if lack}<p class="text-sm text-muted">{lack}</p>{/if}
        {#if mine && going}
          <p class="flex items-center gap-2" role="status">
            <Progress value={rushing.measuring.job?.progress ?? 0} label={row.name} class="w-32" />
            measuring
            {#if rushing.measuring.stops}<button class="link" onclick={() => void rushing.measuring.stop()}
                >stop</button
              >{/if}
          </p>
        {:else if mine && rushing.measuring.job?.state === "failed"}
          <p role="alert">{rushing.measuring.job.message}</p>
        {:else if mine && rushing.asking.said}
          <p role="alert">{rushing.asking.said}</p>
        {/if}
      {:else if !done}
        <p class="text-muted">Not measured yet.</p>
      {/if}
    </li>
  {/each}
</ul>
