<!-- A page whose program could not be fetched. -->
<script lang="ts">
  const again = () => window.location.reload();
</script>

<main class="grid h-full place-content-center gap-3 p-6 text-center">
  <p role="alert">This page could not be fetched: there is no connection, or a new version is there.</p>
  <button class="btn mx-auto" onclick={again}>Try again</button>
</main>
