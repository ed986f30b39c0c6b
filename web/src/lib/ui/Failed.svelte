<!-- What stands in place of a part that failed. Another address shows it anew. -->
<script lang="ts">
  import { router } from "svelte-spa-router";
  import { untrack } from "svelte";

  let { what, error, reset }: { what: string; error: unknown; reset: () => void } = $props();
  const failedAt = untrack(() => router.location);
  $effect(() => {
    if (router.location !== failedAt) untrack(reset);
  });
</script>

<div class="grid h-full min-h-24 place-content-center gap-3 p-4 text-center" role="alert">
  <p><b>{what} cannot be shown.</b> What you wrote is kept.</p>
  <p class="text-sm text-muted">{error instanceof Error ? error.message : String(error)}</p>
  <p>
    <button class="btn" onclick={reset}>Show it again</button>
    <button class="btn !border-line" onclick={() => window.location.reload()}>Read the page anew</button>
  </p>
</div>
