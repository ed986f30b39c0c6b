<!-- What comes and goes (a tide, a train), and how long it takes from place to place. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { type DaysBoard } from "./days.svelte";
  import { hoursOf, type Hours } from "./hours";
  import HoursField from "./HoursField.svelte";

  let { board }: { board: DaysBoard } = $props();
  const data = $derived(board.data!);
  const rows = (kind: string) => data.rows.filter((row) => row.kind === kind);
  const places = $derived(data.places.map((own) => [String(own.id), own.name] as const));
  const named = (id: unknown) => data.places.find((own) => own.id === id)?.name ?? "";
  let name = $state("");
  let when = $state("");
  let here = $state("");
  let there = $state("");
  let minutes = $state("");
  let wrong = $state("");

  async function addWindow() {
    const hours = hoursOf(when);
    wrong = hours?.length ? "" : "Type its hours, like “2027-10-16 13:10 to 17:40”.";
    if (!hours?.length) return;
    if (await board.say(`Add ${name}`, "condition", null, { name, hours })) name = when = "";
    else wrong = board.asking.said;
  }
  async function addWay() {
    const fields = { here_id: Number(here), there_id: Number(there), minutes: Math.round(Number(minutes)) };
    wrong = "";
    if (await board.say("Add a way", "travel", null, fields)) here = there = minutes = "";
    else wrong = board.asking.said;
  }
</script>

<div class="grid gap-x-8 gap-y-4 lg:grid-cols-2">
  <div>
    <h2>Tide, train, neighbour</h2>
    <p class="text-muted">
      A job that needs one is put within its hours; one that keeps clear, outside them.
    </p>
    <ul class="mt-1">
      {#each rows("condition") as row (row.id)}
        <li class="flex items-center gap-3 border-b border-line py-1.5">
          <b class="w-28 truncate">{row.name}</b>
          <HoursField
            label={`Hours of ${row.name}`}
            hours={(row.fields["hours"] as Hours[]) ?? []}
            empty="never"
            disabled={!board.writes}
            onset={(hours) => board.say(`Hours of ${row.name}`, "condition", row.id, { hours })}
          />
          {#if board.writes}<button
              class="link text-sm text-muted"
              aria-label={`Remove ${row.name}`}
              onclick={() => board.say(`Remove ${row.name}`, "condition", row.id, { removed: true })}
              >remove</button
            >{/if}
        </li>
      {/each}
    </ul>
    {#if board.writes}
      <form
        class="mt-2 flex flex-wrap items-end gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void addWindow();
        }}
      >
        <input
          class="field !w-32"
          aria-label="Another one"
          placeholder="low tide"
          maxlength="40"
          bind:value={name}
        />
        <input
          class="field num min-w-0 flex-1"
          aria-label="Its hours"
          placeholder="2027-10-16 13:10 to 17:40"
          bind:value={when}
        />
        <button class="btn !border-line" disabled={!name.trim()}>Add</button>
      </form>
    {/if}
  </div>
  <div>
    <h2>From place to place</h2>
    <p class="text-muted">With loading; where nothing is said, the figure for changing the place counts.</p>
    <ul class="mt-1">
      {#each rows("travel") as row (row.id)}
        <li class="flex items-center gap-3 border-b border-line py-1">
          <span class="min-w-0 flex-1 truncate"
            >{named(row.fields["here_id"])}, {named(row.fields["there_id"])}</span
          >
          <input
            class="field num !w-16"
            aria-label={`Minutes of ${row.name}`}
            value={String(row.fields["minutes"])}
            disabled={!board.writes}
            onchange={(event) =>
              board.say(`Way of ${row.name}`, "travel", row.id, {
                minutes: Math.round(Number(event.currentTarget.value)),
              })}
          /><span class="text-muted">min</span>
          {#if board.writes}<button
              class="link text-sm text-muted"
              aria-label={`Remove ${row.name}`}
              onclick={() => board.say(`Remove ${row.name}`, "travel", row.id, { removed: true })}
              >remove</button
            >{/if}
        </li>
      {/each}
    </ul>
    {#if board.writes && places.length > 1}
      <form
        class="mt-2 flex flex-wrap items-end gap-2"
        onsubmit={(event) => {
          event.preventDefault();
          void addWay();
        }}
      >
        <Select
          class="field !w-36"
          label="From which place"
          placeholder="from"
          value={here}
          options={places}
          onchange={(value) => (here = value)}
        />
        <Select
          class="field !w-36"
          label="To which place"
          placeholder="to"
          value={there}
          options={places}
          onchange={(value) => (there = value)}
        />
        <label class="flex items-center gap-1"
          ><input
            class="field num !w-16"
            aria-label="Minutes between them"
            inputmode="numeric"
            bind:value={minutes}
          />
          min</label
        >
        <button class="btn !border-line" disabled={!here || !there || !minutes.trim()}>Add</button>
      </form>
    {/if}
  </div>
</div>
{#if wrong}<p role="alert" class="mt-1">{wrong}</p>{/if}
