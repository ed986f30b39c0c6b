<!-- Find anything: for now the shots of the production, by code, title or description. -->
<script lang="ts">
  import { Command, Dialog } from "bits-ui";
  import { push } from "svelte-spa-router";
  import { place } from "../place.svelte";
  import { session } from "../session.svelte";

  let { open = $bindable(false) }: { open: boolean } = $props();

  $effect(() => {
    if (open && !place.shots) void place.readShots(session);
  });

  function hasEveryWord(value: string, search: string, keywords: string[] = []): number {
    const all = [value, ...keywords].join(" ").toLowerCase();
    return search
      .toLowerCase()
      .split(/\s+/)
      .every((word) => all.includes(word))
      ? 1
      : 0;
  }
  function go(id: number) {
    open = false;
    void push(`/shots/${id}/bench`);
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class="fixed top-[12vh] left-1/2 z-50 w-[min(34rem,94vw)] -translate-x-1/2 border border-ink bg-raised"
    >
      <Dialog.Title class="sr-only">Find a shot</Dialog.Title>
      <Command.Root filter={hasEveryWord}>
        <Command.Input
          class="h-11 w-full border-b border-line bg-transparent px-3 text-lg outline-none"
          placeholder="Code, title, words of the description"
        />
        <Command.List class="max-h-[50vh] overflow-y-auto p-1">
          <Command.Empty class="p-3 text-muted">No shot has these words.</Command.Empty>
          {#each place.shots ?? [] as shot (shot.id)}
            <Command.Item
              value={`${shot.code} ${shot.title}`}
              keywords={[shot.description]}
              onSelect={() => go(shot.id)}
              class={[
                "flex min-h-9 cursor-pointer items-center gap-3 px-2 data-selected:bg-ink",
                "data-selected:text-ground",
              ]}
            >
              <span class="num">{shot.code}</span> <span class="truncate">{shot.title}</span>
              {#if shot.verdict}<span class="ml-auto flex items-center gap-1.5">{shot.verdict}</span>{/if}
            </Command.Item>
          {/each}
        </Command.List>
      </Command.Root>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
