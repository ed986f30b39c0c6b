<!-- Where a photograph was taken, from its tags, if one wants that. By asking, nothing of it is kept. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { photographForm } from "../../lib/photograph";

  let { onplace }: { onplace: (found: { latitude_deg: number; longitude_deg: number }) => unknown } =
    $props();

  const asking = new Asking();
  let found = $state.raw<Schemas["TagsOut"] | null>(null);
  let name = $state("");

  async function look(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    input.value = "";
    if (!file) return;
    found = null;
    name = file.name;
    found =
      (await asking.run(() =>
        answered(
          client.POST("/api/photographs/tags", {
            body: photographForm(file, true) as never,
            bodySerializer: (body) => body as never,
          }),
        ),
      )) ?? null;
  }
  const there = $derived(
    found && found.latitude_deg !== null && found.longitude_deg !== null
      ? { latitude_deg: found.latitude_deg, longitude_deg: found.longitude_deg }
      : null,
  );
</script>

<div class="flex flex-wrap items-center gap-x-3 gap-y-1 text-sm">
  <label class="link text-muted pointer-coarse:py-2"
    >Take it from a photograph
    <input
      type="file"
      class="sr-only"
      accept="image/jpeg,image/tiff,image/png,image/webp"
      aria-label="Photograph that says where it was taken"
      onchange={look}
    />
  </label>
  {#if asking.said}<span role="alert">{asking.said}</span>
  {:else if there}
    <span
      >{name}:
      <span class="num">{there.latitude_deg.toFixed(4)}, {there.longitude_deg.toFixed(4)}</span></span
    >
    <button
      type="button"
      class="btn"
      onclick={() => {
        const place = there;
        found = null;
        void onplace(place);
      }}>Use this place</button
    >
    <button type="button" class="link text-muted" onclick={() => (found = null)}>Leave it</button>
  {:else if found}<span role="alert">{name} does not say where it was taken.</span>{/if}
</div>
