<!-- Around a value: what the answer does when one number moves, as a curve and as a table. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import type { Schemas } from "../../lib/api/client";
  import type { Units } from "../../lib/units";
  import { inWords, unitHere } from "./format";
  import Plot from "./Plot.svelte";

  type Field = Schemas["CalculationOut"]["fields"][number];
  type Output = Schemas["CalculationOut"]["outputs"][number];
  let {
    axisField,
    shownOutput,
    numbers,
    plain,
    table,
    curve,
    here,
    units,
    onshown,
    onaxis,
  }: {
    axisField: Field;
    shownOutput: Output;
    /** Fields and outputs that can be chosen. */
    numbers: Field[];
    plain: Output[];
    table: Schemas["AroundRow"][];
    curve: Schemas["AroundRow"][];
    here: number;
    units: Units;
    onshown: (output: string) => void;
    onaxis: (field: string) => void;
  } = $props();
  const curveRows = $derived(
    curve.flatMap((row) => {
      const y = row.outputs?.[shownOutput.name];
      return typeof y === "number" ? [{ value: row.value, y }] : [];
    }),
  );
</script>

<section class="mt-6 grid gap-6 lg:grid-cols-[1fr_auto]" aria-label="Around this value">
  <div>
    <div class="mb-2 flex flex-wrap items-center gap-2">
      <h2>Around this value</h2>
      <Select
        class="field !w-auto print:hidden"
        label="Shown"
        value={shownOutput.name}
        options={plain.map((one) => [one.name, one.title] as const)}
        onchange={onshown}
      />
      <span class="text-muted">against</span>
      <Select
        class="field !w-auto print:hidden"
        label="Against"
        value={axisField.name}
        options={numbers.map((one) => [one.name, one.title] as const)}
        onchange={onaxis}
      />
    </div>
    {#if curveRows.length > 2}
      <Plot
        rows={curveRows}
        {here}
        log={axisField.ring === "log"}
        xTitle={axisField.title}
        xUnit={axisField.unit}
        yTitle={shownOutput.title}
        yUnit={shownOutput.unit}
        {units}
      />
    {/if}
  </div>
  <table class="h-fit min-w-56">
    <thead>
      <tr class="border-b border-ink text-right"
        ><th class="py-1 font-strong"
          >{axisField.title}{axisField.unit ? `, ${unitHere(axisField.unit, units)}` : ""}</th
        ><th class="py-1 pl-6 font-strong"
          >{shownOutput.title}{shownOutput.unit ? `, ${unitHere(shownOutput.unit, units)}` : ""}</th
        ></tr
      >
    </thead>
    <tbody>
      {#each table as row (row.value)}
        {@const now = Math.abs(row.value - here) < 1e-9}
        {@const mark = axisField.marks.find((one) => Math.abs(one.value / row.value - 1) < 1e-6)}
        <tr class={["border-b border-line", now && "bg-ink text-ground"]}>
          <td class="num px-1 text-right">{mark?.label ?? inWords(row.value, axisField.unit, units)}</td>
          <td class="num px-1 pl-6 text-right"
            >{row.outputs ? inWords(row.outputs[shownOutput.name], shownOutput.unit, units) : "cannot be"}</td
          >
        </tr>
      {/each}
    </tbody>
  </table>
</section>
