<!-- Things of one kind, a line each; what is not in the line opens under it. -->
<script lang="ts">
  import { plural } from "../../lib/hours";
  import { session } from "../../lib/session.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import type { Snippet } from "svelte";
  import { COLUMNS, type Kit, type KindName, type Row } from "./kit.svelte";
  import KitCell from "./KitCell.svelte";

  let {
    kit,
    kind,
    rows,
    writes,
    label,
    titled = true,
    under,
  }: {
    kit: Kit;
    kind: KindName;
    rows: Row[];
    writes: boolean;
    label: string;
    /** Whether its columns are named: not again where a table like it stands above. */
    titled?: boolean;
    /** What belongs to a row and always stands under it. */
    under?: Snippet<[Row]>;
  } = $props();

  const columns = $derived(COLUMNS[kind]);
  const NOT_SHOWN = new Set(["camera_id", "on_id", "dioptres", "tube_mm", "converter", "farthest_focus_m"]);
  const all = $derived(
    (kit.known?.fields[kind] ?? []).filter((field) => !NOT_SHOWN.has(field.name) && field.name !== "name"),
  );
  const STOOD_ON = new Set<KindName>(["camera", "mode", "lens"]);
  let open = $state<Record<number, boolean>>({});
  let leaving = $state<number | null>(null);

  const used = (row: Row) =>
    [
      row.used.set_ups ? plural(row.used.set_ups, "set-up") : "",
      row.used.takes ? plural(row.used.takes, "take") : "",
    ]
      .filter(Boolean)
      .join(", ");
  /** What of a lens follows from what it is put on. */
  const follows = (row: Row, name: string) =>
    kind === "lens" && row.values.on_id !== null && name !== "name" && name !== "note";
  /** Ends that a prime does not have are not asked for. */
  const blank = (row: Row, name: string) =>
    (name === "widest_long_f_number" || name === "closest_long_m") && row.values.longest_mm === null;
  const putOn = (row: Row) => {
    const bare = kit.known?.rows.lens?.find((one) => one.id === row.values.on_id);
    const what = [
      row.values.dioptres ? `${Number(row.values.dioptres)} dioptres` : "",
      row.values.tube_mm ? `${Number(row.values.tube_mm)} mm tube` : "",
      row.values.converter ? `converter × ${Number(row.values.converter)}` : "",
    ].filter(Boolean);
    return bare ? `${kit.name(bare)} with ${what.join(", ")}` : "";
  };
  async function retire(row: Row) {
    leaving = null;
    await kit.change(kind, row, { removed: true }, `Retire ${kit.name(row)}`);
  }
</script>

<div class="overflow-x-auto">
  <table class="w-full min-w-0 border-separate border-spacing-0 sm:table-fixed" aria-label={label}>
    <colgroup>
      {#each columns as [name] (name)}<col class={["max-sm:hidden", name !== "name" && "w-25"]} />{/each}
      <col class="w-40 max-sm:hidden" />
      <col class="w-28 max-sm:hidden" />
    </colgroup>
    <thead class={[!titled && "sr-only", "max-sm:sr-only"]}>
      <tr class="text-left text-sm text-muted">
        {#each columns as [name, title] (name)}
          <th class={["border-b border-line px-2 py-0.5 font-normal", name !== "name" && "text-right"]}
            >{title}</th
          >
        {/each}
        <th class="border-b border-line px-2 font-normal">{STOOD_ON.has(kind) ? "Stands in" : ""}</th>
        <th class="border-b border-line"><span class="sr-only">More</span></th>
      </tr>
    </thead>
    <tbody>
      {#each rows as row (row.id)}
        {@const where = `${kind}${row.id}`}
        <tr class="hover:bg-panel">
          {#each columns as [name, title] (name)}
            {@const field = kit.field(kind, name)}
            <td class={["border-b border-line p-0", name !== "name" && "max-sm:hidden"]}>
              {#if field && !blank(row, name)}
                <KitCell
                  {field}
                  value={row.values[name]}
                  label={`${field.title || title}, ${kit.name(row)}`}
                  disabled={!writes || follows(row, name)}
                  problem={kit.at(where, name)}
                  onset={(value) => kit.change(kind, row, { [name]: value })}
                />
              {/if}
            </td>
          {/each}
          <td class="border-b border-line px-2 text-sm whitespace-nowrap text-muted max-sm:hidden"
            >{used(row)}</td
          >
          <td class="border-b border-line px-2 text-right whitespace-nowrap">
            {#if leaving === row.id}
              <button class="btn" onclick={() => retire(row)}>Retire</button>
              <button class="link text-sm text-muted" onclick={() => (leaving = null)}>no</button>
            {:else}
              <button
                class="link text-sm text-muted"
                aria-expanded={Boolean(open[row.id])}
                aria-label={`${open[row.id] ? "less" : "more"} of ${kit.name(row)}`}
                onclick={() => (open[row.id] = !open[row.id])}>{open[row.id] ? "less" : "more"}</button
              >
              {#if writes}
                <button
                  class="link ml-2 text-sm text-muted"
                  aria-label={`retire ${kit.name(row)}`}
                  onclick={() => (leaving = row.id)}>retire</button
                >
              {/if}
            {/if}
          </td>
        </tr>
        {#if kit.failed === where && kit.asking.said}
          <tr
            ><td colspan={columns.length + 2} class="border-b border-line px-2 py-1"
              ><p role="alert">{kit.asking.said}</p></td
            ></tr
          >
        {/if}
        {#if leaving === row.id && used(row)}
          <tr
            ><td colspan={columns.length + 2} class="border-b border-line px-2 py-1"
              ><p role="status">
                {used(row)} stand on it{row.used.shots.length ? ` (${row.used.shots.join(", ")})` : ""}: they
                keep it, takes as they were. It is out of what Solve may choose.
              </p></td
            ></tr
          >
        {/if}
        {#if open[row.id]}
          <tr>
            <td colspan={columns.length + 2} class="border-b border-line bg-panel px-2 py-2">
              {#if putOn(row)}<p class="pb-1 text-muted">{putOn(row)}; all but its name follows.</p>{/if}
              {#if used(row)}<p class="pb-1 text-muted sm:hidden">Stands in {used(row)}.</p>{/if}
              <div class="grid gap-x-8 sm:grid-cols-2 lg:grid-cols-3">
                {#each all as field (field.name)}
                  <div
                    class={[
                      columns.some(([name]) => name === field.name) && "sm:hidden",
                      blank(row, field.name) && "hidden",
                    ]}
                  >
                    <FieldRow
                      {field}
                      units={session.units}
                      value={row.values[field.name]}
                      disabled={!writes || follows(row, field.name)}
                      problem={kit.at(where, field.name)}
                      onset={async (value) =>
                        (await kit.change(kind, row, { [field.name]: value })) !== undefined}
                    />
                  </div>
                {/each}
              </div>
            </td>
          </tr>
        {/if}
        {#if under}
          <tr><td colspan={columns.length + 2} class="p-0 pl-6">{@render under(row)}</td></tr>
        {/if}
      {/each}
    </tbody>
  </table>
</div>
