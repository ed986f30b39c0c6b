<!--
  The notes in the margin: one for each line, with what it speaks of. The chosen one opens to be said more
  exactly.
-->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import type { Bench } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { hours } from "../../lib/hours";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import type { BoardLine } from "../../lib/draw/lines";

  let {
    bench,
    data,
    chosen = $bindable(null),
  }: { bench: BenchState; data: Bench; chosen: number | null } = $props();
  const text = (line: BoardLine, name: string) => String(line.values[name] ?? "");
  const layerOf = (line: BoardLine) => data.layers.find((one) => one.id === line.values.layer_id)?.name ?? "";
  const frames = (line: BoardLine) => {
    const first = line.values.first_frame as number | null;
    const last = line.values.last_frame as number | null;
    return first === null && last === null
      ? ""
      : `frames ${first ?? 0} to ${last ?? Number(data.shot.values.length_frames) - 1}`;
  };
  const problem = (name: string) => bench.problems.find((one) => one.field === name)?.message ?? "";
  function set(line: BoardLine, name: string, value: unknown) {
    if (value !== line.values[name])
      void bench.set(vocabulary.line(line.kind).name, "lines", line.id, { [name]: value });
  }
  const number = (event: Event) => {
    const typed = (event.currentTarget as HTMLInputElement).value.trim();
    return typed === "" ? null : Number(typed);
  };
</script>

<ol class="min-h-0 flex-1 overflow-y-auto">
  {#each data.lines as line, i (line.id)}
    {@const on = chosen === line.id}
    {@const words = vocabulary.line(line.kind)}
    <li class="border-b border-line">
      <button
        class={[
          "flex w-full cursor-pointer items-baseline gap-2 px-3 py-1.5 text-left",
          on && "bg-ink text-ground",
        ]}
        aria-expanded={on}
        onclick={() => (chosen = on ? null : line.id)}
      >
        <span class="num w-4 shrink-0 text-right">{i + 1}</span>
        <span class="min-w-0 flex-1">
          <b>{words.name}</b>{text(line, "thing") ? `, ${text(line, "thing")}` : ""}
          {#if !on}<span class="block text-muted"
              >{[text(line, "note"), layerOf(line), frames(line), line.place].filter(Boolean).join("; ") ||
                "no note yet"}</span
            >{/if}
        </span>
        {#if line.hours !== null}<span class="num shrink-0" {@attach tip(() => line.hours_text)}
            >{hours(line.hours)}</span
          >{/if}
        {#if line.verdict}<span class="flex shrink-0 items-center gap-1.5 whitespace-nowrap"
            ><Verdict verdict={line.verdict} label={false} inverted={on} />{line.verdict === "holds"
              ? vocabulary.verdict("holds").single
              : line.says}</span
          >{/if}
      </button>
      {#if on}
        <div class="grid gap-1.5 px-3 pt-1 pb-2.5">
          {#if line.place}<p class="num">{line.place}</p>{/if}
          <textarea
            class="field py-1"
            rows="2"
            aria-label="Note"
            placeholder="Why it is there: read by everybody"
            disabled={!bench.writes}
            {@attach typed(() => text(line, "note"))}
            onchange={(event) => set(line, "note", event.currentTarget.value.trim())}></textarea>
          {#if words.asks_layer}
            <label class="grid grid-cols-[7rem_1fr] items-center gap-2"
              ><span class="text-muted">{words.asks_layer}</span>
              <Select
                disabled={!bench.writes}
                label={words.asks_layer}
                value={String(line.values.layer_id ?? "")}
                options={[
                  ["", words.no_layer],
                  ...data.layers.map((layer) => [String(layer.id), layer.name] as const),
                ]}
                onchange={(id) => set(line, "layer_id", id ? Number(id) : null)}
              /></label
            >
          {/if}
          {#if words.asks.includes("thing")}
            <label class="grid grid-cols-[7rem_1fr] items-center gap-2"
              ><span class="text-muted">What</span>
              <input
                class="field"
                list={line.kind === "recurring" ? "recurs-here" : undefined}
                disabled={!bench.writes}
                {@attach typed(() => text(line, "thing"))}
                onchange={(event) => set(line, "thing", event.currentTarget.value.trim())}
              /></label
            >
          {/if}
          {#if words.asks.includes("frames")}
            <span class="grid grid-cols-[7rem_1fr_auto_1fr] items-center gap-2"
              ><span class="text-muted">Frames</span>
              <input
                class="field num"
                aria-label="From frame"
                inputmode="numeric"
                placeholder="0"
                disabled={!bench.writes}
                {@attach typed(() => text(line, "first_frame"))}
                onchange={(event) => set(line, "first_frame", number(event))}
              /><span class="text-muted">to</span><input
                class="field num"
                aria-label="To frame"
                inputmode="numeric"
                placeholder={String(Number(data.shot.values.length_frames) - 1)}
                disabled={!bench.writes}
                {@attach typed(() => text(line, "last_frame"))}
                onchange={(event) => set(line, "last_frame", number(event))}
              /></span
            >
            {#if problem("last_frame") || problem("first_frame")}<p role="alert" class="text-sm">
                {problem("last_frame") || problem("first_frame")}
              </p>{/if}
          {/if}
          {#if words.asks.includes("feather")}
            <label class="grid grid-cols-[7rem_1fr_auto] items-center gap-2"
              ><span class="text-muted">Feather</span>
              <input
                class="field num"
                inputmode="decimal"
                disabled={!bench.writes}
                {@attach typed(() => text(line, "feather_px"))}
                onchange={(event) => set(line, "feather_px", number(event) ?? 0)}
              /><span class="num text-muted">px</span></label
            >
          {/if}
          {#if line.hours !== null}<p class="text-sm text-muted">{line.hours_text}</p>{/if}
          {#if bench.writes}<button
              class="link justify-self-start"
              onclick={() => {
                chosen = null;
                void bench.set(`Remove ${words.name.toLowerCase()}`, "lines", line.id, {
                  removed: true,
                });
              }}>Remove</button
            >{/if}
        </div>
      {/if}
    </li>
  {/each}
</ol>
<datalist id="recurs-here">
  {#each (data.shot.values.recurring as string[]) ?? [] as thing (thing)}<option value={thing}
    ></option>{/each}
</datalist>
