<!-- Which shots would be judged otherwise, worked out a piece at a time, before anything is saved. -->
<script lang="ts">
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { plural } from "../../lib/hours";
  import { session } from "../../lib/session.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import type { Values } from "./film.svelte";

  let {
    id,
    changes,
    busy,
    onuse,
    onleave,
  }: { id: number; changes: Values; busy: boolean; onuse: () => void; onleave: () => void } = $props();

  const WORDS = ["shows", "tight", "holds"] as const;
  const asking = new Asking();
  let shots = $state.raw<Schemas["TriedShot"][]>([]);
  let looked = $state(0);
  let done = $state(false);
  let turn = 0;

  async function look(wanted: Values) {
    const mine = ++turn;
    shots = [];
    looked = 0;
    done = false;
    let start: number | null = 0;
    while (start !== null) {
      const found: Schemas["TriedFilm"] | undefined = await asking.run(() =>
        answered(
          client.POST("/api/productions/{production_id}/tried", {
            params: { path: { production_id: id } },
            body: { changes: wanted, school: session.school, start: start ?? 0 },
          }),
        ),
      );
      if (mine !== turn || !found) return;
      shots = [...shots, ...found.shots];
      looked += found.looked_at;
      start = found.next;
    }
    done = true;
  }
  $effect(() => void look(changes));
  const before = $derived(looked > shots.length ? `${plural(looked - shots.length, "shot")} as before` : "");
</script>

<section class="border border-ink bg-raised p-3" aria-label="What would be judged otherwise">
  <div class="flex flex-wrap items-baseline gap-x-4 gap-y-1">
    <b>{done ? `${plural(shots.length, "shot")} would be judged otherwise` : "Judging with this…"}</b>
    <span class="text-muted" aria-live="polite">{done ? before : `${plural(looked, "shot")} looked at`}</span>
    <span class="ml-auto flex gap-2">
      <button class="btn btn-solid" disabled={busy} onclick={onuse}>Save it</button>
      <button class="btn !border-line" onclick={onleave}>Leave it</button>
    </span>
  </div>
  {#if asking.said}<p role="alert" class="mt-1">{asking.said}</p>{/if}
  {#if shots.length}
    <div class="mt-2 max-h-96 overflow-y-auto">
      <table class="w-full">
        <thead class="text-left text-sm text-muted">
          <tr
            ><th class="py-0.5 pr-3 font-normal">Shot</th>
            {#each WORDS as word (word)}<th class="px-2 text-right font-normal whitespace-nowrap"
                >{vocabulary.verdict(word).title}</th
              >{/each}
            <th class="pl-4 font-normal">What shows most, then</th></tr
          >
        </thead>
        <tbody>
          {#each shots as shot (shot.id)}
            <tr class="border-t border-line align-baseline">
              <td class="py-1 pr-3"
                ><a class="link num" href={`#/shots/${shot.id}/bench`}>{shot.code}</a>
                <span class="max-sm:hidden">{shot.title}</span></td
              >
              {#each WORDS as word (word)}
                {@const was = shot.before[word] ?? 0}
                {@const now = shot.after[word] ?? 0}
                <td class={["num px-2 text-right whitespace-nowrap", was === now && "text-muted"]}
                  >{was === now ? was : `${was} → ${now}`}</td
                >
              {/each}
              <td class="pl-4">{shot.worst_after || "nothing"}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
</section>
