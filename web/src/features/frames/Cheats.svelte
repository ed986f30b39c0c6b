<!-- What was moved so that a hand reaches: what it does to the light, in the shot and across the cut. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import Cheat from "./Cheat.svelte";
  import type { Desk } from "./desk.svelte";

  let { desk }: { desk: Desk } = $props();
  const told = $derived(desk.sheet?.cheats ?? null);
  const frame = $derived(desk.poses[desk.at]?.frame ?? 1);
  const LAMP = "lamp:";
  const options = $derived([
    ["", "Record one…"] as const,
    ...(told?.lamps ?? []).map((name) => [LAMP + name, name] as const),
    ["figure", "the figure"] as const,
    ["wall", "a wall"] as const,
    ["piece", "a piece of the set"] as const,
  ]);
  const NAMES = { figure: "Figure", wall: "Wall", piece: "Piece" } as const;
  function begin(to: string) {
    if (!to) return;
    const of = to.startsWith(LAMP)
      ? ({ kind: "lamp", name: to.slice(LAMP.length) } as const)
      : ({ kind: to as keyof typeof NAMES, name: NAMES[to as keyof typeof NAMES] } as const);
    void desk.writes.addCheat({ ...of, first_frame: frame });
  }
</script>

{#if told && (desk.takes || told.cheats.length)}
  <section class="border-t border-line px-3 py-2" aria-label="Moved for reach">
    <div class="flex items-center gap-2">
      <h2 class="grow text-muted">Cheats: moved for reach</h2>
      {#if desk.takes}
        <div class="w-34">
          <Select label="Record what was moved" value="" {options} onchange={begin} />
        </div>
      {/if}
    </div>
    {#if !told.cheats.length}
      <p class="text-muted">
        A lamp, a wall, the figure that stands aside so that an arm gets in: from which frame on, how far, and
        what it does to the light, in the shot and across the cut.
      </p>
    {/if}
    <ul aria-label="What the cheats come to">
      {#each told.lines as line (line.where + line.frame + line.text)}
        <li class="flex gap-2 py-0.5">
          <span class="pt-0.5"><Verdict verdict={line.verdict} /></span><span>{line.text}</span>
        </li>
      {/each}
    </ul>
    {#if told.cheats.length && !told.lines.length}
      <p class="text-muted">
        By the lamps as they are placed none of them changes the light. What a wall throws or lets by is seen
        in the photographs.
      </p>
    {/if}
    {#each told.cheats as cheat (cheat.id)}<Cheat {desk} {cheat} {frame} lamps={told.lamps} />{/each}
    {#if told.cheats.length && !told.cut_to.length}
      <p class="mt-1 text-muted">No shot of the same place stands before or after this one.</p>
    {/if}
  </section>
{/if}
