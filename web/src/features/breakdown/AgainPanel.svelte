<!-- What was filmed already and could serve again, and how well it fits. -->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { vocabulary } from "../../lib/vocabulary.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";

  let { shot, version }: { shot: number; version: number } = $props();
  const asking = new Asking();
  let found = $state.raw<Schemas["ReuseOut"][] | null>(null);

  $effect(() => {
    void version;
    void asking.read(async () => {
      found = await answered(
        client.GET("/api/shots/{shot_id}/reuse", { params: { path: { shot_id: shot } } }),
      );
    });
  });
</script>

{#if asking.said}<p role="alert" class="p-3">{asking.said}</p>{/if}
{#each found ?? [] as one (one.layer_id)}
  <section class="border-b border-line px-2 py-2">
    <h3 class="text-lg">{one.layer}</h3>
    <ul>
      {#each one.fits as fit (fit.name)}
        <li class="grid items-baseline gap-x-3 py-0.5 sm:grid-cols-[16rem_7rem_1fr]">
          <b class="truncate" {@attach tip(() => fit.name)}>{fit.name}{fit.mirrored ? ", flopped" : ""}</b>
          <span class="flex items-center gap-1.5"
            ><Verdict verdict={fit.verdict} label={false} />{vocabulary.verdict(fit.verdict).serves}</span
          >
          <span
            >{fit.aspects.map((aspect) => aspect.text).join("; ")}{#if fit.unknown.length}<span
                class="text-muted"
                >{fit.aspects.length ? "; " : ""}nobody knows its {fit.unknown.join(", ")}</span
              >{/if}</span
          >
        </li>
      {/each}
    </ul>
  </section>
{:else}
  {#if found}<p class="p-3 text-muted">
      Nothing in stock or in the other shots is of the same thing. What you film now may serve another shot:
      film skies and textures whenever they look good, and enter them under <a class="link" href="#/figures"
        >Rates and stock</a
      >.
    </p>{/if}
{/each}
