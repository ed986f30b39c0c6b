<!--
  Under the line at the top, while there is something to say: that the server is away, what waits here to be
  sent, that a newer program is here.
-->
<script lang="ts">
  import { installed } from "../offline/installed.svelte";
  import { frames, outbox, photographs } from "../offline/outbox.svelte";
  import { reach } from "../offline/reach.svelte";
  import { when } from "./when";

  // a frame of the desk is on its way for half a second: only what cannot go is said
  const late = $derived(reach.away ? frames.waiting.length : 0);
  const counted = (count: number, what: string) => (count ? `${count} ${what}${count === 1 ? "" : "s"}` : "");
  const waits = $derived(
    [
      counted(outbox.waiting.length, "take"),
      counted(photographs.waiting.length, "photograph"),
      counted(late, "frame"),
    ]
      .filter(Boolean)
      .join(", "),
  );
  const waiting = $derived(outbox.waiting.length + photographs.waiting.length + late);
  const time = (at: number) => when(new Date(at).toISOString());
</script>

{#if reach.away || waiting}
  <div
    class={[
      "flex shrink-0 flex-wrap items-center gap-x-3 border-b border-ink bg-raised px-3.5 py-1.5",
      "print:hidden",
    ]}
    role="status"
    aria-label="Connection"
  >
    {#if reach.away}
      <span><b>No connection</b> since {time(reach.since)}</span>
      {#if reach.asOf}<span class="text-muted">shown as at {time(reach.asOf)}</span>{/if}
    {/if}
    {#if waiting}<a class="link" href="#/waiting">{waits} {waiting === 1 ? "waits" : "wait"}</a>{/if}
    {#if reach.away}<a class="link" href="#/kept">on this device</a>{/if}
  </div>
{/if}
{#if installed.newer}
  <div class="shrink-0 border-b border-line px-3.5 py-1.5 print:hidden" role="status">
    A newer version is on this device.
    <button class="link ml-1" onclick={() => installed.renew()}>Go on with it</button>
  </div>
{/if}
