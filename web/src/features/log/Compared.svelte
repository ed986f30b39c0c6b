<!--
  Actions that were held against their clean plates by themselves: what does not hold is said while the set
  still stands.
-->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { whenOthersWrite } from "../../lib/events/told.svelte";
  import BeforeStruck from "../rushes/BeforeStruck.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let { shot }: { shot: number } = $props();
  let pairs = $state.raw<Schemas["ComparedOut"][]>([]);
  let checks = $state.raw<Schemas["PlateCheckOut"][]>([]);
  const asking = new Asking();

  async function read() {
    const path = { shot_id: shot };
    const found = await asking.read(() =>
      answered(client.GET("/api/shots/{shot_id}/rushes", { params: { path } })),
    );
    pairs = found?.compared ?? [];
    checks = found?.checks ?? [];
  }
  $effect(() => {
    if (shot) void read();
  });
  whenOthersWrite(read);
  const off = $derived(pairs.filter((one) => one.verdict !== "holds"));
  const seen = $derived(checks.some((one) => one.verdict !== null));
</script>

{#if off.length}
  <ul class="shrink-0 border-b border-line bg-panel" aria-label="Against the clean plate">
    {#each off as one (one.recording_id)}
      <li class="flex items-baseline gap-2 px-3.5 py-2">
        <Verdict verdict={one.verdict} />
        <p class="min-w-0 flex-1">
          <b>{one.verdict === "shows" ? "Again now" : "Look at it before it is struck"}:</b>
          {one.action} against {one.clean}. {one.says}
          <a class="link" href={`#/shots/${shot}/rushes/${one.recording_id}`}>See it</a>
        </p>
      </li>
    {/each}
  </ul>
{/if}
{#if seen}
  <details class="shrink-0 border-b border-line">
    <summary class="cursor-pointer px-3.5 py-2 pointer-coarse:min-h-11"
      >Before it is struck: <span class="num"
        >{checks.filter((one) => one.verdict === "holds").length} of {checks.length}</span
      > plates hold</summary
    >
    <BeforeStruck {shot} {checks} />
  </details>
{/if}
