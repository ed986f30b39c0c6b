<!-- Two or three ways, one chosen; the chosen one is inverted. -->
<script lang="ts" generics="T extends string">
  import { ToggleGroup } from "bits-ui";
  let {
    value,
    options,
    label,
    onchange,
  }: { value: T; options: readonly (readonly [T, string])[]; label: string; onchange: (value: T) => void } =
    $props();
</script>

<ToggleGroup.Root
  type="single"
  {value}
  aria-label={label}
  class="inline-flex border border-line"
  onValueChange={(chosen) => chosen && onchange(chosen as T)}
>
  {#each options as [key, text] (key)}
    <ToggleGroup.Item
      value={key}
      class={[
        "h-6.5 cursor-pointer px-2 whitespace-nowrap text-muted data-[state=on]:bg-ink",
        "data-[state=on]:font-strong data-[state=on]:text-ground pointer-coarse:h-11 pointer-coarse:px-4",
      ]}>{text}</ToggleGroup.Item
    >
  {/each}
</ToggleGroup.Root>
