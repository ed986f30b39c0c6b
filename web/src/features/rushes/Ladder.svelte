<!--
  The measuring table: what was planned, logged and measured of each item, the measured one judging; of the
  line that is looked at what to do, and what in the kit or the log it points to.
-->
<script lang="ts">
  import Decide from "./Decide.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import type { Column, Rushing } from "./rushing.svelte";

  let { rushing, onpick }: { rushing: Rushing; onpick: (column: Column) => void } = $props();
  const rush = $derived(rushing.rush!);
  const picked = $derived(rushing.picked);
  const withUnit = (text: string, unit: string) => (unit === "°" ? `${text}°` : `${text} ${unit}`);
  const says = $derived(
    rush.measured.find((one) => one.what === picked?.what)?.says ?? rush.clip?.says ?? "",
  );
  const told = $derived.by(() => {
    if (!picked) return "";
    const error = picked.error_text ? ` ± ${picked.error_text}` : "";
    const measured = `Measured ${withUnit(`${picked.measured_text}${error}`, picked.unit)}`;
    const [whose, text] = picked.logged_text
      ? ["logged", picked.logged_text]
      : ["planned", picked.planned_text];
    if (!text) return `${measured}; nobody planned it.`;
    return picked.apart ? `${measured}, ${whose} ${text}.` : `${measured}, as ${whose}.`;
  });
  const DECIDED = { keep: "kept", mend: "to be mended", again: "to be shot again" } as const;
  /** What stands under a name: what was decided, against what it was held. */
  function under(column: Column): string {
    const other = rushing.lines.find((one) => one.recording_id === column.against_id);
    const to = other ? `to ${other.layer}, take ${other.take_number}` : "";
    return [column.decided ? DECIDED[column.decided.choice] : "", to].filter(Boolean).join(" · ");
  }
  const KIT = {
    lens: ["#/kit/measure", "Measure the lens: ten minutes"],
    noise: ["#/kit/measure", "Measure the noise: ten minutes"],
    lamp: ["#/kit", "Meter the lamp for the kit"],
  } as const;
  const reference = $derived.by(() => {
    const what = picked?.what;
    if (!rush.is_reference || (what !== "photograph" && what !== "ball")) return null;
    return { what, stands: rush.reference_by.includes(what) };
  });
</script>

{#if rush.columns.length}
  <table class="w-full border-collapse">
    <caption class="sr-only">Planned, logged and measured</caption>
    <thead class="text-muted">
      <tr class="h-8 text-right">
        <td></td>
        <th class="w-16 font-normal" scope="col">planned</th>
        <th class="w-16 font-normal" scope="col">logged</th>
        <th class="w-26 pr-8.5 font-normal" scope="col">measured</th>
      </tr>
    </thead>
    <tbody>
      {#each rush.columns as column (`${column.what}.${column.amount}`)}
        {@const mine = column === picked}
        <tr class={["h-9 border-t border-line text-right", mine && "bg-panel"]}>
          <th class="max-w-0 text-left font-normal" scope="row">
            <button
              class="block w-full py-1.5 pl-3.5 text-left pointer-coarse:min-h-11"
              aria-pressed={mine}
              onclick={() => {
                rushing.pick(column);
                onpick(column);
              }}
              ><span class="block"><b>{column.label}</b> <span class="text-muted">{column.unit}</span></span
              >{#if under(column)}<span class="block truncate text-sm text-muted">{under(column)}</span
                >{/if}</button
            >
          </th>
          <td class="num text-muted">{column.planned_text}</td>
          <td class="num text-muted">{column.logged_text}</td>
          <td class="pr-3.5">
            <span class="num flex items-center justify-end gap-1.5"
              >{#if column.apart}<span class="text-muted" title="not as foretold">≠</span>{/if}<b
                >{column.measured_text}</b
              ><Verdict verdict={column.verdict} /></span
            >
          </td>
        </tr>
      {/each}
    </tbody>
  </table>
  {#if picked}
    <section class="grid gap-1.5 border-t border-b border-line px-3.5 py-2.5" aria-label={picked.label}>
      <p class="font-strong">{picked.to_do || (picked.verdict === "holds" ? "It holds." : says)}</p>
      <p class="text-muted">
        {told}
        {picked.points_to}
        {#if picked.kit}<a class="link" href={KIT[picked.kit][0]}>{KIT[picked.kit][1]}</a>{/if}
      </p>
      {#if picked.verdict !== "holds"}
        {#key `${rush.recording_id}.${picked.what}.${picked.amount}`}<Decide
            {rushing}
            column={picked}
          />{/key}
      {/if}
      {#if reference}
        <p class="text-muted">
          {reference.stands
            ? "The other layers are held against what was measured here."
            : "The other layers are held against what was logged of this take."}
          {#if rushing.list?.role === "supervisor"}
            <button
              class="btn mt-1 !border-line"
              disabled={rushing.asking.busy}
              onclick={() => void rushing.refer(reference.what, !reference.stands)}
              >{reference.stands ? "Hold them against the log" : "Hold them against this"}</button
            >
          {/if}
        </p>
      {/if}
    </section>
  {/if}
  {#if rush.values.length}
    <section class="grid gap-1 border-b border-line px-3.5 py-2.5" aria-label="Mend values">
      <h3>Mend values</h3>
      <ul class="text-muted">
        {#each rush.values as line (line)}<li>{line}</li>{/each}
      </ul>
      <p>
        <a class="link" href={`/api/shots/${rushing.shot}/mends.zip`} download
          >All layers of the shot: CDL, CSV, OTIO</a
        >
      </p>
    </section>
  {/if}
{/if}
