<!-- One thing that is said of a row, in its line: typed, stepped, chosen; saved when it is left. -->
<script lang="ts">
  import { typed } from "../../lib/edit/typed.svelte";
  import { session } from "../../lib/session.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import { kept, quantityOf, shown, unitOf } from "../../lib/units";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import type { Field } from "./kit.svelte";

  let {
    field,
    value,
    label,
    disabled = false,
    problem = "",
    onset,
  }: {
    field: Field;
    value: unknown;
    label: string;
    disabled?: boolean;
    problem?: string;
    onset: (value: unknown) => unknown;
  } = $props();

  const units = $derived(session.units);
  const numeric = $derived(field.kind === "number" || field.kind === "integer");
  const quantity = $derived(quantityOf(field.unit));
  const unit = $derived(unitOf(quantity, units, field.unit));
  const stop = $derived(field.unit === "f/");
  const text = $derived.by(() => {
    if (value === null || value === undefined) return "";
    return numeric ? `${stop ? "f/" : ""}${shown(Number(value), quantity, units)}` : String(value);
  });

  function enter(event: Event) {
    const said = (event.currentTarget as HTMLInputElement).value.trim();
    if (said === text) return;
    if (!numeric) return void onset(said);
    if (!said && field.optional) return void onset(null);
    const number = kept(said, quantity, units);
    void onset(!Number.isFinite(number) ? said : field.kind === "integer" ? Math.round(number) : number);
  }
</script>

{#if field.kind === "choice"}
  <Select
    class="cell"
    {label}
    {disabled}
    value={String(value ?? "")}
    options={field.choices.map((choice) => [choice, vocabulary.choice(choice)] as const)}
    onchange={onset}
  />
{:else if field.kind === "flag"}
  <input
    type="checkbox"
    class="mx-2 size-4 accent-(--text) pointer-coarse:size-6"
    aria-label={label}
    checked={Boolean(value)}
    {disabled}
    onchange={(event) => onset(event.currentTarget.checked)}
  />
{:else}
  <span class="flex items-center">
    {#if field.name === "colour" && text}
      <span class="ml-1 size-4 shrink-0 border border-line" style:background={text} aria-hidden="true"></span>
    {/if}
    <input
      class={["cell min-w-0", numeric && "num text-right"]}
      aria-label={label}
      inputmode={numeric ? "decimal" : undefined}
      {disabled}
      aria-invalid={!!problem}
      {@attach typed(() => text)}
      onchange={enter}
    />
    {#if unit && !stop && text}<span class="pr-1 text-sm text-muted">{unit}</span>{/if}
  </span>
{/if}
