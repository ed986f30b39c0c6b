<!--
  The Log: at the camera, one hand, one screen. The set-up card, one big Take, what differs from the plan, the
  verdict at once.
-->
<script lang="ts">
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import { Tabs } from "bits-ui";
  import TabList from "../../lib/ui/TabList.svelte";
  import { onDestroy, untrack } from "svelte";
  import { answered, client, Offline, Refused, writeKey, type Schemas } from "../../lib/api/client";
  import { outbox, photographs } from "../../lib/offline/outbox.svelte";
  import { reach } from "../../lib/offline/reach.svelte";
  import { inWords } from "./card";
  import { foretold, isExact, sureness } from "./foretold";
  import { Foretelling } from "./foretelling.svelte";
  import Compared from "./Compared.svelte";
  import InIt from "./InIt.svelte";
  import LitSheet from "./LitSheet.svelte";
  import LogCautions from "./LogCautions.svelte";
  import Run from "./Run.svelte";
  import type { Ran } from "./running.svelte";
  import SetUpCard from "./SetUpCard.svelte";
  import Slate from "./Slate.svelte";
  import { close, open, openedOf, textOf, type Opened } from "./slate";
  import Stills from "./Stills.svelte";
  import { ShotStills } from "./stills.svelte";
  import TakeBar from "./TakeBar.svelte";
  import TakeVerdict from "./TakeVerdict.svelte";
  import ToMatch from "./ToMatch.svelte";
  import Waiting from "./Waiting.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { letter } from "../../lib/ui/keys";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let { params }: { params: { shot: string } } = $props();
  type Log = Schemas["LogOut"];
  type Setting = Schemas["SettingOut"];

  let log = $state.raw<Log | null>(null);
  let missing = $state("");
  const foretelling = new Foretelling();
  let stills = $state(new ShotStills(0));
  let chosen = $state<number | null>(null);
  let actual = $state<Record<number, Record<string, number>>>({});
  let note = $state("");
  /** Who is in the layer: stays for its next take, as what was set on the card does. */
  let inIt = $state<Record<number, string>>({});
  let circled = $state(false);
  let page = $state<HTMLElement | null>(null);
  /** The take of each layer that arrived last: the log that is shown may be from before. */
  const arrived = $state<Record<number, number>>({});
  let latest = $state<Schemas["TakeOut"] | null>(null);
  let fromFiles = $state.raw<Schemas["FromFileOut"][]>([]);
  /** The take that a slate was shown for, and whether it is being shown. */
  let slated = $state.raw<Opened | null>(null);
  let showing = $state(false);
  /** The steps that run, and what came of them: until the take is logged. */
  let running = $state(false);
  let ran = $state.raw<Ran | null>(null);
  /** A refused take whose values are on the card again: kept until the mended one is. */
  let mending = $state("");

  const units = $derived(session.units);
  const shot = $derived(Number(params.shot));
  const layer = $derived(log?.layers.find((one) => one.id === chosen) ?? log?.layers[0] ?? null);
  const changed = $derived(layer ? (actual[layer.id] ?? {}) : {});
  const mine = $derived(outbox.waiting.filter((one) => one.shot === shot));
  const logs = $derived(log?.role === "supervisor" || log?.role === "crew");
  const number = $derived(
    Math.max(layer?.next_take ?? 1, (arrived[layer?.id ?? 0] ?? 0) + 1) +
      mine.filter((one) => one.layer === layer?.id && !one.problem).length,
  );

  async function read() {
    try {
      const query = { units, school: session.school } as const;
      log = await answered(
        client.GET("/api/shots/{shot_id}/log", { params: { path: { shot_id: shot }, query } }),
      );
      place.opened(log.production_id);
      missing = "";
      foretelling.later(log);
      const path = { shot_id: shot };
      fromFiles = await answered(
        client.GET("/api/shots/{shot_id}/recordings", { params: { path, query: { units } } }),
      );
    } catch (error) {
      if (error instanceof Refused) missing = error.message;
      else if (!(error instanceof Offline)) throw error;
    }
  }
  $effect(() => {
    place.shot = shot;
    void units;
    untrack(() => {
      if (stills.shot !== shot) {
        stills.close();
        stills = new ShotStills(shot);
      }
      stills.showWaiting();
      void read();
      void stills.read();
    });
  });
  onDestroy(() => (foretelling.stop(), stills.close()));
  photographs.onsent(() => void stills.read());
  whenOthersWrite(
    () => (stills.readSoon(), read()),
    (told) => told.shot === shot || told.shot === null,
  );
  outbox.onsent((take) => {
    latest = take;
    arrived[take.layer_id] = take.number;
    page?.scrollTo({ top: 0 });
    void read();
  });

  // What the last take was set to is what the next one starts from: nothing typed that the last take already
  // knows.
  function set(line: Setting, value: number | null) {
    if (!layer) return;
    const now = { ...actual[layer.id] };
    if (value === null || value === line.value) delete now[line.field];
    else now[line.field] = value;
    actual[layer.id] = now;
  }
  const words = (line: Setting) => inWords(line, changed[line.field], units);
  const table = $derived(layer ? foretelling.tables[layer.id] : undefined);
  const told = $derived(table && layer ? foretold(table, layer.settings, changed) : null);
  const sure = $derived(
    told && !isExact(told)
      ? sureness(told, (label, value) => {
          const line = layer?.settings.find((one) => one.label === label);
          return line ? inWords(line, value, units) : String(value);
        })
      : "",
  );
  $effect(() => {
    slated = layer ? openedOf(layer.id) : null;
  });
  function slate() {
    if (!layer || !logs) return;
    slated = open(layer.id, number);
    showing = true;
  }
  /** The steps show the slate too: it opens the take. */
  function run() {
    if (!layer || !logs) return;
    slated = open(layer.id, number);
    running = true;
  }
  function body(mended?: Schemas["TakeIn"]): Schemas["TakeIn"] {
    // Everything that the card shows goes with the take, and how far the plan had come: what is planned later
    // changes nothing of it.
    const card = (layer?.settings ?? [])
      .filter((line) => line.value !== null)
      .map((line) => [line.field, line.value]);
    const fields: Record<string, number> = { ...Object.fromEntries(card), ...changed };
    const school = session.school;
    return {
      actual: fields,
      slate_code: mended?.slate_code ?? slated?.code ?? "",
      slate_number: mended?.slate_number ?? slated?.number ?? number,
      shown: mended?.shown ?? log?.shown ?? null,
      note: note.trim(),
      rolled_s: mended ? (mended.rolled_s ?? null) : (ran?.rolled_s ?? null),
      marks: mended ? mended.marks : (ran?.marks ?? []),
      in_it: (layer && inIt[layer.id]?.trim()) || "",
      circled,
      recorded_at: mended?.recorded_at ?? new Date().toISOString(),
      units,
      school,
    };
  }
  async function take() {
    if (!layer || !logs) return;
    latest = null;
    const { id, name } = layer;
    const mended = mine.find((one) => one.key === mending && one.layer === id);
    const told_now = told && { verdict: told.verdict, sure };
    const sent = outbox.add(
      { shot, layer: id, name, body: body(mended?.body), code: log?.code, number, told: told_now },
      mended?.key,
    );
    note = "";
    circled = false;
    if (!mended) {
      ran = null;
      close(id);
      slated = null;
    }
    showing = false;
    await sent;
  }
  function putBack(key: string) {
    const one = outbox.waiting.find((other) => other.key === key);
    if (!one) return;
    chosen = one.layer;
    const card = log?.layers.find((other) => other.id === one.layer)?.settings ?? [];
    const sent = Object.entries(one.body.actual as Record<string, number>);
    actual[one.layer] = Object.fromEntries(
      sent.filter(([name, value]) => card.find((line) => line.field === name)?.value !== value),
    );
    note = one.body.note ?? "";
    inIt[one.layer] = one.body.in_it ?? "";
    circled = one.body.circled ?? false;
    mending = key;
  }
  async function circle(one: Schemas["TakeOut"]) {
    try {
      latest = await answered(
        client.PATCH("/api/takes/{take_id}", {
          params: { path: { take_id: one.id } },
          headers: { "Idempotency-Key": writeKey() },
          body: {
            version: one.version,
            circled: !one.circled,
            units,
            school: session.school,
          },
        }),
      );
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
    }
    await read();
  }
  /** The takes before those that are shown. */
  async function earlier() {
    const last = layer?.takes.at(-1);
    if (!log || !layer || !last) return;
    try {
      const query = { before: last.number, units, school: session.school } as const;
      const path = { layer_id: layer.id };
      const found = await answered(client.GET("/api/layers/{layer_id}/takes", { params: { path, query } }));
      const layers = log.layers.map((one) =>
        one.id === last.layer_id ? { ...one, takes: [...one.takes, ...found.takes], more: found.more } : one,
      );
      log = { ...log, layers };
    } catch (error) {
      if (!(error instanceof Offline)) throw error;
    }
  }
  const filesOf = (one: Schemas["TakeOut"]) => fromFiles.filter((file) => file.take_id === one.id);
  function pressed(event: KeyboardEvent) {
    if (letter(event) === "t" && !running) void take();
  }
  const otherwise = $derived(layer?.settings.filter((line) => changed[line.field] !== undefined) ?? []);
  const NONE_YET = "No take of this layer yet. Log one when the camera has run: the plan is on the card.";
  function choose(id: string) {
    chosen = Number(id);
    latest = null;
    ran = null;
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>{log ? `Log ${log.code}` : "Log"} · Jungoptic</title></svelte:head>

{#snippet photographsOf(one: Schemas["TakeOut"])}
  <Stills {stills} layer={one.layer_id} take={one.id} what={`take ${one.number}`} writes={logs} />
{/snippet}
{#if missing}
  <CannotShow why={missing} />
{:else if !log}
  <main class="grid h-full place-content-center p-6 text-center text-muted">
    {reach.away
      ? "The server cannot be reached, and this shot was not opened here before."
      : "Reading the set-up cards…"}
  </main>
{:else}
  <main class="mx-auto flex h-full max-w-5xl flex-col lg:border-x lg:border-line">
    <div class="flex shrink-0 items-center gap-3 border-b border-line px-3.5 py-2">
      <h1 class="flex min-w-0 items-baseline gap-2 text-lg">
        <span class="num font-normal text-muted">{log.code}</span><span class="truncate">{log.title}</span>
      </h1>
      <span class="ml-auto text-muted max-sm:hidden">hero by {log.hero_basis}</span>
      {#if logs}<a class="btn !border-line max-sm:ml-auto" href="#/cards">Cards</a>{/if}
      <a class={["btn", !logs && "max-sm:ml-auto"]} href={`#/shots/${shot}/bench`}>Bench</a>
    </div>
    <Compared {shot} />
    {#if reach.away || mine.length}
      <div class="shrink-0 border-b border-ink bg-raised px-3.5 py-2" role="alert">
        {#if reach.away}<p>Log on: takes are kept here and sent when the connection is back.</p>{/if}
        <Waiting takes={mine} {mending} {stills} onback={putBack} scrolls />
      </div>
    {/if}
    <LogCautions {shot} />
    {#if !log.layers.length}
      <p class="p-6 text-muted">
        No filmed layer in this shot yet. A layer with a set-up gets a card here, and one big button.
      </p>
    {:else if layer}
      <Tabs.Root
        bind:ref={page}
        class="min-h-0 flex-1 overflow-y-auto"
        bind:value={() => String(layer.id), choose}
      >
        <TabList
          tabs={log.layers.map((one) => [String(one.id), one.name] as const)}
          label="Layer"
          look="wide"
        >
          {#snippet after(key)}
            {@const one = log?.layers.find((other) => String(other.id) === key)}
            {#if one?.is_hero}<span class="text-xs">hero</span>{:else if one}<Verdict
                verdict={one.verdict}
                inverted={one.id === layer?.id}
              />{/if}
          {/snippet}
        </TabList>
        {#if latest}
          <div class="border-b border-ink bg-raised p-3.5" aria-live="polite">
            <TakeVerdict take={latest} files={filesOf(latest)} onmark={logs ? circle : undefined} />
            {@render photographsOf(latest)}
          </div>
        {/if}
        <div class="grid lg:grid-cols-2">
          <section aria-label="Set-up card" class="lg:border-r lg:border-line">
            <LitSheet {stills} layer={layer.id} writes={logs} />
            <p class="flex flex-wrap items-baseline gap-x-3 px-3.5 pt-3 pb-1 text-muted">
              As planned. Touch what was different on the day.
              <a class="link ml-auto" href={`#/layers/${layer.id}/line-up`}>Line it up</a>
            </p>
            {#key layer.id}<SetUpCard
                settings={layer.settings}
                {changed}
                {units}
                writes={logs}
                onset={set}
              />{/key}
            {#if layer.acted && logs}
              <InIt
                bind:who={() => inIt[layer.id] ?? "", (who) => (inIt[layer.id] = who)}
                layers={log.layers}
              />
            {/if}
          </section>
          <section aria-label="Takes">
            <ToMatch {stills} layer={layer.id} />
            {#each layer.takes.filter((one) => one.id !== latest?.id) as one (one.id)}
              <div class="border-b border-line p-3.5">
                <TakeVerdict take={one} brief files={filesOf(one)} onmark={logs ? circle : undefined} />
                {@render photographsOf(one)}
              </div>
            {:else}
              {#if !latest}<p class="p-3.5 text-muted">{NONE_YET}</p>{/if}
            {/each}
            {#if layer.more}<p class="p-3.5">
                <button class="btn !border-line" onclick={earlier}>Earlier takes</button>
              </p>{/if}
          </section>
        </div>
      </Tabs.Root>
      {#if logs}
        <TakeBar
          {otherwise}
          {words}
          {told}
          {sure}
          {number}
          slatedFor={slated?.number ?? null}
          runs={layer.steps.length > 0}
          bind:note
          bind:circled
          onslate={slate}
          onrun={run}
          ontake={() => void take()}
        />
      {/if}
      {#if running}
        <Run
          shot={log.code}
          layer={layer.name}
          {number}
          steps={layer.steps}
          code={slated ? textOf(log.slate_says, slated, log.code, layer.id) : ""}
          onclose={(now) => ((ran = now), (running = false))}
          ontake={(now) => ((ran = now), (running = false), void take())}
        />
      {/if}
      {#if showing && slated}
        <Slate
          shot={log.code}
          layer={layer.name}
          opened={slated}
          text={textOf(log.slate_says, slated, log.code, layer.id)}
          reaches={layer.reaches}
          onclose={() => (showing = false)}
          ontake={() => void take()}
        />
      {/if}
    {/if}
  </main>
{/if}
