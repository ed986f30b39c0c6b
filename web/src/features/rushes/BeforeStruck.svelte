<!--
  The plates of a shot before the set is struck, what cannot be had again first: filmed, measured, holding.
-->
<script lang="ts">
  import type { Schemas } from "../../lib/api/client";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let { shot, checks }: { shot: number; checks: readonly Schemas["PlateCheckOut"][] } = $props();
  type Check = Schemas["PlateCheckOut"];
  const told = (check: Check) => {
    if (!check.filmed) return "Not filmed yet.";
    if (!check.recording_id) return "Filmed; its footage was not looked at.";
    if (check.verdict === null) return "Looked at; nothing of it was measured.";
    if (check.verdict === "holds") return check.decided ? "What does not hold is decided." : "Holds.";
    const more = check.left > 1 ? ` And ${check.left - 1} more.` : "";
    return `${check.says} ${check.to_do}${more}`;
  };
</script>

<ol aria-label="Before it is struck">
  {#each checks as check (check.layer_id)}
    <li class="grid grid-cols-[1.25rem_1fr] items-baseline gap-x-2 border-b border-line px-3.5 py-2">
      <span class="self-center"
        >{#if check.verdict}<Verdict verdict={check.verdict} />{:else}<span
            class="text-muted"
            aria-hidden="true">·</span
          >{/if}</span
      >
      <p class="flex min-w-0 flex-wrap items-baseline gap-x-2">
        {#if check.recording_id}<a class="link" href={`#/shots/${shot}/rushes/${check.recording_id}`}
            ><b>{check.name}</b>, take {check.take_number}</a
          >{:else}<b>{check.name}</b>{/if}
        <span class="text-muted">{check.loss}</span>
      </p>
      <p class={["col-start-2", check.verdict === "holds" || check.verdict === null ? "text-muted" : ""]}>
        {told(check)}
      </p>
    </li>
  {/each}
</ol>
