<!--
  A layer's picture, read by hand: what is drawn on it tells lens, tilt, roll, height and key, each with what
  it may be off; taken over into the layer's fields in one go.
-->
<script lang="ts">
  import { Dialog } from "bits-ui";
  import type { Layer } from "../../lib/api/client";
  import type { Point } from "../../lib/draw/lines";
  import type { Mark, MarkKind } from "../../lib/draw/marks";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import NotSaved from "../../lib/edit/NotSaved.svelte";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { quantityOf, shown, unitOf, type Units } from "../../lib/units";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import MarkHint from "./MarkHint.svelte";
  import MarkTools from "./MarkTools.svelte";
  import PictureMarks from "./PictureMarks.svelte";

  let {
    open = $bindable(false),
    bench,
    layer,
    writes,
    units,
  }: { open: boolean; bench: BenchState; layer: Layer; writes: boolean; units: Units } = $props();

  const FIELDS = [
    "taken_view_deg",
    "taken_tilt_deg",
    "taken_roll_deg",
    "taken_height_m",
    "taken_key_azimuth_deg",
    "taken_key_elevation_deg",
  ] as const;
  const MIDDLE = "Its middle must be where the lens looked: a picture that was cropped tells other things.";
  let tool = $state<MarkKind | null>(null);
  let chosen = $state<number | null>(null);
  let drawn = $state<ReturnType<typeof PictureMarks> | null>(null);

  const marks = $derived(
    bench.trial.now("layers", layer.id, "marks", layer.values.marks as Mark[] | undefined) ?? [],
  );
  const told = $derived(new Map(layer.reading.read.map((one) => [one.field, one])));
  const rows = $derived(
    fieldBook.of("layer", FIELDS).map((field) => ({
      field,
      read: told.get(field.name),
      now: layer.values[field.name] as number | null,
    })),
  );
  const text = (value: number, unit: string) => {
    const quantity = quantityOf(unit);
    const sign = unitOf(quantity, units, unit);
    return `${shown(value, quantity, units).replace("-", "−")}${sign === "°" ? "" : " "}${sign}`;
  };

  const keep = (label: string, wanted: Mark[]) =>
    void bench.set(label, "layers", layer.id, { marks: wanted });
  function use() {
    const fields = Object.fromEntries(layer.reading.read.map((one) => [one.field, one.amount]));
    void bench.set(`Read off the picture of ${layer.name}`, "layers", layer.id, fields);
  }
  function setHeight(index: number, height_m: number | null) {
    if (height_m !== null)
      keep(
        "Height of a mark",
        marks.map((mark, i) => (i === index ? { ...mark, height_m } : mark)),
      );
  }
  function remove(index: number) {
    chosen = null;
    keep(
      "Remove a mark",
      marks.filter((_, i) => i !== index),
    );
  }
  function pressed(event: KeyboardEvent) {
    if (!open || event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey) return;
    if (event.key >= "1" && event.key <= String(vocabulary.marks.length) && writes)
      tool = vocabulary.marks[Number(event.key) - 1]!.key;
  }
  function escape(event: KeyboardEvent) {
    if (tool === null) return;
    event.preventDefault();
    tool = null;
  }
  const problem = $derived(bench.problems.find((one) => one.field.startsWith("marks"))?.message ?? "");
</script>

<svelte:window onkeydown={pressed} />

<Dialog.Root
  bind:open
  onOpenChange={() => {
    tool = chosen = null;
  }}
>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class={[
        "fixed inset-[2vh_1.5vw] z-50 flex flex-col border border-ink bg-raised max-sm:inset-0",
        "max-sm:overflow-y-auto max-sm:border-0",
      ]}
      onEscapeKeydown={escape}
    >
      <div class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3.5 py-2">
        <Dialog.Title class="min-w-0 truncate text-lg font-strong"
          >{layer.name}: read off the picture</Dialog.Title
        >
        <span class="min-w-0 truncate text-muted max-sm:hidden"
          >{layer.picture?.name},
          <span class="num">{layer.picture?.width_px} × {layer.picture?.height_px}</span></span
        >
        <span class="ml-auto flex gap-2">
          <button
            class="btn !border-line"
            disabled={!bench.steps.can}
            {@attach tip(() => bench.steps.label)}
            onclick={() => bench.undo()}>Undo</button
          >
          <Dialog.Close class="btn">Close</Dialog.Close>
        </span>
      </div>
      {#if bench.offline || bench.conflict}
        <div class="shrink-0 border-b border-ink px-3.5 py-2" role="alert">
          <NotSaved {bench} />
        </div>
      {/if}
      <div class="flex min-h-0 flex-1 max-sm:flex-none max-sm:flex-col">
        <div class="flex min-h-0 min-w-0 flex-1 flex-col max-sm:flex-none">
          <MarkTools bind:tool {writes} />
          <div class="grid min-h-0 flex-1 place-items-center overflow-hidden bg-ground p-2 max-sm:p-0">
            {#if layer.picture}
              <PictureMarks
                bind:this={drawn}
                href={`/api/layer-pictures/${layer.picture.id}.jpg`}
                width={layer.picture.width_px}
                height={layer.picture.height_px}
                {marks}
                horizon={layer.reading.horizon_px as Point[] | null}
                within={layer.reading.horizon_within_px}
                bind:tool
                bind:chosen
                {writes}
                ontry={(wanted) => {
                  bench.trial.remember();
                  bench.try("layers", layer.id, { marks: wanted });
                }}
                onset={keep}
                ondrop={() => void bench.commit("Move a mark")}
                oncancel={() => bench.forget()}
              />
            {/if}
          </div>
          <MarkHint bind:tool onmiddle={() => drawn?.placeInMiddle()}
            ><span class="text-muted"
              >{marks.length
                ? "Move any end; Delete takes a mark away. The dotted line is the horizon that they give."
                : `Choose above what you see in the picture, and draw it. ${MIDDLE}`}</span
            ></MarkHint
          >
        </div>
        <aside
          class={[
            "w-[24.5rem] shrink-0 overflow-y-auto border-l border-line max-sm:w-full max-sm:border-t",
            "max-sm:border-l-0",
          ]}
        >
          <table class="w-full">
            <thead
              ><tr class="border-b border-line text-left text-muted">
                <th class="px-3 py-1.5 font-normal">It tells</th>
                <th class="px-1 py-1.5 text-right font-normal">read</th>
                <th class="px-3 py-1.5 text-right font-normal">now</th>
              </tr></thead
            >
            <tbody>
              {#each rows as { field, read, now } (field.name)}
                <tr class="border-b border-line align-baseline">
                  <th class="px-3 py-1 text-left font-normal">{field.title}</th>
                  <td class="num px-1 py-1 text-right whitespace-nowrap"
                    >{#if read}<b>{text(read.amount, field.unit)}</b>
                      <span class="text-muted">± {text(read.within, field.unit)}</span>{:else}<span
                        class="text-muted">–</span
                      >{/if}</td
                  >
                  <td class="num px-3 py-1 text-right whitespace-nowrap text-muted"
                    >{now === null || now === undefined ? "unknown" : text(now, field.unit)}</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
          <div class="border-b border-line px-3 py-2.5">
            <button class="btn btn-solid w-full" disabled={!writes || !told.size} onclick={use}
              >Use what was read</button
            >
            <p class="mt-1.5 text-sm text-muted">
              95 of 100 readings lie within ±, if each end lies within a thousandth of the width. Longer
              lines, further apart, tell more.
            </p>
          </div>
          {#if problem}<p role="alert" class="border-b border-line px-3 py-2">{problem}</p>{/if}
          {#if layer.reading.wants.length}
            <ul class="grid gap-1 border-b border-line px-3 py-2">
              {#each layer.reading.wants as want (want)}<li>{want}</li>{/each}
            </ul>
          {/if}
          <ol>
            {#each marks as mark, i (i)}
              {@const words = vocabulary.mark(mark.kind)}
              {@const on = chosen === i}
              <li
                class={[
                  "flex min-h-8 items-center gap-2 border-b border-line px-3",
                  on && "bg-ink text-ground",
                ]}
              >
                <button
                  class="flex min-w-0 flex-1 cursor-pointer gap-2 py-1 text-left"
                  aria-pressed={on}
                  onclick={() => (chosen = on ? null : i)}
                  ><span class="num w-5 text-right">{i + 1}</span><span class="truncate">{words.name}</span
                  ></button
                >
                {#if words.height_m !== null}<span
                    class={["flex w-24 items-center gap-1 text-ink", on && "bg-raised px-1"]}
                    ><NumberCell
                      value={mark.height_m ?? null}
                      label={`Height of mark ${i + 1}`}
                      quantity="length"
                      {units}
                      step={0.01}
                      disabled={!writes}
                      onset={(value) => setHeight(i, value)}
                    /><span class="num text-sm text-muted">{unitOf("length", units, "m")}</span></span
                  >{/if}
                {#if writes}<button
                    class={["cursor-pointer px-1", on ? "" : "text-muted hover:text-ink"]}
                    aria-label={`Remove mark ${i + 1}`}
                    onclick={() => remove(i)}>✕</button
                  >{/if}
              </li>
            {/each}
          </ol>
        </aside>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
