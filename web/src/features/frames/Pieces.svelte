<!-- Pieces of the set that have to stand: marked on the picture, held against the block's first frame. -->
<script lang="ts">
  import type { Desk } from "./desk.svelte";
  import type { Box, SetPiece } from "./writes";

  let { desk, onpoint }: { desk: Desk; onpoint: (box: number[] | null) => void } = $props();
  const SIDES = ["left", "top", "right", "bottom"] as const;
  const pieces = $derived(desk.sheet?.pieces ?? []);
  const percent = (share: number) => Number((100 * share).toFixed(1));

  const MIDDLE: Box = [0.4, 0.4, 0.6, 0.6];
  async function mark() {
    desk.marking = false;
    await desk.writes.addPiece(MIDDLE);
  }
  function named(piece: SetPiece, event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = field.value.trim();
    if (!to) field.value = piece.name;
    else if (to !== piece.name) void desk.writes.piece(piece, { name: to });
  }
  function side(piece: SetPiece, i: number, event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    const to = Number(field.value.replace(",", ".")) / 100;
    if (!field.value.trim() || !Number.isFinite(to)) field.value = String(percent(piece.box[i]!));
    else void desk.writes.piece(piece, { box: piece.box.map((one, at) => (at === i ? to : one)) as Box });
  }
</script>

<section class="border-t border-line px-3 py-2" aria-label="Pieces that have to stand">
  <div class="flex items-center gap-2">
    <h2 class="text-muted">Pieces that have to stand</h2>
    {#if desk.takes}
      <button
        class="btn ml-auto !border-line"
        aria-pressed={desk.marking}
        onclick={() => (desk.marking = !desk.marking)}>{desk.marking ? "Leave it" : "Mark one"}</button
      >
    {/if}
  </div>
  {#if desk.marking}
    <p role="status">
      Draw a box around it over the picture, as it stands in the block's first frame. Or
      <button class="link" onclick={() => void mark()}>put one in the middle</button> and type its sides.
    </p>
  {:else if !pieces.length}
    <p class="text-muted">
      A mooring post, a table's edge: what is marked is said where it moves, beside the camera.
    </p>
  {/if}
  <ul>
    {#each pieces as piece (piece.id)}
      <li
        class="py-1"
        onpointerenter={() => onpoint(piece.box)}
        onpointerleave={() => onpoint(null)}
        onfocusin={() => onpoint(piece.box)}
        onfocusout={() => onpoint(null)}
      >
        <div class="flex items-center gap-2">
          <input
            class="field min-w-0 flex-1"
            maxlength="60"
            aria-label={`Name of ${piece.name}`}
            value={piece.name}
            disabled={!desk.takes}
            onchange={(event) => named(piece, event)}
          />
          {#if desk.takes}<button
              class="link min-h-6"
              onclick={() => void desk.writes.piece(piece, { removed: true })}>take away</button
            >{/if}
        </div>
        <div
          class="mt-1 flex flex-wrap items-center gap-1 text-muted"
          role="group"
          aria-label={`Box of ${piece.name}`}
        >
          {#each SIDES as name, i (name)}
            <input
              class="field num w-13"
              aria-label={`${piece.name}, ${name}, % of the frame`}
              value={percent(piece.box[i]!)}
              disabled={!desk.takes}
              onchange={(event) => side(piece, i, event)}
            />
          {/each}<span>%</span>
        </div>
      </li>
    {/each}
  </ul>
</section>
