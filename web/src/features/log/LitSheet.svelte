<!--
  Before anybody is called: one photograph of the lit sheet from the telephone says how even it is, whether
  it keys, where the light comes from, and which lamp to turn. What was found by itself is moved by finger
  and keys.
-->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { photographs } from "../../lib/offline/outbox.svelte";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import Overlays from "../../lib/ui/Overlays.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { clock } from "../../lib/ui/when";
  import { onDestroy, tick } from "svelte";
  import Handles from "./Handles.svelte";
  import type { ShotStills } from "./stills.svelte";

  let { stills, layer, writes }: { stills: ShotStills; layer: number; writes: boolean } = $props();
  type Sheet = Schemas["LitSheetOut"];
  type Place = [number, number];
  const ASKED_EVERY_MS = 2000;
  const CORNERS = ["top left corner", "top right corner", "bottom right corner", "bottom left corner"];
  const BALL = ["middle of the ball", "rim of the ball"];
  const SQUARE: Place[] = [
    [0.2, 0.2],
    [0.8, 0.2],
    [0.8, 0.8],
    [0.2, 0.8],
  ];

  let sheet = $state.raw<Sheet | null>(null);
  let marking = $state<"" | "corners" | "ball">("");
  let places = $state<Place[]>([]);
  let width = $state(0);
  const asking = new Asking();
  const again = new Followed(asking);
  let soon = 0;
  onDestroy(() => (again.close(), window.clearTimeout(soon)));

  async function read() {
    const found = await asking.read(() =>
      answered(client.GET("/api/layers/{layer_id}/sheet", { params: { path: { layer_id: layer } } })),
    );
    if (found?.layer_id !== layer) return;
    sheet = found;
    window.clearTimeout(soon);
    if (found.reads) soon = window.setTimeout(() => void read(), ASKED_EVERY_MS);
  }
  whenOthersWrite(read);
  const shown = $derived(stills.ofSheet(layer));
  $effect(() => {
    void layer;
    void shown?.still?.id;
    void isGoing(again.job);
    void read();
  });
  const of = $derived(sheet?.layer_id === layer ? sheet : null);
  /** What is told is of the photograph that is shown. */
  const told = $derived(of && shown?.still && of.still_id === shown.still.id ? of : null);
  const reads = $derived(Boolean(told?.reads) || isGoing(again.job));
  const worst = $derived(
    (["shows", "tight", "holds"] as const).find((one) => told?.lines.some((line) => line.verdict === one)),
  );
  const first = $derived.by(() => {
    if (!shown) return "photograph it before the camera runs.";
    if (!shown.still) return shown.problem ?? "its photograph waits on this device to be sent.";
    if (reads) return "being read…";
    return told?.fault || told?.says || "";
  });
  const size = $derived({ width, height: told ? (width * told.height_px) / told.width_px : 0 });
  const named = $derived(marking === "corners" ? CORNERS : BALL);

  function come(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = "";
    marking = "";
    if (file) void stills.add(layer, { take: null, of: "sheet" }, file);
  }
  function mark(what: "corners" | "ball") {
    const before = (what === "corners" ? told?.corners : told?.ball) as Place[] | undefined;
    const begins: Place[] =
      what === "corners"
        ? SQUARE
        : [
            [0.5, 0.5],
            [0.55, 0.5],
          ];
    places = before?.length ? before.map((one): Place => [...one]) : begins;
    marking = what;
  }
  let buttons: Partial<Record<typeof marking, HTMLElement>> = $state({});
  /** Nothing was moved; the keys go on from where the marking began. */
  async function leave() {
    const was = marking;
    marking = "";
    await tick();
    buttons[was]?.focus();
  }
  function readAgain(marked: { corners: Place[]; ball: Place[] }) {
    const still = told!.still_id!;
    marking = "";
    return again.ask((key) =>
      answered(
        client.POST("/api/stills/{still_id}/sheet", {
          params: { path: { still_id: still } },
          headers: { "Idempotency-Key": key },
          body: marked,
        }),
      ),
    );
  }
  /** The corners as they were marked; those that were found are found again. */
  const kept = $derived(told && !told.found ? (told.corners as Place[]) : []);
  const done = () =>
    readAgain(
      marking === "corners"
        ? { corners: places, ball: (told!.ball as Place[]) ?? [] }
        : { corners: kept, ball: places },
    );
  const planned = $derived(told?.lines.some((line) => line.planned_text));
</script>

{#if of?.has_sheet || shown}
  <details class="border-b border-line" open={!!shown && worst !== "holds"}>
    <summary class="cursor-pointer px-3.5 py-2 pointer-coarse:min-h-11">
      <b>The lit sheet:</b>
      {first}
      {#if worst && !reads}<Verdict verdict={worst} />{/if}
    </summary>
    {#if shown?.url}
      <div class="relative bg-black" bind:clientWidth={width}>
        <img src={shown.url} alt="The lit sheet as it was photographed" class="block w-full" />
        {#if told && !reads}
          <svg
            class="pointer-events-none absolute inset-0 h-full w-full"
            viewBox={`0 0 ${size.width} ${size.height}`}
            aria-hidden="true"
          >
            {#if !marking}<Overlays overlays={told.overlays} {size} />{/if}
            {#if !marking && told.corners.length}
              <polygon
                points={told.corners.map((one) => `${one[0]! * width},${one[1]! * size.height}`).join(" ")}
                fill="none"
                stroke="white"
                stroke-dasharray="4 3"
              />
            {/if}
          </svg>
        {/if}
        {#if marking}<Handles
            bind:places
            names={named}
            round={marking === "ball"}
            {size}
            onleave={leave}
          />{/if}
      </div>
    {/if}
    {#if told && !reads && !told.fault}
      <table class="w-full border-collapse">
        <caption class="sr-only">The lit sheet, planned and photographed</caption>
        <thead class="text-muted">
          <tr class="text-right">
            <td></td>
            <th class="w-16 font-normal" scope="col">{planned ? "planned" : ""}</th>
            <th class="w-34 pr-3.5 font-normal" scope="col">photograph</th>
          </tr>
        </thead>
        <tbody>
          {#each told.lines as line (line.amount)}
            <tr class="h-9 border-t border-line text-right">
              <th class="pl-3.5 text-left font-normal" scope="row"
                >{line.label} <span class="text-muted">{line.unit}</span></th
              >
              <td class="num text-muted">{line.planned_text}</td>
              <td class="num pr-3.5"
                ><span class="flex items-center justify-end gap-1.5"
                  ><b>{line.measured_text}</b>{#if line.error_text}<span class="text-muted"
                      >± {line.error_text}</span
                    >{/if}<Verdict verdict={line.verdict} /></span
                ></td
              >
            </tr>
          {/each}
        </tbody>
      </table>
      {#if told.lamps.length}
        <ul class="border-t border-line" aria-label="Its lamps, against the kit">
          {#each told.lamps as lamp (lamp.name)}
            <li
              class={[
                "flex min-h-9 flex-wrap items-center gap-x-2 px-3.5 py-1",
                "border-b border-line last:border-b-0",
              ]}
            >
              <span class="min-w-0 break-words">{lamp.name}</span>
              <span class={["num ml-auto", lamp.differs ? "font-strong" : "text-muted"]}>{lamp.text}</span>
              {#if lamp.to_do}<span class="basis-full font-strong">{lamp.to_do}</span>{/if}
            </li>
          {/each}
        </ul>
      {/if}
      <ul class="grid gap-1 border-t border-line px-3.5 py-2">
        <li>{told.keys || "Have somebody stand before it, and the photograph says whether it keys."}</li>
        {#if told.light}<li>{told.light}</li>{/if}
        <li class="text-muted">
          {told.corners.length
            ? told.found
              ? "Its corners were found by its colour: look whether they lie on it."
              : "Its corners are as they were marked."
            : "Its corners were not found: mark them, or frame the photograph as the camera frames."}
        </li>
      </ul>
      <details class="border-t border-line">
        <summary class="cursor-pointer px-3.5 py-2 text-muted pointer-coarse:min-h-11">Assumed</summary>
        <ul class="grid gap-1 px-3.5 pb-2 text-muted">
          {#each told.assumptions as line (line)}<li>{line}</li>{/each}
          <li>By {told.by}, {clock(told.at!)}.</li>
        </ul>
      </details>
    {/if}
    {#if asking.said || again.job?.state === "failed"}
      <p class="px-3.5 py-2 text-shows" role="alert">{asking.said || again.job?.message}</p>
    {/if}
    {#if writes}
      <div class="flex flex-wrap gap-2 border-t border-line px-3.5 py-2.5">
        {#if marking}
          <button class="btn btn-solid" onclick={done}>Read it again</button>
          {#if marking === "ball" && told?.ball.length}<button
              class="btn !border-line"
              onclick={() => readAgain({ corners: kept, ball: [] })}>No ball</button
            >{/if}
          <button class="btn !border-line" onclick={leave}>Leave it</button>
        {:else}
          <label
            class={[
              "btn inline-flex cursor-pointer items-center focus-within:outline-2",
              !shown && "btn-solid",
            ]}
          >
            {shown ? "Photograph it again" : "Photograph the sheet"}<input
              type="file"
              accept="image/*"
              capture="environment"
              class="sr-only"
              aria-label={shown ? "Photograph it again" : "Photograph the sheet"}
              onchange={come}
            />
          </label>
          {#if shown?.problem}<button class="btn !border-line" onclick={() => photographs.box.drop(shown.key)}
              >Drop it</button
            >{/if}
          {#if told && !reads}
            <button bind:this={buttons.corners} class="btn !border-line" onclick={() => mark("corners")}
              >Corners</button
            >
            {#if !told.fault}<button
                bind:this={buttons.ball}
                class="btn !border-line"
                onclick={() => mark("ball")}>Grey ball</button
              >{/if}
          {/if}
        {/if}
      </div>
    {/if}
  </details>
{/if}
