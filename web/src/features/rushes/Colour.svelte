<!-- How a recording says its light was recorded; changed where the file is silent or wrong. -->
<script lang="ts">
  import { Dialog } from "bits-ui";
  import Select from "../../lib/ui/Select.svelte";
  import type { Schemas } from "../../lib/api/client";
  import type { Rushing } from "./rushing.svelte";

  let { rushing }: { rushing: Rushing } = $props();
  const rush = $derived(rushing.rush!);
  let open = $state(false);
  let name = $state<Schemas["CurveIn"]["name"]>("");
  let log = $state("");
  let table = $state("");
  const OPTIONS = [
    ["", "as the file says"],
    ["bt709", "BT.709"],
    ["srgb", "sRGB"],
    ["linear", "linear light"],
    ["log", "a log curve of five numbers"],
    ["table", "a table of signal and light"],
  ] as const;
  const said = $derived(rush.curve_said as { name?: typeof name; log?: number[]; table?: number[][] });
  function begin() {
    name = said.name ?? "";
    log = (said.log ?? []).join(", ");
    table = (said.table ?? []).map((row) => row.join(", ")).join("\n");
    rushing.way.leave();
    open = true;
  }
  const numbers = (text: string) =>
    text
      .split(/[\s,;]+/)
      .filter(Boolean)
      .map(Number);
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const rows = table.split("\n").map(numbers);
    const kept = await rushing.sayCurve({
      name,
      log: name === "log" ? numbers(log) : [],
      table: name === "table" ? rows.filter((row) => row.length) : [],
    });
    if (kept) open = false;
  }
  const fault = $derived(
    [...numbers(log), ...numbers(table)].some(Number.isNaN) ? "Only numbers, with commas between." : "",
  );
</script>

<span class="truncate text-muted max-lg:hidden" title={rush.guessed.join(" ")}
  >{rush.colour}{rush.guessed.length && !said.name ? ", guessed" : ""}</span
>
<button class="link text-muted" aria-label={`Colour: ${rush.colour}, change`} onclick={begin}>change</button>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class={[
        "fixed top-1/2 left-1/2 z-50 w-[min(30rem,92vw)] -translate-x-1/2 -translate-y-1/2 border",
        "max-h-[90vh] overflow-y-auto border-ink bg-raised p-5",
      ]}
    >
      <Dialog.Title class="mb-3 text-lg font-strong">How its light was recorded</Dialog.Title>
      <form class="grid gap-3" onsubmit={keep}>
        <p>{rush.colour}.</p>
        {#if rush.guessed.length}
          <ul class="text-muted">
            {#each rush.guessed as text (text)}<li>{text}</li>{/each}
          </ul>
        {/if}
        <label class="grid grid-cols-[4rem_1fr] items-center gap-2"
          ><span class="text-muted">Curve</span><Select
            label="Curve"
            value={name ?? ""}
            options={OPTIONS}
            onchange={(to) => (name = to as typeof name)}
          /></label
        >
        {#if name === "log"}
          <label class="grid gap-1"
            >a, b, c, d and cut: signal = c · log₁₀(a · light + b) + d, a straight line under the cut
            <input class="field num" bind:value={log} placeholder="5, 0.05, 0.25, 0.4, 0.01" /></label
          >
        {:else if name === "table"}
          <label class="grid gap-1"
            >Signal and light, a pair a line, both rising
            <textarea class="field num" rows="6" bind:value={table} placeholder="0.41, 0.18"
            ></textarea></label
          >
        {/if}
        {#if fault || rushing.asking.said}<p role="alert">{fault || rushing.asking.said}</p>{/if}
        <p class="text-muted">What is measured from now on is measured by it.</p>
        <div class="flex gap-2">
          <button class="btn btn-solid" disabled={Boolean(fault) || rushing.asking.busy}>Keep</button>
          <Dialog.Close class="btn">Leave as it is</Dialog.Close>
        </div>
      </form>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
