<!--
  What should the audience see? From that, and from what is not at hand, to a recipe and the few numbers that
  it asks for.
-->
<script lang="ts">
  import { Dialog } from "bits-ui";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import { Asking } from "../../lib/edit/asking.svelte";
  import type { PlanState } from "./plan.svelte";

  let {
    open = $bindable(false),
    plan,
    laidOut,
  }: { open: boolean; plan: PlanState; laidOut: boolean } = $props();
  const asking = new Asking();
  let book = $state.raw<Schemas["RecipesOut"] | null>(null);
  let fits = $state.raw<Schemas["SuggestionOut"][] | null>(null);
  let sees = $state("");
  let without = $state<string[]>([]);
  let chosen = $state("");
  let answers = $state<Record<string, string>>({});

  $effect(() => {
    if (open && !book)
      void asking.read(async () => {
        book = await answered(client.GET("/api/recipes"));
      });
  });
  async function ask() {
    if (!sees) {
      fits = null;
      return;
    }
    const query = { sees, without: without.join(",") };
    fits = (await asking.read(() => answered(client.GET("/api/guide", { params: { query } })))) ?? null;
    chosen = fits?.[0]?.key ?? "";
  }
  const shown = $derived(
    (fits
      ? fits.map((one) => ({ ...one }))
      : (book?.recipes ?? []).map((one) => ({ key: one.key, lacks: [] as string[] }))
    ).flatMap((one) => {
      const recipe = book?.recipes.find((other) => other.key === one.key);
      return recipe ? [{ recipe, lacks: one.lacks }] : [];
    }),
  );
  const recipe = $derived(book?.recipes.find((one) => one.key === chosen) ?? null);
  const taken = $derived(plan.plan?.recipes.some((one) => one.key === chosen) ?? false);
  const needText = (key: string) => book?.needs.find((one) => one.key === key)?.text ?? key;

  async function use(fill: boolean) {
    if (!recipe) return;
    const given = Object.fromEntries(
      recipe.asks.map((one) => [
        one.name,
        Number((answers[`${recipe.key}.${one.name}`] ?? String(one.default)).replace(",", ".")),
      ]),
    );
    if (Object.values(given).some((value) => !Number.isFinite(value))) {
      asking.problems = [{ field: "", message: "Every answer must be a number." }];
      return;
    }
    if (await plan.choose({ key: recipe.key, answers: given, fill })) open = false;
    else asking.problems = plan.asking.problems;
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class={[
        "fixed top-1/2 left-1/2 z-50 flex h-[min(46rem,94vh)] w-[min(72rem,97vw)] -translate-x-1/2",
        "-translate-y-1/2 flex-col border border-ink bg-raised",
      ]}
    >
      <div class="border-b border-line px-4 pt-3 pb-2">
        <Dialog.Title class="text-lg font-strong">What should the audience see?</Dialog.Title>
        <div class="mt-2 flex flex-wrap gap-1.5" role="group" aria-label="What should the audience see?">
          {#each book?.sees ?? [] as one (one.key)}
            <button
              class={[
                "cursor-pointer border px-2 py-0.5 pointer-coarse:py-2",
                sees === one.key ? "border-ink bg-ink text-ground" : "border-line",
              ]}
              aria-pressed={sees === one.key}
              onclick={() => {
                sees = sees === one.key ? "" : one.key;
                void ask();
              }}>{one.text}</button
            >
          {/each}
        </div>
        <div class="mt-2 flex flex-wrap items-center gap-1.5" role="group" aria-label="We do without">
          <span class="text-muted">We do without</span>
          {#each book?.needs ?? [] as one (one.key)}
            {@const on = without.includes(one.key)}
            <button
              class={[
                "cursor-pointer border px-2 py-0.5 pointer-coarse:py-2",
                on ? "border-ink bg-ink text-ground line-through" : "border-line text-muted",
              ]}
              aria-pressed={on}
              onclick={() => {
                without = on ? without.filter((other) => other !== one.key) : [...without, one.key];
                void ask();
              }}>{one.text}</button
            >
          {/each}
        </div>
      </div>
      <div
        class={[
          "grid min-h-0 flex-1 grid-cols-[minmax(15rem,2fr)_5fr] max-sm:grid-cols-1",
          "max-sm:overflow-y-auto",
        ]}
      >
        <ul class="overflow-y-auto border-r border-line max-sm:max-h-60" aria-label="Recipes">
          {#each shown as one (one.recipe.key)}
            <li>
              <button
                class={[
                  "block w-full cursor-pointer border-b border-line px-3 py-1.5 text-left",
                  chosen === one.recipe.key && "bg-ink text-ground",
                ]}
                aria-pressed={chosen === one.recipe.key}
                onclick={() => {
                  chosen = one.recipe.key;
                  asking.problems = [];
                }}
              >
                <b>{one.recipe.title}</b>
                {#if one.lacks.length}<span class="block opacity-75"
                    >wants {one.lacks.map(needText).join(", ")}</span
                  >{/if}
              </button>
            </li>
          {/each}
          {#each plan.plan?.own_recipes ?? [] as one (one.id)}
            <li>
              <button
                class="block w-full cursor-pointer border-b border-line px-3 py-1.5 text-left"
                onclick={async () => {
                  if (await plan.choose({ own: one.id })) open = false;
                  else asking.problems = plan.asking.problems;
                }}
                ><b>{one.title}</b><span class="block text-muted"
                  >saved by this production; fills the stack at once</span
                ></button
              >
            </li>
          {/each}
          {#if book?.problems.length}
            <li class="px-3 py-2 text-sm" role="note">
              <b>Files that could not be used</b>
              {#each book.problems as problem (problem)}<p class="mt-1 break-words">{problem}</p>{/each}
            </li>
          {/if}
        </ul>
        <div class="overflow-y-auto px-4 py-3">
          {#if recipe}
            <h3 class="text-lg">{recipe.title}</h3>
            <p>{recipe.audience}</p>
            {#if recipe.schools}<p class="mt-1 text-muted">{recipe.schools}</p>{/if}
            {#if recipe.asks.length}
              <div class="mt-3 flex flex-wrap gap-x-5 gap-y-2">
                {#each recipe.asks as one (one.name)}
                  <label class="grid gap-0.5"
                    ><span class="text-muted">{one.label}</span>
                    <span class="flex items-center gap-1.5"
                      ><input
                        class="field num !w-24"
                        inputmode="decimal"
                        aria-invalid={plan.asking.at(one.name) !== ""}
                        value={answers[`${recipe.key}.${one.name}`] ?? String(one.default)}
                        oninput={(event) =>
                          (answers[`${recipe.key}.${one.name}`] = event.currentTarget.value)}
                      /><span class="num text-muted">{one.unit}</span></span
                    ></label
                  >
                {/each}
              </div>
            {/if}
            {#if asking.said}<p role="alert" class="mt-2">{asking.said}</p>{/if}
            <div class="mt-3 flex flex-wrap items-center gap-3">
              <button class="btn btn-solid" disabled={taken || plan.asking.busy} onclick={() => use(true)}
                >{laidOut ? "Add its plates" : "Fill the stack"}</button
              >
              {#if laidOut}<button class="btn" disabled={taken || plan.asking.busy} onclick={() => use(false)}
                  >Only say that it is one</button
                >{/if}
              <Dialog.Close class="btn !border-line">Leave it</Dialog.Close>
              {#if taken}<span class="text-muted">It is chosen for this shot.</span>{/if}
            </div>
            <h4 class="mt-4 font-strong">Plates</h4>
            <ul>
              {#each recipe.plates as one (one.name)}<li>
                  {one.name.replace("{n}", "…").replace("{s}", "s")}
                  <span class="text-muted"
                    >({vocabulary.kind(one.kind)}{one.hero ? ", hero" : ""}): {one.why}</span
                  >
                </li>{/each}
            </ul>
            <h4 class="mt-3 font-strong">Filmed in this order</h4>
            <ol class="list-inside list-decimal">
              {#each recipe.order as one (one.what)}<li>
                  {one.what}. <span class="text-muted">{one.why}</span>
                </li>{/each}
            </ol>
            <h4 class="mt-3 font-strong">What goes wrong, and how it is seen</h4>
            <ul>
              {#each recipe.wrong as one (one.what)}<li>
                  {one.what}: <span class="text-muted">{one.seen}</span>
                </li>{/each}
            </ul>
            <p class="mt-3"><b>References to film:</b> {recipe.references.join(", ")}.</p>
            {#if recipe.cautions.length}<p class="mt-1">
                <b>Cautions:</b>
                {recipe.cautions.join(", ")}.
              </p>{/if}
            {#if recipe.ways.length}<p class="mt-1 text-muted">
                Ways to make it: {recipe.ways.join(", ")}.
              </p>{/if}
          {:else}
            <p class="text-muted">
              Say above what the audience should see, or choose a recipe at the left. It fills the stack with
              plates, their order and their checks; then the Bench says what each must be shot at.
            </p>
            {#if asking.said}<p role="alert" class="mt-2">{asking.said}</p>{/if}
          {/if}
        </div>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
