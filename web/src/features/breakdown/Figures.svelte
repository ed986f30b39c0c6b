<!-- What the production reckons with, and what it has in stock. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import { factor, kept, unitOf } from "../../lib/units";
  import Pages from "./Pages.svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { LastOf, WayBack } from "../../lib/edit/back.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import { undoes } from "../../lib/ui/keys";

  const asking = new Asking();
  const stocking = new Asking();
  let figures = $state.raw<Schemas["FiguresOut"] | null>(null);
  let stock = $state.raw<Schemas["StockOut"][] | null>(null);
  const rates = new WayBack(asking, () => place.production, look);
  const stocked = new WayBack(stocking, () => place.production, readStock);
  const back = new LastOf(() => [rates, stocked]);
  const BLANK = {
    name: "",
    note: "",
    width_px: "",
    fps: "",
    view_deg: "",
    camera_height_m: "",
    key_azimuth_deg: "",
    key_elevation_deg: "",
  };
  let fresh = $state({ ...BLANK });
  let words = $state("");

  const writes = $derived(place.role === "supervisor");
  const units = $derived(session.units);
  const NUMBERS = $derived([
    ["width_px", "Width", "px"],
    ["fps", "Rate", "frames/s"],
    ["view_deg", "Angle of view", "°"],
    ["camera_height_m", "Camera height", unitOf("length", units, "m")],
    ["key_azimuth_deg", "Key, round", "°"],
    ["key_elevation_deg", "Key, up", "°"],
  ] as const);
  const found = $derived.by(() => {
    const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
    return (stock ?? []).filter((one) =>
      wanted.every((word) => `${one.name} ${one.note}`.toLowerCase().includes(word)),
    );
  });
  const shown = (item: Schemas["StockOut"], name: (typeof NUMBERS)[number][0]) => {
    const value = item[name];
    if (value === null || value === undefined) return "–";
    return String(Number((name === "camera_height_m" ? value * factor("length", units) : value).toFixed(2)));
  };

  async function read() {
    await asking.read(async () => {
      if (!place.shots) await place.readShots(session);
      if (!place.production) return;
      await look();
    });
  }
  async function look() {
    const params = { path: { production_id: place.production! } };
    figures = await answered(client.GET("/api/productions/{production_id}/figures", { params }));
    await readStock();
  }
  whenOthersWrite(look, (told) => told.shot === null);
  void read().then(() =>
    asking.read(async () => {
      await rates.fill({ kinds: "rates" });
      await stocked.fill({ kinds: "stock element" });
    }),
  );

  async function set(name: string, title: string, value: number): Promise<boolean> {
    const done = await rates.do(title, async (key) => {
      figures = await answered(
        client.PATCH("/api/productions/{production_id}/figures", {
          params: { path: { production_id: place.production! } },
          headers: { "Idempotency-Key": key },
          body: { version: figures!.version, changes: { [name]: value } },
        }),
      );
      return figures;
    });
    return done !== undefined;
  }
  async function readStock() {
    const params = { path: { production_id: place.production! } };
    stock = await answered(client.GET("/api/productions/{production_id}/stock", { params }));
  }
  async function addStock() {
    const numbers: Record<string, number | null> = {};
    const problems = [];
    for (const [name, title] of NUMBERS) {
      const typed = fresh[name].trim();
      const value = typed ? kept(typed, name === "camera_height_m" ? "length" : "number", units) : null;
      if (value !== null && !Number.isFinite(value))
        problems.push({ field: name, message: `${title}: “${typed}” is not a number.` });
      numbers[name] = value === null ? null : name === "width_px" ? Math.round(value) : value;
    }
    if (problems.length) {
      stocking.problems = problems;
      return;
    }
    const added = await stocked.do(`Add ${fresh.name}`, async (key) => {
      const made = await answered(
        client.POST("/api/productions/{production_id}/stock", {
          params: { path: { production_id: place.production! } },
          headers: { "Idempotency-Key": key },
          body: {
            version: place.version,
            name: fresh.name,
            note: fresh.note,
            ...numbers,
          } as Schemas["NewStock"],
        }),
      );
      await readStock();
      return made;
    });
    if (added) fresh = { ...BLANK };
    else if (stocking.at("version")) await place.readProductions();
  }
  function removeStock(item: Schemas["StockOut"]) {
    return stocked.do(`Remove ${item.name}`, async (key) => {
      const gone = await answered(
        client.PATCH("/api/productions/{production_id}/stock/{item_id}", {
          params: { path: { production_id: place.production!, item_id: item.id } },
          headers: { "Idempotency-Key": key },
          body: { version: item.version, removed: true },
        }),
      );
      await readStock();
      return gone;
    });
  }
  function pressed(event: KeyboardEvent) {
    if (undoes(event)) void back.undo();
  }
</script>

<svelte:window onkeydown={pressed} />
<svelte:head><title>Rates and stock · Jungoptic</title></svelte:head>

<main class="flex h-full flex-col overflow-y-auto">
  <h1 class="sr-only">Rates and stock</h1>
  <Pages here="figures">
    {#if writes}<div class="ml-auto">
        <button
          class="btn !border-line"
          disabled={!back.can}
          {@attach tip(() => back.label)}
          onclick={() => back.undo()}>Undo</button
        >
      </div>{/if}
  </Pages>
  {#if asking.whole || (asking.said && !figures)}
    <p role="alert" class="border-b border-line px-3.5 py-2">
      {#if figures}<Refused back={rates} />{:else}{asking.said}
        <button class="link" onclick={read}>Try again</button>{/if}
    </p>
  {/if}
  {#if figures}
    <section class="border-b border-line px-3.5 py-3" aria-labelledby="figures">
      <h2 id="figures" class="text-lg">What the production reckons with</h2>
      <p class="max-w-prose text-muted">
        Common practice and judgement; change them to what your own crew needs, and every way of every shot is
        priced anew.
      </p>
      <div class="mt-2 gap-x-8 sm:columns-2 xl:columns-3">
        {#each figures.fields as field (field.name)}
          <div class="break-inside-avoid">
            <FieldRow
              {field}
              units="metric"
              value={figures.values[field.name]}
              disabled={!writes}
              problem={asking.at(field.name)}
              onset={(value) => set(field.name, field.title, value as number)}
            />
          </div>
        {/each}
      </div>
    </section>
  {/if}
  {#if stock}
    <section class="px-3.5 py-3" aria-labelledby="stock">
      <div class="flex flex-wrap items-center gap-x-4 gap-y-1">
        <h2 id="stock" class="text-lg">In stock</h2>
        {#if stock.length > 8}<input
            class="field !w-56"
            placeholder="Filter"
            aria-label="Filter the stock"
            bind:value={words}
          />{/if}
        <span class="text-muted" aria-live="polite"
          >{found.length === stock.length ? "" : `${found.length} of ${stock.length}`}</span
        >
      </div>
      <p class="max-w-prose text-muted">
        What was filmed already. A shot that wants the same thing is shown it under <i>Re-use</i>, with what
        would have to match: the words of its name and note find it. What nobody knows stays empty.
      </p>
      <div class="relative mt-2 overflow-x-auto">
        <table class="w-full">
          <thead>
            <tr class="text-left">
              <th class="py-1 pr-3 font-strong">Element</th>
              <th class="px-2 py-1 font-strong">What it is</th>
              {#each NUMBERS as [name, title, unit] (name)}<th
                  class="px-2 py-1 text-right font-strong whitespace-nowrap"
                  >{title} <span class="num font-normal text-muted">{unit}</span></th
                >{/each}
              {#if writes}<th><span class="sr-only">Remove</span></th>{/if}
            </tr>
          </thead>
          <tbody>
            {#each found as item (item.id)}
              <tr class="border-t border-line align-top">
                <td class="min-w-36 py-1 pr-3 font-strong">{item.name}</td>
                <td class="min-w-36 px-2 py-1">{item.note}</td>
                {#each NUMBERS as [name] (name)}<td class="num px-2 py-1 text-right">{shown(item, name)}</td
                  >{/each}
                {#if writes}<td class="py-1 pl-2 text-right"
                    ><button
                      class="link text-sm text-muted"
                      aria-label={`Remove ${item.name}`}
                      onclick={() => removeStock(item)}>remove</button
                    ></td
                  >{/if}
              </tr>
            {:else}
              <tr
                ><td colspan={writes ? 9 : 8} class="border-t border-line py-2 text-muted"
                  >{stock.length
                    ? "Nothing fits."
                    : "Nothing in stock yet: film skies and textures whenever they look good."}</td
                ></tr
              >
            {/each}
          </tbody>
        </table>
      </div>
      {#if writes}
        <form
          class="mt-3 grid max-w-4xl grid-cols-2 items-end gap-x-3 gap-y-1.5 sm:grid-cols-4"
          aria-label="Add to the stock"
          onsubmit={(event) => {
            event.preventDefault();
            void addStock();
          }}
        >
          {#snippet cell(name: keyof typeof BLANK, title: string, unit: string)}
            {@const wrong = stocking.at(name)}
            <label class="block"
              ><span class="text-muted">{title} <span class="num">{unit}</span></span>
              <input
                class={["field", unit && "num"]}
                inputmode={unit ? "decimal" : undefined}
                aria-invalid={Boolean(wrong)}
                bind:value={fresh[name]}
              />{#if wrong}<span role="alert" class="block text-sm">{wrong}</span>{/if}</label
            >
          {/snippet}
          <div class="sm:col-span-2">{@render cell("name", "Element", "")}</div>
          <div class="sm:col-span-2">{@render cell("note", "What it is, in words that find it", "")}</div>
          {#each NUMBERS as [name, title, unit] (name)}{@render cell(name, title, unit)}{/each}
          <button class="btn btn-solid">Add to the stock</button>
        </form>
        {#if stocking.whole}<p role="alert">{stocking.whole}</p>{/if}
      {/if}
    </section>
  {:else if !asking.said}
    <p class="px-3.5 py-3 text-muted">Reading the figures…</p>
  {/if}
</main>
