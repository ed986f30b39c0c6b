<!-- The set-up card at the camera: as planned, and what was different touched. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import { kept, shown, unitOf, type Units } from "../../lib/units";
  import { inWords } from "./card";

  type Setting = Schemas["SettingOut"];
  let {
    settings,
    changed,
    units,
    writes,
    onset,
  }: {
    settings: Setting[];
    changed: Record<string, number>;
    units: Units;
    writes: boolean;
    onset: (line: Setting, value: number | null) => void;
  } = $props();
  let open = $state<string | null>(null);
  /** Lines under which the folded ones are shown. */
  let unfolded = $state<Record<string, boolean>>({});
  const standing = $derived(
    settings.filter((line) => !line.under || unfolded[line.under] || changed[line.field] !== undefined),
  );
  const folds = $derived(new Set(settings.map((line) => line.under).filter(Boolean)));
  const GELLED = "moved, gelled";
  let typed = $state("");
  let problem = $state("");

  function start(line: Setting) {
    open = open === line.field ? null : line.field;
    problem = "";
    const value = changed[line.field] ?? line.value;
    typed = value === null ? "" : shown(value, line.quantity, units);
  }
  function set(line: Setting, value: number | null) {
    open = null;
    onset(line, value);
  }
  function enter(line: Setting) {
    const value = kept(typed, line.quantity, units);
    if (!Number.isFinite(value)) {
      problem = `${line.label} must be a number; “${typed}” was typed.`;
      return;
    }
    problem = "";
    set(line, Number(value.toFixed(5)));
  }
</script>

<ul class="border-t border-line">
  {#each standing as line (line.field)}
    {@const differs = changed[line.field] !== undefined}
    <li class={["border-b border-line", folds.has(line.field) && "flex flex-wrap"]}>
      <button
        class={[
          "flex min-h-11 min-w-0 flex-1 cursor-pointer items-center gap-3 px-3.5 text-left",
          !folds.has(line.field) && "w-full",
          line.under && "pl-7",
          differs && "bg-panel",
        ]}
        aria-expanded={open === line.field}
        disabled={!writes}
        onclick={() => start(line)}
      >
        <span class={differs ? "font-strong" : "text-muted"}>{line.label}</span>
        <span class="num ml-auto text-right">
          {#if differs}<span class="mr-2 text-muted line-through">{line.text}</span>{/if}<span
            class={differs ? "text-lg font-strong" : ""}>{inWords(line, changed[line.field], units)}</span
          >
        </span>
      </button>
      {#if folds.has(line.field)}
        <button
          class="link min-h-11 shrink-0 cursor-pointer px-3 text-sm text-muted"
          aria-expanded={Boolean(unfolded[line.field])}
          aria-label={`${GELLED}: ${line.label.split(",")[0]}`}
          disabled={!writes}
          onclick={() => (unfolded[line.field] = !unfolded[line.field])}
          >{unfolded[line.field] ? "fold" : GELLED}</button
        >
      {/if}
      {#if open === line.field}
        <div class="basis-full px-3.5 pb-3">
          {#if line.choices.length}
            <div class="flex flex-wrap gap-1.5">
              {#each line.choices as choice (choice.value)}
                {@const on = Math.abs((changed[line.field] ?? line.value ?? NaN) - choice.value) < 1e-6}
                <button
                  class={["btn num min-w-11", on && "btn-solid"]}
                  aria-pressed={on}
                  onclick={() => set(line, choice.value)}>{choice.label}</button
                >
              {/each}
            </div>
          {:else}
            <form
              class="flex items-center gap-2"
              onsubmit={(event) => {
                event.preventDefault();
                enter(line);
              }}
            >
              <!-- svelte-ignore a11y_autofocus -->
              <input
                class="field num !w-32 text-lg"
                inputmode="decimal"
                aria-label={line.label}
                autofocus
                bind:value={typed}
                aria-invalid={!!problem}
                onfocus={(event) => event.currentTarget.select()}
              />
              <span class="text-muted">{unitOf(line.quantity, units, line.unit)}</span>
              <button class="btn btn-solid">Set</button>
              {#if differs}<button type="button" class="btn" onclick={() => set(line, null)}
                  >As planned</button
                >{/if}
            </form>
          {/if}
          {#if problem}<p class="mt-2 text-shows" role="alert">{problem}</p>{/if}
        </div>
      {/if}
    </li>
  {/each}
</ul>
