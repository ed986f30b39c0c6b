<!-- A formula with its indices set low: d_f, f_px,hero. -->
<script lang="ts">
  let { text }: { text: string } = $props();
  const pieces = $derived(text.split(/_([\p{L}\d]+(?:,\p{L}+)?)/u));
</script>

<span class="num"
  >{#each pieces as piece, i (i)}{#if i % 2}<sub>{piece}</sub>{:else}{piece}{/if}{/each}</span
>

<style>
  sub {
    font-size: 0.75em;
    line-height: 0;
  }
</style>
