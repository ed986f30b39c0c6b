<!-- Everything about the production in one place: the film, the people, how it is judged. -->
<script lang="ts">
  import { Tabs } from "bits-ui";
  import { push } from "svelte-spa-router";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { Asking } from "../../lib/edit/asking.svelte";
  import TabList from "../../lib/ui/TabList.svelte";
  import JudgingPanel from "../bench/JudgingPanel.svelte";
  import FilmPanel from "./FilmPanel.svelte";
  import PeoplePanel from "./PeoplePanel.svelte";

  let { params }: { params?: { tab?: string } } = $props();
  const TABS = [
    ["film", "The film"],
    ["people", "People"],
    ["judging", "Judging"],
  ] as const;
  type Tab = (typeof TABS)[number][0];
  const tab = $derived<Tab>(TABS.find(([key]) => key === params?.tab)?.[0] ?? "film");
  const asking = new Asking();
  const production = $derived(place.productions?.find((one) => one.id === place.production));
  const writes = $derived(production?.role === "supervisor");

  async function read() {
    await asking.read(() => place.choose());
  }
  void read();
</script>

<svelte:head><title>{production?.title ?? "Production"} · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col">
  <h1 class="sr-only">{production?.title ?? "The production"}</h1>
  {#if asking.said}<p role="alert" class="px-3.5 py-3">
      {asking.said} <button class="link" onclick={read}>Try again</button>
    </p>{/if}
  {#if production}
    <Tabs.Root
      value={tab}
      class="flex min-h-0 flex-1 flex-col"
      onValueChange={(key) => void push(`/production/${key}`)}
    >
      <TabList tabs={TABS} label="The production" />
      {#key production.id}
        <Tabs.Content value="film" class="min-h-0 flex-1 overflow-y-auto">
          {#if tab === "film"}<FilmPanel id={production.id} {writes} />{/if}
        </Tabs.Content>
        <Tabs.Content value="people" class="min-h-0 flex-1 overflow-y-auto">
          {#if tab === "people"}<PeoplePanel id={production.id} {writes} />{/if}
        </Tabs.Content>
        <Tabs.Content value="judging" class="min-h-0 flex-1 overflow-y-auto">
          {#if tab === "judging"}
            <div class="max-w-4xl">
              <JudgingPanel
                production={production.id}
                units={session.units}
                {writes}
                onchange={() => void place.readProductions()}
              />
            </div>
          {/if}
        </Tabs.Content>
      {/key}
    </Tabs.Root>
  {:else if place.productions}
    <div class="mx-auto mt-24 grid max-w-md gap-3 px-4 text-center">
      <h2 class="text-lg">You are in no production yet</h2>
      <a class="btn btn-solid mx-auto" href="#/begin">Begin a film</a>
    </div>
  {:else if !asking.said}<p class="px-3.5 py-3 text-muted">Reading the production…</p>{/if}
</main>
