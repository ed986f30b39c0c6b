<!-- Who is there and when, on which days, and what the days are reckoned with. -->
<script lang="ts">
  import { place } from "../../lib/place.svelte";
  import { Tabs } from "bits-ui";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import TabList from "../../lib/ui/TabList.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { type DaysBoard } from "./days.svelte";
  import PersonRow from "./PersonRow.svelte";
  import PlaceRow, { PLACE_COLUMNS } from "./PlaceRow.svelte";
  import WindowsAndWays from "./WindowsAndWays.svelte";

  let { board, onclose }: { board: DaysBoard; onclose: () => void } = $props();
  const data = $derived(board.data!);
  const rows = (kind: string) => data.rows.filter((row) => row.kind === kind);
  const people = $derived(rows("person"));
  const days = $derived(data.days);
  const TABS = [
    ["people", "Days and people"],
    ["places", "Places"],
    ["windows", "Windows and ways"],
    ["figures", "Figures"],
  ] as const;
  let tab = $state("people");
  let first = $state("");
  let last = $state("");
  let which = $state("weekends");
  let name = $state("");

  /** Every date from the first to the last that is wanted and not there yet. */
  function wanted(): string[] {
    const begin = Date.parse(`${first}T12:00Z`);
    const count = Math.min(120, Math.round((Date.parse(`${last || first}T12:00Z`) - begin) / 86_400_000) + 1);
    return Array.from({ length: Math.max(0, count) }, (_, day) => new Date(begin + day * 86_400_000))
      .filter((at) => which === "every day" || (which === "weekends") === [0, 6].includes(at.getUTCDay()))
      .map((at) => at.toISOString().slice(0, 10))
      .filter((date) => !days.some((day) => day.date === date));
  }
  const dates = $derived(first ? wanted() : []);
  async function addDays() {
    if (!dates.length) return;
    const label = dates.length > 1 ? `Film on ${dates.length} more days` : `Film on ${dates[0]}`;
    if (await board.addDays(label, dates)) first = last = "";
    else if (board.asking.at("version")) await place.readProductions();
  }
  const figures = $derived(rows("figures")[0]);
  const stage = $derived(figures?.fields["stage_id"]);
  const places = $derived(data.places.map((own) => [String(own.id), own.name] as const));
  function reckon(title: string, fields: Record<string, unknown>) {
    return board.say(title, "figures", figures?.id ?? null, fields);
  }
  async function addPerson() {
    const hours = [{ start: "08:00", end: "18:00" }];
    const added = await board.say(`Add ${name}`, "person", null, { name, duty: "every", hours });
    if (added) name = "";
    else if (board.asking.at("version")) await place.readProductions();
  }
</script>

<section
  class="flex max-h-[60%] min-h-[260px] shrink-0 flex-col border-b border-line bg-panel"
  aria-label="Who, where, when"
>
  <Tabs.Root bind:value={tab} class="flex min-h-0 flex-1 flex-col">
    <div class="relative">
      <TabList tabs={TABS} label="Who, where, when" />
      <button class="link absolute top-2 right-3.5" onclick={onclose}>Close</button>
    </div>
    <div class="min-h-0 flex-1 overflow-y-auto px-3.5 py-3">
      <Tabs.Content value="people" class="space-y-4">
        <div>
          <h2>Days on which something can be filmed</h2>
          <ul class="mt-1 flex flex-wrap gap-x-3 gap-y-1">
            {#each days as day (day.date)}
              <li class="flex items-center gap-1">
                <span>{day.name}</span>
                {#if board.writes}<button
                    class="link text-sm text-muted"
                    aria-label={`Not on ${day.name}`}
                    {@attach tip(() => `Not on ${day.name}`)}
                    onclick={() => board.say(`Not on ${day.name}`, "day", day.id, { removed: true })}
                    >remove</button
                  >{/if}
              </li>
            {:else}
              <li class="text-muted">None yet.</li>
            {/each}
          </ul>
          {#if board.writes}
            <form
              class="mt-2 flex flex-wrap items-end gap-2"
              onsubmit={(event) => {
                event.preventDefault();
                void addDays();
              }}
            >
              <label class="block"
                ><span class="text-muted">From</span>
                <input class="field !w-36" type="date" bind:value={first} /></label
              >
              <label class="block"
                ><span class="text-muted">to</span>
                <input class="field !w-36" type="date" bind:value={last} min={first} /></label
              >
              <div>
                <span class="text-muted">Of them</span>
                <Select
                  class="field !w-32"
                  label="Which of them"
                  value={which}
                  options={[
                    ["weekends", "weekends"],
                    ["weekdays", "weekdays"],
                    ["every day", "every day"],
                  ]}
                  onchange={(value) => (which = value)}
                />
              </div>
              <button class="btn !border-line" disabled={!dates.length}>Add</button>
              {#if first && !dates.length}<span class="pb-1 text-muted"
                  >None of these that is not there already.</span
                >{/if}
              {#if board.asking.at("date")}<span role="alert">{board.asking.at("date")}</span>{/if}
            </form>
          {/if}
        </div>
        <div>
          <h2>People</h2>
          {#if people.length}
            <ul class="mt-1">
              {#each people as person (person.id)}
                <PersonRow {board} {person} />
              {/each}
            </ul>
          {:else}
            <p class="mt-1 text-muted">
              Nobody yet: jobs are put where places and light allow. With people, they are put when everybody
              who is needed is there.
            </p>
          {/if}
          {#if board.writes}
            <form
              class="mt-2 flex flex-wrap items-end gap-2"
              onsubmit={(event) => {
                event.preventDefault();
                void addPerson();
              }}
            >
              <label class="block"
                ><span class="text-muted">Another person, by name or role</span>
                <input class="field !w-56" bind:value={name} maxlength="40" /></label
              >
              <button class="btn !border-line" disabled={!name.trim()}>Add</button>
              {#if board.asking.at("name")}<span role="alert">{board.asking.at("name")}</span>{/if}
            </form>
          {/if}
        </div>
      </Tabs.Content>
      <Tabs.Content value="places">
        <div>
          <h2 class="sr-only">Places</h2>
          {#if data.places.length}
            <div class={["grid gap-x-3 text-muted max-sm:hidden", PLACE_COLUMNS]} aria-hidden="true">
              <span>Place</span><span>Open</span><span>Noise may be made</span><span>Models</span><span
                >Latitude, longitude</span
              >
            </div>
            <ul>
              {#each data.places as own (own.id)}<PlaceRow {board} {own} />{/each}
            </ul>
            <div class="mt-2 flex items-center gap-2">
              <span class="text-muted">Models and elements are filmed at</span>
              <Select
                class="field !w-40"
                label="Models and elements are filmed at"
                placeholder="the stage"
                value={stage ? String(stage) : ""}
                options={places}
                disabled={!board.writes}
                onchange={(id) => reckon("Where models are filmed", { stage_id: Number(id) })}
              />
            </div>
          {:else}
            <p class="mt-1 text-muted">
              None yet. <a class="link" href="#/places">Add the places</a> where the scenes play.
            </p>
          {/if}
        </div>
      </Tabs.Content>
      <Tabs.Content value="windows"><WindowsAndWays {board} /></Tabs.Content>
      <Tabs.Content value="figures">
        <div>
          <h2>What is reckoned with</h2>
          <p class="text-muted">Judgement; change them to what your own crew needs.</p>
          <div class="mt-1 gap-x-8 sm:columns-2 xl:columns-3">
            {#each data.fields["figures"]! as field (field.name)}
              <div class="break-inside-avoid">
                <FieldRow
                  {field}
                  units="metric"
                  value={figures?.fields[field.name]}
                  disabled={!board.writes}
                  problem={board.asking.at(field.name)}
                  onset={(value) => reckon(field.title, { [field.name]: value }).then(Boolean)}
                />
              </div>
            {/each}
          </div>
        </div>
      </Tabs.Content>
    </div>
  </Tabs.Root>
</section>
