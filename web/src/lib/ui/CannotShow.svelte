<!-- A shot that is not here, or that cannot be shown: why, and where to go from here. -->
<script lang="ts">
  let { why }: { why: string } = $props();
</script>

<main class="grid h-full place-content-center gap-3 p-6 text-center">
  <p class="max-w-96" role="alert">{why}</p>
  <p class="flex flex-wrap justify-center gap-2">
    <a class="btn" href="#/">Go to the shots</a>
    <a class="btn" href="#/history">See what was changed</a>
  </p>
</main>
