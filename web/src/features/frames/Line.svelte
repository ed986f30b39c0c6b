<!-- One line of the exposure sheet: its hold, and what is written in its columns. -->
<script lang="ts">
  import type { Desk } from "./desk.svelte";
  import Lines from "./Lines.svelte";
  import { COLUMNS, type Pose } from "./strip";

  let { desk, pose }: { desk: Desk; pose: Pose } = $props();

  function hold(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = Math.round(Number(field.value));
    if (!Number.isFinite(to) || !field.value) field.value = String(pose.hold);
    else if (to !== pose.hold) void desk.writes.line(pose, { hold: to });
  }
  function text(key: (typeof COLUMNS)[number][0], event: Event) {
    const to = (event.currentTarget as HTMLInputElement).value.trim();
    if (to !== pose[key]) void desk.writes.line(pose, { [key]: to });
  }
</script>

<Lines {desk} {pose} />
<section class="border-t border-line px-3 py-2" aria-label={`Line ${pose.place + 1} of the sheet`}>
  <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
    <h2 class="text-muted">Line <span class="num">{pose.place + 1}</span></h2>
    <label class="flex items-center gap-1.5"
      >held <input
        type="number"
        class="field num w-12"
        min="1"
        value={pose.hold}
        disabled={!desk.takes}
        onchange={hold}
      /></label
    >
    <label class="flex min-h-6 items-center gap-1.5"
      ><input
        type="checkbox"
        class="size-4 accent-ink"
        checked={pose.key}
        disabled={!desk.takes}
        onchange={() => void desk.writes.line(pose, { key: !pose.key })}
      />key</label
    >
    {#if pose.place > 0}
      <label class="flex min-h-6 items-center gap-1.5"
        ><input
          type="checkbox"
          class="size-4 accent-ink"
          checked={pose.begins_block}
          disabled={!desk.takes}
          onchange={() => void desk.writes.line(pose, { begins_block: !pose.begins_block })}
        />block begins</label
      >
    {/if}
  </div>
  <div class="mt-1 grid grid-cols-[5.5rem_1fr] items-center gap-y-1">
    {#each COLUMNS as [key, name] (key)}
      <label for={`line-${key}`} class="text-muted">{name}</label>
      <input
        id={`line-${key}`}
        class="field w-full"
        maxlength="80"
        value={pose[key]}
        disabled={!desk.takes}
        onchange={(event) => text(key, event)}
      />
    {/each}
  </div>
</section>
