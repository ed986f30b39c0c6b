<!-- The bar under the card: what was not as planned, a note, the slate, the steps, the big Take. -->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import type { foretold } from "./foretold";
  import Told from "./Told.svelte";

  type Setting = Schemas["SettingOut"];
  let {
    otherwise,
    words,
    told,
    sure,
    number,
    slatedFor,
    runs,
    note = $bindable(),
    circled = $bindable(),
    onslate,
    onrun,
    ontake,
  }: {
    otherwise: readonly Setting[];
    words: (line: Setting) => string;
    told: ReturnType<typeof foretold> | null;
    sure: string;
    number: number;
    /** Which take the slate was shown for. */
    slatedFor: number | null;
    /** Whether it is filmed in steps. */
    runs: boolean;
    note: string;
    circled: boolean;
    onslate: () => void;
    onrun: () => void;
    ontake: () => void;
  } = $props();
</script>

<div
  class={[
    "shrink-0 border-t border-ink bg-raised px-3.5 pt-2",
    "pb-[max(0.75rem,env(safe-area-inset-bottom))]",
  ]}
>
  {#if otherwise.length}
    <p class="mb-1.5">
      Not as planned: {#each otherwise as line, i (line.field)}{i ? ", " : ""}{line.label.toLowerCase()}
        <b class="num">{words(line)}</b>{/each}
    </p>
    {#if told}<Told {told} {sure} />{/if}
  {/if}
  <div class="flex items-center gap-2">
    <input
      class="field !min-h-11"
      placeholder="Note, if there is one"
      aria-label="Note"
      bind:value={note}
      maxlength="2000"
    />
    <label class="flex min-h-11 shrink-0 items-center gap-2 px-1"
      ><input type="checkbox" class="size-5 accent-ink" bind:checked={circled} /> Circle it</label
    >
  </div>
  <div class="mt-2 flex gap-2">
    <button class="btn h-16 w-20 shrink-0 text-lg sm:w-24" onclick={onslate}>Slate</button>
    {#if runs}<button class="btn h-16 w-20 shrink-0 text-lg sm:w-24" onclick={onrun}>Steps</button>{/if}
    <button class="btn btn-solid h-16 min-w-0 flex-1 text-lg" onclick={ontake}
      >Take {number} <span class="key max-sm:hidden">t</span></button
    >
  </div>
  {#if slatedFor}<p class="mt-1.5 text-muted">
      The slate was shown for take {slatedFor}: log it when the camera has run.
    </p>{/if}
</div>
