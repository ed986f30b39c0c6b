<!-- What stands for a shot: its board, else the view through its lens, else an empty frame that says so. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import type { Schemas } from "../../lib/api/client";

  let {
    shot,
    width = 400,
    aspect = 16 / 9,
    fill = false,
  }: {
    shot: Schemas["WallLine"];
    width?: number;
    aspect?: number;
    /** As large as the room that it stands in, cut to that. */
    fill?: boolean;
  } = $props();
  const MOST_TRIES = 6;
  let tried = $state(0);
  let timer = 0;
  /** The server is busy: a picture is asked for again, later each time. */
  function later() {
    if (tried < MOST_TRIES) timer = window.setTimeout(() => tried++, 500 * 2 ** tried);
  }
  onDestroy(() => window.clearTimeout(timer));
  const source = $derived(
    shot.board
      ? `/api/boards/${shot.board}.jpg?width=${width}`
      : shot.hero
        ? `/api/shots/${shot.id}/small.jpg?v=${shot.revision}`
        : "",
  );
</script>

<span
  class={["relative block w-full overflow-hidden bg-black", fill && "h-full"]}
  style:aspect-ratio={fill ? undefined : aspect}
>
  {#if source}
    <img
      src={tried ? `${source}&again=${tried}` : source}
      onerror={later}
      alt=""
      loading="lazy"
      decoding="async"
      class={["h-full w-full", fill ? "object-cover" : "object-contain"]}
    />
  {:else}
    <svg viewBox="0 0 160 90" preserveAspectRatio="none" class="h-full w-full bg-panel" aria-hidden="true">
      <path d="M0 0L160 90M160 0L0 90" stroke="var(--line)" vector-effect="non-scaling-stroke" />
    </svg>
    <span class="absolute inset-0 grid place-content-center text-muted">no board yet</span>
  {/if}
</span>
