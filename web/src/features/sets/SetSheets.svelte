<!--
  The cutting list: the sheets of the shop drawn with what is cut out of each, and every cut in both units.
-->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import type { SetState } from "./set.svelte";
  import { plural } from "../../lib/hours";

  let { set, writes }: { set: SetState; writes: boolean } = $props();
  const build = $derived(set.build!);
  const TALL = 200;
  const scale = $derived(TALL / build.height_mm);
  const sheets = $derived(
    Array.from({ length: build.sheets }, (_, i) =>
      build.cuts.map((cut, at) => ({ ...cut, at })).filter((cut) => cut.sheet === i + 1),
    ),
  );
  const SHOWN = 24;
  const HOW_LAID = "laid in rows that a saw can cut, not proven least.";
</script>

<div class="grid gap-x-6 gap-y-3 px-2 lg:grid-cols-[17rem_1fr]">
  <div>
    {#each build.sheet_fields as field (field.name)}
      <FieldRow
        {field}
        units="metric"
        value={(build as unknown as Record<string, unknown>)[field.name]}
        disabled={!writes}
        problem={set.asking.at(field.name)}
        onset={(value) => set.set(field.title, { [field.name]: value as number })}
      />
    {/each}
    <p class="mt-2">
      {plural(build.sheets, "sheet")},
      <span class="num">{Math.round(100 * build.used)} %</span> of them used; {HOW_LAID}
    </p>
  </div>
  <div class="min-w-0">
    {#if build.cuts.length}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="flex gap-3 overflow-x-auto pb-2" role="group" aria-label="Sheets" tabindex="0">
        {#each sheets.slice(0, SHOWN) as cuts, i (i)}
          <svg
            width={build.width_mm * scale}
            height={TALL + 16}
            class="shrink-0"
            role="img"
            aria-label={`Sheet ${i + 1}: ${cuts.map((cut) => cut.name).join(", ")}`}
          >
            <rect
              x="0.5"
              y="0.5"
              width={build.width_mm * scale - 1}
              height={TALL - 1}
              fill="none"
              stroke="var(--mark)"
            />
            {#each cuts as cut (cut.at)}
              {@const w = (cut.turned ? cut.height_mm : cut.width_mm) * scale}
              {@const h = (cut.turned ? cut.width_mm : cut.height_mm) * scale}
              <rect
                x={cut.x_mm * scale}
                y={cut.y_mm * scale}
                width={w}
                height={h}
                fill="var(--raised)"
                stroke="var(--text)"
              />
              {#if w > 14 && h > 12}<text
                  x={cut.x_mm * scale + w / 2}
                  y={cut.y_mm * scale + h / 2 + 4}
                  text-anchor="middle"
                  font-size="11"
                  class="num"
                  fill="var(--text)">{cut.at + 1}</text
                >{/if}
            {/each}
            <text x="0" y={TALL + 13} font-size="11" fill="var(--muted)" class="num">{i + 1}</text>
          </svg>
        {/each}
        {#if sheets.length > SHOWN}<p class="self-center text-muted">and {sheets.length - SHOWN} more</p>{/if}
      </div>
      <ol class="gap-x-8 sm:columns-2">
        {#each build.cuts as cut, i (i)}
          <li class="flex break-inside-avoid items-baseline gap-2 border-b border-line py-0.5">
            <span class="num w-6 shrink-0 text-right text-muted">{i + 1}</span>
            <span class="min-w-0 flex-1 truncate" {@attach tip(() => cut.name)}>{cut.name}</span>
            <span class="num shrink-0">{cut.text}</span>
          </li>
        {/each}
      </ol>
    {:else}
      <p class="text-muted">Nothing to cut yet: no piece that is built is in any frame.</p>
    {/if}
  </div>
</div>
