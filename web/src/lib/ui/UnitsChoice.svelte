<!-- Metres or feet, for whoever is signed in. -->
<script lang="ts">
  import { session } from "../session.svelte";
  import Choice from "./Choice.svelte";
</script>

<Choice
  label="Units"
  value={session.units}
  options={[
    ["metric", "m"],
    ["imperial", "ft"],
  ]}
  onchange={(units) => session.prefer({ units })}
/>
