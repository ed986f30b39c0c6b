<!-- What can hurt somebody in this shot, at the camera: the safer way and who is asked, one touch away. -->
<script lang="ts">
  import { untrack } from "svelte";
  import { answered, client, Offline, Refused, type Schemas } from "../../lib/api/client";
  import { whenOthersWrite } from "../../lib/events/told.svelte";

  let { shot }: { shot: number } = $props();
  let plan = $state.raw<Schemas["PlanOut"] | null>(null);
  let open = $state(false);
  const left = $derived((plan?.hazards ?? []).filter((one) => !one.signed).length);

  async function read() {
    try {
      const path = { shot_id: shot };
      plan = await answered(client.GET("/api/shots/{shot_id}/plan", { params: { path } }));
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
    }
  }
  $effect(() => {
    void shot;
    untrack(() => {
      plan = null;
      void read();
    });
  });
  whenOthersWrite(read, (told) => told.shot === shot || told.shot === null);
</script>

{#if plan?.hazards.length}
  <section class="shrink-0 border-b border-line" aria-label="Cautions">
    <button
      class="flex min-h-11 w-full cursor-pointer items-center gap-3 px-3.5 text-left"
      aria-expanded={open}
      onclick={() => (open = !open)}
    >
      <b>Cautions</b>
      <span class="min-w-0 flex-1 truncate text-muted"
        >{plan.hazards.map((one) => one.title).join(" · ")}</span
      >
      <b>{left ? `${left} open` : "all signed off"}</b>
    </button>
    {#if open}
      <div class="max-h-[45vh] overflow-y-auto px-3.5 pb-2">
        <p class="text-muted">{plan.deference}</p>
        {#each plan.hazards as one (one.key)}
          <div class="mt-2 border-t border-line pt-2">
            <p>
              <b>{one.title}</b>
              <span class="text-muted">{one.signed ? `signed off by ${one.signed.by}` : "open"}</span>
            </p>
            <p><b>Safer:</b> {one.safer}</p>
            <p>{one.text}</p>
            <p><b>Ask:</b> {one.ask}</p>
          </div>
        {/each}
      </div>
    {/if}
  </section>
{/if}
