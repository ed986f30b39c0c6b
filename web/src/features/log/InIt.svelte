<!-- Who is in the layer that is filmed: typed, or one of those who were in a take before. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";

  let { who = $bindable(), layers }: { who: string; layers: readonly Schemas["LogLayerOut"][] } = $props();
  const id = $props.id();
  const known = $derived([
    ...new Set(layers.flatMap((one) => one.takes.map((take) => take.in_it)).filter(Boolean)),
  ]);
</script>

<label class="flex min-h-11 items-center gap-3 border-b border-line px-3.5">
  <span class="shrink-0 text-muted">In it</span>
  <input
    class="field ml-auto !w-56 pointer-coarse:!min-h-11"
    maxlength="80"
    placeholder="who"
    list={id}
    bind:value={who}
  />
</label>
<datalist {id}>
  {#each known as name (name)}<option value={name}></option>{/each}
</datalist>
