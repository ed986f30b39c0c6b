<script lang="ts">
  import { place } from "../place.svelte";
</script>

<main class="grid h-full place-content-center gap-3 p-6 text-center">
  <h1 class="text-lg">Nothing is kept at this address</h1>
  <a class="btn mx-auto" href={place.shot ? `#/shots/${place.shot}/bench` : "#/"}
    >{place.shot ? "Back to the Bench" : "Go to the shots"}</a
  >
</main>
