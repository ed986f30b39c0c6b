<!-- What a photograph of the place tells, beside what the hero has: written over in one go. -->
<script lang="ts">
  import type { Layer } from "../../lib/api/client";
  import type { Mark } from "../../lib/draw/marks";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { unitOf, type Units } from "../../lib/units";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let {
    bench,
    hero,
    marks,
    writes,
    units,
    text,
    chosen = $bindable(null),
    onset,
  }: {
    bench: BenchState;
    hero: Layer;
    marks: Mark[];
    writes: boolean;
    units: Units;
    /** An amount with its unit. */
    text: (value: number, unit: string) => string;
    chosen: number | null;
    onset: (label: string, marks: Mark[]) => void;
  } = $props();

  const ROWS: Record<string, [string, string]> = {
    lens_height_m: ["Lens over the ground", "m"],
    tilt_deg: ["Tilt", "°"],
    roll_deg: ["Roll", "°"],
    key_azimuth_deg: ["Key, side angle", "°"],
    key_elevation_deg: ["Key, height angle", "°"],
  };

  const data = $derived(bench.bench!);
  const setUp = $derived(data.set_ups.find((one) => one.id === hero.set_up_id) ?? null);
  const photograph = $derived(hero.photograph);
  const readView = $derived(hero.reading.read.find((one) => one.field === "taken_view_deg"));
  const known = $derived(hero.values.taken_view_deg as number | null);

  const rows = $derived(photograph?.fields ?? []);
  const news = $derived(rows.filter((row) => row.written !== null));
  const write = () =>
    setUp &&
    void bench.set(
      "Read off the photograph",
      "set_ups",
      setUp.id,
      Object.fromEntries(news.map((row) => [row.field, row.written])),
    );
  const others = $derived(data.layers.filter((one) => !one.is_hero && one.on_its_ground));
  function put(index: number, id: string) {
    const stands = hero.reading.stands[index];
    const layer = others.find((one) => String(one.id) === id);
    if (!stands || !layer) return;
    const fields: Record<string, unknown> = {
      near_m: stands.ahead_m.amount,
      offset_m: stands.aside_m.amount,
    };
    void bench.set(`${layer.name} stands where it was measured`, "layers", layer.id, fields);
  }
  const change = (index: number, fields: Partial<Mark>) =>
    marks.map((one, i) => (i === index ? { ...one, ...fields } : one));
</script>

<aside
  class={[
    "flex w-[24rem] shrink-0 flex-col overflow-y-auto border-l border-line max-lg:w-80",
    "max-sm:w-full max-sm:border-t max-sm:border-l-0",
  ]}
>
  {#if photograph}
    <section class="border-b border-line px-3 py-2">
      <h2 class="flex items-baseline justify-between gap-2">
        <span>Lens</span>
        <span class="num"
          >{text(Number(photograph.view_deg.toFixed(1)), "°")} <span class="text-muted">across</span></span
        >
      </h2>
      <p class="text-muted">
        {#if known !== null}By the photograph's tags, or as it was typed.{:else if readView}Read from the
          lines:
          {text(readView.amount, "°")} ± {text(readView.within, "°")}.{:else}Its tags say nothing: taken for
          the hero's lens.{/if}
        {#if readView && writes && (known === null || Math.abs(readView.amount - known) > readView.within)}
          <button
            class="link text-ink"
            onclick={() =>
              bench.set("Angle of view off the lines", "layers", hero.id, {
                taken_view_deg: readView.amount,
              })}
            >{known === null
              ? "Take it over"
              : `The lines say ${text(readView.amount, "°")}: take that`}</button
          >
        {/if}
      </p>
      {#if !photograph.same_lens}
        <p class="mt-1">
          <b>The hero's lens sees {text(Number(photograph.lens_view_deg.toFixed(1)), "°")}.</b>
          On {setUp?.name ?? "its camera"}
          <span class="num">{photograph.fits_mm.toFixed(1)} mm</span> sees what the photograph sees; the frame
          is drawn where the hero's lens looks.
          {#if writes}<button
              class="link"
              onclick={() =>
                setUp &&
                bench.set(`Lens ${photograph.fits_mm.toFixed(1)} mm`, "set_ups", setUp.id, {
                  focal_length_mm: Number(photograph.fits_mm.toFixed(2)),
                })}>Turn to it</button
            >
            or <a class="link" href="#/kit">put that lens into your kit</a>.{/if}
        </p>
      {/if}
    </section>
  {/if}
  <table class="w-full">
    <thead
      ><tr class="border-b border-line text-left text-muted">
        <th class="px-3 py-1.5 font-normal">Camera and key</th>
        <th class="px-1 py-1.5 text-right font-normal">read</th>
        <th class="px-3 py-1.5 text-right font-normal">hero</th>
      </tr></thead
    >
    <tbody>
      {#each rows as { field, read, has, by_sun } (field)}
        {@const [name, unit] = ROWS[field]!}
        <tr class="border-b border-line align-baseline">
          <th class="px-3 py-1 text-left font-normal">{name}</th>
          <td class="num px-1 py-1 text-right whitespace-nowrap"
            >{#if read}<b>{text(read.amount, unit)}</b>
              <span class="text-muted">± {text(read.within, unit)}</span>{:else}<span class="text-muted"
                >–</span
              >{/if}</td
          >
          <td class="num px-3 py-1 text-right whitespace-nowrap text-muted"
            >{has === null ? "unknown" : text(Number(has.toFixed(by_sun ? 1 : 2)), unit)}
            {#if by_sun}<span class="block text-sm">by the sun</span>{/if}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
  <div class="border-b border-line px-3 py-2.5">
    <button
      class={["btn w-full", news.length && "btn-solid"]}
      disabled={!writes || !setUp || !news.length}
      onclick={write}
      >{!news.length && rows.some((row) => row.read)
        ? "The hero has it so"
        : "Write it into the hero"}</button
    >
    {#if hero.reading.wants.length}
      <ul class="mt-2 grid gap-1 text-muted">
        {#each hero.reading.wants as want (want)}<li>{want}</li>{/each}
      </ul>
    {/if}
  </div>
  <ol class="grow">
    {#each marks as mark, i (i)}
      {@const words = vocabulary.mark(mark.kind)}
      {@const on = chosen === i}
      {@const stands = hero.reading.stands[i]}
      <li class={["border-b border-line px-3 py-1", on && "bg-ink text-ground"]}>
        <div class="flex min-h-6 items-center gap-2">
          <button
            class="flex min-w-0 flex-1 cursor-pointer gap-2 text-left"
            aria-pressed={on}
            onclick={() => (chosen = on ? null : i)}
            ><span class="num w-5 text-right">{i + 1}</span><span class="truncate">{words.name}</span></button
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
                onset={(value) => value !== null && onset("Height of a mark", change(i, { height_m: value }))}
              /><span class="num text-sm text-muted">{unitOf("length", units, "m")}</span></span
            >{/if}
          {#if writes}<button
              class={["cursor-pointer px-1", on ? "" : "text-muted hover:text-ink"]}
              aria-label={`Remove mark ${i + 1}`}
              onclick={() => {
                chosen = null;
                onset(
                  "Remove a mark",
                  marks.filter((_, at) => at !== i),
                );
              }}>✕</button
            >{/if}
        </div>
        {#if stands}
          <p class={["num pl-7 text-sm", !on && "text-muted"]}>
            {#if stands.height_m}<b class={on ? "" : "text-ink"}
                >{text(stands.height_m.amount, "m")} ± {text(stands.height_m.within, "m")} high</b
              >,
            {/if}
            {text(stands.distance_m.amount, "m")} ± {text(stands.distance_m.within, "m")} away,
            {text(Math.abs(stands.aside_m.amount), "m")}
            {stands.aside_m.amount < 0 ? "left" : "right"}
          </p>
          {#if writes && on && others.length && mark.kind !== "height"}
            <div class="flex items-center gap-2 pt-1 pb-0.5 pl-7 text-sm">
              There stands
              <Select
                class="field !w-auto bg-raised text-ink"
                label={`Layer at mark ${i + 1}`}
                value=""
                options={[["", "…"], ...others.map((one) => [String(one.id), one.name] as const)]}
                onchange={(id) => put(i, id)}
              />
            </div>
          {/if}
        {/if}
      </li>
    {/each}
  </ol>
  <p class="px-3 py-2 text-sm text-muted">
    95 of 100 readings lie within ±, if ends lie within a thousandth of the width and the lens within a
    fiftieth.
  </p>
</aside>
