<!--
  One of several: opened by click, Enter, Space or an arrow; typed letters find; Escape leaves it as it was.
-->
<script lang="ts">
  import { Select } from "bits-ui";

  let {
    value,
    options,
    label,
    placeholder = "",
    disabled = false,
    id,
    cell,
    class: look = "field",
    onchange,
  }: {
    value: string;
    options: readonly (readonly [string, string])[];
    /** What it is called where no label of its own stands beside it. */
    label?: string;
    /** What is said while nothing is chosen. */
    placeholder?: string;
    disabled?: boolean;
    id?: string;
    /** The column that it stands in, for the arrow keys of a table. */
    cell?: string;
    class?: string;
    onchange: (value: string) => void;
  } = $props();

  // A value may be "", and none that Bits knows may.
  const kept = (key: string) => `=${key}`;
  const chosen = $derived(options.find(([key]) => key === value));
  const shown = $derived(chosen?.[1] ?? placeholder);
</script>

<Select.Root
  type="single"
  {disabled}
  bind:value={() => kept(value), (to) => to !== kept(value) && onchange(to.slice(1))}
  items={options.map(([key, text]) => ({ value: kept(key), label: text }))}
>
  <Select.Trigger {id} aria-label={label} class={[look, "select"]} data-cell={cell}>
    <span class={["min-w-0 flex-1 truncate text-left", !chosen && "text-muted"]}>{shown || "\u00a0"}</span>
    <svg width="9" height="6" viewBox="0 0 9 6" aria-hidden="true" class="shrink-0">
      <path d="M0.5 0.5 L4.5 5 L8.5 0.5" fill="none" stroke="currentColor" />
    </svg>
  </Select.Trigger>
  <Select.Portal>
    <Select.Content
      sideOffset={2}
      class={[
        "z-60 max-h-[min(24rem,var(--bits-select-content-available-height))] overflow-y-auto",
        "min-w-(--bits-select-anchor-width) max-w-[92vw] border border-ink bg-raised py-0.5",
      ]}
    >
      <Select.Viewport>
        {#each options as [key, text] (key)}
          <Select.Item
            value={kept(key)}
            label={text}
            class={[
              "flex min-h-7 cursor-pointer items-center gap-2 px-2 pointer-coarse:min-h-11",
              "data-highlighted:bg-ink data-highlighted:text-ground data-selected:font-strong",
            ]}>{text || "none"}</Select.Item
          >
        {/each}
      </Select.Viewport>
    </Select.Content>
  </Select.Portal>
</Select.Root>
