<!--
  The pages of the break-down, in one line: the wall, the places, the sets in plan, what is reckoned with,
  what was changed.
-->
<script lang="ts">
  import type { Snippet } from "svelte";

  let { here, children }: { here: "wall" | "places" | "sets" | "figures" | "history"; children?: Snippet } =
    $props();
  const PAGES = [
    ["wall", "The cut", "#/"],
    ["places", "Places", "#/places"],
    ["sets", "Sets", "#/sets"],
    ["figures", "Rates and stock", "#/figures"],
    ["history", "History", "#/history"],
  ] as const;
</script>

<div
  class="flex min-h-[42px] shrink-0 flex-wrap items-center gap-x-4 gap-y-1 border-b border-line px-3.5 py-1"
>
  <nav aria-label="Break down" class="flex flex-wrap items-center gap-x-4">
    {#each PAGES as [key, name, to] (key)}
      <a
        href={to}
        aria-current={here === key ? "page" : undefined}
        class={[
          "py-1 pointer-coarse:py-3",
          here === key ? "font-strong underline underline-offset-4" : "text-muted hover:text-ink",
        ]}>{name}</a
      >
    {/each}
  </nav>
  {@render children?.()}
</div>
