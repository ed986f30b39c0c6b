<!--
  The film of a production, changed field by field. What judges is tried first: which shots would be judged
  otherwise stands there before anything is saved.
-->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { WayBack } from "../../lib/edit/back.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { place } from "../../lib/place.svelte";
  import { undoes } from "../../lib/ui/keys";
  import { tip } from "../../lib/ui/tip.svelte";
  import { choices, type Follows, type Values } from "./film.svelte";
  import FilmFields from "./FilmFields.svelte";
  import TriedFilm from "./TriedFilm.svelte";

  let { id, writes }: { id: number; writes: boolean } = $props();
  const asking = new Asking();
  let film = $state.raw<Schemas["FilmOut"] | null>(null);
  let trying = $state.raw<Values | null>(null);
  let wouldFollow = $state.raw<Follows>([]);
  const back = new WayBack(asking, () => place.production, fresh);
  const path = $derived({ path: { production_id: id } });
  const values = $derived<Values>({ ...film, ...trying });
  /** What verdicts hang on is looked at before it is saved. */
  const judges = $derived(new Set(choices.known?.judges ?? []));
  const FIELDS = $derived(new Set([...judges, "title", "time_zone", "backings"]));
  const elsewhere = $derived(asking.problems.some((one) => !FIELDS.has(one.field)));

  async function read() {
    await asking.read(async () => {
      await choices.read();
      await fresh();
    });
  }
  async function fresh() {
    film = await answered(client.GET("/api/productions/{production_id}", { params: path }));
    await place.readProductions();
  }
  whenOthersWrite(fresh, (told) => told.shot === null);
  void read().then(() => asking.read(() => back.fill({ kinds: "production" })));

  function save(changes: Values, label = "Change the film") {
    return back.do(label, async (key) => {
      const done = await answered(
        client.PATCH("/api/productions/{production_id}", {
          params: path,
          headers: { "Idempotency-Key": key },
          body: { version: film!.version, changes },
        }),
      );
      await fresh();
      return done;
    });
  }
  /** What judges is looked at before it is saved; all else is saved at once. */
  async function change(changes: Values) {
    const all = { ...trying, ...changes };
    if (!trying && !Object.keys(changes).some((name) => judges.has(name))) return save(changes);
    // both of a place are said before it is one
    if ("latitude_deg" in all !== "longitude_deg" in all && film!.latitude_deg === null) {
      trying = all;
      return;
    }
    const right = await asking.run(() =>
      answered(client.POST("/api/films/asked", { body: { values: { ...plain(), ...all } } })),
    );
    if (!right) return;
    wouldFollow = right.follows;
    trying = Object.fromEntries(Object.keys(all).map((name) => [name, right.values[name]]));
  }
  function plain(): Values {
    return Object.fromEntries([...FIELDS].map((name) => [name, film![name as "title"]]));
  }
  async function use() {
    if (trying && (await save(trying))) trying = null;
  }
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void back.undo();
  }
  const putAway = () =>
    save({ put_away: !film?.put_away }, film?.put_away ? "Bring the film back" : "Put the film away");
</script>

<svelte:window onkeydown={pressed} />

<div class="max-w-4xl px-4 py-4">
  {#if elsewhere && asking.said}<p role="alert" class="mb-3"><Refused {back} /></p>{/if}
  {#if film}
    <FilmFields
      {values}
      follows={trying && wouldFollow.length ? wouldFollow : film.follows}
      at={(field) => asking.at(field)}
      disabled={!writes}
      onset={change}
    >
      {#snippet after()}
        {#if trying && film}
          <TriedFilm {id} changes={trying} onuse={use} onleave={() => (trying = null)} busy={asking.busy} />
        {/if}
      {/snippet}
    </FilmFields>
    {#if writes}
      <div class="mt-6 flex flex-wrap items-center gap-3 border-t border-line pt-4">
        <button
          class="btn !border-line"
          disabled={!back.can}
          {@attach tip(() => back.label)}
          onclick={() => back.undo()}>Undo</button
        >
        <button class="btn !border-line" onclick={putAway}
          >{film.put_away ? "Bring it back" : "Put it away"}</button
        >
        <span class="text-muted"
          >{film.put_away
            ? "This film is put away: whole, but out of the list of what is being made."
            : "A film that is finished, or left for now, is put away whole, and can be brought back."}</span
        >
      </div>
      <div class="mt-4 flex flex-wrap items-center gap-3">
        <a class="btn !border-line" href={`/api/productions/${id}/film.zip`} download>Take it out as a file</a
        >
        <span class="min-w-60 flex-1 text-muted"
          >Shots, takes, kit, pictures, people and history in one open file. It comes in again, here or on
          another machine, under “Begin a film”.</span
        >
      </div>
    {/if}
  {:else if !asking.said}<p class="text-muted">Reading the film…</p>{/if}
</div>
