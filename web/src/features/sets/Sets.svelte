<!--
  Build only what is seen: a set or model in plan, what its shots see of it, what that costs, how it is cut.
-->
<script lang="ts">
  import TabList from "../../lib/ui/TabList.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { untrack } from "svelte";
  import { push } from "svelte-spa-router";
  import { Tabs } from "bits-ui";
  import { area } from "../../lib/units";
  import NewNamed from "../breakdown/NewNamed.svelte";
  import Pages from "../breakdown/Pages.svelte";
  import SetCameras from "./SetCameras.svelte";
  import SetPieces from "./SetPieces.svelte";
  import SetPlan from "./SetPlan.svelte";
  import SetSheets from "./SetSheets.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";
  import { hours, plural, whole } from "../../lib/hours";
  import { answered, client, writeKey, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { LastOf, WayBack } from "../../lib/edit/back.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { SetState } from "./set.svelte";
  import { undoes } from "../../lib/ui/keys";

  let { params = {} }: { params?: { set?: string } } = $props();
  const asking = new Asking();
  let names = $state.raw<Schemas["BuildName"][] | null>(null);
  let set = $state.raw<SetState | null>(null);
  let chosen = $state<{ kind: "piece" | "view"; at: number } | null>(null);
  let panel = $state<"pieces" | "cameras" | "sheets">("pieces");
  let naming = $state(false);

  const writes = $derived(place.role === "supervisor");
  const build = $derived(set?.build ?? null);
  const units = $derived(session.units);

  async function readNames() {
    await asking.read(async () => {
      if (!place.shots) await place.readShots(session);
      if (!place.production) return;
      await lookAtNames();
    });
  }
  async function lookAtNames() {
    const params = { path: { production_id: place.production! } };
    names = await answered(client.GET("/api/productions/{production_id}/builds", { params }));
  }
  whenOthersWrite(
    async () => {
      await lookAtNames();
      await set?.look();
    },
    (told) => told.shot === null,
  );
  void readNames();

  const wanted = $derived(Number(params.set) || names?.[0]?.id || 0);
  $effect(() => {
    const id = wanted;
    untrack(() => {
      chosen = null;
      set = id ? new SetState(id, () => void readNames()) : null;
      void set?.read().then(() => set?.asking.read(() => set!.back.fill({ kinds: "set", row: id })));
    });
  });

  async function make(name: string): Promise<boolean> {
    const made = await asking.run(() =>
      answered(
        client.POST("/api/productions/{production_id}/builds", {
          params: { path: { production_id: place.production! } },
          headers: { "Idempotency-Key": writeKey() },
          body: { version: place.version, name },
        }),
      ),
    );
    if (!made) return false;
    await readNames();
    void push(`/sets/${made.id}`);
    return true;
  }
  /** Out of the production; pieces and cameras are kept, and undo brings it back. */
  async function remove(one: { id: number; version: number; name: string }) {
    const done = await removing.do(`Remove ${one.name}`, (key) =>
      answered(
        client.PATCH("/api/productions/{production_id}/builds/{build_id}", {
          params: { path: { production_id: place.production!, build_id: one.id } },
          headers: { "Idempotency-Key": key },
          body: { version: one.version, removed: true },
        }),
      ),
    );
    if (!done) return;
    gone = one;
    set = null;
    await readNames();
    void push("/sets");
  }
  let gone = $state.raw<{ id: number; name: string } | null>(null);
  const removing = new WayBack(
    asking,
    () => place.production,
    async () => {
      const back = gone?.id;
      gone = null;
      await readNames();
      void push(back ? `/sets/${back}` : "/sets");
    },
  );
  const back = new LastOf(() => (set ? [removing, set.back] : [removing]));
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void back.undo();
  }
  const PANELS = [
    ["pieces", "Pieces"],
    ["cameras", "Cameras"],
    ["sheets", "Cutting list"],
  ] as const;
  const SAID = [
    ["scale", "Scale 1:", 1],
    ["spare_pct", "Spare round what is seen, %", 5],
  ] as const;
  const counts = $derived({
    pieces: build?.pieces.length ?? 0,
    cameras: build?.views.length ?? 0,
    sheets: build?.cuts.length ?? 0,
  });
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{build?.name ?? "Sets"} · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col overflow-y-auto">
  <Pages here="sets">
    <div class="ml-auto flex flex-wrap items-center gap-2">
      {#if names && names.length > 1}
        <Select
          class="field !w-auto max-w-72"
          label="Set"
          value={String(wanted)}
          options={names.map((one) => [
            String(one.id),
            one.name + (one.place && one.place !== one.name ? `, ${one.place}` : ""),
          ])}
          onchange={(id) => push(`/sets/${id}`)}
        />
      {/if}
      {#if writes}
        <button
          class="btn !border-line"
          disabled={!back.can}
          {@attach tip(() => back.label)}
          onclick={() => back.undo()}>Undo</button
        >
        <NewNamed
          button="New set"
          label="Name of the set or model"
          verb="Make it"
          bind:asking={naming}
          onmake={make}
        />
      {/if}
    </div>
  </Pages>
  {#if asking.said}<p role="alert" class="border-b border-line px-3.5 py-2">
      {asking.said} <button class="link" onclick={readNames}>Try again</button>
    </p>{/if}
  {#if gone}<p role="status" class="border-b border-line px-3.5 py-2">
      {gone.name} is removed. <button class="link" onclick={() => removing.undo()}>Put it back</button>
    </p>{/if}
  {#if set?.missing}
    <p role="alert" class="px-3.5 py-3">{set.missing} <a class="link" href="#/sets">To the sets</a></p>
  {:else if names && !names.length}
    <div class="grid flex-1 place-content-center gap-3 p-6 text-center">
      <h1 class="text-lg">No set in plan yet</h1>
      <p class="max-w-prose text-muted">
        Draw a set or a model from above as flat pieces, and put in the cameras of the shots that look at it.
        What none of them sees need not be built; what only the wide view sees is painted; the rest becomes a
        cutting list at its scale.
      </p>
      {#if writes}<button class="btn btn-solid mx-auto" onclick={() => (naming = true)}>New set</button>{/if}
    </div>
  {:else if set && build}
    {#if set.asking.problems.some((one) => !/^(pieces|views)\.\d+\./.test(one.field))}
      <p role="alert" class="border-b border-ink bg-raised px-3.5 py-2">
        <Refused back={set.back} />
      </p>
    {/if}
    <div class="grid shrink-0 border-b border-line lg:grid-cols-[minmax(0,1fr)_22rem]">
      <section class="h-[380px] min-w-0 lg:border-r lg:border-line" aria-label="Plan">
        <SetPlan {set} {writes} bind:chosen />
      </section>
      <section class="flex flex-col gap-2 px-3.5 py-2.5" aria-label="What is built">
        <h1 class="text-lg">{build.name}</h1>
        <p class="text-lg">
          Build <b class="num">{area(build.built_m2, units)}</b> of
          <span class="num">{area(build.whole_m2, units)}</span>.
        </p>
        <dl class="grid grid-cols-[auto_1fr] gap-x-4">
          <dt class="text-muted">Hours</dt>
          <dd>
            <span class="num">{hours(build.hours)}</span>
            <span class="text-muted">instead of {hours(build.hours_whole)} for all of it</span>
          </dd>
          <dt class="text-muted">Sheets</dt>
          <dd>
            <span class="num">{build.sheets}</span><span class="text-muted">, for</span>
            <span class="num">{whole(build.price_all)}</span>
          </dd>
        </dl>
        {#each build.reused as one (one.names.join())}<p>
            <b>{one.names[0]}</b> serves as <b>{one.names.slice(1).join(", ")}</b> too, wheeled round: no view
            sees {one.names.length > 2 ? "two of them" : "both"}. Saves
            <span class="num">{area(one.saves_m2, units)}</span>. It stands
            {one.stands.map((stand) => `for ${stand.view} as ${stand.piece}`).join(", ")}.
          </p>{/each}
        {#if build.only_establishing.length}<p>
            Only the wide view sees {build.only_establishing.join(", ")}: paint or extend {build
              .only_establishing.length > 1
              ? "them"
              : "it"} rather than build.
          </p>{/if}
        {#each build.lacking as line (line)}<p><b>{line}</b></p>{/each}
        <div class="mt-auto grid gap-1">
          <label class="flex items-center gap-2"
            ><span class="flex-1 text-muted">Name</span><input
              class="field !w-44"
              {@attach typed(() => build.name)}
              disabled={!writes}
              onchange={(event) => set?.set("Name", { name: event.currentTarget.value.trim() })}
            /></label
          >
          <label class="flex items-center gap-2"
            ><span class="flex-1 text-muted">Stands in</span>
            <Select
              class="field !w-44"
              label="Place of the set"
              value={String(build.place_id ?? "")}
              disabled={!writes}
              options={[
                ["", "no place said"],
                ...(place.wall?.places ?? []).map((one) => [String(one.id), one.name] as const),
              ]}
              onchange={(id) => set?.set("Place", { place_id: Number(id) || null })}
            /></label
          >
          {#each SAID as [name, title, step] (name)}
            <div class="flex items-center gap-2">
              <span class="flex-1 text-muted">{title}</span>
              <span class="w-44 border border-line bg-raised"
                ><NumberCell
                  value={build[name]}
                  label={title}
                  units="metric"
                  {step}
                  disabled={!writes}
                  problem={set.asking.at(name)}
                  onset={(value) => value !== null && set?.set(title, { [name]: value })}
                /></span
              >
            </div>
          {/each}
          {#if writes}<button
              class="link mt-1 justify-self-end text-sm text-muted"
              onclick={() => remove(build)}>remove this set</button
            >{/if}
        </div>
      </section>
    </div>
    <p class="shrink-0 px-3.5 pt-1.5 text-sm text-muted">
      Thick: seen and built; thin: painted or extended; dashed: in no frame; hatched: floor that is seen.
      Drag, or arrow keys by
      {units === "metric" ? "0.1 m" : "4 in"}, with Shift by ten; [ and ] turn.
    </p>
    <Tabs.Root bind:value={panel} class="flex min-h-64 flex-1 flex-col">
      <TabList tabs={PANELS} label="About this set">
        {#snippet after(key)}&nbsp;<span class="num">{counts[key]}</span>{/snippet}
      </TabList>
      <Tabs.Content value="pieces" class="flex-1 px-1.5 py-2"
        ><SetPieces {set} {writes} bind:chosen /></Tabs.Content
      >
      <Tabs.Content value="cameras" class="flex-1 px-1.5 py-2"
        ><SetCameras {set} {writes} bind:chosen /></Tabs.Content
      >
      <Tabs.Content value="sheets" class="flex-1 px-1.5 py-2"><SetSheets {set} {writes} /></Tabs.Content>
    </Tabs.Root>
    <p class="sr-only" aria-live="polite">
      {plural(build.pieces.length, "piece")}, {area(build.built_m2, units)} to build
    </p>
  {:else if !asking.said}
    <p class="px-3.5 py-3 text-muted">Reading the sets…</p>
  {/if}
</main>
