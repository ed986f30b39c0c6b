<!-- Which shots look at the set, and from where. Lens, height, tilt and move are the shot's own. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { unitOf } from "../../lib/units";
  import { place } from "../../lib/place.svelte";
  import type { SetState } from "./set.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";

  let {
    set,
    writes,
    chosen = $bindable(null),
  }: { set: SetState; writes: boolean; chosen: { kind: "piece" | "view"; at: number } | null } = $props();

  const build = $derived(set.build!);
  const length = $derived(unitOf("length", set.units, ""));
  const cones = $derived(new Map(build.cones.map((one) => [one.name, one.half_deg])));
  const PLACED = [
    ["x_m", "Across", "length", 0.1],
    ["z_m", "Away", "length", 0.1],
    ["heading_deg", "Heading", "number", 1],
  ] as const;
  function look(shot: number) {
    void set.save("Add a camera", (now) => ({
      views: [...now.views, { shot_id: shot, x_m: 0, z_m: 0, heading_deg: 0, establishing: false }],
    }));
    chosen = { kind: "view", at: set.views.length };
  }
</script>

<table class="border-separate border-spacing-0">
  <thead>
    <tr class="text-left">
      <th class="border-b border-line px-2 py-1 font-strong">Shot</th>
      {#each PLACED as [name, title, quantity] (name)}<th
          class="border-b border-line px-2 py-1 font-strong whitespace-nowrap"
          >{title} <span class="num font-normal text-muted">{quantity === "length" ? length : "°"}</span></th
        >{/each}
      <th class="border-b border-line px-2 py-1 font-strong">Wide</th>
      <th class="border-b border-line px-2 py-1 font-strong">Sees across</th>
      <th class="border-b border-line px-2 py-1"><span class="sr-only">Remove</span></th>
    </tr>
  </thead>
  <tbody>
    {#each build.views as one, i (one.id)}
      {@const on = chosen?.kind === "view" && chosen.at === i}
      <tr class={on ? "bg-raised" : "hover:bg-panel"} onfocusin={() => (chosen = { kind: "view", at: i })}>
        <td class="border-b border-line px-2"
          ><a class="num link" href={`#/shots/${one.shot_id}/plan`}>{one.code}</a></td
        >
        {#each PLACED as [name, title, quantity, step] (name)}
          <td class="w-24 border-b border-line p-0"
            ><NumberCell
              value={one[name]}
              label={`${title}, ${one.code}`}
              {quantity}
              units={set.units}
              {step}
              disabled={!writes}
              problem={set.asking.at(`views.${i}.${name}`)}
              onset={(value) => value !== null && set.view(i, { [name]: value })}
            /></td
          >
        {/each}
        <td class="border-b border-line px-2"
          ><input
            type="checkbox"
            class="block size-4 accent-(--text) pointer-coarse:size-6"
            aria-label={`The one wide view, ${one.code}`}
            {@attach tip(
              () => "The one wide view: what only it sees is painted or extended rather than built",
            )}
            checked={one.establishing}
            disabled={!writes}
            onchange={(event) => set.view(i, { establishing: event.currentTarget.checked })}
          /></td
        >
        <td class="num border-b border-line px-2"
          >{cones.has(one.code) ? `${(2 * cones.get(one.code)!).toFixed(1)}°` : "no hero yet"}</td
        >
        <td class="border-b border-line px-2"
          >{#if writes}<button
              class="link text-muted"
              aria-label={`Remove the camera of ${one.code}`}
              onclick={() => {
                chosen = null;
                void set.save(`Remove ${one.code}`, (now) => ({
                  views: now.views.filter((_, at) => at !== i),
                }));
              }}>remove</button
            >{/if}</td
        >
      </tr>
    {/each}
  </tbody>
</table>
{#if writes}
  <label class="flex items-center gap-2 px-2 py-2"
    ><span class="text-muted">Look at it from</span>
    <Select
      class="field !w-auto"
      label="Add the camera of a shot"
      value=""
      placeholder="a shot"
      options={(place.shots ?? []).map((shot) => [String(shot.id), `${shot.code} ${shot.title}`] as const)}
      onchange={(id) => look(Number(id))}
    /></label
  >
{/if}
{#each build.lacking as line (line)}<p class="px-2">{line}</p>{/each}
