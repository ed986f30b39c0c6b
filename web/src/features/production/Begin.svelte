<!-- A film begun. Everything but the title may be left as it is and be said later. -->
<script lang="ts">
  import { push } from "svelte-spa-router";
  import { answered, client, writeKey, type Schemas } from "../../lib/api/client";
  import { place } from "../../lib/place.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { choices, NewFilm } from "./film.svelte";
  import BringIn from "./BringIn.svelte";
  import FilmFields from "./FilmFields.svelte";

  const film = new NewFilm();
  const sending = new Asking();
  type What = Schemas["FilmIn"]["what"][number];
  const PARTS: [What, string][] = [
    ["kit", "its kit and its room"],
    ["recipes", "recipes that it saved"],
    ["figures", "its rates"],
    ["judging", "how it is judged"],
  ];
  let source = $state("");
  let what = $state<What[]>(PARTS.map(([key]) => key));
  const others = $derived(place.productions ?? []);
  const key = writeKey(); // pressed twice, one film

  async function read() {
    await film.asking.read(async () => {
      await choices.read();
      if (!place.productions) await place.readProductions();
      await film.look();
    });
  }
  void read();

  async function begin(event: SubmitEvent) {
    event.preventDefault();
    const made = await sending.run(() =>
      answered(
        client.POST("/api/films", {
          headers: { "Idempotency-Key": key },
          body: {
            values: film.values,
            source: source ? Number(source) : null,
            what: source ? what : [],
          },
        }),
      ),
    );
    if (!made) return;
    await place.readProductions();
    place.open(made.id);
    await push("/kit");
  }
  const at = (field: string) => sending.at(field) || film.asking.at(field);
</script>

<svelte:head><title>Begin a film · Jungoptic</title></svelte:head>

<main class="h-full overflow-y-auto">
  <form class="mx-auto max-w-3xl px-4 py-8" onsubmit={begin}>
    <h1 class="text-lg">Begin a film</h1>
    <p class="mt-1 mb-6 max-w-prose text-muted">
      Everything is judged in the pixels of the delivered frame, so this comes first. All of it can be changed
      later; then you are told what is judged otherwise.
    </p>
    <FilmFields values={film.values} follows={film.follows} {at} onset={(changes) => film.set(changes)} />
    {#if others.length}
      <div class="mt-4 grid gap-x-4 gap-y-2 border-t border-line pt-4 sm:grid-cols-[8.5rem_1fr]">
        <span class="pt-1">Take over</span>
        <div class="grid gap-2">
          <Select
            class="field !w-auto max-w-md"
            label="From which production"
            value={source}
            options={[
              ["", "Nothing: begin empty"],
              ...others.map((one) => [String(one.id), `from ${one.title}`] as const),
            ]}
            onchange={(id) => (source = id)}
          />
          {#if source}
            <div class="flex flex-wrap gap-x-5 gap-y-1">
              {#each PARTS as [key, name] (key)}
                <label class="flex items-center gap-2 pointer-coarse:min-h-11">
                  <input
                    type="checkbox"
                    class="size-4 accent-(--text) pointer-coarse:size-6"
                    checked={what.includes(key)}
                    onchange={() =>
                      (what = what.includes(key) ? what.filter((one) => one !== key) : [...what, key])}
                  />
                  {name}
                </label>
              {/each}
            </div>
          {/if}
        </div>
      </div>
    {/if}
    {#if sending.said || film.asking.at("")}<p role="alert" class="mt-4">
        {sending.said || film.asking.at("")}
      </p>{/if}
    <div class="mt-6 flex items-center gap-3">
      <button class="btn btn-solid min-w-32" disabled={sending.busy}>Begin it</button>
      {#if others.length}<a class="link text-muted" href="#/">Leave it</a>{/if}
    </div>
  </form>
  <section class="mx-auto max-w-3xl px-4 pb-10" aria-labelledby="bring-in">
    <div class="grid gap-x-4 gap-y-2 border-t border-line pt-4 sm:grid-cols-[8.5rem_1fr]">
      <h2 id="bring-in" class="pt-1">Or bring one in</h2>
      <BringIn />
    </div>
  </section>
</main>
