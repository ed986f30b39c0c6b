<!-- The pattern definitions of the hatches, once for each drawing; what they are, the vocabulary says. -->
<script lang="ts">
  import { vocabulary } from "../vocabulary.svelte";
  let { id, scale = 1 }: { id: string; scale?: number } = $props();
  const GROUNDS = { open: "var(--ground)", middle: "var(--mark)", dark: "var(--ring-edge)" } as const;
</script>

<defs>
  {#each vocabulary.kinds as { key, hatch } (key)}
    {#if hatch.fade}
      <linearGradient
        id={`${id}-${key}`}
        x1="0"
        y1={hatch.fade === "up" ? 1 : 0}
        x2="0"
        y2={hatch.fade === "up" ? 0 : 1}
      >
        <stop offset="0" stop-color="var(--text)" stop-opacity="0.1" />
        <stop offset="1" stop-color="var(--text)" stop-opacity="0.7" />
      </linearGradient>
    {:else}
      <pattern
        id={`${id}-${key}`}
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform={`scale(${scale})`}
      >
        <rect width="6" height="6" fill={GROUNDS[hatch.ground]} />
        {#if hatch.lines}<path d={hatch.lines} stroke="var(--text)" stroke-width="0.9" />{/if}
        {#if hatch.dot.length}<circle
            cx={hatch.dot[0]}
            cy={hatch.dot[1]}
            r={hatch.dot[2]}
            fill="var(--text)"
          />{/if}
      </pattern>
    {/if}
  {/each}
</defs>
