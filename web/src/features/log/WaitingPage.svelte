<!-- What waits on this device to be sent, of every shot: nothing of it is lost, and each goes once. -->
<script lang="ts">
  import { frames, outbox, photographs } from "../../lib/offline/outbox.svelte";
  import { reach } from "../../lib/offline/reach.svelte";
  import Waiting from "./Waiting.svelte";

  const shots = $derived([...new Set(outbox.waiting.map((one) => one.shot))]);
</script>

<svelte:head><title>What waits here · Jungoptic</title></svelte:head>
<main class="h-full overflow-y-auto">
  <div class="max-w-3xl px-4 py-5">
    <h1 class="text-lg">What waits here to be sent</h1>
    <p class="mt-1 text-muted">
      Takes stay on this device until the server has said yes. Each has a key of its own, so that none is
      logged twice; they go in their order, and are numbered when they arrive.
    </p>
    {#if outbox.waiting.length}
      <button class="btn mt-3" disabled={reach.away} onclick={() => void outbox.send()}
        >{reach.away ? "Sent when the connection is back" : "Send now"}</button
      >
      {#each shots as shot (shot)}
        <section class="mt-4 border-t border-line pt-2">
          <Waiting takes={outbox.waiting.filter((one) => one.shot === shot)} />
          <a class="link text-muted" href={`#/shots/${shot}/log`}>Open its log</a>
        </section>
      {/each}
    {:else}<p class="mt-3">Nothing waits: every take that was logged here has arrived.</p>{/if}
    {#if frames.waiting.length}
      <p class="mt-4 border-t border-line pt-2">
        {frames.waiting.length === 1 ? "One frame waits" : `${frames.waiting.length} frames wait`}: each goes
        into its exposure sheet after the one before it.
      </p>
      {#each frames.waiting.filter((one) => one.problem) as one (one.key)}
        <p>
          {one.name}: {one.problem}
          <button class="link" onclick={() => void frames.box.drop(one.key)}>Drop it</button>
        </p>
      {/each}
    {/if}
    {#if photographs.waiting.length}
      <p class="mt-4 border-t border-line pt-2">
        {photographs.waiting.length === 1
          ? "One photograph waits"
          : `${photographs.waiting.length} photographs wait`}: each goes after its take.
      </p>
      {#each photographs.waiting.filter((one) => one.problem) as one (one.key)}
        <p>
          {one.problem}
          <button class="link" onclick={() => void photographs.box.drop(one.key)}>Drop it</button>
        </p>
      {/each}
    {/if}
  </div>
</main>
