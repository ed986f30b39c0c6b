<!--
  Rushes: the measuring table. The picture as large as it can be, numbers beside it, what changes over the
  frames below.
-->
<script lang="ts">
  import { Tabs } from "bits-ui";
  import { onDestroy, untrack } from "svelte";
  import { push } from "svelte-spa-router";
  import { isGoing } from "../../lib/events/job.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import TabList from "../../lib/ui/TabList.svelte";
  import { letter, typing, undoes } from "../../lib/ui/keys";
  import { Beside } from "./beside.svelte";
  import BesideBar from "./BesideBar.svelte";
  import BeforeStruck from "./BeforeStruck.svelte";
  import Colour from "./Colour.svelte";
  import Ladder from "./Ladder.svelte";
  import Measures from "./Measures.svelte";
  import OverFrames from "./OverFrames.svelte";
  import { MARK_NAMES, SHAPES, TABS, tabOf, type Tab } from "./rows";
  import { Rushing } from "./rushing.svelte";
  import Seen from "./Seen.svelte";

  let { params }: { params: { shot: string; recording?: string } } = $props();
  let rushing = $state(new Rushing(0));
  let tab = $state<Tab>("still");
  let checking = $state(false);
  const beside = new Beside();

  $effect(() => {
    const shot = Number(params.shot);
    const recording = Number(params.recording ?? 0);
    untrack(() => {
      if (rushing.shot !== shot) {
        rushing.close();
        rushing = new Rushing(shot);
        void beside.choose(0);
        rushing.recording = recording;
        void rushing.read().then(() => {
          if (!rushing.list) return;
          place.opened(rushing.list.production_id);
          place.shot = shot;
        });
      } else if (recording) {
        if (recording === beside.other?.recording_id) void beside.choose(0);
        void rushing.open(recording);
      }
    });
  });
  whenOthersWrite(
    () => rushing.read(),
    (told) => told.shot === null || told.shot === rushing.shot,
  );
  onDestroy(() => rushing.close());
  // what a job made is read when it is over
  let over = $state(0);
  $effect(() => {
    for (const { job } of [rushing.measuring, rushing.looking]) {
      if (!job || isGoing(job) || job.id <= over) continue;
      over = job.id;
      void rushing.read();
    }
  });
  const list = $derived(rushing.list);
  const rush = $derived(rushing.rush);
  const line = $derived(rushing.line);
  const options = $derived(
    rushing.lines.map(
      (one) =>
        [
          String(one.recording_id),
          `${one.layer} · take ${one.take_number}${one.circled ? " ◯" : ""} · ${one.name}`,
        ] as const,
    ),
  );

  const STEPS: Record<string, number> = { ArrowLeft: -1, ArrowRight: 1 };
  const OWN = "[role=tablist], [role=listbox], [aria-haspopup=listbox], [role=dialog], [role=application]";
  const begin = () =>
    rushing.writes && rush && rushing.frame < rush.ends && rushing.sayCounts(rushing.frame, rush.ends);
  const end = () =>
    rushing.writes && rush && rushing.frame > rush.begins && rushing.sayCounts(rush.begins, rushing.frame);
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) return void rushing.way.undo();
    if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || typing(event)) return;
    if (!rushing.clip || (event.target as Element | null)?.closest?.(OWN)) return;
    const step = STEPS[event.key];
    if (step) rushing.go(rushing.frame + step * (event.shiftKey ? 10 : 1));
    else if (event.key === "Home") rushing.go(0);
    else if (event.key === "End") rushing.go(rushing.frames - 1);
    else if (letter(event) === "a") begin();
    else if (letter(event) === "z") end();
    else if (event.key === " " && !(event.target as Element).closest("button, a, summary"))
      rushing.playing = !rushing.playing;
    else return;
    if (step) rushing.playing = false;
    event.preventDefault();
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{list ? `Rushes ${list.code}` : "Rushes"} · Jungoptic</title></svelte:head>

{#if rushing.missing}
  <CannotShow why={rushing.missing} />
{:else if list}
  <Tabs.Root bind:value={tab} class="h-full">
    <main class="flex h-full min-h-0 flex-col max-lg:overflow-y-auto">
      <header
        class={[
          "flex min-h-[40px] shrink-0 items-center gap-x-3 gap-y-1 border-b border-line px-3.5",
          "max-lg:flex-wrap",
          list.waiting > 0 && "flex-wrap",
        ]}
      >
        <h1 class="flex min-w-0 shrink-[2] items-baseline gap-2 text-lg">
          <span class="num font-normal text-muted">{list.code}</span><span class="truncate">{list.title}</span
          >
        </h1>
        {#if line}
          <div class="w-64 min-w-40 max-sm:w-full">
            <Select
              label="Recording"
              value={String(rushing.recording)}
              {options}
              onchange={(to) => void push(`/shots/${rushing.shot}/rushes/${to}`)}
            />
          </div>
          <span class="text-muted max-2xl:hidden">{line.by}</span>
        {/if}
        {#if line && list.checks.length}
          <button
            class="btn shrink-0 !border-line pointer-coarse:min-h-11"
            aria-pressed={checking}
            onclick={() => (checking = !checking)}
            >Before struck <span class="num"
              >{list.checks.filter((one) => one.verdict === "holds").length}/{list.checks.length}</span
            ></button
          >
        {/if}
        {#if list.waiting && rushing.writes}
          <span class="flex items-center gap-2" role="status">
            {#if isGoing(rushing.looking.job)}
              <Progress value={rushing.looking.job?.progress ?? 0} label="Looking at recordings" />
              {rushing.looking.job?.message}
              {#if rushing.looking.stops}<button class="link" onclick={() => void rushing.looking.stop()}
                  >stop</button
                >{/if}
            {:else}
              <button class="btn" disabled={rushing.asking.busy} onclick={() => void rushing.look()}
                >Look at {list.waiting} more</button
              >
            {/if}
          </span>
        {/if}
        <div class="ml-auto flex min-w-0 shrink-[3] items-center gap-2">
          {#if rush && !rush.fault}<Colour {rushing} />{/if}
        </div>
        {#if rush && !rush.fault}
          <TabList tabs={TABS} label="What is measured" class="!h-[39px] shrink-0 !border-b-0 !px-0" />
        {/if}
      </header>
      {#if !line}
        <div class="grid flex-1 place-content-center gap-3 p-6 text-center">
          <p>No footage is filed to this shot.</p>
          <p class="max-w-96 text-muted">
            Put a card into the machine or drop files: what has a slate before it finds its take by itself.
          </p>
          <p><a class="btn" href="#/cards">Go to the cards</a></p>
        </div>
      {:else if !rush || rush.fault}
        <div class="grid flex-1 place-content-center gap-3 p-6 text-center">
          {#if rush?.fault || line.fault}
            <p class="max-w-[34rem]" role="alert">{rush?.fault || line.fault}</p>
            {#if rushing.writes && rush?.fault}<p>
                <button
                  class="btn"
                  disabled={rushing.asking.busy || isGoing(rushing.looking.job)}
                  onclick={() => void rushing.look(rushing.recording)}>Look at it again</button
                >
              </p>{/if}
          {:else}
            {#if line.picture}<img src={line.picture} alt="" class="mx-auto w-80" />{/if}
            <p>{line.name} was not looked at yet.</p>
            <p class="max-w-96 text-muted">
              A small film is made of it, of which every frame can be gone to, and all its frames are
              measured.
            </p>
          {/if}
          {#if rushing.asking.said}<p role="alert">{rushing.asking.said}</p>{/if}
          {#if rushing.looking.job?.state === "failed" || rushing.looking.job?.state === "ready"}
            <p role="status">{rushing.looking.job.message}</p>
          {/if}
        </div>
      {:else}
        <div class="grid min-h-0 flex-1 max-lg:flex-none lg:grid-cols-[1fr_27rem]">
          <div class="flex min-h-0 min-w-0 flex-col">
            <div class="min-h-0 flex-1 max-lg:aspect-video max-lg:flex-none"><Seen {rushing} {beside} /></div>
            <BesideBar {rushing} {beside} />
            {#if rushing.marking}
              <p
                class="flex shrink-0 flex-wrap items-center gap-3 border-t border-line px-3.5 py-1.5"
                role="status"
              >
                Mark {MARK_NAMES[rushing.marking.kind]}: {SHAPES[rushing.marking.kind] === "region"
                  ? "drag over it, or put two corners"
                  : SHAPES[rushing.marking.kind] === "corners"
                    ? "its four corners, from the dark patch on, clockwise"
                    : "one place after the other"}.
                {#if rushing.enough}<button class="btn" onclick={() => void rushing.keepMark()}>Done</button
                  >{/if}
                {#if rushing.proposed && !rushing.marking.places.length}<button
                    class="btn btn-solid"
                    onclick={() => void rushing.takeProposed()}>Take what was found</button
                  >{/if}
                <button class="btn !border-line" onclick={() => (rushing.marking = null)}>Leave</button>
              </p>
            {/if}
          </div>
          <aside
            class="min-h-0 overflow-y-auto border-line max-lg:overflow-visible max-lg:border-t lg:border-l"
            aria-label="Measured"
          >
            {#if checking}<BeforeStruck shot={rushing.shot} checks={list.checks} />{/if}
            {#each rush.remarks as text (text)}
              <p class="border-b border-line px-3.5 py-2 text-muted">{text}</p>
            {/each}
            <Ladder {rushing} onpick={(column) => (tab = tabOf(column.what) ?? tab)} />
            {#each TABS as [key] (key)}
              <Tabs.Content value={key}>
                {#if key === tab}<Measures {rushing} {tab} />{/if}
              </Tabs.Content>
            {/each}
            {#if rushing.way.can}
              <p class="px-3.5 py-2.5">
                <button class="btn !border-line" onclick={() => void rushing.way.undo()}
                  >Undo: {rushing.way.label}</button
                >
              </p>
            {/if}
          </aside>
        </div>
        {#if rush.kind === "clip"}<OverFrames {rushing} onbegin={begin} onend={end} />{/if}
      {/if}
    </main>
  </Tabs.Root>
{:else}
  <main class="grid h-full place-content-center text-muted">Reading the rushes…</main>
{/if}
