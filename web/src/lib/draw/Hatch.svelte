<!-- The pattern definitions of the hatches, once for each drawing. -->
<script lang="ts">
  let { id, scale = 1 }: { id: string; scale?: number } = $props();
</script>

<defs>
  {#each [["model", "M0 6 L6 0 M-1 1 L1 -1 M5 7 L7 5"], ["painted", "M0 6 L6 0 M0 0 L6 6"], ["stock", "M0 2 H6 M0 5 H6"], ["rig", "M3 0 V6"], ["three_d", "M0 3 H6 M3 0 V6"], ["split", "M0 0 L6 6"]] as [kind, d] (kind)}
    <pattern
      id={`${id}-${kind}`}
      width="6"
      height="6"
      patternUnits="userSpaceOnUse"
      patternTransform={`scale(${scale})`}
    >
      <rect width="6" height="6" fill="var(--ground)" />
      <path {d} stroke="var(--text)" stroke-width="0.9" />
    </pattern>
  {/each}
  <pattern
    id={`${id}-frame_by_frame`}
    width="5"
    height="5"
    patternUnits="userSpaceOnUse"
    patternTransform={`scale(${scale})`}
  >
    <rect width="5" height="5" fill="var(--ground)" />
    <circle cx="2" cy="2" r="0.9" fill="var(--text)" />
  </pattern>
  {#each ["live", "live_element"] as kind (kind)}
    <pattern id={`${id}-${kind}`} width="6" height="6" patternUnits="userSpaceOnUse"
      ><rect width="6" height="6" fill="var(--mark)" /></pattern
    >
  {/each}
  <pattern id={`${id}-clean_plate`} width="6" height="6" patternUnits="userSpaceOnUse"
    ><rect width="6" height="6" fill="var(--ground)" /></pattern
  >
  <pattern id={`${id}-black_element`} width="6" height="6" patternUnits="userSpaceOnUse"
    ><rect width="6" height="6" fill="var(--ring-edge)" /></pattern
  >
  {#each ["haze", "shadow_pass", "light_pass", "reflection_pass", "focus_pass"] as kind (kind)}
    <linearGradient
      id={`${id}-${kind}`}
      x1="0"
      y1={kind === "light_pass" ? 1 : 0}
      x2="0"
      y2={kind === "light_pass" ? 0 : 1}
    >
      <stop offset="0" stop-color="var(--text)" stop-opacity="0.1" /><stop
        offset="1"
        stop-color="var(--text)"
        stop-opacity="0.7"
      />
    </linearGradient>
  {/each}
</defs>
