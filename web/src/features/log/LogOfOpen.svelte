<!-- The log of the shot that is open: the address that a telephone opens at the camera. -->
<script lang="ts">
  import { untrack } from "svelte";
  import { replace } from "svelte-spa-router";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";

  const asking = new Asking();
  $effect(() => {
    untrack(() => {
      if (!place.shot) void asking.read(() => place.readShots(session));
    });
  });
  $effect(() => {
    if (place.shot) void replace(`/shots/${place.shot}/log`);
  });
</script>

<main class="grid h-full place-content-center gap-3 p-6 text-center">
  {#if place.shots && !place.shots.length}
    <p>There is no shot yet, so there is nothing to log.</p>
    <a class="btn mx-auto" href="#/">Go to the shots</a>
  {:else}<p role="status">{asking.said || "Looking for the shot…"}</p>{/if}
</main>
