<!-- The picture of a layer, cut out: by colour, black, white, its own transparency, and a loose outline. -->
<script lang="ts">
  import type { Layer } from "../../lib/api/client";
  import { placeIn, type Point } from "../../lib/draw/lines";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import Slider from "../../lib/ui/Slider.svelte";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";

  let { bench, layer, writes }: { bench: BenchState; layer: Layer; writes: boolean } = $props();

  const picture = $derived(layer.picture!);
  const now = <T,>(field: string) =>
    bench.trial.now("layers", layer.id, field, layer.values[field] as T | null | undefined) as T;
  const outline = $derived(now<Point[]>("cut_outline") ?? []);
  const by = $derived(now<string>("cut_by"));
  let svg = $state<SVGSVGElement | null>(null);
  let image = $state<HTMLImageElement | null>(null);
  let tool = $state<"colour" | "outline" | null>(null);
  let drawing = $state<Point[]>([]);
  let across = $state(600);
  const k = $derived(picture.width_px / Math.max(across, 1));
  const cut = $derived(layer.cut);
  const SHARES = [
    ["cut_keeps", "Stays up to", "keeps"],
    ["cut_clears", "Gone from", "clears"],
  ] as const;
  const ways = $derived(
    (fieldBook.of("layer", ["cut_by"])[0]?.choices ?? []).map(
      (key) => [String(key), vocabulary.choice(String(key))] as const,
    ),
  );
  const set = (label: string, fields: Record<string, unknown>) =>
    void bench.set(label, "layers", layer.id, fields);

  function at(event: PointerEvent): Point {
    const [x, y] = placeIn(svg!, event, picture.width_px, picture.height_px);
    return [Math.round(x), Math.round(y)];
  }
  function picked([x, y]: Point) {
    const canvas = document.createElement("canvas");
    const side = 5;
    canvas.width = canvas.height = side;
    const scale = (image?.naturalWidth ?? picture.width_px) / picture.width_px;
    const drawn = canvas.getContext("2d");
    if (!image || !drawn) return;
    drawn.drawImage(image, x * scale - side / 2, y * scale - side / 2, side, side, 0, 0, side, side);
    const codes = drawn.getImageData(0, 0, side, side).data;
    const mean = [0, 1, 2].map((channel) => {
      let sum = 0;
      for (let i = channel; i < codes.length; i += 4) sum += codes[i]!;
      return Math.round(sum / (side * side));
    });
    tool = null;
    set("Colour that goes", {
      cut_by: "sheet",
      cut_colour: `#${mean.map((one) => one.toString(16).padStart(2, "0")).join("")}`,
    });
  }
  function finish() {
    if (drawing.length > 2) set("Loose outline", { cut_outline: drawing });
    drawing = [];
    tool = null;
  }
  function pressed(event: PointerEvent) {
    if (!tool || !writes || event.button) return;
    event.preventDefault();
    if (tool === "colour") return picked(at(event));
    svg!.setPointerCapture(event.pointerId);
    drawing = [...drawing, at(event)];
  }
  function moved(event: PointerEvent) {
    const last = drawing.at(-1);
    if (tool !== "outline" || !event.buttons || !last) return;
    const here = at(event);
    if (Math.hypot(here[0] - last[0], here[1] - last[1]) > 7 * k) drawing = [...drawing, here].slice(0, 400);
  }
  const path = (points: Point[], closed: boolean) =>
    points.length ? `M${points.map(([x, y]) => `${x} ${y}`).join("L")}${closed ? "Z" : ""}` : "";
  const share = (field: string, which: "keeps" | "clears") => now<number | null>(field) ?? cut?.[which] ?? 0;
</script>

<div class="flex flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-3 py-2">
  <span class="text-muted">Cut out by</span>
  <Select
    class="field !w-auto"
    label="Cut out by"
    disabled={!writes}
    value={by}
    options={ways}
    onchange={(key) => set("Cut out by", { cut_by: key, cut_keeps: null, cut_clears: null })}
  />
  {#if by === "sheet"}
    <input
      type="color"
      class="h-6.5 w-9 cursor-pointer border border-line bg-ground p-0.5"
      aria-label="Colour that goes"
      disabled={!writes}
      value={now<string | null>("cut_colour") ?? cut?.colour}
      onchange={(event) => set("Colour that goes", { cut_colour: event.currentTarget.value })}
    />
    <button
      class={tool === "colour" ? "btn btn-solid" : "btn"}
      aria-pressed={tool === "colour"}
      disabled={!writes}
      onclick={() => (tool = tool === "colour" ? null : "colour")}>Take it from the picture</button
    >
  {/if}
  {#if cut}
    {#each SHARES as [field, name, which] (field)}
      <label class="flex items-center gap-2 text-muted"
        >{name}
        <Slider
          label={name}
          class="w-28"
          most={100}
          value={Math.round(share(field, which) * 100)}
          onchange={(value) => {
            if (!writes) return;
            bench.trial.remember();
            bench.try("layers", layer.id, { [field]: value / 100 });
          }}
          oncommit={() => void bench.commit(name)}
        />
        <span class="num w-10 text-right text-ink">{Math.round(share(field, which) * 100)} %</span></label
      >
    {/each}
  {/if}
  <span class="ml-auto flex gap-2">
    <button
      class={tool === "outline" ? "btn btn-solid" : "btn"}
      aria-pressed={tool === "outline"}
      disabled={!writes}
      onclick={() => (tool === "outline" ? finish() : ((drawing = []), (tool = "outline")))}
      >{tool === "outline" ? "Close the outline" : "Loose outline"}</button
    >
    {#if outline.length && tool !== "outline"}<button
        class="btn"
        disabled={!writes}
        onclick={() => set("No loose outline", { cut_outline: [] })}>Without it</button
      >{/if}
  </span>
</div>
<div class="grid min-h-0 flex-1 place-items-center overflow-hidden bg-ground p-2">
  <svg
    bind:this={svg}
    bind:clientWidth={across}
    viewBox={`0 0 ${picture.width_px} ${picture.height_px}`}
    class={["max-h-full max-w-full touch-none", tool && "cursor-crosshair"]}
    style={`aspect-ratio:${picture.width_px}/${picture.height_px};width:100%`}
    role="img"
    aria-label={`Picture of ${layer.name}`}
    onpointerdown={pressed}
    onpointermove={moved}
  >
    <image
      href={`/api/layer-pictures/${picture.id}.jpg`}
      width={picture.width_px}
      height={picture.height_px}
      preserveAspectRatio="none"
    />
    {#each [["#000", 4], ["#fff", 1.8]] as const as [colour, wide] (colour)}
      <path
        d={tool === "outline" ? path(drawing, false) : path(outline, true)}
        fill="none"
        stroke={colour}
        stroke-width={wide * k}
        stroke-dasharray={colour === "#fff" ? `${6 * k} ${4 * k}` : undefined}
      />
    {/each}
  </svg>
  <img bind:this={image} src={`/api/layer-pictures/${picture.id}.jpg`} alt="" class="hidden" />
</div>
{#if tool}
  <p class="border-t border-line px-3 py-1.5" aria-live="polite">
    {tool === "colour"
      ? "Click on the sheet where it is lit as it is behind the subject."
      : "Draw around the thing, or click corners; then close the outline."}
  </p>
{/if}
