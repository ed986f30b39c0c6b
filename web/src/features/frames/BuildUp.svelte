<!--
  The set is built up again: what is off the frame by which it was left, which way it goes back, and whether
  all of it holds.
-->
<script lang="ts">
  import Verdict from "../../lib/ui/Verdict.svelte";
  import type { Desk } from "./desk.svelte";

  let { desk, onpoint }: { desk: Desk; onpoint: (box: number[] | null) => void } = $props();
  const building = $derived(desk.building);
  const told = $derived(building.told);
  const by = $derived(desk.looked ?? desk.last);
  const left = $derived(desk.poses[by] && desk.shown[desk.poses[by].id]);
  const off = $derived(told?.lines.filter((one) => one.verdict !== "holds").length ?? 0);
  function begin() {
    if (!left) return;
    building.begin(by, left);
    desk.go(null);
  }
  // where it was begun it goes up, and the keys go with it
  const taking = (button: HTMLButtonElement) => button.focus();
</script>

<section class="border-t border-line px-3 py-2" aria-label="Build it up again">
  <div class="flex items-center gap-2">
    <h2 class="truncate text-muted">
      {building.place === null ? "After a break" : `Built up by frame ${building.place + 1}`}
    </h2>
    {#if building.place !== null}
      <button class="btn ml-auto shrink-0 !border-line" {@attach taking} onclick={() => building.stop()}
        >It stands: end</button
      >
    {:else}
      <button class="btn ml-auto shrink-0 !border-line" disabled={!left || !desk.live} onclick={begin}
        >Build it up by frame {by + 1}</button
      >
    {/if}
  </div>
  {#if building.place === null}
    <p class="text-muted">
      Camera, light and each piece that has to stand, live against that frame until they hold{desk.live
        ? ""
        : ": choose a camera first"}.
    </p>
  {:else if building.problem}
    <p role="alert">{building.problem}</p>
  {:else if told}
    <p class="mt-1 flex items-center gap-2 text-lg" role="status">
      <Verdict verdict={told.holds ? "holds" : "shows"} size={14} />
      {told.holds ? "It stands as it was left" : `${off} of ${told.lines.length} are off`}
    </p>
    <ul>
      {#each told.lines as one (one.what + one.name)}
        <li
          class="flex gap-2 py-1"
          onpointerenter={() => onpoint(one.box)}
          onpointerleave={() => onpoint(null)}
        >
          <span class="pt-0.5"><Verdict verdict={one.verdict} /></span>
          <span class="min-w-0">
            <span class={one.verdict === "holds" ? "text-muted" : ""}>{one.name}</span>
            <span class="num text-muted">{one.off}</span>
            {#if one.way}<b class="block font-strong">{one.way}</b>{/if}
          </span>
        </li>
      {/each}
    </ul>
  {:else}
    <p class="text-muted">Looks at the live picture…</p>
  {/if}
</section>
