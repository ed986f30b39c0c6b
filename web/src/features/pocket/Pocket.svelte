<!--
  Pocket: every calculator on its own, found by what one wants to know. The address holds the values, so a
  card can be shared.
-->
<script lang="ts">
  import { untrack } from "svelte";
  import { replace, router } from "svelte-spa-router";
  import {
    answered,
    client,
    Offline,
    Refused,
    writeKey,
    type Bench,
    type Schemas,
  } from "../../lib/api/client";
  import { along, answersAt, answersOf } from "../../lib/offline/along.svelte";
  import { reach } from "../../lib/offline/reach.svelte";
  import { recall } from "../../lib/offline/store";
  import { Latest } from "../../lib/edit/latest";
  import CardInput from "./CardInput.svelte";
  import { queryOf, valuesOf } from "./address";
  import Answers from "./Answers.svelte";
  import Around from "./Around.svelte";
  import { alongOf, answerOf, broughtTo, turnedOf, type Beforehand } from "./beforehand";
  import CardList from "./CardList.svelte";
  import { grid, records } from "./format";
  import LightMap from "./LightMap.svelte";
  import RowsTable from "./RowsTable.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import Formula from "../../lib/ui/Formula.svelte";

  let { params }: { params: { name?: string } } = $props();
  /** After this long a card stands as it was meant. */
  const RESTS_MS = 2500;
  const TURN_BACK = "Turn one back, or ask when the connection is back.";
  type Card = Schemas["CalculationOut"];
  type Values = Record<string, unknown>;

  let lines = $state.raw<Schemas["CalculationLine"][]>([]);
  let card = $state.raw<Card | null>(null);
  let values = $state.raw<Values>({});
  let answer = $state.raw<Values | null>(null);
  let problems = $state.raw<Schemas["ProblemOut"][]>([]);
  let offline = $state(false);
  let missing = $state("");
  /** What was worked out before, where the server is away; null while it is there. */
  let before = $state.raw<Beforehand | null>(null);
  /** More is turned than was crossed before. */
  let notBefore = $state("");
  let why = $state(false);
  let axis = $state("");
  let shown = $state("");
  let table = $state.raw<Schemas["AroundRow"][]>([]);
  let curve = $state.raw<Schemas["AroundRow"][]>([]);
  let bench = $state.raw<Bench | null>(null);
  let fill = $state.raw<Schemas["FillOut"] | null>(null);
  let sent = $state("");
  const units = $derived(session.units);

  const numbers = $derived(
    card?.fields.filter(
      (field) =>
        (field.kind === "number" || field.kind === "integer") && typeof values[field.name] === "number",
    ) ?? [],
  );
  const plain = $derived(
    card?.outputs.filter(
      (one) => (one.kind === "number" || one.kind === "integer") && typeof answer?.[one.name] === "number",
    ) ?? [],
  );
  const axisField = $derived(numbers.find((field) => field.name === axis) ?? numbers[0]);
  const shownOutput = $derived(plain.find((one) => one.name === shown) ?? plain[0]);
  async function guarded(work: () => Promise<void>) {
    try {
      await work();
      offline = false;
    } catch (error) {
      if (error instanceof Offline) offline = true;
      else if (error instanceof Refused) problems = error.problems;
      else throw error;
    }
  }
  void guarded(async () => {
    lines = await answered(client.GET("/api/calculations"));
  });

  function toAddress() {
    if (!card) return;
    void replace(`/pocket/${card.name}?${queryOf(values)}`);
  }

  // The address changes with every value; only another card is another card.
  const named = $derived(params.name);
  $effect(() => {
    const name = named;
    untrack(() => {
      card = null;
      answer = null;
      before = null;
      notBefore = "";
      fill = null;
      sent = "";
      missing = "";
      why = false;
      axis = shown = "";
      if (name) void open(name);
    });
  });
  async function open(name: string) {
    await guarded(async () => {
      try {
        card = await answered(client.GET("/api/calculations/{name}", { params: { path: { name } } }));
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
        missing = error.message;
        return;
      }
      const given = valuesOf(router.querystring ?? "");
      values = Object.keys(given).length ? given : { ...card.example };
      void ask();
      void readShot();
    });
  }

  const latest = new Latest(async () => {
    const now = card;
    if (!now) return;
    const body = Object.fromEntries(
      Object.entries(values).filter(([, value]) => value !== null && value !== undefined),
    );
    problems = [];
    await guarded(async () => {
      if (reach.away && (await fromBefore(now))) return;
      before = null;
      const path = { name: now.name };
      const result = await answered(client.POST("/api/calculations/{name}", { params: { path }, body }));
      if (now !== card) return;
      answer = result;
      if (axisField) {
        const look = (points: number) =>
          answered(
            client.POST("/api/calculations/{name}/around", {
              params: { path },
              body: { values: body, field: axisField.name, points },
            }),
          );
        [table, curve] = await Promise.all([look(13), look(41)]);
      } else table = curve = [];
      takeAlong(now.name, body);
    });
    if (offline) await fromBefore(now);
  });
  /**
   * The answer as it was worked out before, at the points nearest to what stands there by then: a hand may
   * have turned on meanwhile. False where this card was not.
   */
  async function fromBefore(now: Card): Promise<boolean> {
    const kept = await recall(session.person?.username ?? "", answersOf(now.name));
    if (!kept || now !== card) return false;
    before = kept.body as Beforehand;
    values = broughtTo(before, values);
    const found = answerOf(before, values);
    const title = (name: string) => now.fields.find((one) => one.name === name)?.title ?? name;
    const turned = turnedOf(before, values).map(title).join(", ");
    const open = `Two of its values at a time were worked out before; turned are ${turned}. ${TURN_BACK}`;
    notBefore = found === undefined ? open : found === null ? "The card has no answer for these values." : "";
    answer = found ?? null;
    table = curve = axisField ? alongOf(before, values, axisField.name) : [];
    offline = false;
    return true;
  }
  /** Where a device takes the cards along, it takes them as they stand. */
  let leaving = 0;
  function takeAlong(name: string, body: Values) {
    window.clearTimeout(leaving);
    if (!along.cards) return;
    const person = session.person?.username ?? "";
    leaving = window.setTimeout(() => void answersAt(person, name, body).catch(() => undefined), RESTS_MS);
  }
  const ask = () => latest.ask();
  let settling = 0;
  function change(name: string, value: unknown) {
    values = { ...values, [name]: value };
    sent = "";
    void ask();
    window.clearTimeout(settling);
    settling = window.setTimeout(toAddress, 250);
  }

  // The server is back: it answers what stands there now.
  $effect(() => {
    if (!reach.away && untrack(() => before)) void ask();
  });

  // The shot that is open: its layer fills the card, and the answer can go back to its set-up.
  async function readShot() {
    if (!place.shot) return;
    const path = { shot_id: place.shot };
    try {
      bench = await answered(
        client.GET("/api/shots/{shot_id}/bench", { params: { path, query: { basis: "planned" } } }),
      );
    } catch {
      bench = null; // a card works without a shot
    }
  }
  async function fillFrom(layer: number) {
    const now = card;
    if (!now) return;
    await guarded(async () => {
      fill = await answered(
        client.GET("/api/layers/{layer_id}/fill/{name}", {
          params: { path: { layer_id: layer, name: now.name } },
        }),
      );
      values = { ...values, ...fill.values };
      await ask();
      toAddress();
    });
  }
  async function sendBack(output: string) {
    // the answer to what was last typed, not the one before
    while (latest.busy) await new Promise((done) => window.setTimeout(done, 20));
    const value = answer?.[output];
    if (!fill?.set_up_id || !bench || typeof value !== "number") return;
    const set_up = fill.set_up_id;
    const shot = bench.shot_id;
    sent = "";
    await guarded(async () => {
      const seen = bench?.set_ups.find((one) => one.id === set_up)?.version ?? fill?.set_up_version ?? 0;
      const body = {
        set_ups: { [set_up]: { version: seen, changes: { [output]: value } } },
        layers: {},
        school: "measured",
        units,
        basis: "planned",
      } as Schemas["ChangesIn"];
      bench = await answered(
        client.POST("/api/shots/{shot_id}/changes", {
          params: { path: { shot_id: shot } },
          headers: { "Idempotency-Key": writeKey() },
          body,
        }),
      );
      sent = output;
    });
  }
  const problemAt = (field: string) =>
    problems.find((one) => one.field.split(".")[0] === field)?.message ?? "";
  const others = $derived(
    problems.filter((one) => !card?.fields.some((field) => field.name === one.field.split(".")[0])),
  );
  const layers = $derived(bench?.layers.filter((layer) => layer.set_up_id) ?? []);
</script>

<svelte:head><title>{card?.question ?? "Pocket"} · Jungoptic</title></svelte:head>

<main class="flex h-full print:block">
  <CardList {lines} here={params.name} {offline} />

  <div
    class={["h-full min-w-0 flex-1 overflow-y-auto print:overflow-visible", !params.name && "max-lg:hidden"]}
  >
    {#if missing}
      <p class="p-6" role="alert">{missing}</p>
    {:else if !params.name}
      <div class="grid h-full place-content-center gap-2 p-6 text-center">
        <h1 class="text-lg">Every calculation of the job, one by one</h1>
        <p class="max-w-md text-muted">
          Choose a question. Turn the barrels, and the answer moves; it says why, shows a table around your
          value, and its address can be shared.
        </p>
        <a class="btn mx-auto mt-2" href="#/pocket/miniature_frame_rate">How fast must the camera run?</a>
      </div>
    {:else if card}
      <article class="mx-auto max-w-5xl px-3.5 py-4">
        <a class="link text-muted lg:hidden print:hidden" href="#/pocket">All calculators</a>
        <h1 class="text-lg">{card.question}</h1>
        <p class="mt-1 text-muted">
          <Formula text={card.formula} />
          <button class="link ml-2 text-ink print:hidden" aria-expanded={why} onclick={() => (why = !why)}
            >why</button
          >
        </p>
        {#if why}
          <ul class="mt-2 border-l-2 border-line pl-3">
            {#each card.sources as source (source.key)}<li class="mb-1">
                {source.title}. <span class="text-muted">{source.trust}. {source.note}</span>
              </li>{/each}
            {#each card.checks as check, i (i)}<li class="mb-1 text-muted">
                Checked against: {check}.
              </li>{/each}
          </ul>
        {/if}

        <section
          aria-live="polite"
          aria-label="Answer"
          class="sticky top-0 z-10 -mx-3.5 mt-3 border-y border-ink bg-raised px-3.5 py-2 print:static"
        >
          {#if answer}
            <Answers
              {card}
              {answer}
              {units}
              dim={problems.length > 0}
              settable={fill?.settable ?? []}
              onset={fill ? sendBack : undefined}
              says={(name) => (sent === name ? "Set" : `Set on ${fill?.layer_name}`)}
            />
          {:else if notBefore && before}<p role="alert">{notBefore}</p>
          {:else if !problems.length && !offline}<p class="text-muted">Reckoning…</p>{/if}
          {#if before}<p class="text-muted">
              Without the server: the barrels stop at what was worked out before, and are exact there.
            </p>{/if}
          {#if offline}<p role="alert">
              The server cannot be reached; your values stay. <button class="link" onclick={ask}
                >Try again</button
              >
            </p>{/if}
          {#each others as one (one.message)}<p class="text-shows" role="alert">{one.message}</p>{/each}
        </section>

        <div class="mt-3 flex flex-wrap items-center gap-2 print:hidden">
          {#each layers as layer (layer.id)}<button class="btn" onclick={() => fillFrom(layer.id)}
              >Fill from {bench?.code} · {layer.name}</button
            >{/each}
          <button
            class="btn"
            onclick={() => {
              values = { ...(card?.example ?? {}) };
              void ask();
              toAddress();
            }}>Worked example</button
          >
          <button class="btn" onclick={() => window.print()}>Print</button>
        </div>

        {#each answer ? card.outputs : [] as output (output.name)}
          {@const map = grid(answer?.[output.name])}
          {#if map}<LightMap title={output.title} {map} {units} />{/if}
        {/each}

        <div class="mt-4 grid grid-cols-[minmax(0,1fr)] gap-x-6 gap-y-4 sm:grid-cols-2 xl:grid-cols-3">
          {#each card.fields as field (field.name)}
            <CardInput
              {field}
              value={field.name in values ? values[field.name] : field.default}
              {units}
              problem={problemAt(field.name)}
              onchange={(value) => change(field.name, value)}
            />
          {/each}
        </div>

        {#each answer ? card.outputs : [] as output (output.name)}
          {@const list = records(answer?.[output.name])}
          {#if list}<RowsTable title={output.title} rows={list} {units} />{/if}
        {/each}

        {#if axisField && shownOutput && table.length}
          <Around
            {axisField}
            {shownOutput}
            {numbers}
            {plain}
            {table}
            {curve}
            here={Number(values[axisField.name])}
            {units}
            onshown={(name) => (shown = name)}
            onaxis={(name) => {
              axis = name;
              void ask();
            }}
          />
        {/if}
      </article>
    {:else}<p class="p-6 text-muted">
        {offline ? "The server cannot be reached." : "Opening the card…"}
      </p>{/if}
  </div>
</main>
