<!--
  What a layer looks like: something from the shelf, an SVG, or its own picture cut out; and how it stands in
  the lens view then.
-->
<script lang="ts">
  import NotDone from "./NotDone.svelte";
  import { Dialog } from "bits-ui";
  import { untrack } from "svelte";
  import { Offline, Refused, type Layer, type Schemas } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { shown, unitOf, type Units } from "../../lib/units";
  import ClipFrame from "./ClipFrame.svelte";
  import LookParts from "./LookParts.svelte";
  import LookPicture from "./LookPicture.svelte";
  import LookShelf from "./LookShelf.svelte";
  import { fitted, fromSvg, readParts, shelf, type Outline, type Part } from "./looks.svelte";

  let {
    open = $bindable(false),
    bench,
    layer,
    writes,
    units,
  }: { open: boolean; bench: BenchState; layer: Layer; writes: boolean; units: Units } = $props();

  let trueSize = $state(true);
  let saved = $state.raw<Part[]>([]);
  let refused = $state("");
  let clip = $state<File | null>(null);
  let seen = $state<"lens" | "picture">("lens");
  let over = $state(false);

  const as = $derived(
    bench.trial.now("layers", layer.id, "shown_as", layer.values.shown_as as "outline" | "picture"),
  );
  const parts = $derived(bench.trial.now("layers", layer.id, "parts", saved));
  const length = (metres: number) => `${shown(metres, "length", units)} ${unitOf("length", units, "m")}`;

  /** What is refused is said here; anything else is a fault. */
  async function asked<T>(work: () => Promise<T>): Promise<T | undefined> {
    refused = "";
    try {
      return await work();
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      refused = error.message;
    }
  }
  $effect(() => {
    if (!open) return;
    void layer.version;
    void bench.bench?.revision;
    const id = layer.id;
    untrack(() => {
      void asked(() => shelf.read());
      void asked(async () => (saved = await readParts(id)));
    });
  });
  $effect(() => {
    if (!layer.picture) seen = "lens";
  });

  async function take(outline: Outline) {
    const look = await asked(() => fitted(layer.id, outline.name, trueSize));
    if (look) await use(look);
  }
  function use(look: Schemas["LookFields"]) {
    saved = look.fields.parts as Part[];
    return bench.set(look.title, "layers", layer.id, look.fields);
  }
  async function give(file: File) {
    const kind = file.type || file.name.split(".").pop()!.toLowerCase();
    if (kind.startsWith("video/")) clip = file;
    else if (kind.includes("svg")) {
      const look = await asked(() => fromSvg(layer.id, file));
      if (look) await use(look);
    } else {
      refused = await bench.givePicture(layer.id, file, true);
      if (!refused) seen = "picture";
    }
  }
  function chosen(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    input.value = "";
    if (file) void give(file);
  }
  function dropped(event: DragEvent) {
    over = false;
    const file = event.dataTransfer?.files[0];
    if (file && writes) {
      event.preventDefault();
      void give(file);
    }
  }
  function set(label: string, wanted: Part[]) {
    saved = wanted;
    void bench.set(label, "layers", layer.id, { parts: wanted });
  }
  /** What stood before is the server's to say: until it has, nothing is changed of what stands here. */
  let coming = $state(false);
  async function undo() {
    coming = true;
    await bench.undo();
    const id = layer.id;
    await asked(async () => (saved = await readParts(id)));
    coming = false;
  }
  const TAKES = "image/png,image/jpeg,image/tiff,.exr,image/svg+xml,application/pdf,video/*";
</script>

<Dialog.Root bind:open onOpenChange={() => (clip = null)}>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class={[
        "fixed inset-[2vh_1.5vw] z-50 flex flex-col border bg-raised max-sm:inset-0 max-sm:border-0",
        "max-sm:overflow-y-auto",
        over ? "border-2 border-ink" : "border-ink",
      ]}
      ondragover={(event) => {
        if (!writes || !event.dataTransfer?.types.includes("Files")) return;
        event.preventDefault();
        over = true;
      }}
      ondragleave={() => (over = false)}
      ondrop={dropped}
    >
      <div class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3.5 py-2">
        <Dialog.Title class="min-w-0 truncate text-lg font-strong"
          >{layer.name}: what it looks like</Dialog.Title
        >
        <span class="num text-muted max-sm:hidden"
          >{length(Number(layer.values.width_m))} wide, {length(Number(layer.values.height_m))} high</span
        >
        <span class="ml-auto flex gap-2">
          <button
            class="btn !border-line"
            disabled={!bench.steps.can}
            {@attach tip(() => bench.steps.label)}
            onclick={undo}>Undo</button
          >
          <Dialog.Close class="btn">Close</Dialog.Close>
        </span>
      </div>
      <NotDone {bench} bind:refused />
      <div class="flex min-h-0 flex-1 max-sm:flex-none max-sm:flex-col">
        <section
          class={[
            "w-[23rem] shrink-0 overflow-y-auto border-r border-line",
            "max-lg:w-56 max-sm:h-72 max-sm:w-full",
          ]}
          aria-label="Shelf"
        >
          <LookShelf {units} disabled={!writes} onchoose={take} />
        </section>
        <div class="flex min-h-0 min-w-0 flex-1 flex-col">
          <div
            class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1.5 border-b border-line px-3 py-1.5"
          >
            <Choice
              label="Size from the shelf"
              value={trueSize ? "true" : "layer"}
              options={[
                ["true", "At its true size"],
                ["layer", "As large as the layer"],
              ]}
              onchange={(value) => (trueSize = value === "true")}
            />
            {#if writes}
              <label class="btn !border-line"
                >Picture, clip or SVG
                <input type="file" class="sr-only" accept={TAKES} onchange={chosen} /></label
              >
              <span class="text-sm text-muted max-xl:hidden">or drop it here</span>
            {/if}
            {#if layer.picture}
              <span class="ml-auto"
                ><Choice
                  label="Look at"
                  value={seen}
                  options={[
                    ["lens", "Through the lens"],
                    ["picture", "Its picture"],
                  ]}
                  onchange={(value) => (seen = value)}
                /></span
              >
            {/if}
          </div>
          {#if clip}
            <ClipFrame
              file={clip}
              onuse={async (frame) => {
                clip = null;
                await give(frame);
              }}
              onclose={() => (clip = null)}
            />
          {:else if seen === "picture" && layer.picture}
            <LookPicture {bench} {layer} {writes} />
          {:else}
            <div class="grid min-h-0 flex-1 place-items-center bg-black max-sm:aspect-video">
              {#if bench.picture}<img
                  src={bench.picture}
                  alt={`Through the lens, with ${layer.name}`}
                  class="max-h-full max-w-full"
                />{:else}<p class="text-[#a9a9a9]">
                  There is no hero yet, so there is no camera to look through.
                </p>{/if}
            </div>
          {/if}
        </div>
        <aside
          class={[
            "w-[21rem] shrink-0 overflow-y-auto border-l border-line max-lg:w-72 max-sm:w-full",
            "max-sm:border-t max-sm:border-l-0",
          ]}
        >
          {#if layer.picture}
            <div class="flex items-center gap-3 border-b border-line px-3 py-2">
              <Choice
                label="Shown as"
                value={as}
                options={[
                  ["outline", "Outline"],
                  ["picture", "Picture"],
                ]}
                onchange={(value) =>
                  writes && void bench.set(`Shown as ${value}`, "layers", layer.id, { shown_as: value })}
              />
              {#if writes}<button
                  class="link ml-auto text-muted"
                  onclick={() =>
                    bench.set("Take the picture away", "layers", layer.id, {
                      picture_id: null,
                      shown_as: "outline",
                    })}>Take the picture away</button
                >{/if}
            </div>
          {/if}
          {#if as === "picture" && layer.picture}
            <p class="px-3 py-2 text-muted">
              {layer.picture.name},
              <span class="num">{layer.picture.width_px} × {layer.picture.height_px}</span>.
              {layer.values.fills_frame
                ? "It fills the frame: the lens turns over it as the camera moves."
                : `It stands ${length(Number(layer.values.height_m))} high where the layer stands.`}
            </p>
          {:else}
            <LookParts
              {parts}
              writes={writes && !coming}
              {units}
              onset={set}
              ontry={(wanted) => {
                bench.trial.remember();
                bench.try("layers", layer.id, { parts: wanted });
              }}
              ondrop={(label) => {
                saved = parts;
                void bench.commit(label);
              }}
            />
          {/if}
        </aside>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
