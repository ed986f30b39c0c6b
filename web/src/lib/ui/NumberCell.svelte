<!-- A number in a table: typed, stepped by the arrow keys, saved when it is left. -->
<script lang="ts">
  import { tip } from "./tip.svelte";
  import { typed } from "../edit/typed.svelte";
  import { kept, shown, type Quantity, type Units } from "../units";

  let {
    value,
    label,
    quantity = "number",
    units,
    step = 1,
    optional = false,
    disabled = false,
    problem = "",
    onset,
  }: {
    value: number | null;
    label: string;
    quantity?: Quantity;
    units: Units;
    step?: number;
    optional?: boolean;
    disabled?: boolean;
    problem?: string;
    onset: (value: number | null) => void;
  } = $props();

  const text = $derived(value === null ? "" : shown(value, quantity, units));
  let wrong = $state("");

  function enter(event: Event) {
    const typed = (event.currentTarget as HTMLInputElement).value.trim();
    wrong = "";
    if (typed === text) return;
    if (!typed && optional) return onset(null);
    const number = kept(typed, quantity, units);
    if (Number.isFinite(number)) onset(number);
    else wrong = `“${typed}” is not a number.`;
  }
  function press(event: KeyboardEvent) {
    const by = { ArrowUp: 1, ArrowDown: -1 }[event.key];
    if (!by || disabled) return;
    event.preventDefault();
    onset(Number(((value ?? 0) + by * step * (event.shiftKey ? 10 : 1)).toFixed(4)));
  }
</script>

<input
  class="cell num text-right"
  inputmode="decimal"
  aria-label={label}
  aria-invalid={Boolean(problem || wrong)}
  {@attach tip(() => problem || wrong || undefined)}
  {@attach typed(() => text)}
  {disabled}
  onchange={enter}
  onkeydown={press}
/>
{#if problem || wrong}<span role="alert" class="block px-2 pb-1 text-sm">{problem || wrong}</span>{/if}
