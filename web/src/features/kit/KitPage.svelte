<!-- The production's kit on one screen: cameras and what they record, lenses, lamps, all that is owned. -->
<script lang="ts">
  import { Asking } from "../../lib/edit/asking.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { undoes } from "../../lib/ui/keys";
  import { tip } from "../../lib/ui/tip.svelte";
  import { COLUMNS, Kit, type KindName, type Row } from "./kit.svelte";
  import KitNew from "./KitNew.svelte";
  import KitPhotograph from "./KitPhotograph.svelte";
  import KitRows from "./KitRows.svelte";
  import { newMode, NEWS, OTHERS } from "./news";
  import PutOn from "./PutOn.svelte";

  const kit = new Kit(() => place.production!);
  const reading = new Asking();
  const production = $derived(place.productions?.find((one) => one.id === place.production));
  const writes = $derived(place.role === "supervisor");
  let photograph = $state.raw<File | null>(null);
  let over = $state(false);
  let said = $state("");

  function read() {
    return reading.read(async () => {
      await place.choose();
      if (place.production) await kit.fresh();
    });
  }
  void read().then(() => reading.read(() => kit.back.fill({ kinds: KINDS.join(",") })));
  whenOthersWrite(
    () => kit.fresh(),
    (told) => told.shot === null,
  );
  const HEADING =
    "sticky top-0 z-10 flex flex-wrap items-baseline gap-x-3 border-b border-line bg-ground px-3.5 py-1.5";
  const KINDS = Object.keys(COLUMNS) as KindName[];
  const open = $derived(place.production);
  let last = place.production;
  $effect(() => {
    if (open && open !== last) {
      last = open;
      void read();
    }
  });

  const TABLE = /\.csv$|text\/csv/i;
  async function take(file: File) {
    said = "";
    if (!TABLE.test(file.name) && !TABLE.test(file.type)) {
      photograph = file;
      return;
    }
    const done = await kit.takeIn(await file.text());
    if (done) said = `${done.added} added, ${done.changed} changed.`;
  }
  function chosen(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    input.value = "";
    if (file) void take(file);
  }
  function dropped(event: DragEvent) {
    event.preventDefault();
    over = false;
    const file = event.dataTransfer?.files[0];
    if (file && writes) void take(file);
  }
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void kit.back.undo();
  }
  const modesOf = (row: Row) => kit.rows("mode").filter((mode) => mode.values.camera_id === row.id);
  const lensesOf = (camera: number | null) =>
    kit.rows("lens").filter((lens) => lens.values.camera_id === camera);
  const empty = $derived(kit.known !== null && KINDS.every((kind) => !kit.rows(kind).length));
  const retired = $derived(KINDS.flatMap((kind) => kit.retired(kind).map((row) => ({ kind, row }))));
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>Kit · Jungoptic</title></svelte:head>

{#snippet heading(title: string, note: string)}
  <h2 class={HEADING}>
    {title} <span class="text-sm font-normal text-muted">{note}</span>
  </h2>
{/snippet}

<main
  class={["flex h-full flex-col", over && "outline-2 -outline-offset-2 outline-ink"]}
  ondragover={(event) => {
    event.preventDefault();
    over = writes;
  }}
  ondragleave={() => (over = false)}
  ondrop={dropped}
>
  <h1 class="sr-only">Kit</h1>
  <div
    class="flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5 py-1"
  >
    <span class="text-muted max-sm:hidden"
      >What you own: Bench, Solve, Methods and Log draw on it and on nothing else.</span
    >
    <a class="link whitespace-nowrap" href="#/kit/can">What can it do?</a>
    <a class="link whitespace-nowrap" href="#/kit/measure">Measure it</a>
    <div class="ml-auto flex flex-wrap items-center gap-2">
      {#if writes}
        <button
          class="btn !border-line"
          disabled={!kit.back.can}
          {@attach tip(() => kit.back.label)}
          onclick={() => kit.back.undo()}>Undo</button
        >
        <label class="btn !border-line"
          >From a photograph
          <input
            type="file"
            class="sr-only"
            accept="image/jpeg,image/tiff,image/png,image/webp"
            aria-label="Photograph taken with the camera"
            onchange={chosen}
          />
        </label>
        <label class="btn !border-line"
          >Take in CSV
          <input
            type="file"
            class="sr-only"
            accept=".csv,text/csv"
            aria-label="Kit as a table"
            onchange={chosen}
          />
        </label>
        <Select
          class="field !w-44"
          label="Begin with"
          value=""
          placeholder="Begin with…"
          options={(kit.known?.starts ?? []).map((one) => [one.key, one.title] as const)}
          onchange={(key) => void kit.start(key)}
        />
      {/if}
      {#if place.production}<a
          class="btn !border-line"
          href={`/api/productions/${place.production}/kit.csv`}
          download>CSV</a
        >{/if}
    </div>
  </div>
  {#if reading.said}<p role="alert" class="px-3.5 py-2">
      {reading.said} <button class="link" onclick={read}>Try again</button>
    </p>{/if}
  {#if (kit.failed === "table" || kit.failed === "start") && kit.asking.said}
    <p role="alert" class="border-b border-line px-3.5 py-2">{kit.asking.said}</p>
  {/if}
  {#if said}<p role="status" class="border-b border-line px-3.5 py-2">
      {said} <button class="link ml-2" onclick={() => (said = "")}>Good</button>
    </p>{/if}
  {#if photograph}<KitPhotograph {kit} file={photograph} ondone={() => (photograph = null)} />{/if}

  {#if writes && production && production.shots === 0}
    <p class="border-b border-line px-3.5 py-2">
      <span class="text-muted">Begun: {production.title}.</span> <b>Now the kit</b>, as far as you like,
      <a class="link" href="#/">then the first shot</a>. Friends are
      <a class="link" href="#/production/people">invited</a> whenever you want them.
    </p>
  {/if}
  <div class="min-h-0 flex-1 overflow-y-auto pb-8">
    {#if empty}
      <div class="mx-auto mt-10 mb-4 grid max-w-lg justify-items-center gap-3 px-4 text-center">
        <p class="text-lg font-strong">Nothing is in the kit yet</p>
        <p class="text-muted">
          Drop a photograph taken with your camera here, and its tags give gate and lens; or begin with what
          most people have, and change it to your own.
        </p>
        {#if writes}
          <div class="flex flex-wrap justify-center gap-2">
            {#each kit.known?.starts ?? [] as start (start.key)}
              <button class="btn" disabled={kit.asking.busy} onclick={() => kit.start(start.key)}
                >{start.title}</button
              >
            {/each}
          </div>
        {/if}
      </div>
    {/if}
    {#if kit.known}
      <section aria-label="Cameras">
        {@render heading("Cameras", "and what they record; ISO as its menu has it")}
        <div class="px-3.5">
          <KitRows {kit} kind="camera" rows={kit.rows("camera")} {writes} label="Cameras">
            {#snippet under(camera)}
              {#if modesOf(camera).length}
                <KitRows
                  {kit}
                  kind="mode"
                  rows={modesOf(camera)}
                  titled={camera.id === kit.rows("camera")[0]?.id}
                  {writes}
                  label={`What ${kit.name(camera)} records`}
                />
              {/if}
              {#if lensesOf(camera.id).length}
                <KitRows
                  {kit}
                  kind="lens"
                  rows={lensesOf(camera.id)}
                  {writes}
                  label={`Lenses built into ${kit.name(camera)}`}
                />
              {/if}
              {#if writes}
                <div class="flex flex-wrap gap-x-5">
                  <KitNew
                    {kit}
                    kind="mode"
                    where={`mode-of-${camera.id}`}
                    verb="Add a recording"
                    gates
                    {...newMode(kit.known)}
                    always={{ camera_id: camera.id }}
                  />
                  <KitNew
                    {kit}
                    kind="lens"
                    where={`lens-of-${camera.id}`}
                    verb="Add a lens that is built in"
                    begins={{ ...NEWS.builtIn.begins, name: `${kit.name(camera)}'s lens`.slice(0, 60) }}
                    asks={NEWS.builtIn.asks}
                    always={{ camera_id: camera.id }}
                  />
                </div>
              {/if}
            {/snippet}
          </KitRows>
          {#if writes}
            <KitNew {kit} kind="camera" verb="Add a camera" {...NEWS.camera} />
          {/if}
        </div>
      </section>
      <section aria-label="Lenses">
        {@render heading("Lenses", "a zoom has a long end; stops as they are engraved")}
        <div class="px-3.5">
          <KitRows {kit} kind="lens" rows={lensesOf(null)} {writes} label="Lenses" />
          {#if writes}
            <div class="flex flex-wrap items-start gap-x-5">
              <KitNew {kit} kind="lens" verb="Add a lens" {...NEWS.lens} />
              <PutOn {kit} lenses={lensesOf(null)} />
            </div>
          {/if}
        </div>
      </section>
      <section aria-label="Lamps">
        {@render heading("Lamps", "measured: so many lux at so many metres; or the maker's candela and beam")}
        <div class="px-3.5">
          <KitRows {kit} kind="lamp" rows={kit.rows("lamp")} {writes} label="Lamps" />
          {#if writes}
            <KitNew {kit} kind="lamp" verb="Add a lamp" {...NEWS.lamp} />
          {/if}
        </div>
      </section>
      {#each OTHERS as [kind, title, note, verb] (kind)}
        <section aria-label={title}>
          {@render heading(title, note)}
          <div class="px-3.5">
            {#if kit.rows(kind).length}<KitRows
                {kit}
                {kind}
                rows={kit.rows(kind)}
                {writes}
                label={title}
              />{/if}
            {#if writes}<KitNew {kit} {kind} {verb} {...NEWS[kind]} />{/if}
          </div>
        </section>
      {/each}
      {#if retired.length}
        <section aria-label="Retired">
          {@render heading("Retired", "what set-ups and takes stood on, kept")}
          <ul class="px-3.5">
            {#each retired as { kind, row } (`${kind}${row.id}`)}
              <li class="flex flex-wrap items-baseline gap-3 border-b border-line py-1">
                {kit.name(row)}
                {#if writes}<button
                    class="link text-sm text-muted"
                    onclick={() => kit.change(kind, row, { removed: false }, `Bring ${kit.name(row)} back`)}
                    >bring back<span class="sr-only"> {kit.name(row)}</span></button
                  >{/if}
                {#if kit.failed === `${kind}${row.id}` && kit.asking.said}<span role="alert"
                    >{kit.asking.said}</span
                  >{/if}
              </li>
            {/each}
          </ul>
        </section>
      {/if}
    {:else if !reading.said}<p class="px-3.5 py-3 text-muted">Reading the kit…</p>{/if}
  </div>
</main>
