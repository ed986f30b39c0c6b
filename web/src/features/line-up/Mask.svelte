<!-- A mask for a monitor: what is drawn, printed as large as the picture stands there. -->
<script lang="ts">
  import { session } from "../../lib/session.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";

  let { layer, range }: { layer: number; range: readonly number[] } = $props();
  const USUAL_MM = 155; // of a monitor that stands on a camera
  let wide = $state<number | null>(USUAL_MM);
  const problem = $derived(
    wide !== null && wide >= range[0]! && wide <= range[1]!
      ? ""
      : `Measure the picture on the monitor: ${range[0]} to ${range[1]} mm wide.`,
  );
</script>

<details class="border-t border-line px-3.5 py-3">
  <summary class="cursor-pointer text-muted">Mask for a monitor</summary>
  <p class="mt-2 text-muted">
    Silhouettes, horizon and lines, bent as the lens bends them, to print on clear film. Measure the whole
    picture on the monitor, without the monitor's frame.
  </p>
  <div class="mt-2 flex items-start gap-2">
    <span class="leading-7">Picture</span>
    <span class="min-w-0 flex-1"
      ><NumberCell
        label="Width of the picture on the monitor"
        value={wide}
        units={session.units}
        {problem}
        onset={(to) => (wide = to)}
      /></span
    >
    <span class="leading-7 text-muted">mm wide</span>
  </div>
  <a
    class="btn mt-2 inline-flex min-h-11 items-center"
    aria-disabled={Boolean(problem)}
    href={problem ? undefined : `/api/layers/${layer}/mask.pdf?width_mm=${wide}`}
    target="_blank"
    rel="noopener">Print the mask</a
  >
</details>
