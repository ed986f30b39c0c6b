<!-- The Bench: through the lens, will it show, the set, the stack, dial in. -->
<script lang="ts">
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import { addHero } from "./hero";
  import NotDone from "./NotDone.svelte";
  import Boundary from "../../lib/ui/Boundary.svelte";
  import { Tabs } from "bits-ui";
  import TabList from "../../lib/ui/TabList.svelte";
  import { untrack } from "svelte";
  import { push } from "svelte-spa-router";
  import { answered, client, Offline, type Item, type Layer, type Schemas } from "../../lib/api/client";
  import BenchHead from "./BenchHead.svelte";
  import CutPanel from "./CutPanel.svelte";
  import DialIn, { FIRST_DIALS } from "./DialIn.svelte";
  import JudgingPanel from "./JudgingPanel.svelte";
  import Ladder from "./Ladder.svelte";
  import LayerPanel from "./LayerPanel.svelte";
  import Look from "./Look.svelte";
  import LightPanel from "./LightPanel.svelte";
  import ReadPicture from "./ReadPicture.svelte";
  import SetDrawing from "./SetDrawing.svelte";
  import ShotPanel from "./ShotPanel.svelte";
  import SolvePanel from "./SolvePanel.svelte";
  import ThroughLens from "./ThroughLens.svelte";
  import { BenchState } from "../../lib/edit/shot.svelte";
  import { noChanges } from "../../lib/edit/changes";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { Solving } from "./solving.svelte";
  import { letter } from "../../lib/ui/keys";

  let { params }: { params: { shot: string } } = $props();

  let bench = $state(new BenchState(0));
  let opened = $state<string | null>(null);
  let why = $state(false);
  let allDials = $state(false);
  let solving = $state.raw(new Solving(untrack(() => bench)));
  const PANELS = [
    ["show", "Will it show?"],
    ["layer", "Layer"],
    ["light", "Light"],
    ["shot", "Shot"],
    ["cut", "Across the cut"],
    ["judging", "Judging"],
  ] as const;
  let reading = $state(false);
  let looks = $state(false);
  let panel = $state<(typeof PANELS)[number][0]>("show");
  let sources = $state.raw(new Map<string, Schemas["SourceOut"]>());

  $effect(() => {
    const id = Number(params.shot);
    untrack(() => {
      bench.close();
      bench = new BenchState(id);
      place.shot = id;
      solving.close();
      solving = new Solving(bench);
      opened = null;
      void bench.load();
    });
  });
  $effect(
    () => () =>
      untrack(() => {
        bench.close();
        solving.close();
      }),
  );
  void fieldBook.read();
  $effect(() => {
    void session.person?.units;
    void session.person?.school;
    untrack(() => bench.bench && bench.reread());
  });
  if (!place.shots) void place.readShots(session).catch(() => undefined);
  async function readSources() {
    try {
      sources = new Map((await answered(client.GET("/api/sources"))).map((one) => [one.key, one]));
    } catch (error) {
      if (!(error instanceof Offline)) throw error;
    }
  }
  $effect(() => {
    if (!bench.offline && !untrack(() => sources.size)) void readSources();
  });

  const data = $derived(bench.bench);
  const set = $derived(data?.selected ?? null);
  const layer = $derived(data?.layers.find((one) => one.id === bench.looking.selected) ?? null);
  const shownItem = $derived.by(() => {
    const mine = layer;
    const open = opened?.split(":");
    const item =
      open &&
      data?.layers.find((one) => one.id === Number(open[0]))?.items.find((one) => one.item === open[1]);
    return item ?? mine?.items.find((one) => !one.accepted && !one.informs) ?? null;
  });
  // What was shot cannot be dialled: the barrels and the drawing turn the plan.
  const asShot = $derived(!!layer && layer.basis !== "plan");
  const turns = $derived(bench.writes && !asShot);
  /** A barrel that has something to say is never hidden. */
  const moreDials = $derived(
    allDials || !!set?.dials.slice(FIRST_DIALS).some((dial) => bench.problemAt(dial.field)),
  );
  const otherProblems = $derived(
    bench.problems.filter((one) => !set?.dials.some((dial) => dial.field === one.field)),
  );

  async function fix(target: Layer, chosen: Schemas["FixOut"]) {
    bench.looking.basis = "planned";
    if (chosen.new_layer) {
      const here = bench.looking.selected;
      await bench.add(chosen.label, {
        what: "layer",
        fields: chosen.new_layer.fields,
        like_set_up: chosen.new_layer.like_set_up,
      });
      if (here !== null) bench.select(here);
      return;
    }
    await bench.apply(chosen.label, { ...noChanges(), ...chosen.changes });
  }
  const accept = (target: Layer, item: Item, reason: string, withdraw: boolean) =>
    bench.accept(target.id, item.item, reason, withdraw);
  function basis(value: "planned" | "shot") {
    bench.looking.basis = value;
    bench.reread();
  }

  function finish(after: boolean) {
    bench.looking.afterFinish = after;
    bench.reread();
  }
  function toFrame(frame: number) {
    bench.looking.frame = frame;
    bench.reread();
  }

  function pressed(event: KeyboardEvent) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
      if (event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      void (event.shiftKey ? bench.redo() : bench.undo());
      return;
    }
    if (event.key === "Escape") {
      if (solving.found) solving.close();
      else bench.forget();
    }
    const key = letter(event);
    if (key === "s") void solving.solve();
    else if (key === "l" && layer) looks = true;
    else if (key === "n" && bench.writes) panel = "layer";
    else if (key === "c")
      void session.prefer({ school: session.person?.school === "covered" ? "measured" : "covered" });
    else if (key === "f" && data?.finish) finish(!bench.looking.afterFinish);
    else if (key >= "1" && key <= String(PANELS.length)) panel = PANELS[Number(key) - 1]![0];
    else if (key === "t") void push(`/shots/${params.shot}/log`);
    else if (key === "w") {
      opened ??= shownItem && layer ? `${layer.id}:${shownItem.item}` : null;
      why = !why;
    } else if (key === "m" && data?.any_takes) basis(bench.looking.basis === "shot" ? "planned" : "shot");
  }
  const BEGINS =
    "A shot begins with its hero plate, which sets the camera that all the others must match; " +
    "then every other layer stands here beside it, and whatever will show.";
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{data ? `${data.code} ${data.title}` : "Bench"} · Jungoptic</title></svelte:head>

{#if bench.missing}
  <CannotShow why={bench.missing} />
{:else if !data}
  <main class="grid h-full place-content-center text-muted">
    {bench.offline ? "The server cannot be reached. Trying again…" : "Laying out the bench…"}
  </main>
{:else}
  <main class="flex h-full flex-col max-sm:overflow-y-auto">
    <BenchHead {bench} {data} shot={params.shot} {layer} onbasis={basis} onsolve={() => solving.solve()} />

    <NotDone {bench} problems={otherProblems} />

    {#if !data.layers.length}
      <div class="grid flex-1 place-content-center gap-3 p-6 text-center">
        <h2 class="text-lg">No plates are laid out for {data.code} yet</h2>
        <p class="max-w-prose text-muted">
          {data.description}
          {BEGINS}
        </p>
        {#if bench.writes}
          <button class="btn btn-solid mx-auto" onclick={() => addHero(bench)}>Add the hero plate</button>
          <a class="btn mx-auto" href={`#/shots/${params.shot}/photograph`}
            >Begin with a photograph of the place</a
          >
        {/if}
        {#if place.shots?.[0] && place.shots[0].id !== data.shot_id}
          <a class="btn mx-auto" href={`#/shots/${place.shots[0].id}/bench`}
            >See a worked example: {place.shots[0].code}, {place.shots[0].title}</a
          >
        {/if}
      </div>
    {:else}
      <div
        class={[
          "grid shrink-0 grid-cols-2 border-b",
          "border-line max-lg:basis-auto max-lg:grid-cols-1 lg:min-h-[270px]",
          moreDials ? "basis-[38%]" : "basis-[44%]",
        ]}
      >
        <Boundary what="The view through the lens">
          <ThroughLens {bench} {data} item={shownItem} onfinish={finish} onframe={toFrame} />
        </Boundary>
        <div class="flex min-h-0 flex-col contain-strict max-lg:h-[400px]">
          {#if solving.found}
            <div class="min-h-0 flex-1">
              <SolvePanel
                name={layer?.name ?? ""}
                {...solving.found}
                writes={bench.writes}
                scale={layer?.scale ?? 1}
                scales={solving.scales}
                onuse={(answer) => {
                  opened = null;
                  solving.use(answer);
                }}
                onscales={() => solving.chooseScale()}
                onscale={(scale) => solving.useScale(scale)}
                onstop={() => solving.stop()}
                onclose={() => solving.close()}
              />
            </div>
          {:else}
            <Tabs.Root bind:value={panel} class="flex min-h-0 flex-1 flex-col">
              <TabList tabs={PANELS} label="About this shot" look="line" />
              <Tabs.Content value={panel} class="min-h-0 flex-1">
                <Boundary what="This panel">
                  {#if panel === "layer"}
                    <LayerPanel
                      {bench}
                      {layer}
                      writes={bench.writes}
                      onread={() => (reading = true)}
                      onlook={() => (looks = true)}
                    />
                  {:else if panel === "light"}
                    <LightPanel {bench} {layer} writes={bench.writes} />
                  {:else if panel === "shot"}
                    <ShotPanel {bench} writes={bench.writes} />
                  {:else if panel === "cut"}
                    <CutPanel bench={data} />
                  {:else if panel === "judging"}
                    <JudgingPanel
                      production={data.production_id}
                      units={data.units}
                      writes={bench.writes}
                      onchange={() => bench.reread()}
                    />
                  {:else}
                    <Ladder
                      bench={data}
                      bind:opened
                      bind:why
                      {sources}
                      writes={bench.writes}
                      onopen={(id) => bench.select(id)}
                      onfix={fix}
                      onaccept={accept}
                    />
                  {/if}
                </Boundary>
              </Tabs.Content>
            </Tabs.Root>
          {/if}
        </div>
      </div>

      <div class="min-h-[240px] flex-1 shrink-0 max-lg:h-[300px] max-lg:flex-none">
        <Boundary what="The drawing of the set">
          <SetDrawing
            bench={data}
            selected={bench.looking.selected}
            writes={turns}
            onselect={(id) => bench.select(id)}
            tried={(what, id, field) => bench.trial.now<number | undefined>(what, id, field, undefined)}
            onstart={() => bench.trial.remember()}
            onmove={(fields) => set && bench.try("set_ups", set.set_up_id, fields)}
            onplace={(one, near_m) => bench.try("layers", one.id, { near_m })}
            onlamp={(lamp, fields) => bench.try("lamps", lamp, fields)}
            onsheet={(backing, fields) => bench.try("backings", backing, fields)}
            onset={(label) => bench.commit(label)}
            oncancel={() => bench.forget()}
            onread={layer?.picture ? () => (reading = true) : null}
          />
        </Boundary>
      </div>

      {#if set && asShot}
        <p class="shrink-0 border-t border-line px-3.5 py-1 text-muted">
          {layer?.name} as shot, {layer?.basis}: this is what was really set.
          <button class="link text-ink" onclick={() => basis("planned")}>Go to the plan</button>
          to dial in the next take.
        </p>
      {/if}
      {#if set}
        <DialIn {bench} {set} {solving} units={data.units} {turns} open={moreDials} bind:more={allDials} />
      {/if}
    {/if}
  </main>
{/if}
{#if data && layer}
  <Look bind:open={looks} {bench} {layer} writes={bench.writes} units={data.units} />
{/if}
{#if data && layer?.picture}
  <ReadPicture bind:open={reading} {bench} {layer} writes={bench.writes} units={data.units} />
{/if}
