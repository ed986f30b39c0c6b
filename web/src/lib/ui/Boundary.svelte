<!-- A part of a page that may fail by itself: the rest goes on, and it says so where it stands. -->
<script lang="ts">
  import type { Snippet } from "svelte";
  import Failed from "./Failed.svelte";

  let { what, children }: { what: string; children: Snippet } = $props();
</script>

<svelte:boundary onerror={(error) => console.error(what, error)}>
  {@render children()}
  {#snippet failed(error, reset)}<Failed {what} {error} {reset} />{/snippet}
</svelte:boundary>
