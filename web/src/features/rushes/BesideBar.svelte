<!-- Which other take lies over the picture, and how. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { laidBy, MODES, type Beside } from "./beside.svelte";
  import type { Rushing } from "./rushing.svelte";

  let { rushing, beside }: { rushing: Rushing; beside: Beside } = $props();
  const rush = $derived(rushing.rush!);
  const others = $derived(
    rushing.lines.filter((one) => one.recording_id !== rush.recording_id && one.seen && !one.fault),
  );
  const options = $derived([
    ["", "nothing"] as const,
    ...others.map(
      (one) => [String(one.recording_id), `${one.layer}, take ${one.take_number} · ${one.name}`] as const,
    ),
  ]);
  const measured = $derived(beside.other ? laidBy(rush, beside.other.recording_id) : "");
</script>

{#if others.length}
  <div
    class="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-3.5 py-1.5"
    role="group"
    aria-label="Another take over the picture"
  >
    <span class="text-muted">Laid over it</span>
    <div class="w-56">
      <Select
        label="Laid over it"
        value={beside.other ? String(beside.other.recording_id) : ""}
        {options}
        onchange={(to) => void beside.choose(Number(to))}
      />
    </div>
    {#if beside.other}
      {#each MODES as [mode, name] (mode)}
        <label class="flex items-center gap-1 pointer-coarse:min-h-11"
          ><input type="radio" name="laid-over" value={mode} bind:group={beside.mode} />{name}</label
        >
      {/each}
      {#if beside.mode === "wipe"}
        <input
          type="range"
          class="w-28"
          min="0"
          max="1"
          step="0.005"
          aria-label="Where the wipe stands"
          bind:value={beside.at}
        />
      {:else if beside.mode === "difference"}
        <label class="flex items-center gap-1.5"
          ><input type="range" class="w-20" min="1" max="24" step="1" bind:value={beside.times} />
          <span class="num w-8">×{beside.times}</span></label
        >
      {/if}
      <label
        class="flex items-center gap-1 pointer-coarse:min-h-11"
        title={measured ? "" : "Measure the camera against it first."}
        ><input type="checkbox" disabled={!measured} bind:checked={beside.laid} />as measured</label
      >
    {/if}
  </div>
{/if}
