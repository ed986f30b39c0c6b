<!-- The wall as lines, edited where they stand: Tab goes on, the up and down arrows stay in the column. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { typed } from "../../lib/edit/typed.svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import Refused from "../../lib/edit/Refused.svelte";
  import { WayBack } from "../../lib/edit/back.svelte";
  import { place } from "../../lib/place.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { hours, plural } from "../../lib/hours";

  type Line = Schemas["WallLine"];
  let {
    shots,
    removed,
    places,
    writes,
    onchange,
  }: {
    shots: Line[];
    removed: Schemas["RemovedShot"][];
    places: { id: number; name: string }[];
    writes: boolean;
    onchange: () => Promise<unknown>;
  } = $props();

  const asking = new Asking();
  let failed = $state<{ shot: number; field: string } | null>(null);
  const back = new WayBack(
    asking,
    () => place.production,
    () => onchange(),
  );
  void asking.read(() => back.fill({ kinds: "shot,ready" }));

  const COLUMNS = [
    ["code", "Shot", "min-w-19"],
    ["title", "Title", "min-w-36"],
    ["description", "What happens", "w-full min-w-44"],
    ["length_frames", "Frames", "min-w-14"],
    ["place_id", "Place", "min-w-30"],
    ["shoot_on", "Next day", "min-w-34"],
    ["hours_spent", "Spent h", "min-w-14"],
  ] as const;
  const NUMBERS = new Set(["length_frames", "hours_spent", "place_id"]);
  const shown = (shot: Line, field: string) => String((shot as Record<string, unknown>)[field] ?? "");

  // Two quick changes of one shot: the second has seen the first, though the wall has not been read again.
  const mine: Record<number, number> = {};
  const standing = (id: number) => [...shots, ...removed].find((one) => one.id === id)?.version ?? 0;
  async function put(label: string, shot: { id: number }, field: string, after: unknown) {
    await back.do(label, async (key) => {
      failed = { shot: shot.id, field };
      const saved = await answered(
        client.PATCH("/api/shots/{shot_id}/line", {
          params: { path: { shot_id: shot.id } },
          headers: { "Idempotency-Key": key },
          body: { version: Math.max(standing(shot.id), mine[shot.id] ?? 0), changes: { [field]: after } },
        }),
      );
      mine[shot.id] = saved.version;
      failed = null;
      void onchange();
      return saved;
    });
  }
  function save(shot: Line, field: string, text: string) {
    const before = (shot as Record<string, unknown>)[field];
    const trimmed = text.trim();
    let after: unknown = NUMBERS.has(field) ? Number(trimmed.replace(",", ".")) : trimmed;
    if (!trimmed && (field === "place_id" || field === "shoot_on")) after = null;
    if (after === before || (after === "" && before === "")) return;
    if (NUMBERS.has(field) && after !== null && !Number.isFinite(after)) {
      failed = { shot: shot.id, field };
      asking.problems = [{ field, message: `“${trimmed}” is not a number.` }];
      return;
    }
    void put(shot.code, shot, field, after);
  }
  export const undo = () => back.undo();
  /** Out of the cut, or back into it: the shot is kept with everything that it has. */
  function remove(shot: { id: number; version: number; code: string }, gone: boolean) {
    return put(`${gone ? "Remove" : "Bring back"} ${shot.code}`, shot, "removed", gone);
  }
  function ready(shot: Line) {
    return put(`${shot.code} ${shot.ready ? "not ready" : "ready"}`, shot, "ready", !shot.ready);
  }
  function move(event: KeyboardEvent) {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const cell = (event.target as HTMLElement).closest<HTMLElement>("[data-cell]");
    if (!by || !cell || event.altKey || (event.target as HTMLInputElement).type === "date") return;
    if (cell.getAttribute("aria-haspopup") === "listbox") return;
    const row = cell.closest("tr");
    const next = (by > 0 ? row?.nextElementSibling : row?.previousElementSibling)?.querySelector<HTMLElement>(
      `[data-cell="${cell.dataset.cell}"]`,
    );
    if (!next) return;
    event.preventDefault();
    next.focus();
    if (next instanceof HTMLInputElement) next.select();
  }
  const placeNames = $derived([
    ["", "none"] as const,
    ...places.map((one) => [String(one.id), one.name] as const),
  ]);
</script>

{#if asking.said}
  {@const at = [...shots, ...removed].find((one) => one.id === failed?.shot)}
  <p role="alert" class="border-b border-line bg-raised px-3.5 py-2">
    <Refused {back} about={at?.code} />
  </p>
{/if}
<div class="min-h-0 flex-1 overflow-auto">
  <!-- svelte-ignore a11y_no_noninteractive_element_interactions -->
  <table class="w-full border-separate border-spacing-0" onkeydown={move}>
    <thead>
      <tr class="text-left">
        {#each COLUMNS as [key, name] (key)}
          <th class="sticky top-0 z-10 border-b border-line bg-ground px-2 py-1 font-strong whitespace-nowrap"
            >{name}</th
          >
        {/each}
        {#each ["Recipe", "Worst", "Layers", "Left", "Cautions", "Ready"] as name (name)}
          <th class="sticky top-0 z-10 border-b border-line bg-ground px-2 py-1 font-strong whitespace-nowrap"
            >{name}</th
          >
        {/each}
        {#if writes}
          <th class="sticky top-0 z-10 border-b border-line bg-ground"><span class="sr-only">Remove</span></th
          >
        {/if}
      </tr>
    </thead>
    <tbody>
      {#each shots as shot (shot.id)}
        <tr class="hover:bg-panel">
          {#each COLUMNS as [key, name, size] (key)}
            {@const wrong = failed?.shot === shot.id && failed.field === key && asking.said !== ""}
            <td class={["border-b border-line p-0", size]}>
              {#if key === "place_id"}
                <Select
                  class="cell"
                  cell={key}
                  label={`${name}, ${shot.code}`}
                  disabled={!writes}
                  value={shown(shot, key)}
                  options={placeNames}
                  onchange={(id) => save(shot, key, id)}
                />
              {:else}
                <input
                  class={[
                    "cell",
                    (NUMBERS.has(key) || key === "code" || key === "shoot_on") && "num",
                    key === "shoot_on" && !shot.shoot_on && "text-muted",
                  ]}
                  type={key === "shoot_on" ? "date" : "text"}
                  data-cell={key}
                  aria-label={`${name}, ${shot.code}`}
                  aria-invalid={wrong}
                  disabled={!writes}
                  {@attach tip(() =>
                    key === "title" || key === "description" ? shown(shot, key) : undefined,
                  )}
                  {@attach typed(() => shown(shot, key))}
                  onchange={(event) => save(shot, key, event.currentTarget.value)}
                />
              {/if}
            </td>
          {/each}
          <td class="max-w-36 truncate border-b border-line px-2" {@attach tip(() => shot.recipes.join("; "))}
            >{shot.recipes.join("; ") || "–"}</td
          >
          <td class="border-b border-line px-2 whitespace-nowrap">
            {#if shot.verdict}<a
                class="flex items-center gap-1.5"
                href={`#/shots/${shot.id}/bench`}
                {@attach tip(() => shot.worst)}
                ><Verdict verdict={shot.verdict} label={false} />{shot.verdict}</a
              >{:else if shot.fault}<a
                class="link"
                href={`#/shots/${shot.id}/plan`}
                {@attach tip(() => shot.fault)}>not judged</a
              >{:else}<span class="text-muted">{shot.pending ? "…" : "–"}</span>{/if}
          </td>
          <td class="num border-b border-line px-2 text-right">{shot.layers}</td>
          <td class="num border-b border-line px-2 text-right whitespace-nowrap"
            >{shot.fault ? "–" : hours(shot.hours_left)}</td
          >
          <td class="border-b border-line px-2 whitespace-nowrap">
            {#if shot.open_hazards.length}<a
                class="link"
                href={`#/shots/${shot.id}/plan`}
                {@attach tip(() => shot.open_hazards.join(", "))}
                >{plural(shot.open_hazards.length, "open", "open")}</a
              >{:else if shot.fault}<span class="text-muted">–</span>{:else}{shot.hazards.length
                ? "signed"
                : "none"}{/if}
          </td>
          <td class="border-b border-line px-2">
            <input
              type="checkbox"
              class="block size-4 accent-(--text) pointer-coarse:size-6"
              aria-label={`Ready, ${shot.code}`}
              checked={shot.ready}
              disabled={!writes}
              onclick={(event) => {
                event.preventDefault();
                void ready(shot);
              }}
            />
          </td>
          {#if writes}
            <td class="border-b border-line px-2">
              <button
                class="link text-sm text-muted"
                aria-label={`Remove ${shot.code}`}
                onclick={() => remove(shot, true)}>remove</button
              >
            </td>
          {/if}
        </tr>
      {/each}
    </tbody>
  </table>
  {#if removed.length}
    <section class="px-2 py-3" aria-label="Removed shots">
      <h2 class="text-muted">Removed from the cut</h2>
      <ul>
        {#each removed as shot (shot.id)}
          <li class="flex items-baseline gap-3 py-0.5">
            <span class="num text-muted">{shot.code}</span>
            {shot.title}
            {#if writes}<button
                class="link text-sm text-muted"
                aria-label={`Bring back ${shot.code}`}
                onclick={() => remove(shot, false)}>bring back</button
              >{/if}
          </li>
        {/each}
      </ul>
    </section>
  {/if}
</div>
