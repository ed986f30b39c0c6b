<!-- Something new of one kind: what must be said, with what is usual in it already. -->
<script lang="ts">
  import { session } from "../../lib/session.svelte";
  import FieldRow from "../../lib/ui/FieldRow.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import type { Field, Kit, KindName, Values } from "./kit.svelte";

  let {
    kit,
    kind,
    verb,
    begins,
    asks,
    always = {},
    gates = false,
    where = kind,
  }: {
    kit: Kit;
    kind: KindName;
    verb: string;
    /** Values to begin with. */
    begins: Values;
    /** Fields that are asked for, in order. */
    asks: readonly string[];
    always?: Values;
    /** Whether the gate is chosen by name. */
    gates?: boolean;
    where?: string;
  } = $props();

  let asking = $state(false);
  let values = $state.raw<Values>({});
  const fields = $derived(asks.map((name) => kit.field(kind, name)).filter((one) => one !== undefined));
  const CROP = $derived<Field>({
    ...(fields.find((one) => one.kind === "number") ?? fields[0]!),
    name: "crop",
    title: "Crop of this recording",
    unit: "×",
    help: "Width of a photograph divided by the width of the video, through the same lens.",
    optional: true,
  });

  function open() {
    values = { ...begins };
    asking = true;
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    if (await kit.add(kind, { ...values, ...always }, where)) asking = false;
  }
  const set = (name: string, value: unknown) => {
    values = { ...values, [name]: value };
  };
  const shown = $derived(new Set([...asks, "gate", "crop"]));
  const elsewhere = $derived(
    kit.failed === where ? kit.asking.problems.filter((one) => !shown.has(one.field)) : [],
  );
</script>

{#if asking}
  <form class="my-2 border border-line bg-panel p-3" onsubmit={add} aria-label={verb}>
    <div class="grid gap-x-8 sm:grid-cols-2 lg:grid-cols-3">
      {#each fields as field (field.name)}
        <FieldRow
          {field}
          units={session.units}
          value={values[field.name]}
          problem={kit.at(where, field.name)}
          onset={(value) => set(field.name, value)}
        />
      {/each}
      {#if gates}
        <div class="grid grid-cols-[minmax(0,1fr)_minmax(0,1fr)] items-center gap-2 py-0.5">
          <span>Gate</span>
          <Select
            label="Gate by its name"
            value={String(values.gate ?? "")}
            options={(kit.known?.gates ?? []).map((one) => [one.key, one.name] as const)}
            onchange={(key) => set("gate", key)}
          />
        </div>
        <FieldRow
          field={CROP}
          units={session.units}
          value={values.crop ?? null}
          problem={kit.at(where, "crop")}
          onset={(value) => set("crop", value)}
        />
      {/if}
    </div>
    {#each elsewhere as one (one.message)}<p role="alert" class="mt-1">{one.message}</p>{/each}
    <div class="mt-2 flex gap-2">
      <button class="btn btn-solid" disabled={kit.asking.busy}>Add it</button>
      <button type="button" class="btn !border-line" onclick={() => (asking = false)}>Leave it</button>
    </div>
  </form>
{:else}
  <button class="link my-1.5 text-muted" onclick={open}>{verb}</button>
{/if}
