<!--
  The light of the selected set-up: stated, from the sun, or from lamps where they stand; its backing; the
  references.
-->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { answered, client, Offline, type Layer, type Schemas } from "../../lib/api/client";
  import type { BenchState } from "../../lib/edit/shot.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import { fieldBook } from "../../lib/edit/fields.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";

  let { bench, layer, writes }: { bench: BenchState; layer: Layer | null; writes: boolean } = $props();

  const KEY = [
    "key_azimuth_deg",
    "key_elevation_deg",
    "key_size_deg",
    "key_to_fill_stops",
    "key_measured",
    "ripple_depth",
    "sun_at",
    "sky",
    "diffusion_stops",
    "heading_deg",
    "references",
  ] as const;
  const LAMP = [
    "name",
    "role",
    "level",
    "intensity_cd",
    "beam_deg",
    "face_m",
    "length_m",
    "colour_k",
    "across_m",
    "height_m",
    "behind_m",
    "aim_across_m",
    "aim_height_m",
    "aim_behind_m",
  ] as const;
  const SHEET = [
    "name",
    "colour",
    "width_m",
    "height_m",
    "behind_m",
    "across_m",
    "bottom_m",
    "reflectance",
  ] as const;

  let kit = $state.raw<Schemas["OnSetOut"] | null>(null);
  let chosen = $state("");
  let sheet = $state("");
  let open = $state<number | null>(null);
  const data = $derived(bench.bench);
  const set = $derived(data?.set_ups.find((one) => one.id === layer?.set_up_id) ?? null);
  const selected = $derived(data?.selected ?? null);
  const stands = $derived(selected?.standing ?? null);
  const lampText = (id: number) => {
    const at = stands?.lamp_ids.indexOf(id) ?? -1;
    return at >= 0 ? (stands?.lamps[at]?.text ?? "") : "";
  };
  const problemAt = (name: string) => bench.problems.find((one) => one.field === name)?.message ?? "";

  $effect(() => {
    const production = data?.production_id;
    if (!production || kit) return;
    void (async () => {
      try {
        kit = await answered(
          client.GET("/api/productions/{production_id}/on-set", {
            params: { path: { production_id: production } },
          }),
        );
      } catch (error) {
        if (!(error instanceof Offline)) throw error;
      }
    })();
  });

  async function addLamp() {
    if (!set) return;
    const made = await bench.add("Add a lamp", {
      what: "lamp",
      like_set_up: set.id,
      kit_lamp: chosen ? Number(chosen) : null,
    });
    open = made;
  }
  function addSheet() {
    if (!set) return;
    const own = kit?.sheets.find((one) => String(one.id) === sheet);
    // what nobody has said of it keeps what is usual
    const said = Object.entries(own ?? {}).filter(
      ([name, value]) => name !== "id" && value !== null && value !== "",
    );
    void bench.add(own ? `Add ${own.name}` : "Add a backing", {
      what: "backing",
      like_set_up: set.id,
      fields: Object.fromEntries(said),
    });
  }
  const passKinds = $derived(
    new Set<string>(vocabulary.kinds.filter((kind) => kind.is_pass).map((kind) => kind.key)),
  );
  const degrees = (value: number | null | undefined) => (value ?? 0).toFixed(0).replace("-", "−");
  const keyWords = $derived(
    `${degrees(stands?.key_azimuth_deg)}° to the side, ${degrees(stands?.key_elevation_deg)}° above`,
  );
  /** The passes of this set-up: a lamp may be lit for one of them alone. */
  const passes = $derived(
    data?.layers.filter((one) => one.set_up_id === set?.id && passKinds.has(one.kind)) ?? [],
  );
  const onlyFor = (lamp: { id: number; values: Record<string, unknown> }) =>
    bench.trial.now("lamps", lamp.id, "only_for_id", lamp.values.only_for_id) as number | null;
  const litFor = (lamp: { id: number; values: Record<string, unknown> }) =>
    data?.layers.find((one) => one.id === onlyFor(lamp))?.name ?? "";
</script>

<div class="h-full overflow-y-auto px-4.5 pt-2 pb-4 max-sm:px-3">
  {#if !set || !data || !fieldBook.sets}
    <p class="text-muted">A picture has no light to set: see its layer. Choose a filmed one to light it.</p>
  {:else}
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <b class="mr-auto truncate text-lg">{set.name}</b>
      <Select
        class="field !w-auto max-w-44"
        label="Lamp of the kit"
        value={chosen}
        disabled={!writes}
        options={[
          ["", "another lamp"],
          ...(kit?.lamps ?? []).map((lamp) => [String(lamp.id), lamp.name] as const),
        ]}
        onchange={(id) => (chosen = id)}
      />
      <button class="btn" disabled={!writes} onclick={addLamp}>Place the lamp</button>
      {#if kit?.sheets.length && !set.backing}
        <Select
          class="field !w-auto max-w-44"
          label="Sheet of the kit"
          value={sheet}
          disabled={!writes}
          options={[["", "another sheet"], ...kit.sheets.map((one) => [String(one.id), one.name] as const)]}
          onchange={(id) => (sheet = id)}
        />
      {/if}
      <button class="btn" disabled={!writes || !!set.backing} onclick={addSheet}>Add a backing</button>
    </div>
    {#if set.lamps.length}
      <ul class="mb-3">
        {#each set.lamps as lamp (lamp.id)}
          <li class="border-b border-line">
            <div class="flex min-h-[30px] items-center gap-3">
              <button
                class="min-w-0 flex-1 cursor-pointer truncate text-left"
                aria-expanded={open === lamp.id}
                onclick={() => (open = open === lamp.id ? null : lamp.id)}
              >
                <b>{lamp.values.name}</b>
                <span class="text-muted"
                  >{lamp.values.role}{#if litFor(lamp)}, only for {litFor(lamp)}{/if}</span
                >
              </button>
              <span class="num text-sm text-muted">{lampText(lamp.id)}</span>
              <button
                class="link"
                disabled={!writes}
                aria-label={`Remove ${lamp.values.name}`}
                onclick={() => bench.set(`Remove ${lamp.values.name}`, "lamps", lamp.id, { removed: true })}
                >remove</button
              >
            </div>
            {#if open === lamp.id}
              <div class="gap-x-8 pb-2 lg:columns-2">
                {#if passes.length}
                  <div
                    class={[
                      "grid min-h-[30px] grid-cols-[minmax(0,1fr)_minmax(112px,46%)] items-center gap-x-3",
                      "break-inside-avoid border-b border-line py-0.5",
                    ]}
                  >
                    <span>Lit for</span>
                    <Select
                      class="field"
                      label="Lit for"
                      value={String(onlyFor(lamp) ?? "")}
                      disabled={!writes}
                      options={[
                        ["", "all that it films"],
                        ...passes.map((one) => [String(one.id), `${one.name} alone`] as const),
                      ]}
                      onchange={(id) =>
                        void bench.set("Lit for", "lamps", lamp.id, {
                          only_for_id: id ? Number(id) : null,
                        })}
                    />
                  </div>
                {/if}
                {#each fieldBook.of("lamp", LAMP) as field (field.name)}
                  <FieldRow
                    {field}
                    units={data.units}
                    value={bench.trial.now("lamps", lamp.id, field.name, lamp.values[field.name])}
                    disabled={!writes}
                    problem={problemAt(field.name)}
                    onset={(value) => void bench.set(field.title, "lamps", lamp.id, { [field.name]: value })}
                  />
                {/each}
              </div>
            {/if}
          </li>
        {/each}
      </ul>
    {/if}
    <div class="gap-x-8 lg:columns-2">
      <section class="mb-3 break-inside-avoid">
        <h3 class="pb-0.5 text-muted">Key, as the camera sees it</h3>
        {#if stands?.key_from && stands.key_azimuth_deg != null}
          <p class="pb-1">
            From {stands.key_from}: {keyWords}.
          </p>
        {/if}
        {#each fieldBook.of("set_up", KEY) as field (field.name)}
          <FieldRow
            {field}
            units={data.units}
            value={bench.trial.now("set_ups", set.id, field.name, set.values[field.name])}
            disabled={!writes}
            problem={problemAt(field.name)}
            onset={(value) => void bench.set(field.title, "set_ups", set.id, { [field.name]: value })}
          />
          {#if field.name === "diffusion_stops" && kit?.diffusion.length}
            <p class="flex flex-wrap gap-x-3 py-1 text-muted">
              In the kit: {#each kit.diffusion as frame (frame.id)}<button
                  class="link"
                  disabled={!writes}
                  onclick={() =>
                    void bench.set(frame.name, "set_ups", set.id, { diffusion_stops: frame.stops })}
                  >{frame.name}, {frame.stops} stops</button
                >{/each}
            </p>
          {:else if field.name === "references" && kit}
            <p class="py-1 text-muted">
              In the kit: {kit.references.length ? kit.references.join(", ") : "no ball, no chart, no tape"}.
            </p>
          {/if}
        {/each}
      </section>
      {#if set.backing}
        {@const backing = set.backing}
        <section class="mb-3 break-inside-avoid">
          <h3 class="flex pb-0.5 text-muted">
            Backing
            <button
              class="link ml-auto"
              disabled={!writes}
              onclick={() => bench.set("Remove the backing", "backings", backing.id, { removed: true })}
              >remove</button
            >
          </h3>
          {#each fieldBook.of("backing", SHEET) as field (field.name)}
            <FieldRow
              {field}
              units={data.units}
              value={bench.trial.now("backings", backing.id, field.name, backing.values[field.name])}
              disabled={!writes}
              problem={problemAt(field.name)}
              onset={(value) => void bench.set(field.title, "backings", backing.id, { [field.name]: value })}
            />
          {/each}
        </section>
      {/if}
    </div>
  {/if}
</div>
