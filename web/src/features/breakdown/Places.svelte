<!--
  The continuity list by place: what recurs there must be in every shot of it; and which cautions the place
  raises.
-->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import NewNamed from "./NewNamed.svelte";
  import Pages from "./Pages.svelte";
  import { plural } from "../../lib/hours";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import { WayBack } from "../../lib/edit/back.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { undoes } from "../../lib/ui/keys";

  type Row = Schemas["PlaceOut"];
  const asking = new Asking();
  let rows = $state.raw<Row[] | null>(null);
  let cautions = $state.raw<Schemas["KeyTitle"][]>([]);
  let failed = $state<number | null>(null);
  let thing = $state<Record<number, string>>({});
  const back = new WayBack(asking, () => place.production, fresh);

  const writes = $derived(place.role === "supervisor");
  const missing = (row: Row) =>
    row.shots.reduce((sum, shot) => sum + shot.has.filter((has) => !has).length, 0);

  async function read() {
    await asking.read(async () => {
      if (!place.shots) await place.readShots(session);
      if (!place.production) return;
      cautions = await answered(client.GET("/api/cautions"));
      await fresh();
    });
  }
  async function fresh() {
    const path = { production_id: place.production! };
    rows = await answered(client.GET("/api/productions/{production_id}/places", { params: { path } }));
  }
  whenOthersWrite(fresh);
  void read().then(() => asking.read(() => back.fill({ kinds: "place" })));

  type Said = Pick<Row, "name" | "recurring" | "cautions">;
  const path = (id: number) => ({ path: { production_id: place.production!, place_id: id } });
  /** A write about one place, and the places as they are then. */
  async function write<T>(label: string, id: number, send: (key: string) => Promise<T>): Promise<boolean> {
    failed = id;
    const done = await back.do(label, async (key) => {
      const answer = await send(key);
      await fresh();
      return answer;
    });
    if (done) failed = null;
    return done !== undefined;
  }
  function save(id: number, change: (now: Said) => Partial<Said>): Promise<boolean> {
    const name = rows?.find((one) => one.id === id)?.name ?? "a place";
    return write(`Change ${name}`, id, (key) => {
      const row = rows!.find((one) => one.id === id)!;
      const now: Said = { name: row.name, recurring: row.recurring, cautions: row.cautions };
      const body = { ...now, ...change(now), version: row.version };
      return answered(
        client.PUT("/api/productions/{production_id}/places/{place_id}", {
          params: path(id),
          headers: { "Idempotency-Key": key },
          body,
        }),
      );
    });
  }
  async function make(name: string): Promise<boolean> {
    const made = await write(`Add ${name}`, 0, (key) =>
      answered(
        client.POST("/api/productions/{production_id}/places", {
          params: { path: { production_id: place.production! } },
          headers: { "Idempotency-Key": key },
          body: { version: place.version, name, recurring: [], cautions: [] },
        }),
      ),
    );
    if (!made && asking.at("version")) await place.readProductions();
    return made;
  }
  function remove(row: Row) {
    return write(`Remove ${row.name}`, row.id, (key) =>
      answered(
        client.PATCH("/api/productions/{production_id}/places/{place_id}", {
          params: path(row.id),
          headers: { "Idempotency-Key": key },
          body: { version: rows?.find((one) => one.id === row.id)?.version ?? 0, removed: true },
        }),
      ),
    );
  }
  async function add(id: number) {
    const name = (thing[id] ?? "").trim();
    if (name && (await save(id, (now) => ({ recurring: [...now.recurring, name] })))) thing[id] = "";
  }
  /** Say that a shot carries a thing without a layer or a mark of its own, or take that back. */
  function carry(row: number, shot: number, name: string) {
    const code = rows?.flatMap((one) => one.shots).find((one) => one.id === shot)?.code ?? "";
    return write(`${code}, ${name}`, row, (key) => {
      const now = rows!.find((one) => one.id === row)!.shots.find((one) => one.id === shot)!;
      const others = now.carries.filter((one) => one.toLowerCase() !== name.toLowerCase());
      const carries = others.length < now.carries.length ? others : [...now.carries, name];
      return answered(
        client.POST("/api/shots/{shot_id}/changes", {
          params: { path: { shot_id: shot } },
          headers: { "Idempotency-Key": key },
          body: { shot: { [shot]: { version: now.version, changes: { carries } } } } as Partial<
            Schemas["ChangesIn"]
          > as Schemas["ChangesIn"],
        }),
      );
    });
  }
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void back.undo();
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>Places · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col overflow-y-auto">
  <h1 class="sr-only">Places</h1>
  <Pages here="places">
    <div class="ml-auto flex flex-wrap items-center gap-2">
      {#if writes}
        <button
          class="btn !border-line"
          disabled={!back.can}
          {@attach tip(() => back.label)}
          onclick={() => back.undo()}>Undo</button
        >
        <NewNamed button="New place" label="Name of the place" verb="Add it" onmake={make} />
      {/if}
    </div>
  </Pages>
  {#if asking.said && !rows?.some((one) => one.id === failed)}
    <p role="alert" class="border-b border-line px-3.5 py-2">
      {asking.said} <button class="link" onclick={read}>Try again</button>
    </p>
  {/if}
  <p class="max-w-prose px-3.5 pt-3 text-muted">
    What recurs in a place (a landmark, a sign, damage) must be in every shot of it. A shot has it by a layer,
    a part, a mark on its board, or because somebody says so here; the Bench says it of each shot where it is
    missing.
  </p>
  {#each rows ?? [] as row (row.id)}
    <section class="border-b border-line px-3.5 py-3" aria-label={row.name}>
      <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
        {#if writes}
          <h2 class="sr-only">{row.name}</h2>
          <input
            class="cell !w-auto max-w-full min-w-52 !px-0 [field-sizing:content] text-lg font-strong"
            aria-label={`Name of ${row.name}`}
            {@attach typed(() => row.name)}
            onchange={async (event) => {
              const field = event.currentTarget;
              const name = field.value.trim();
              if (!(await save(row.id, () => ({ name })))) field.value = row.name;
            }}
          />
        {:else}<h2 class="text-lg">{row.name}</h2>{/if}
        <span class="text-muted">{plural(row.shots.length, "shot")}</span>
        {#if missing(row)}<b>{missing(row)} missing</b
          >{:else if row.recurring.length && row.shots.length}<span>every shot has everything</span>{/if}
        {#if writes}<button
            class="link ml-auto text-sm text-muted"
            aria-label={`Remove ${row.name}`}
            onclick={() => remove(row)}>remove</button
          >{/if}
      </div>
      {#if asking.said && failed === row.id}<p role="alert" class="py-1">
          <Refused {back} />
        </p>{/if}
      {#if row.shots.length && row.recurring.length}
        <div class="mt-1 overflow-x-auto">
          <table>
            <thead>
              <tr class="text-left align-bottom">
                <th class="py-1 pr-3 font-strong">Shot</th>
                {#each row.recurring as name (name)}<th class="max-w-40 px-3 py-1 font-strong">{name}</th
                  >{/each}
              </tr>
            </thead>
            <tbody>
              {#each row.shots as shot (shot.id)}
                <tr class="border-t border-line">
                  <td class="py-1 pr-3 whitespace-nowrap"
                    ><a class="link" href={`#/shots/${shot.id}/plan`}><span class="num">{shot.code}</span></a>
                    {shot.title}</td
                  >
                  {#each row.recurring as name, i (name)}
                    {@const said = shot.carries.some((one) => one.toLowerCase() === name.toLowerCase())}
                    <td class="px-3 py-1">
                      <label class="flex items-center gap-2 pointer-coarse:min-h-11">
                        <input
                          type="checkbox"
                          class="size-4 accent-(--text) pointer-coarse:size-6"
                          aria-label={`${shot.code} has ${name}`}
                          checked={shot.has[i]}
                          disabled={!writes || (shot.has[i] && !said)}
                          onclick={(event) => {
                            event.preventDefault();
                            void carry(row.id, shot.id, name);
                          }}
                        />
                        {#if !shot.has[i]}<b>missing</b>{:else if !said}<span class="text-muted"
                            >in its picture</span
                          >{:else}<span class="text-muted">said</span>{/if}
                      </label>
                    </td>
                  {/each}
                </tr>
              {/each}
            </tbody>
          </table>
        </div>
      {:else if !row.shots.length}
        <p class="py-1 text-muted">
          No shot stands here yet: a shot's place is said on the <a class="link" href="#/">wall</a>, in the
          list.
        </p>
      {/if}
      <div class="mt-2 grid gap-x-8 gap-y-2 lg:grid-cols-2">
        <div>
          <h3 class="text-muted">{vocabulary.line("recurring").name}</h3>
          <ul>
            {#each row.recurring as name (name)}
              <li class="flex items-baseline gap-3 py-0.5">
                {name}
                {#if writes}<button
                    class="link text-sm text-muted"
                    aria-label={`Remove ${name}`}
                    onclick={() =>
                      save(row.id, (now) => ({ recurring: now.recurring.filter((one) => one !== name) }))}
                    >remove</button
                  >{/if}
              </li>
            {/each}
          </ul>
          {#if writes}
            <form
              class="mt-1 flex max-w-sm gap-2"
              onsubmit={(event) => {
                event.preventDefault();
                void add(row.id);
              }}
            >
              <input
                class="field"
                aria-label={`What recurs in ${row.name}`}
                placeholder="A landmark, a sign, damage"
                bind:value={thing[row.id]}
              />
              <button class="btn !border-line">Add</button>
            </form>
          {:else if !row.recurring.length}<p class="text-muted">Nothing is said yet.</p>{/if}
        </div>
        <div>
          <h3 class="text-muted">Cautions that the place raises in every shot of it</h3>
          <ul aria-label={`Cautions of ${row.name}`}>
            {#each row.cautions as key (key)}
              {@const title = cautions.find((one) => one.key === key)?.title ?? key}
              <li class="flex items-baseline gap-3 py-0.5">
                {title}
                {#if writes}<button
                    class="link text-sm text-muted"
                    aria-label={`Take back ${title}`}
                    onclick={() =>
                      save(row.id, (now) => ({ cautions: now.cautions.filter((one) => one !== key) }))}
                    >take back</button
                  >{/if}
              </li>
            {:else}<li class="py-0.5 text-muted">None.</li>{/each}
          </ul>
          {#if writes}
            <Select
              class="field mt-1 max-w-sm"
              label={`Add a caution of ${row.name}`}
              value=""
              placeholder="Add one"
              options={cautions
                .filter((one) => !row.cautions.includes(one.key))
                .map((one) => [one.key, one.title] as const)}
              onchange={(key) => void save(row.id, (now) => ({ cautions: [...now.cautions, key] }))}
            />
          {/if}
        </div>
      </div>
    </section>
  {:else}
    {#if rows}
      <p class="px-3.5 py-4 text-muted">
        No place yet. A place is where shots are set: a quay, a room. Shots taken in from a table or a
        screenplay bring theirs.
      </p>
    {:else if !asking.said}<p class="px-3.5 py-3 text-muted">Reading the places…</p>{/if}
  {/each}
</main>
