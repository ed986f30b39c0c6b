<!-- Which exposures are made of each pose: one, or one for each light, in the order that switches least. -->
<script lang="ts">
  import type { Desk } from "./desk.svelte";

  let { desk }: { desk: Desk } = $props();
  const FIRST = ["front light", "back light"];
  const passes = $derived(desk.sheet?.passes ?? []);
  const write = (to: string[], label: string) => void desk.writes.sheet(label, { passes: to });

  function named(i: number, event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = field.value.trim();
    if (!to) field.value = passes[i]!;
    else if (to !== passes[i])
      write(
        passes.map((one, at) => (at === i ? to : one)),
        `pass ${i + 1} renamed`,
      );
  }
</script>

<section class="border-t border-line px-3 py-2" aria-label="Passes">
  <h2 class="text-muted">Exposures of each pose</h2>
  {#if !passes.length}
    <p>
      One. <button class="link min-h-6" onclick={() => write(FIRST, "two passes a pose")}
        >Take two: front light and back light</button
      >
    </p>
  {:else}
    <ol>
      {#each passes as name, i (i)}
        <li class="flex items-center gap-2 py-0.5">
          <span class="num w-4 text-muted">{i + 1}</span>
          <input
            class="field min-w-0 flex-1"
            maxlength="40"
            aria-label={`Pass ${i + 1}`}
            value={name}
            onchange={(event) => named(i, event)}
          />
          {#if i === passes.length - 1}
            <button
              class="link min-h-6"
              onclick={() => write(passes.length > 2 ? passes.slice(0, -1) : [], "a pass taken away")}
              >take away</button
            >
          {/if}
        </li>
      {/each}
    </ol>
    <div class="flex flex-wrap items-center gap-x-3">
      <label class="flex min-h-6 items-center gap-1.5"
        ><input
          type="checkbox"
          class="size-4 accent-ink"
          checked={desk.sheet?.passes_alternate}
          onchange={(event) =>
            void desk.writes.sheet("the order of passes", { passes_alternate: event.currentTarget.checked })}
        />every other pose backwards: half the switching</label
      >
      <button
        class="link min-h-6"
        onclick={() => write([...passes, `pass ${passes.length + 1}`], "a pass more")}>One more</button
      >
    </div>
  {/if}
</section>
