<!-- All calculators, found by what one wants to know, by the moment in which it is asked. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";

  let {
    lines,
    here,
    offline,
  }: { lines: Schemas["CalculationLine"][]; here: string | undefined; offline: boolean } = $props();
  let search = $state("");
  const found = $derived.by(() => {
    const words = search.toLowerCase().split(/\s+/).filter(Boolean);
    const hits = lines.filter((line) =>
      words.every((word) =>
        `${line.question} ${line.name} ${line.moment}`.toLowerCase().replaceAll("_", " ").includes(word),
      ),
    );
    return Object.entries(Object.groupBy(hits, (line) => line.moment));
  });
</script>

<nav
  class={[
    "h-full w-80 shrink-0 overflow-y-auto border-r",
    "border-line p-3.5 max-lg:w-full max-lg:border-0 print:hidden",
    here && "max-lg:hidden",
  ]}
  aria-label="Calculators"
>
  <input
    class="field mb-3"
    placeholder="What do you want to know?"
    aria-label="What do you want to know?"
    bind:value={search}
  />
  {#each found as [moment, all] (moment)}
    <h2 class="mt-4 mb-1 text-muted">{moment}</h2>
    <ul>
      {#each all ?? [] as line (line.name)}
        <li>
          <a
            href={`#/pocket/${line.name}`}
            aria-current={line.name === here ? "page" : undefined}
            class={[
              "flex min-h-8 items-center px-2 py-1 pointer-coarse:min-h-11",
              line.name === here ? "bg-ink font-strong text-ground" : "hover:bg-panel",
            ]}>{line.question}</a
          >
        </li>
      {/each}
    </ul>
  {:else}
    <p class="text-muted">
      {lines.length
        ? "No calculator answers these words."
        : offline
          ? "The server cannot be reached."
          : "Reading the calculators…"}
    </p>
  {/each}
</nav>
