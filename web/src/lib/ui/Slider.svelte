<!-- A place on an even line: dragged, or moved by arrow keys, Page, Home and End. -->
<script lang="ts">
  import { Slider } from "bits-ui";

  let {
    value,
    least = 0,
    most,
    step = 1,
    label,
    class: look = "w-32",
    onchange,
    oncommit,
  }: {
    value: number;
    least?: number;
    most: number;
    step?: number;
    label: string;
    class?: string;
    onchange: (value: number) => void;
    /** The hand has let go. */
    oncommit?: () => void;
  } = $props();
</script>

<Slider.Root
  type="single"
  bind:value={() => value, (to) => to !== value && onchange(to)}
  onValueCommit={() => oncommit?.()}
  min={least}
  max={most}
  {step}
  class={["relative flex h-6 touch-none items-center select-none pointer-coarse:h-11", look]}
>
  <span class="h-px w-full bg-(--mark)"></span>
  <Slider.Range class="absolute h-0.5 bg-ink" />
  <Slider.Thumb
    index={0}
    aria-label={label}
    class="block size-3 cursor-ew-resize bg-ink pointer-coarse:size-5"
  />
</Slider.Root>
