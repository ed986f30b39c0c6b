<!-- A close-up lens, a tube or a converter put on a lens: another lens, of which all follows. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import type { Kit, Row } from "./kit.svelte";

  let { kit, lenses }: { kit: Kit; lenses: Row[] } = $props();

  const PUT_ON = [
    ["dioptres", "a close-up lens of", "dioptres"],
    ["tube_mm", "an extension tube of", "mm"],
    ["converter", "a converter ×", ""],
  ] as const;
  const WHERE = "put";
  let asking = $state(false);
  let on = $state("");
  let what = $state<(typeof PUT_ON)[number][0]>("dioptres");
  let much = $state("2");
  const bare = $derived(lenses.filter((row) => row.values.on_id === null));

  function open() {
    on = String(bare[0]?.id ?? "");
    asking = true;
  }
  async function make(event: SubmitEvent) {
    event.preventDefault();
    const amount = Number(much.replace(",", "."));
    const fields = { name: "", on_id: Number(on), [what]: Number.isFinite(amount) ? amount : much };
    if (await kit.add("lens", fields, WHERE)) asking = false;
  }
</script>

{#if asking}
  <form class="my-2 flex flex-wrap items-center gap-2 border border-line bg-panel p-3" onsubmit={make}>
    <Select
      class="field !w-44"
      label="Lens"
      value={on}
      options={bare.map((row) => [String(row.id), kit.name(row)] as const)}
      onchange={(id) => (on = id)}
    />
    <span>with</span>
    <Select
      class="field !w-48"
      label="What is put on"
      value={what}
      options={PUT_ON.map(([key, name]) => [key, name] as const)}
      onchange={(key) => (what = key as typeof what)}
    />
    <input class="field num !w-20" aria-label="How much" inputmode="decimal" bind:value={much} />
    <span class="text-sm text-muted">{PUT_ON.find(([key]) => key === what)?.[2]}</span>
    <button class="btn btn-solid">Make this lens</button>
    <button type="button" class="btn !border-line" onclick={() => (asking = false)}>Leave it</button>
    {#if kit.failed === WHERE && kit.asking.said}<p role="alert" class="w-full">{kit.asking.said}</p>{/if}
  </form>
{:else if bare.length}
  <button class="link my-1.5 text-muted" onclick={open}>Put something on a lens</button>
{/if}
