<!-- A button that asks for a name and makes something of it. What is refused stays in the field. -->
<script lang="ts">
  let {
    button,
    label,
    verb,
    asking = $bindable(false),
    onmake,
  }: {
    button: string;
    label: string;
    verb: string;
    asking?: boolean;
    onmake: (name: string) => Promise<boolean>;
  } = $props();
  let name = $state("");

  async function make(event: Event) {
    event.preventDefault();
    if (!(await onmake(name))) return;
    asking = false;
    name = "";
  }
</script>

{#if asking}
  <form class="flex gap-2" onsubmit={make}>
    <!-- svelte-ignore a11y_autofocus -->
    <input class="field !w-48" aria-label={label} placeholder={label} autofocus bind:value={name} />
    <button class="btn btn-solid">{verb}</button>
    <button type="button" class="btn !border-line" onclick={() => (asking = false)}>Leave it</button>
  </form>
{:else}
  <button class="btn btn-solid" onclick={() => (asking = true)}>{button}</button>
{/if}
