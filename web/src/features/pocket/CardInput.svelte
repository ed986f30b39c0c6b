<!-- One input of a card: a barrel for a number, chosen words, switches, lists, small tables. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import type { Dial, Schemas } from "../../lib/api/client";
  import Barrel from "../bench/Barrel.svelte";
  import { quantityOf, type Units } from "../../lib/units";
  import Choice from "../../lib/ui/Choice.svelte";
  import CardInput from "./CardInput.svelte";

  type CardField = Schemas["CardField"];
  let {
    field,
    value,
    units,
    problem = "",
    onchange,
  }: {
    field: CardField;
    value: unknown;
    units: Units;
    problem?: string;
    onchange: (value: unknown) => void;
  } = $props();

  const id = $props.id();
  const numeric = $derived(field.kind === "number" || field.kind === "integer");
  const dial = $derived<Dial>({
    field: field.name,
    label: field.title,
    unit: field.unit === "f/" ? "" : field.unit,
    quantity: quantityOf(field.unit),
    value:
      typeof value === "number" ? value : Number(field.marks[Math.floor(field.marks.length / 2)]?.value ?? 1),
    text: String(value ?? ""),
    ring: field.ring,
    steps: field.steps,
    step: field.step,
    big_step: field.big_step,
    low: field.low,
    high: field.high,
    marks: field.marks,
    hero: null,
    wants: null,
    wants_text: "",
    holds_low: null,
    holds_high: null,
  });
  const turned = (next: number) => onchange(field.kind === "integer" ? Math.round(next) : next);

  let typed = $state<string | null>(null);
  const asText = $derived.by(() => {
    if (value === null || value === undefined) return "";
    if (field.kind === "numbers") return (value as number[]).join(", ");
    if (field.kind === "points") return (value as number[][]).map((one) => one.join(", ")).join("\n");
    if (field.kind === "record") return JSON.stringify(value, null, 1);
    return String(value);
  });
  function enter(text: string) {
    typed = text;
    const plain = text.trim();
    if (!plain && field.optional) return onchange(null);
    const numbers = (line: string) =>
      line
        .split(/[,;\s]+/)
        .filter(Boolean)
        .map((one) => (Number.isFinite(Number(one)) ? Number(one) : one));
    if (field.kind === "numbers") onchange(numbers(plain));
    else if (field.kind === "points") onchange(plain.split("\n").map(numbers));
    else if (field.kind === "record") {
      try {
        onchange(JSON.parse(plain));
      } catch {
        onchange(plain);
      }
    } else onchange(text);
  }
  const rows = $derived(Array.isArray(value) ? (value as Record<string, unknown>[]) : []);
  const blank = $derived(
    Object.fromEntries(
      field.fields
        .filter((one) => !one.optional || one.default !== null)
        .map((one) => [one.name, one.default ?? 1]),
    ),
  );
  const chosen = $derived(Array.isArray(value) ? (value as string[]) : []);
</script>

{#if numeric && (value === null || value === undefined)}
  <div class="flex min-h-[71px] items-center gap-3 border-b border-line">
    <span {@attach tip(() => field.help)}>{field.title}</span><span class="text-muted">not set</span>
    <button
      class="btn ml-auto"
      onclick={() => onchange(field.kind === "integer" ? Math.round(dial.value) : dial.value)}>Set</button
    >
  </div>
{:else if numeric}
  <div {@attach tip(() => field.help)}>
    <Barrel
      {dial}
      {units}
      {problem}
      onstart={() => undefined}
      onturn={turned}
      onset={() => undefined}
      oncancel={() => undefined}
      onlock={() => undefined}
    />
    {#if field.optional && field.default === null}<button
        class="link text-sm text-muted"
        onclick={() => onchange(null)}>without {field.title.toLowerCase()}</button
      >{/if}
  </div>
{:else}
  <div
    class={field.kind === "rows" || field.kind === "record" ? "sm:col-span-2 xl:col-span-3" : ""}
    {@attach tip(() => field.help)}
  >
    {#if field.kind !== "choice" && field.kind !== "flag" && field.kind !== "choices"}<label
        class="mb-1 block text-sm"
        for={id}>{field.title}{field.help ? `: ${field.help}` : ""}</label
      >
    {:else}<span class="mb-1 block text-sm">{field.title}</span>{/if}
    {#if field.kind === "choice"}
      <Choice
        label={field.title}
        value={String(value ?? field.default ?? field.choices[0])}
        options={field.choices.map((one) => [one, one.replaceAll("_", " ")] as const)}
        {onchange}
      />
    {:else if field.kind === "flag"}
      <Choice
        label={field.title}
        value={value ? "yes" : "no"}
        options={[
          ["yes", "Yes"],
          ["no", "No"],
        ]}
        onchange={(next) => onchange(next === "yes")}
      />
    {:else if field.kind === "choices"}
      <span class="flex flex-wrap gap-1">
        {#each field.choices as one (one)}
          {@const on = chosen.includes(one)}
          <button
            class={["btn", on && "btn-solid"]}
            aria-pressed={on}
            onclick={() =>
              onchange(
                on ? (chosen.length > 1 ? chosen.filter((other) => other !== one) : null) : [...chosen, one],
              )}>{one}</button
          >
        {/each}
      </span>
    {:else if field.kind === "rows"}
      <div class="grid gap-2">
        {#each rows as row, i (i)}
          <div class="grid gap-x-4 gap-y-2 border border-line p-2 sm:grid-cols-2 xl:grid-cols-4">
            {#each field.fields as inner (inner.name)}
              <CardInput
                field={inner}
                value={row[inner.name] ?? inner.default}
                {units}
                onchange={(next) =>
                  onchange(rows.map((one, k) => (k === i ? { ...one, [inner.name]: next } : one)))}
              />
            {/each}
            <button
              class="link justify-self-start text-muted"
              onclick={() => onchange(rows.filter((_, k) => k !== i))}>Remove</button
            >
          </div>
        {/each}
        <button {id} class="btn justify-self-start" onclick={() => onchange([...rows, rows.at(-1) ?? blank])}
          >Add one</button
        >
      </div>
    {:else if field.kind === "record" && field.fields.length}
      {#if value && typeof value === "object"}
        {@const record = value as Record<string, unknown>}
        <details open={field.fields.length < 6} class="border border-line p-2">
          <summary {id} class="cursor-pointer">{field.fields.length} values</summary>
          <div class="mt-2 grid gap-x-4 gap-y-2 sm:grid-cols-2 xl:grid-cols-4">
            {#each field.fields as inner (inner.name)}
              <CardInput
                field={inner}
                value={record[inner.name] ?? inner.default}
                {units}
                onchange={(next) => onchange({ ...record, [inner.name]: next })}
              />
            {/each}
          </div>
        </details>
        {#if field.optional}<button class="link text-sm text-muted" onclick={() => onchange(null)}
            >without it</button
          >{/if}
      {:else}<button {id} class="btn" onclick={() => onchange(blank)}>Set</button>{/if}
    {:else if field.kind === "points" || field.kind === "record"}
      <textarea
        {id}
        class="field num py-1"
        rows={field.kind === "points" ? 2 : 3}
        value={typed ?? asText}
        oninput={(event) => enter(event.currentTarget.value)}
        onblur={() => (typed = null)}
        aria-invalid={!!problem}></textarea>
    {:else}
      <input
        {id}
        class="field num"
        value={typed ?? asText}
        oninput={(event) => enter(event.currentTarget.value)}
        onblur={() => (typed = null)}
        aria-invalid={!!problem}
      />
    {/if}
    {#if problem}<p class="mt-1 text-shows" role="alert">{problem}</p>{/if}
  </div>
{/if}
