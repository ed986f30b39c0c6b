<!--
  A verdict's mark: holds a filled disc, tight a half disc, shows a broken ring. Always with its word for
  those who listen.
-->
<script lang="ts">
  import { vocabulary } from "../vocabulary.svelte";
  import type { Verdict } from "../api/client";
  let {
    verdict,
    size = 12,
    label = true,
    inverted = false,
  }: { verdict: Verdict; size?: number; label?: boolean; inverted?: boolean } = $props();
  const colour = $derived(`var(--${verdict}${inverted ? "-inverted" : ""})`);
</script>

<svg
  width={size}
  height={size}
  viewBox="-6 -6 12 12"
  class="inline-block shrink-0"
  role={label ? "img" : undefined}
  aria-label={label ? vocabulary.verdict(verdict).single : undefined}
  aria-hidden={!label}
>
  {#if verdict === "holds"}
    <circle r="5" fill={colour} />
  {:else if verdict === "tight"}
    <circle r="4.4" fill="none" stroke={colour} stroke-width="1.3" />
    <path d="M0 -4.6 A4.6 4.6 0 0 0 0 4.6 Z" fill={colour} />
  {:else}
    <circle r="4.2" fill="none" stroke={colour} stroke-width="2.4" stroke-dasharray="3.4 1.88" />
  {/if}
</svg>
