<!-- One shot broken down: its board with lines that mean something, its recipe, plates, ways, cautions. -->
<script lang="ts">
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import TabList from "../../lib/ui/TabList.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { LastOf } from "../../lib/edit/back.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import { untrack } from "svelte";
  import { push } from "svelte-spa-router";
  import { Tabs } from "bits-ui";
  import AgainPanel from "./AgainPanel.svelte";
  import Board from "./Board.svelte";
  import CautionsPanel from "./CautionsPanel.svelte";
  import ChooseRecipe from "./ChooseRecipe.svelte";
  import Margin from "./Margin.svelte";
  import PlatesPanel from "./PlatesPanel.svelte";
  import Printed from "../papers/Printed.svelte";
  import WaysPanel from "./WaysPanel.svelte";
  import type { LineKind } from "../../lib/draw/lines";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import NotSaved from "../../lib/edit/NotSaved.svelte";
  import { BenchState } from "../../lib/edit/shot.svelte";
  import { PlanState } from "./plan.svelte";
  import { place } from "../../lib/place.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Counts from "../../lib/ui/Counts.svelte";
  import { letter } from "../../lib/ui/keys";

  let { params = {} }: { params?: { shot?: string } } = $props();
  const shot = $derived(Number(params.shot));
  let bench = $state.raw(new BenchState(0));
  let plan = $state.raw(new PlanState(0, () => {}));
  let tool = $state<LineKind | null>(null);
  let chosen = $state<number | null>(null);
  let clean = $state(false);
  let choosing = $state(false);
  let saving = $state<string | null>(null);
  let under = $state<"board" | "lens">("board");
  let panel = $state<"plates" | "ways" | "cautions" | "again">("plates");
  let board = $state<ReturnType<typeof Board> | null>(null);

  $effect(() => {
    const id = shot;
    return untrack(() => {
      const ownBench = new BenchState(id);
      const ownPlan = new PlanState(id, () => ownBench.reread());
      bench = ownBench;
      plan = ownPlan;
      tool = chosen = null;
      place.shot = id;
      void ownBench.load();
      return () => ownBench.close();
    });
  });
  const data = $derived(
    bench.bench && { ...bench.bench, lines: bench.trial.held("lines", bench.bench.lines) },
  );
  // The plan follows the shot: whatever version the bench shows, by whomever it was made.
  const revision = $derived(data?.revision ?? null);
  $effect(() => {
    if (revision !== null) untrack(() => void plan.read());
  });
  const recipes = $derived(plan.plan?.recipes ?? []);
  const left = $derived((plan.plan?.hazards ?? []).filter((one) => !one.signed).length);
  const boardUrl = $derived(plan.plan?.board ? `/api/boards/${plan.plan.board.id}.jpg` : null);
  const picture = $derived(under === "board" && boardUrl ? boardUrl : bench.picture);
  const PANELS = [
    ["plates", "Plates"],
    ["ways", "Methods"],
    ["cautions", "Cautions"],
    ["again", "Re-use"],
  ] as const;
  const others = $derived(bench.problems.filter((one) => !["first_frame", "last_frame"].includes(one.field)));

  // What was drawn and what was planned are taken back in the order in which they were done.
  const drawn = {
    get can() {
      return bench.steps.can;
    },
    get label() {
      return bench.steps.label;
    },
    get newest() {
      return bench.steps.newest;
    },
    done: Promise.resolve(),
    undo: () => bench.undo(),
  };
  const last = new LastOf(() => [drawn, plan.back]);

  function pressed(event: KeyboardEvent) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z") {
      if (event.target instanceof HTMLInputElement || event.target instanceof HTMLTextAreaElement) return;
      event.preventDefault();
      void (event.shiftKey ? bench.redo() : last.undo());
      return;
    }
    if (board?.key(event)) {
      event.preventDefault();
      return;
    }
    if (event.key === "Escape") chosen = null;
    const key = letter(event);
    if (key >= "1" && key <= String(vocabulary.lines.length) && bench.writes)
      tool = vocabulary.lines[Number(key) - 1]!.key;
    else if (key === "x") clean = !clean;
    else if (key === "r" && plan.writes) choosing = true;
    else if (key === "e") void push(`/shots/${shot}/bench`);
    else if (key === "t") void push(`/shots/${shot}/log`);
  }
  async function upload(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    if (file) await plan.board(file);
    input.value = "";
    under = "board";
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{data ? `${data.code} ${data.title}` : "Break down"} · Jungoptic</title></svelte:head>

{#if bench.missing}
  <CannotShow why={bench.missing} />
{:else if !data}
  <main class="grid h-full place-content-center text-muted">
    {bench.offline ? "The server cannot be reached. Trying again…" : "Fetching the board…"}
  </main>
{:else}
  <main class="flex h-full flex-col overflow-y-auto">
    <div
      class={[
        "flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-line px-3.5",
        "py-1",
      ]}
    >
      <a
        class={["btn !border-line !px-2", !data.previous_id && "hidden"]}
        href={`#/shots/${data.previous_id}/plan`}
        aria-label="Previous shot">‹</a
      >
      <h1 class="flex min-w-0 items-baseline gap-2 text-lg">
        <span class="num font-normal text-muted">{data.code}</span><span class="truncate">{data.title}</span>
      </h1>
      <a
        class={["btn !border-line !px-2", !data.next_id && "hidden"]}
        href={`#/shots/${data.next_id}/plan`}
        aria-label="Next shot">›</a
      >
      {#if data.layers.length}<Counts
          shows={data.shows}
          tight={data.tight}
          holds={data.holds}
          accepted={data.accepted}
        />{/if}
      {#if plan.plan?.ready}<b class="bg-ink px-1.5 text-ground">ready</b>{/if}
      <div class="ml-auto flex flex-wrap items-center gap-2">
        <button
          class="btn !border-line"
          disabled={!last.can}
          {@attach tip(() => last.label)}
          onclick={() => last.undo()}>Undo</button
        >
        <Printed
          what="page"
          id={shot}
          version={Math.max(data.version, plan.plan?.version ?? 0)}
          label="Page"
        />
        <a class="btn btn-solid" href={`#/shots/${shot}/bench`}
          >Lay it on the Bench <span class="key">e</span></a
        >
      </div>
    </div>

    {#if bench.offline || bench.conflict || others.length || plan.asking.whole || plan.asking.at("file")}
      <div class="shrink-0 border-b border-ink bg-raised px-3.5 py-2" role="alert">
        <NotSaved {bench} />
        {#each others as one (one.message)}<p>
            {one.message} <button class="link ml-2" onclick={() => bench.forget()}>Drop the change</button>
          </p>{/each}
        {#if plan.asking.whole || plan.asking.at("file")}<p><Refused back={plan.back} /></p>{/if}
      </div>
    {/if}

    <div
      class={[
        "grid shrink-0 border-b border-line",
        "lg:grid-cols-[minmax(0,50%)_minmax(13rem,1fr)_minmax(15rem,1.15fr)]",
      ]}
    >
      <section class="min-w-0 lg:border-r lg:border-line" aria-label="Board">
        <div class="flex min-h-[35px] flex-wrap items-center gap-y-1 border-b border-line px-1.5 py-1">
          {#if bench.writes}
            <span class="contents" role="group" aria-label="Draw">
              {#each vocabulary.lines as one, i (one.key)}
                <button
                  class={[
                    "cursor-pointer px-1.5 py-0.5 whitespace-nowrap pointer-coarse:min-h-11",
                    tool === one.key ? "bg-ink text-ground" : "text-muted hover:text-ink",
                  ]}
                  aria-pressed={tool === one.key}
                  {@attach tip(() => `${one.help} (${i + 1})`)}
                  onclick={() => {
                    tool = tool === one.key ? null : one.key;
                    clean = false;
                  }}>{one.name}</button
                >
              {/each}
            </span>
          {:else}<span class="px-1.5 font-strong">Board</span>
          {/if}
        </div>
        <Board bind:this={board} {bench} {data} {picture} {clean} bind:tool bind:chosen />
        <div
          class="flex min-h-[30px] flex-wrap items-center gap-x-3 gap-y-1 px-3 py-1 text-sm"
          aria-live="polite"
        >
          {#if tool}
            <span class="min-w-0 flex-1"
              ><b>{vocabulary.line(tool).name}.</b>
              {vocabulary.line(tool).help}
              {vocabulary.line(tool).most > 2
                ? "Click its points; Enter or a click on the last one ends it."
                : vocabulary.line(tool).most === 2
                  ? "Click two corners."
                  : "Click its place."}</span
            >
            <button class="link" onclick={() => board?.placeInMiddle()}>Place it in the middle</button>
            <button class="link" onclick={() => (tool = null)}>Leave it</button>
          {:else}
            <Choice
              label="Under the lines"
              value={boardUrl ? under : "lens"}
              options={[
                ["board", "Board"],
                ["lens", "Through the lens"],
              ]}
              onchange={(value) => (under = value)}
            />
            <button
              class={[
                "cursor-pointer px-1.5 py-0.5 pointer-coarse:min-h-11",
                clean ? "bg-ink text-ground" : "text-muted hover:text-ink",
              ]}
              aria-pressed={clean}
              onclick={() => (clean = !clean)}>Clean <span class="key">x</span></button
            >
            {#if plan.writes}
              <label class="link text-muted"
                >{boardUrl ? "Another board" : "Choose a board"}
                <input
                  type="file"
                  class="sr-only"
                  accept="image/png,image/jpeg,image/tiff,application/pdf"
                  onchange={upload}
                /></label
              >
            {/if}
            <span class="ml-auto truncate text-muted"
              >{plan.plan?.board?.name ?? "No board yet: PNG, JPEG, TIFF or PDF."}</span
            >
          {/if}
        </div>
      </section>

      <section
        class="flex min-h-0 flex-col border-line lg:h-0 lg:min-h-full lg:border-r"
        aria-label="In the margin"
      >
        <h2 class="flex h-[35px] shrink-0 items-center border-b border-line px-3">In the margin</h2>
        {#if data.lines.length}<Margin {bench} {data} bind:chosen />
        {:else}<p class="px-3 py-2 text-muted">
            Lines over the board mean something: a matte line, a split, what must be painted out, a zone that
            stays clear, the final framing. Each has its note here, and the Bench checks it.
          </p>{/if}
      </section>

      <section class="flex min-h-0 flex-col lg:h-0 lg:min-h-full" aria-label="Recipe">
        <h2 class="flex h-[35px] shrink-0 items-center gap-2 border-b border-line px-3">
          Recipe
          {#if plan.writes}<button class="btn !min-h-6 ml-auto" onclick={() => (choosing = true)}
              >{recipes.length ? "Add another" : "Choose"} <span class="key">r</span></button
            >{/if}
        </h2>
        <div class="min-h-0 flex-1 overflow-y-auto px-3 py-2">
          {#each recipes as one (one.id)}
            <article class="mb-3">
              <h3 class="flex items-baseline gap-2">
                <span class="min-w-0 flex-1">{one.title}</span>
                {#if plan.writes}<button
                    class="link font-normal text-muted"
                    {@attach tip(() => "Its layers that are not shot yet go with it; undo brings them back")}
                    onclick={() => plan.removeRecipe(one.id)}>take back</button
                  >{/if}
              </h3>
              {#if one.recipe}
                <p class="text-muted">{one.recipe.audience}</p>
                {#if Object.keys(one.answers).length}<p class="mt-1">
                    {#each one.recipe.asks as ask, i (ask.name)}{i
                        ? ", "
                        : ""}{ask.label.toLowerCase()}{ask.label.endsWith(":") ? "" : " "}<span
                        class="num text-sm">{one.answers[ask.name]}{ask.unit ? ` ${ask.unit}` : ""}</span
                      >{/each}
                  </p>{/if}
                <p class="mt-2 font-strong">What goes wrong, and how it is seen</p>
                <ul>
                  {#each one.recipe.wrong as wrong (wrong.what)}<li>
                      {wrong.what}: <span class="text-muted">{wrong.seen}</span>
                    </li>{/each}
                </ul>
                <p class="mt-2"><b>Film for reference:</b> {one.recipe.references.join(", ")}.</p>
                {#if one.recipe.schools}<p class="mt-2 text-muted">{one.recipe.schools}</p>{/if}
              {/if}
            </article>
          {:else}
            <p class="text-muted">
              {data.description || "Nothing is said of this shot yet."}
              A recipe fills the stack with plates, says in which order they are filmed, and what goes wrong.
            </p>
          {/each}
          {#if plan.writes && data.layers.length}
            {#if saving !== null}
              <form
                class="flex gap-2"
                onsubmit={async (event) => {
                  event.preventDefault();
                  if (await plan.saveRecipe(saving ?? "")) saving = null;
                }}
              >
                <!-- svelte-ignore a11y_autofocus -->
                <input
                  class="field"
                  aria-label="Name of the recipe"
                  placeholder="Name of the recipe"
                  autofocus
                  bind:value={saving}
                />
                <button class="btn">Save</button>
              </form>
              {#if plan.asking.at("title")}<p role="alert" class="mt-1">{plan.asking.at("title")}</p>{/if}
            {:else}
              <button class="link" onclick={() => (saving = data.title)}
                >Save this shot as a recipe of the production</button
              >
            {/if}
          {/if}
        </div>
      </section>
    </div>

    <Tabs.Root bind:value={panel} class="flex min-h-72 flex-1 flex-col">
      <TabList tabs={PANELS} label="About this shot">
        {#snippet after(key)}{key === "cautions" && left ? `, ${left} open` : ""}{/snippet}
      </TabList>
      <Tabs.Content value="plates" class="flex-1 px-1.5 py-2"><PlatesPanel {plan} /></Tabs.Content>
      <Tabs.Content value="ways" class="flex-1 px-1.5 py-2"
        ><WaysPanel {plan} units={data.units} /></Tabs.Content
      >
      <Tabs.Content value="cautions" class="flex-1 px-1.5 py-2"><CautionsPanel {plan} /></Tabs.Content>
      <Tabs.Content value="again" class="flex-1 px-1.5 py-2"
        >{#if panel === "again"}<AgainPanel {shot} version={revision ?? 0} />{/if}</Tabs.Content
      >
    </Tabs.Root>
  </main>
{/if}
<ChooseRecipe bind:open={choosing} {plan} laidOut={(data?.layers.length ?? 0) > 0} />
