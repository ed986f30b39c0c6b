<!-- The cut: every shot of the production in order, what it is, what will show, what is left. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import Slider from "../../lib/ui/Slider.svelte";
  import { push } from "svelte-spa-router";
  import Pages from "./Pages.svelte";
  import TakeIn from "./TakeIn.svelte";
  import CutRibbon from "./CutRibbon.svelte";
  import CutStrip from "./CutStrip.svelte";
  import WallList from "./WallList.svelte";
  import Printed from "../papers/Printed.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { onDestroy } from "svelte";
  import { hours, plural, whole } from "../../lib/hours";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { prefer, preferred } from "../../lib/offline/preferences";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import { letter, undoes } from "../../lib/ui/keys";

  type Line = Schemas["WallLine"];
  const asking = new Asking();
  const SHOWN = "wall";
  const SECOND = 44;
  const kept = JSON.parse(preferred(SHOWN) ?? "{}") as { look?: string; group?: string; second?: number };
  let look = $state<"cut" | "list">(kept.look === "list" ? "list" : "cut");
  /** Width of a second in the cut, px. */
  let second = $state(Math.min(Math.max(kept.second ?? SECOND, 12), 160));
  let chosen = $state<number | null>(place.shot);
  let group = $state<"none" | "place" | "recipe">(
    kept.group === "place" || kept.group === "recipe" ? kept.group : "none",
  );
  let only = $state("all");
  let words = $state("");
  let adding = $state(false);
  let filter = $state<HTMLInputElement | null>(null);
  let list = $state<ReturnType<typeof WallList> | null>(null);
  const boards = new Asking();
  const placing = new Followed(boards);
  const job = $derived(placing.job);
  onDestroy(() => placing.close());
  /** Boards that are being read still, whoever gave them and on whichever page. */
  async function followBoards(production_id: number) {
    const params = { path: { production_id }, query: { kind: "boards" } };
    const jobs = await boards.read(() =>
      answered(client.GET("/api/productions/{production_id}/jobs", { params })),
    );
    if (jobs?.[0] && isGoing(jobs[0]) && !placing.job) placing.follow(jobs[0]);
  }

  $effect(() => prefer(SHOWN, JSON.stringify({ look, group, second })));

  const production = $derived(place.productions?.find((one) => one.id === place.production));
  const writes = $derived(production?.role === "supervisor");
  $effect(() => {
    if (writes && place.production) void followBoards(place.production);
  });
  const rate = $derived(production?.frame_rate_fps ?? 24);
  /** Something to look at: shots, or shots that can be brought back. */
  const any = $derived(Boolean(place.shots?.length || place.wall?.removed.length));
  const totals = $derived(place.wall?.totals ?? null);
  const ONLY: Record<string, [string, (one: Line) => boolean]> = {
    all: ["All shots", () => true],
    shows: ["Something shows", (one) => one.verdict === "shows"],
    open: ["Cautions open", (one) => one.open_hazards.length > 0],
    ready: ["Ready", (one) => one.ready],
    unready: ["Not ready", (one) => !one.ready],
    bare: ["No plates yet", (one) => one.layers === 0],
    unshot: ["Not shot yet", (one) => one.shot_layers < Math.max(one.filmed, 1)],
  };
  const found = $derived.by(() => {
    const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
    return (place.shots ?? []).filter((one) => {
      const all = [one.code, one.title, one.description, one.place, ...one.recipes].join(" ").toLowerCase();
      return wanted.every((word) => all.includes(word)) && ONLY[only]![1](one);
    });
  });
  const shown = $derived(found.find((one) => one.id === chosen) ?? found[0] ?? null);
  const groups = $derived.by((): [string, Line[]][] => {
    if (group === "none") return [["", found]];
    const by: Record<string, Line[]> = {};
    for (const one of found)
      for (const name of group === "place"
        ? [one.place || "No place said"]
        : one.recipes.length
          ? one.recipes
          : ["No recipe chosen"])
        (by[name] ??= []).push(one);
    return Object.entries(by).sort(
      ([a], [b]) => Number(a.startsWith("No ")) - Number(b.startsWith("No ")) || a.localeCompare(b),
    );
  });

  function read() {
    return asking.read(readWall);
  }
  const readWall = () => place.readShots(session);
  whenOthersWrite(readWall);
  void read();

  function cardKey(event: KeyboardEvent) {
    const cards = [...document.querySelectorAll<HTMLElement>("[data-wall]")];
    const at = cards.indexOf(event.currentTarget as HTMLElement);
    const here = cards[at]!.getBoundingClientRect();
    const row = (one: HTMLElement) => one.getBoundingClientRect();
    let next: HTMLElement | undefined;
    if (event.key === "ArrowRight") next = cards[at + 1];
    else if (event.key === "ArrowLeft") next = cards[at - 1];
    else if (event.key === "ArrowDown")
      next = cards.slice(at + 1).find((one) => row(one).top > here.top + 4 && row(one).left >= here.left - 4);
    else if (event.key === "ArrowUp")
      next = cards
        .slice(0, at)
        .reverse()
        .find((one) => row(one).top < here.top - 4 && row(one).left <= here.left + 4);
    else if (event.key === "Home") next = cards[0];
    else if (event.key === "End") next = cards.at(-1);
    if (!next) return;
    event.preventDefault();
    next.focus();
    next.scrollIntoView({ block: "nearest" });
  }
  function pressed(event: KeyboardEvent) {
    if (look === "list" && undoes(event)) {
      void list?.undo();
      return;
    }
    const key = letter(event);
    if (key === "n" && writes) {
      event.preventDefault();
      adding = true;
    } else if (key === "f") {
      event.preventDefault();
      filter?.focus();
    } else if (key === "v") look = look === "cut" ? "list" : "cut";
    else if (look === "cut" && shown && key && key in PAGES_OF)
      void push(`/shots/${shown.id}/${PAGES_OF[key as keyof typeof PAGES_OF]}`);
  }
  async function uploadBoards(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const files = [...(input.files ?? [])];
    if (!files.length || !place.production) return;
    const form = new FormData();
    form.append("version", String(place.version));
    for (const file of files) form.append("files", file);
    await placing.ask((key) =>
      answered(
        client.POST("/api/productions/{production_id}/boards", {
          params: { path: { production_id: place.production! } },
          headers: { "Idempotency-Key": key },
          body: form as never,
          bodySerializer: (body) => body as never,
        }),
      ),
    );
    input.value = "";
  }
  const PAGES_OF = { b: "plan", e: "bench", t: "log" } as const;
  const left = (shots: Line[]) => shots.reduce((sum, one) => sum + one.hours_left, 0);
  const GROUPS = [
    ["none", "order of the cut"],
    ["place", "place"],
    ["recipe", "recipe"],
  ] as const;
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>Break down · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col">
  <h1 class="sr-only">{production?.title ?? "Break down"}</h1>
  <Pages here="wall">
    <div class="ml-auto flex flex-wrap items-center gap-2">
      {#if production && writes}
        <label class="btn !border-line"
          >Boards
          <input
            type="file"
            multiple
            class="sr-only"
            accept="image/png,image/jpeg,image/tiff,application/pdf"
            onchange={uploadBoards}
          />
        </label>
        <button class="btn btn-solid" onclick={() => (adding = true)}
          >Add shots <span class="key">n</span></button
        >
      {/if}
      {#if production}
        <a class="btn !border-line" href={`/api/productions/${production.id}/shots.csv`} download>CSV</a>
        <a class="btn !border-line" href={`/api/productions/${production.id}/shots.otio`} download>OTIO</a>
        <Printed what="book" id={production.id} version={production.version} label="Book" />
      {/if}
    </div>
  </Pages>

  {#if asking.said}
    <p role="alert" class="px-3.5 py-3">
      {asking.said} <button class="link" onclick={read}>Try again</button>
    </p>
  {/if}
  {#if boards.busy && !isGoing(job)}
    <p class="border-b border-line px-3.5 py-2 text-muted" aria-live="polite">Sending the boards…</p>
  {:else if boards.said}
    <p role="alert" class="border-b border-line px-3.5 py-2">{boards.said}</p>
  {:else if job}
    <div
      class="flex flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5 py-2"
      aria-live="polite"
    >
      {#if isGoing(job)}
        <Progress class="w-24 shrink-0" value={job.progress} label="Reading the boards" />
        <span class="min-w-0 truncate"
          >{job.state === "waiting" ? "The boards wait their turn" : "Reading the boards"}</span
        >
        {#if placing.stops}<button class="link" onclick={() => placing.stop()}>Stop</button>{/if}
      {:else}
        <p role={job.state === "failed" ? "alert" : undefined}>
          {job.message}{job.state === "ready" ? "" : " No board was changed."}
        </p>
        <button class="link" onclick={() => placing.follow(null)}>Close</button>
      {/if}
    </div>
  {/if}

  {#if place.productions && !production}
    <div class="mx-auto mt-24 grid max-w-md justify-items-center gap-3 px-4 text-center">
      <h2 class="text-lg">You are in no production yet</h2>
      <p class="text-muted">
        Begin a film of your own, or have a supervisor invite you to theirs: then its shots stand here, what
        each plate must be shot at, and what will show.
      </p>
      <a class="btn btn-solid" href="#/begin">Begin a film</a>
    </div>
  {:else if production && place.shots}
    {#if totals && any}
      <div class="flex shrink-0 flex-wrap items-baseline gap-x-4 gap-y-0.5 border-b border-line px-3.5 py-2">
        <b class="text-lg">{production.title}</b>
        <span class="text-muted"
          ><span class="num">{production.delivery_width_px} × {production.delivery_height_px}</span> at
          <span class="num">{production.rate}</span></span
        >
        <span
          ><span class="num">{totals.shots}</span> shots,
          <span class="num">{totals.effects}</span> with effects</span
        >
        <span
          ><span class="num">{whole(totals.hours)} h</span>
          <span class="text-muted"
            >({Object.entries(totals.by_craft)
              .map(([craft, value]) => `${craft} ${whole(value)}`)
              .join(", ")})</span
          ></span
        >
        <span class="num">{whole(totals.hours_left)} h left</span>
        <span class="num">{whole(totals.storage_gb)} GB</span>
        <span><span class="num">{totals.ready}</span> ready</span>
        {#if totals.open_hazards}<button
            class="link font-strong"
            aria-pressed={only === "open"}
            onclick={() => (only = only === "open" ? "all" : "open")}
            >{plural(totals.open_hazards, "caution")} open</button
          >{/if}
        {#if place.wall?.pending}<span class="text-muted" aria-live="polite"
            >judging, {place.wall.pending} to go…</span
          >{/if}
      </div>
    {/if}
    {#if any}
      <div class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5 py-1.5">
        <Choice
          label="Look"
          value={look}
          options={[
            ["cut", "Cut"],
            ["list", "List"],
          ]}
          onchange={(value) => (look = value)}
        />
        <span class="relative">
          <input
            bind:this={filter}
            bind:value={words}
            class="field !w-60 max-sm:!w-44"
            placeholder="Filter by word, place, recipe"
            aria-label="Filter"
          />
          <span class="key pointer-events-none absolute top-1.5 right-2 max-sm:hidden">f</span>
        </span>
        <Select
          class="field !w-auto"
          label="Only"
          value={only}
          options={Object.entries(ONLY).map(([key, [name]]) => [key, name] as const)}
          onchange={(key) => (only = key as typeof only)}
        />
        {#if look === "cut"}
          <label class="flex items-center gap-2 text-muted"
            >by
            <Select
              class="field !w-auto"
              label="Group by"
              value={group}
              options={GROUPS}
              onchange={(key) => (group = key as typeof group)}
            />
          </label>
        {/if}
        {#if look === "cut"}
          <label class="ml-auto flex items-center gap-2 text-muted max-sm:hidden"
            >one second is
            <Slider
              label="Width of a second"
              class="w-24"
              least={12}
              most={160}
              step={4}
              value={second}
              onchange={(value) => (second = value)}
            />
            <span class="num text-ink">{second} px</span></label
          >
        {/if}
        <span class={["text-muted", look === "list" && "ml-auto"]} aria-live="polite"
          >{found.length === place.shots.length ? "" : `${found.length} of ${place.shots.length}`}</span
        >
      </div>
    {/if}
    {#if !any}
      <div class="grid flex-1 place-content-center gap-3 p-6 text-center">
        <h2 class="text-lg">No shots yet</h2>
        <p class="max-w-prose text-muted">
          A shot is one cut of the finished film: a code, a length, the plates it is made of. Type them one a
          line, or take in a table, a screenplay or an edit list.
        </p>
        {#if writes}
          <button class="btn btn-solid mx-auto" onclick={() => (adding = true)}>Add shots</button>
          <p class="text-muted">
            Or first: <a class="link" href="#/kit">put in your kit</a>,
            <a class="link" href="#/production/people">invite the others</a>.
          </p>
        {/if}
      </div>
    {:else if !found.length && (look === "cut" || place.shots.length)}
      <p class="px-3.5 py-8 text-muted">
        {#if place.shots.length}
          No shot fits. <button
            class="link"
            onclick={() => {
              words = "";
              only = "all";
            }}>Show all</button
          >
        {:else}
          Every shot is removed. <button class="link" onclick={() => (look = "list")}
            >Look at them in the list</button
          >
        {/if}
      </p>
    {:else if look === "list"}
      <WallList
        bind:this={list}
        shots={found}
        removed={place.wall?.removed ?? []}
        places={place.wall?.places ?? []}
        {writes}
        onchange={read}
      />
    {:else}
      <div class="min-h-0 flex-1 overflow-y-auto px-3.5 py-3">
        {#each groups as [name, shots] (name)}
          {#if name}<h2 class="pt-2 pb-1.5">
              {name}
              <span class="font-normal text-muted"
                >{plural(shots.length, "shot")}, {hours(left(shots))} left</span
              >
            </h2>{/if}
          <CutRibbon
            {shots}
            joints={place.wall?.joints ?? []}
            {rate}
            {second}
            bind:chosen={() => shown?.id ?? null, (id) => (chosen = id)}
            onopen={(shot) => push(`/shots/${shot.id}/plan`)}
            onkeydown={cardKey}
          />
        {/each}
      </div>
      {#if shown}<CutStrip shot={shown} shots={place.shots} joints={place.wall?.joints ?? []} {rate} />{/if}
    {/if}
  {:else if !asking.said}
    <p class="px-3.5 py-3 text-muted">Reading the shots…</p>
  {/if}
</main>

{#if production}<TakeIn bind:open={adding} production={production.id} onchange={read} />{/if}
