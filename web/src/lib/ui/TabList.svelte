<!-- The tabs of a `Tabs.Root`: solid in a line of their own, or underlined where space is short. -->
<script lang="ts" generics="T extends string">
  import { Tabs } from "bits-ui";
  import type { Snippet } from "svelte";

  let {
    tabs,
    label,
    look = "solid",
    class: extra = "",
    after,
    end,
  }: {
    tabs: readonly (readonly [T, string])[];
    label: string;
    look?: "solid" | "line" | "wide";
    class?: string;
    /** What stands in a tab behind its name. */
    after?: Snippet<[T]>;
    /** What stands in the line behind the tabs. */
    end?: Snippet;
  } = $props();

  const LINES = {
    solid: "h-[35px] items-stretch border-b border-line px-1.5 pointer-coarse:h-11",
    line: "h-[35px] items-center gap-4 overflow-x-auto border-b border-line px-4.5 max-sm:px-3",
    wide: "border-b border-line",
  };
  const TABS = {
    solid: "px-2.5 data-[state=active]:bg-ink data-[state=active]:text-ground",
    line: [
      "border-b-2 border-transparent py-1 hover:text-ink",
      "data-[state=active]:border-ink data-[state=active]:text-ink",
    ],
    wide: [
      "flex min-h-11 flex-1 items-center justify-center gap-2 px-2",
      "data-[state=active]:bg-ink data-[state=active]:text-ground",
    ],
  };
</script>

<Tabs.List class={["flex shrink-0", LINES[look], extra]} aria-label={label}>
  {#each tabs as [key, name] (key)}
    <Tabs.Trigger
      value={key}
      class={["cursor-pointer whitespace-nowrap text-muted data-[state=active]:font-strong", TABS[look]]}
      >{#if look === "wide"}<span class="truncate">{name}</span>{:else}{name}{/if}{@render after?.(
        key,
      )}</Tabs.Trigger
    >
  {/each}
  {@render end?.()}
</Tabs.List>
