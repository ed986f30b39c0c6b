<!-- Who changed what when, newest first; and taking it back. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import Pages from "../breakdown/Pages.svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { takeBack } from "../../lib/edit/back.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import { clock, dayOfYear, weekOf, wholeDate } from "../../lib/ui/when";

  type Write = Schemas["WriteOut"];
  const SHOWN_CHANGES = 4;
  const asking = new Asking();
  let writes = $state.raw<Write[] | null>(null);
  let further = false; // older ones are open: whoever reads there is not taken back to today
  let next = $state<number | null>(null);
  let shot = $state<number | null>(null);
  let whose = $state<"all" | "mine">("all");
  let open = $state<Record<number, boolean>>({});
  let refused = $state<number | null>(null);

  const days = $derived.by((): [string, Write[]][] => {
    const by: Record<string, Write[]> = {};
    for (const one of writes ?? []) (by[day(one.at)] ??= []).push(one);
    return Object.entries(by);
  });
  function day(at: string): string {
    const date = new Date(at);
    const name = wholeDate(date);
    return date.toDateString() === new Date().toDateString() ? `Today, ${name}` : name;
  }

  /** Whether everything happened to one row, which the title names. */
  const isOneRow = (one: Write) => new Set(one.changes.map((change) => change.name)).size === 1;

  function read(before: number | null = null) {
    return asking.read(async () => {
      if (!place.shots) await place.readShots(session);
      if (place.production) await look(before);
    });
  }
  async function look(before: number | null = null) {
    const found = await answered(
      client.GET("/api/productions/{production_id}/history", {
        params: {
          path: { production_id: place.production! },
          query: { shot, mine: whose === "mine", before, units: session.units },
        },
      }),
    );
    writes = before && writes ? [...writes, ...found.writes] : found.writes;
    next = found.next;
    further = before !== null;
  }
  whenOthersWrite(
    async () => {
      if (!further) await look();
    },
    (told) => !shot || told.shot === shot,
  );
  void read();

  async function back(one: Write) {
    refused = null;
    const done = await asking.run(() => takeBack(place.production!, { write: one.id }));
    if (!done) {
      refused = one.id;
      return;
    }
    await read();
    place.readShots(session).catch(() => undefined); // the wall behind this page, in its time
  }
</script>

<svelte:head><title>History · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col overflow-y-auto">
  <h1 class="sr-only">History</h1>
  <Pages here="history">
    <div class="ml-auto flex flex-wrap items-center gap-2">
      <Select
        class="field !w-auto max-w-56"
        label="Shot"
        value={shot === null ? "" : String(shot)}
        options={[
          ["", "Every shot"],
          ...(place.shots ?? []).map((one) => [String(one.id), `${one.code} ${one.title}`] as const),
        ]}
        onchange={(id) => {
          shot = id ? Number(id) : null;
          void read();
        }}
      />
      <Choice
        label="Whose"
        value={whose}
        options={[
          ["all", "Everybody's"],
          ["mine", "Mine"],
        ]}
        onchange={(value) => {
          whose = value;
          void read();
        }}
      />
    </div>
  </Pages>
  {#if asking.said && refused === null}
    <p role="alert" class="border-b border-line px-3.5 py-2">
      {asking.said} <button class="link" onclick={() => read()}>Try again</button>
    </p>
  {/if}
  {#each days as [name, lines], i (name)}
    {@const week = weekOf(new Date(lines[0]!.at))}
    {@const before = i ? weekOf(new Date(days[i - 1]![1][0]!.at)) : weekOf(new Date())}
    <section aria-label={name}>
      <h2 class="sticky top-0 z-10 border-b border-line bg-ground px-3.5 py-1.5 text-muted">
        {name}{#if week.getTime() !== before.getTime()}<span class="ml-4 font-normal"
            >week from {dayOfYear(week)}</span
          >{/if}
      </h2>
      <ul>
        {#each lines as one (one.id)}
          {@const shown = open[one.id] ? one.changes : one.changes.slice(0, SHOWN_CHANGES)}
          {@const rest = one.changes.length - shown.length + one.more}
          <li
            class={[
              "grid grid-cols-[3rem_1fr_auto] gap-x-4 gap-y-0.5 border-b border-line px-3.5 py-2",
              "sm:grid-cols-[3rem_8rem_4.5rem_1fr_auto]",
            ]}
          >
            <span class="num text-muted">{clock(one.at)}</span>
            <span class="truncate max-sm:order-3 max-sm:col-start-2">{one.by || "somebody who has left"}</span
            >
            <span class="max-sm:hidden"
              >{#if one.shot_id && one.code}<a class="link num" href={`#/shots/${one.shot_id}/bench`}
                  >{one.code}</a
                >{/if}</span
            >
            <div class="min-w-0">
              <b class={[one.taken_back && "font-normal text-muted line-through"]}>{one.title}</b>
              <ul class="text-muted">
                {#each shown as change, i (i)}
                  {#if change.field}
                    <li class="break-words">
                      {isOneRow(one) ? "" : `${change.name}, `}{change.field}:
                      <span class="text-ink">{change.before}</span>
                      <span aria-hidden="true">→</span><span class="sr-only">to</span>
                      <span class="text-ink">{change.after}</span>
                    </li>
                  {:else if one.changes.length > 1 || one.title !== `${change.name} ${change.after}`}
                    <li>{change.name} <span class="text-ink">{change.after}</span></li>
                  {/if}
                {/each}
              </ul>
              {#if rest > 0}
                {#if open[one.id]}<span class="text-muted">and {rest} more</span>
                {:else}<button class="link text-sm text-muted" onclick={() => (open[one.id] = true)}
                    >{rest} more</button
                  >{/if}
              {/if}
              {#if refused === one.id && asking.said}<p role="alert" class="mt-1">{asking.said}</p>{/if}
            </div>
            <span class="text-right whitespace-nowrap max-sm:order-2">
              {#if one.taken_back}<span class="text-muted">taken back</span>
              {:else if one.can_go_back}<button
                  class="link"
                  aria-label={`Take back: ${one.title}`}
                  disabled={asking.busy}
                  onclick={() => back(one)}>take back</button
                >{/if}
            </span>
          </li>
        {/each}
      </ul>
    </section>
  {:else}
    {#if writes}
      <p class="px-3.5 py-4 text-muted">
        {shot || whose === "mine" ? "Nothing that fits." : "Nothing has been changed yet."}
        Every change of the production stands here, with who made it, and can be taken back.
      </p>
    {:else if !asking.said}<p class="px-3.5 py-3 text-muted">Reading the history…</p>{/if}
  {/each}
  {#if next}
    <p class="px-3.5 py-3">
      <button class="btn !border-line" onclick={() => read(next)}>Earlier changes</button>
    </p>
  {/if}
</main>
