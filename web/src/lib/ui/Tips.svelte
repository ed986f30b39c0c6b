<!-- The tooltip of the page: it stands at whatever has more to say and is pointed at. -->
<script lang="ts">
  import { Tooltip } from "bits-ui";
  import { shownTip, TIP_ID } from "./tip.svelte";
</script>

<Tooltip.Provider>
  <Tooltip.Root bind:open={shownTip.open} disableHoverableContent>
    <Tooltip.Portal>
      <Tooltip.Content
        id={TIP_ID}
        role="tooltip"
        customAnchor={shownTip.anchor}
        sideOffset={5}
        class="pointer-events-none z-60 max-w-80 border border-ink bg-raised px-2 py-1 text-sm break-words"
        >{shownTip.text}</Tooltip.Content
      >
    </Tooltip.Portal>
  </Tooltip.Root>
</Tooltip.Provider>
