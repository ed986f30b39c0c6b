<!-- One card: its files, whose each is, what is to be decided, copied with its sum and read back. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import { answered, client, writeKey, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import CannotShow from "../../lib/ui/CannotShow.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import { when } from "../../lib/ui/when";
  import CardRow from "./CardRow.svelte";
  import { bytes, files, listOf, takeName, type Recording, type Shown } from "./cards";

  let { params }: { params: { card: string } } = $props();
  const asking = new Asking();
  const work = new Followed(asking);
  onDestroy(() => work.close());
  let card = $state.raw<Schemas["CardOut"] | null>(null);
  let missing = $state("");
  let shown = $state<Shown | null>(null);
  let back = $state.raw<{ write: number; text: string } | null>(null);
  const id = $derived(Number(params.card));
  const path = $derived({ path: { card_id: id } });

  async function read() {
    const asked = new Asking();
    const query = { units: session.units };
    const found = await asked.read(() =>
      answered(client.GET("/api/cards/{card_id}", { params: { ...path, query } })),
    );
    card = found ?? card;
    missing = card ? "" : asked.said;
  }
  $effect(() => {
    if (session.units && id) void read();
  });
  whenOthersWrite(read, () => true);
  let over = $state(0);
  $effect(() => {
    const { job } = work;
    if (!job || isGoing(job) || job.id === over) return;
    over = job.id;
    void read();
  });
  const going = $derived(isGoing(work.job));
  const busy = $derived(asking.busy || going);
  const counts = $derived.by(() => {
    const count = { decide: 0, filed: 0, faulty: 0, all: card?.recordings.length ?? 0 };
    for (const one of card?.recordings ?? []) count[listOf(one)] += 1;
    return count;
  });
  const list = $derived(shown ?? (counts.decide ? "decide" : counts.faulty ? "faulty" : "all"));
  const rows = $derived((card?.recordings ?? []).filter((one) => list === "all" || listOf(one) === list));
  const sure = $derived((card?.recordings ?? []).filter((one) => !one.filed && one.sure === "matched"));
  const likely = $derived(
    (card?.recordings ?? []).filter((one) => !one.filed && one.sure === "likely" && one.take),
  );
  const copies = $derived.by(() => {
    if (!card?.to_copy) return card?.recordings.length ? "All copied" : "Nothing to copy";
    return card.to_copy_bytes
      ? `Copy ${bytes(card.to_copy_bytes)}`
      : `Name ${files(card.to_copy)} by their takes`;
  });
  const LISTS = $derived([
    ["decide", `To decide ${counts.decide}`],
    ["filed", `Filed ${counts.filed}`],
    ["faulty", `Damaged ${counts.faulty}`],
    ["all", `All ${counts.all}`],
  ] as const);

  async function fileThem(which: readonly { one: Recording; take: number | null }[]) {
    const filings = which.map(({ one, take }) => ({ recording_id: one.id, take_id: take }));
    const written = await asking.run(() =>
      answered(
        client.POST("/api/cards/{card_id}/filings", {
          params: path,
          headers: { "Idempotency-Key": writeKey() },
          body: { version: card!.version, filings },
        }),
      ),
    );
    const first = which[0];
    if (written && first) {
      const to = card!.takes.find((take) => take.id === first.take);
      const one = to ? `${first.one.name} is filed to ${takeName(to)}.` : `${first.one.name} is not filed.`;
      back = { write: written.write, text: which.length > 1 ? `${files(which.length)} filed.` : one };
    }
    await read();
  }
  async function takeBack() {
    const { write } = back!;
    await asking.run(() =>
      answered(
        client.POST("/api/productions/{production_id}/take-back", {
          params: { path: { production_id: place.production! } },
          headers: { "Idempotency-Key": writeKey() },
          body: { write, key: "" },
        }),
      ),
    );
    back = null;
    await read();
  }
  /** A slate that was shown and never logged: the take is logged at the time of its file. */
  async function log(one: Recording, slate: Recording["slates"][number]) {
    const logged = await asking.run(() =>
      answered(
        client.POST("/api/layers/{layer_id}/takes", {
          params: { path: { layer_id: slate.layer_id! } },
          headers: { "Idempotency-Key": writeKey() },
          body: {
            actual: {},
            circled: false,
            units: session.units,
            school: session.school,
            slate_code: slate.code,
            slate_number: slate.number,
            note: `Logged from ${card!.name}, ${one.name}`,
            in_it: "",
            rolled_s: null,
            marks: [],
            recorded_at: one.logged_at,
          },
        }),
      ),
    );
    await read();
    if (logged) await fileThem([{ one, take: logged.id }]);
  }
  function ask(what: "read" | "copy") {
    void work.ask((key) => {
      const headers = { "Idempotency-Key": key };
      if (what === "copy")
        return answered(
          client.POST("/api/cards/{card_id}/copies", {
            params: path,
            headers,
            body: { version: card!.version },
          }),
        );
      const production = { path: { production_id: place.production! } };
      const body = { place: card!.place, version: place.version };
      return answered(
        client.POST("/api/productions/{production_id}/cards", { params: production, headers, body }),
      );
    });
  }
</script>

<svelte:head><title>{card ? `Card ${card.name}` : "Card"} · Jungoptic</title></svelte:head>
{#if missing}
  <CannotShow why={missing} />
{:else if card}
  <main class="flex h-full flex-col">
    <header class="shrink-0 border-b border-line px-4 py-2">
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1.5">
        <a class="link text-muted" href="#/cards">Cards</a>
        <h1 class="text-lg">{card.name}</h1>
        <span class="text-muted">{card.here ? card.room || "in the machine" : "not in the machine now"}</span>
        <span class="ml-auto flex flex-wrap gap-2">
          <button class="btn !border-line" disabled={busy || !card.here} onclick={() => ask("read")}
            >Read again</button
          >
          <button
            class={["btn", card.to_copy && "btn-solid"]}
            disabled={busy || !card.here || !card.to_copy}
            onclick={() => ask("copy")}>{copies}</button
          >
        </span>
      </div>
      <p class="mt-0.5 text-muted">
        {card.clock?.text ?? "No file says whose clock is right: none is matched by its slate yet."}
        {card.read_at ? `Read ${when(card.read_at)} by ${card.read_by}.` : "It was not read to its end."}
        {#if card.others}{files(card.others)} beside them {card.others === 1
            ? "is no recording"
            : "are no recordings"}.{/if}
      </p>
    </header>
    {#if work.job && (going || work.job.state === "failed" || work.job.kind === "copy_card")}
      <div
        class="flex shrink-0 flex-wrap items-center gap-3 border-b border-ink bg-raised px-4 py-2"
        role="status"
      >
        <b>{work.job.title}</b>
        {#if going}
          <Progress class="w-40" value={work.job.progress} label={work.job.title} />
          <span class="text-muted">{work.job.message}</span>
          {#if work.stops}<button class="btn !border-line" onclick={() => work.stop()}>Stop</button>{/if}
        {:else}<span class="min-w-0 break-words">{work.job.message}</span>{/if}
      </div>
    {/if}
    {#if asking.said}<p class="shrink-0 border-b border-ink bg-raised px-4 py-2" role="alert">
        {asking.said}
      </p>{/if}
    {#if back}<p class="shrink-0 border-b border-line bg-raised px-4 py-1.5" role="status">
        {back.text}
        <button class="link ml-2" disabled={busy} onclick={takeBack}>Take it back</button>
      </p>{/if}
    <div class="flex shrink-0 flex-wrap items-center gap-x-4 gap-y-1.5 border-b border-line px-4 py-1.5">
      <Choice label="Which files" value={list} options={LISTS} onchange={(to) => (shown = to)} />
      {#if sure.length}<button
          class="btn"
          disabled={busy}
          onclick={() => fileThem(sure.map((one) => ({ one, take: one.take?.id ?? null })))}
          >File {files(sure.length)} that {sure.length === 1 ? "is" : "are"} matched</button
        >{/if}
      {#if likely.length}<button
          class="btn !border-line"
          disabled={busy}
          onclick={() => fileThem(likely.map((one) => ({ one, take: one.take!.id })))}
          >File {files(likely.length)} that {likely.length === 1 ? "is" : "are"} likely</button
        >{/if}
    </div>
    <ul class="min-h-0 flex-1 overflow-y-auto" aria-label="Files">
      {#each rows as one (one.id)}
        <CardRow
          {one}
          takes={card.takes}
          {busy}
          onfile={(take) => void fileThem([{ one, take }])}
          onlog={(slate) => void log(one, slate)}
        />
      {:else}<li class="p-4 text-muted">
          {list === "decide" ? "Nothing is left to decide: every file is filed." : "None."}
        </li>{/each}
      {#if card.left_over.length && list !== "faulty"}
        <li class="border-b border-line px-4 py-2.5">
          <b>Takes without a file</b>
          <span class="text-muted"
            >logged while this camera filmed, and nothing here is theirs: was the record button pressed?</span
          >
          <ul class="mt-1">
            {#each card.left_over as take (take.id)}
              <li><a class="link" href={`#/shots/${take.shot_id}/log`}>{takeName(take)}</a></li>
            {/each}
          </ul>
        </li>
      {/if}
    </ul>
  </main>
{:else}<main class="grid h-full place-content-center text-muted">Reading…</main>{/if}
