<!-- A part of a drawing that a hand can hold: its name and value are said, pointer and keys move it. -->
<script lang="ts">
  import type { Snippet } from "svelte";
  import { handle, type Hand } from "./handle";

  let {
    label,
    value,
    text,
    hand,
    able,
    cursor = "cursor-move",
    name,
    children,
  }: {
    label: string;
    value: number;
    text: string;
    hand: Hand;
    able: boolean;
    cursor?: string;
    name?: string;
    children: Snippet;
  } = $props();
  // Whatever is in the hand stays there while the drawing is drawn anew.
  const held = handle({
    able: () => able && (hand.able?.() ?? true),
    take: (event) => hand.take?.(event),
    move: (way, event) => hand.move(way, event),
    drop: (moved) => hand.drop(moved),
    step: (way, big) => hand.step?.(way, big),
    settle: () => hand.settle?.(),
    cancel: () => hand.cancel?.(),
  });
</script>

<g
  role="slider"
  tabindex={able ? 0 : -1}
  aria-label={label}
  aria-valuenow={value}
  aria-valuetext={text}
  class={able ? cursor : ""}
  data-handle={name}
  {@attach held}
>
  {@render children()}
</g>
