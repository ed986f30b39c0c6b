<!-- How far something is that takes its time, in hundredths. -->
<script lang="ts">
  import { Progress } from "bits-ui";

  let { value, label, class: look = "w-24" }: { value: number; label: string; class?: string } = $props();
</script>

<Progress.Root {value} max={100} aria-label={label} class={["inline-block h-2 border border-ink", look]}>
  <div class="h-full bg-ink" style:width={`${Math.min(Math.max(value, 0), 100)}%`}></div>
</Progress.Root>
