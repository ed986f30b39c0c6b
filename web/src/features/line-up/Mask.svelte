<!-- A mask for a monitor: what is drawn, printed as large as the picture stands there. -->
<script lang="ts">
  import { session } from "../../lib/session.svelte";
  import NumberCell from "../../lib/ui/NumberCell.svelte";

  let { layer }: { layer: number } = $props();
  const LEAST_MM = 40;
  const MOST_MM = 1300;
  const USUAL_MM = 155; // of a monitor that stands on a camera
  let wide = $state<number | null>(USUAL_MM);
  const units = $derived(session.units);
  const problem = $derived(
    wide !== null && wide >= LEAST_MM && wide <= MOST_MM
      ? ""
      : "Measure the picture on the monitor: 40 mm to 1.3 m wide.",
  );
  const query = $derived(new URLSearchParams({ width_mm: String(wide), units, school: session.school }));
</script>

<details class="border-t border-line px-3.5 py-3">
  <summary class="cursor-pointer text-muted">Mask for a monitor</summary>
  <p class="mt-2 text-muted">
    Silhouettes, horizon and lines, bent as the lens bends them, to print on clear film. Measure the whole
    picture on the monitor, without the monitor's frame.
  </p>
  <div class="mt-2 flex items-center gap-2">
    <span>Picture</span>
    <span class="w-20"
      ><NumberCell
        label="Width of the picture on the monitor"
        value={wide}
        {units}
        {problem}
        onset={(to) => (wide = to)}
      /></span
    >
    <span class="text-muted">mm wide</span>
    <a
      class="btn ml-auto"
      aria-disabled={Boolean(problem)}
      href={problem ? undefined : `/api/layers/${layer}/mask.pdf?${query}`}
      target="_blank"
      rel="noopener">Print the mask</a
    >
  </div>
</details>
