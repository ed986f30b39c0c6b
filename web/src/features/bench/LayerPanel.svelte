<!--
  The selected layer: what it is, how it is combined, where it stands, what of it must be kept, which set-up
  films it.
-->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import type { Layer, Schemas } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";

  let {
    bench,
    layer,
    writes,
    onread,
    onlook,
  }: {
    bench: BenchState;
    layer: Layer | null;
    writes: boolean;
    /** Its picture is to be read. */
    onread: () => void;
    /** What it looks like is to be changed. */
    onlook: () => void;
  } = $props();

  const PICTURE = "How the picture was taken";
  // What is read off a picture by hand: the calculator that does it, what it finds, how the sentence goes on.
  const READINGS = [
    ["lens_from_photograph", "its lens from a known size", ", "],
    ["camera_height_from_photograph", "its height from the horizon", " or "],
    ["shadow_stick", "its key from a shadow", "."],
  ] as const;
  const PARTS = [
    [
      "What it is",
      ["name", "kind", "combine", "scale", "resize", "picture_width_px", "picture_height_px", "black_pct"],
    ],
    [
      "Place and size, full size",
      ["near_m", "depth_m", "width_m", "height_m", "base_m", "offset_m", "fills_frame"],
    ],
    [
      "What moves",
      [
        "driver",
        "speed_m_s",
        "speed_up_m_s",
        "speed_away_m_s",
        "travel_across_m",
        "travel_up_m",
        "travel_away_m",
        "moves_from_m",
        "moves_to_m",
      ],
    ],
    [
      PICTURE,
      [
        "taken_view_deg",
        "taken_height_m",
        "taken_tilt_deg",
        "taken_roll_deg",
        "taken_key_azimuth_deg",
        "taken_key_elevation_deg",
        "taken_grain",
      ],
    ],
    ["Of a pass or a plate", ["pass_of", "made_from", "cue_frame", "cue_frames"]],
    ["What must be kept", ["contact", "kept", "keep_colours", "brightest_stops", "paint_out"]],
    [
      "Joins",
      [
        "split_side",
        "matte_line_px",
        "mirrored",
        "lettering",
        "turned_deg",
        "gloss_azimuth_deg",
        "seen_s",
        "behind_weather",
      ],
    ],
  ] as const;

  const data = $derived(bench.bench);
  let refused = $state("");
  async function give(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    if (file && layer) refused = await bench.givePicture(layer.id, file);
    input.value = "";
  }
  const parts = $derived(PARTS.filter(([title]) => title !== PICTURE || layer?.set_up_id === null));
  const valueOf = (name: string): unknown =>
    layer
      ? bench.trial.now(
          "layers",
          layer.id,
          name,
          (layer as Record<string, unknown>)[name] ?? layer.values[name],
        )
      : null;
  /** A layer is chosen, not typed; what no layer is called any more stays to be seen. */
  function ofALayer(field: Schemas["CardField"]): Schemas["CardField"] {
    const others = data?.layers.filter((one) => one.id !== layer?.id).map((one) => one.name) ?? [];
    const now = String(valueOf("pass_of") ?? "");
    const choices = ["", ...others, ...(now && !others.includes(now) ? [now] : [])];
    return { ...field, kind: "choice", choices };
  }
  const problemAt = (name: string) => bench.problems.find((one) => one.field === name)?.message ?? "";
  const shared = $derived(
    layer && data
      ? data.layers.filter((one) => one.set_up_id === layer.set_up_id && one.id !== layer.id)
      : [],
  );

  async function addLayer(own: boolean) {
    if (!data) return;
    const near = layer ? Number((layer.near_m * 1.1).toFixed(3)) : 5;
    await bench.add("Add a layer", {
      what: "layer",
      fields: {
        name: "New layer",
        kind: "live_element",
        combine: "over",
        near_m: near,
        width_m: 1,
        height_m: 1.7,
      },
      like_set_up: layer?.set_up_id ?? null,
      own_set_up: own,
    });
  }
  function set(name: string, value: unknown, title: string) {
    if (layer) void bench.set(title, "layers", layer.id, { [name]: value });
  }
  async function remove() {
    if (!layer) return;
    const gone = layer.id;
    bench.looking.selected = data?.layers.find((one) => one.id !== gone)?.id ?? null;
    await bench.set(`Remove ${layer.name}`, "layers", gone, { removed: true });
  }
</script>

<div class="h-full overflow-y-auto px-4.5 pt-2 pb-4 max-sm:px-3">
  <div class="mb-2 flex flex-wrap items-center gap-2">
    <b class="mr-auto truncate text-lg">{layer?.name ?? "No layer is chosen"}</b>
    {#if layer}<button class="btn" onclick={onlook}>Looks <span class="key">l</span></button>{/if}
    <button class="btn" disabled={!writes} onclick={() => addLayer(false)}
      >Add a layer <span class="key">n</span></button
    >
    <button class="btn !border-line" disabled={!writes || !layer || layer.is_hero} onclick={remove}
      >Remove</button
    >
  </div>
  {#if layer && data && fieldBook.sets}
    <div class="gap-x-8 lg:columns-2">
      {#each parts as [title, names] (title)}
        <section class="mb-3 break-inside-avoid">
          <h3 class="pb-0.5 text-muted">{title}</h3>
          {#if title === PICTURE}
            <div class="mb-1 flex items-center gap-3 border-b border-line pb-1.5">
              {#if layer.picture}
                <button
                  class="shrink-0 cursor-pointer border border-line"
                  aria-label="Read it off the picture"
                  onclick={onread}
                  ><img
                    src={`/api/layer-pictures/${layer.picture.id}.jpg`}
                    alt=""
                    class="h-14 w-24 object-cover"
                  /></button
                >
              {/if}
              <div class="flex min-w-0 flex-1 flex-wrap items-center gap-x-3 gap-y-1">
                {#if layer.picture}<button class="btn" onclick={onread}>Read it off the picture</button>{/if}
                {#if writes}<label class="link text-muted"
                    >{layer.picture ? "Another picture" : "Choose its picture"}
                    <input
                      type="file"
                      class="sr-only"
                      accept="image/png,image/jpeg,image/tiff,application/pdf"
                      onchange={give}
                    /></label
                  >{/if}
                {#if layer.picture && writes}<button
                    class="link text-muted"
                    onclick={() => set("picture_id", null, "Take the picture away")}>Take it away</button
                  >{:else if !layer.picture}<span class="text-sm text-muted"
                    >PNG, JPEG, TIFF or PDF: lens, height and key are read off it.</span
                  >{/if}
              </div>
            </div>
            {#if refused}<p role="alert" class="mb-1 text-sm">{refused}</p>{/if}
          {/if}
          {#each fieldBook.of("layer", names) as field (field.name)}
            <FieldRow
              field={field.name === "pass_of" ? ofALayer(field) : field}
              units={data.units}
              value={valueOf(field.name)}
              disabled={!writes}
              problem={problemAt(field.name)}
              onset={(value) => set(field.name, value, field.title)}
            />
          {/each}
          {#if title === PICTURE && layer.unknown.length}
            <p class="pt-1 text-muted">
              Nobody has said its {layer.unknown.join(", ")}: what is unknown is not judged. {layer.picture
                ? "Draw on the picture, or measure"
                : "Measure"}
              {#each READINGS as [card, what, then] (card)}
                <a class="link" href={`#/pocket/${card}`}>{what}</a>{then}
              {/each}
            </p>
          {/if}
        </section>
      {/each}
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">Filmed by</h3>
        <Select
          label="Filmed by"
          disabled={!writes || layer.is_hero}
          value={String(layer.set_up_id ?? "")}
          options={[
            ["", "nobody: a picture"],
            ...data.set_ups.map((one) => [String(one.id), one.name] as const),
          ]}
          onchange={(id) => set("set_up_id", id ? Number(id) : null, "Set-up")}
        />
        {#if shared.length}<p class="pt-1 text-muted">
            It also films {shared.map((one) => one.name).join(", ")}.
          </p>{/if}
        {#if layer.matte_hours !== null}
          <p class="pt-1 text-muted">
            Hand mattes: {layer.matte_hours.toFixed(1)} h for one shape; what is delivered wants
            {layer.matte_hours_needed?.toFixed(1)} h of them.
          </p>
        {/if}
      </section>
    </div>
  {:else}
    <p class="text-muted">
      A layer is a plate, an element, a pass or a picture at its place in the stack. Choose one under the
      drawing, or add one.
    </p>
  {/if}
</div>
