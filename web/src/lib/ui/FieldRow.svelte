<!--
  One thing that can be said of a row: a number with its unit, words, a choice, a switch. Saved when it is
  left.
-->
<script lang="ts">
  import Select from "./Select.svelte";
  import { tip } from "./tip.svelte";
  import { typed } from "../edit/typed.svelte";
  import { untrack } from "svelte";
  import type { Schemas } from "../api/client";
  import { vocabulary } from "../vocabulary.svelte";
  import { kept, quantityOf, shown, unitOf, type Units } from "../units";

  let {
    field,
    value,
    units,
    disabled = false,
    problem = "",
    label,
    onset,
  }: {
    field: Schemas["CardField"];
    value: unknown;
    units: Units;
    disabled?: boolean;
    problem?: string;
    label?: string;
    /**
     * A promise is waited for: until then the field shows, and counts from, what was asked for; after false
     * that stays to be mended.
     */
    onset: (value: unknown) => unknown;
  } = $props();

  const id = $props.id();
  const numeric = $derived(field.kind === "number" || field.kind === "integer");
  const quantity = $derived(quantityOf(field.unit));
  const unit = $derived(unitOf(quantity, units, field.unit === "f/" ? "" : field.unit));
  const isColour = $derived(field.name === "colour" || field.name === "keep_colours");
  let asked = $state.raw<{ value: unknown; refused: boolean } | null>(null);
  const stands = $derived(asked ? asked.value : value);
  const text = $derived.by(() => {
    if (stands === null || stands === undefined) return "";
    if (numeric) return shown(Number(stands), quantity, units);
    return Array.isArray(stands) ? stands.join(", ") : String(stands);
  });
  let wrong = $state("");

  async function ask(wanted: unknown) {
    const mine = { value: wanted, refused: false };
    asked = mine;
    wrong = "";
    const done = await onset(wanted);
    if (asked !== mine) return;
    asked = done === false ? { ...mine, refused: true } : null;
    if (done === false && !problem) wrong = "This was not saved.";
  }
  // What was refused stays as long as it is said why.
  $effect(() => {
    if (!problem && !wrong && untrack(() => asked?.refused)) asked = null;
  });

  function enter(event: Event) {
    const typed = (event.currentTarget as HTMLInputElement).value.trim();
    wrong = "";
    if (typed === text) return;
    if (!typed && field.optional) return ask(numeric || field.kind === "text" ? (numeric ? null : "") : []);
    if (numeric) {
      const number = kept(typed, quantity, units);
      if (!Number.isFinite(number)) {
        wrong = `“${typed}” is not a number.`;
        return;
      }
      return ask(field.kind === "integer" ? Math.round(number) : number);
    }
    if (field.kind === "text") return ask(typed || (field.optional ? null : ""));
    ask(
      typed
        .split(",")
        .map((one) => one.trim())
        .filter(Boolean),
    );
  }
  function step(event: KeyboardEvent) {
    if (event.key === "Escape") {
      asked = null;
      wrong = "";
      if (event.currentTarget instanceof HTMLInputElement) event.currentTarget.value = text;
    }
    const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (!numeric || !by) return;
    event.preventDefault();
    const now = typeof stands === "number" ? stands : 0;
    const each =
      field.kind === "integer" ? 1 : quantity === "length" ? 0.01 : field.step < 1.5 ? field.step : 1;
    const next = now + by * each * (event.shiftKey ? 10 : 1);
    ask(field.kind === "integer" ? Math.round(next) : Number(next.toFixed(4)));
  }
  function toggle(choice: string) {
    const now = (stands as string[]) ?? [];
    ask(now.includes(choice) ? now.filter((one) => one !== choice) : [...now, choice]);
  }
</script>

<div
  class={[
    "grid min-h-[30px] grid-cols-[minmax(0,1fr)_minmax(112px,46%)] items-center gap-x-3 border-b",
    "border-line py-0.5",
  ]}
>
  <label for={id} class="min-w-0 leading-tight" {@attach tip(() => field.help || undefined)}
    >{label ?? field.title}</label
  >
  <div class="flex min-w-0 items-center gap-1.5">
    {#if field.kind === "flag"}
      <input
        {id}
        type="checkbox"
        class="size-4 accent-(--text) pointer-coarse:size-6"
        checked={Boolean(stands)}
        {disabled}
        onchange={(event) => ask(event.currentTarget.checked)}
      />
    {:else if field.kind === "choice"}
      <Select
        {id}
        {disabled}
        value={String(stands ?? "")}
        options={field.choices.map((choice) => [choice, vocabulary.choice(choice) || "none"] as const)}
        onchange={ask}
      />
    {:else if field.kind === "choices"}
      <span class="flex flex-wrap gap-1" role="group" {id} aria-label={field.title}>
        {#each field.choices as choice (choice)}
          {@const on = ((stands as string[]) ?? []).includes(choice)}
          <button
            class={[
              "cursor-pointer border px-1.5",
              on ? "border-ink bg-ink text-ground" : "border-line text-muted",
            ]}
            aria-pressed={on}
            {disabled}
            onclick={() => toggle(choice)}>{vocabulary.choice(choice)}</button
          >
        {/each}
      </span>
    {:else}
      {#if isColour && text}
        {#each text.split(", ") as one (one)}<span
            class="size-4 shrink-0 border border-line"
            style:background={one}
            aria-hidden="true"
          ></span>{/each}
      {/if}
      <input
        {id}
        class={["field", numeric && "num"]}
        inputmode={numeric ? "decimal" : undefined}
        {@attach typed(() => text)}
        {disabled}
        aria-invalid={Boolean(problem || wrong)}
        aria-describedby={problem || wrong ? `${id}-wrong` : undefined}
        onchange={enter}
        onkeydown={step}
      />
      {#if unit || numeric}<span class="num min-w-12 shrink-0 text-sm text-muted">{unit}</span>{/if}
    {/if}
  </div>
  {#if problem || wrong}<p id={`${id}-wrong`} role="alert" class="col-span-2 text-sm">
      {problem || wrong}
    </p>{/if}
</div>
