<!-- Something printed by the workers: asked for, followed, stopped, opened. -->
<script lang="ts">
  import Progress from "../../lib/ui/Progress.svelte";
  import { onDestroy } from "svelte";
  import { answered, client } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { session } from "../../lib/session.svelte";

  let { what, id, version, label }: { what: "book" | "page"; id: number; version: number; label: string } =
    $props();
  const asking = new Asking();
  const printing = new Followed(asking);
  const job = $derived(printing.job);
  onDestroy(() => printing.close());

  function make() {
    const person = session.person;
    if (!person) return;
    const body = { version, paper: "a4" as const, units: person.units, school: person.school };
    void printing.ask((key) => {
      const headers = { "Idempotency-Key": key };
      return what === "book"
        ? answered(
            client.POST("/api/productions/{production_id}/book", {
              params: { path: { production_id: id } },
              headers,
              body,
            }),
          )
        : answered(
            client.POST("/api/shots/{shot_id}/page", { params: { path: { shot_id: id } }, headers, body }),
          );
    });
  }
</script>

<span class="inline-flex items-center gap-2" aria-live="polite">
  {#if job && isGoing(job)}
    <Progress class="w-24" value={job.progress} label={`Printing the ${what}`} />
    {#if printing.stops}<button class="link" onclick={() => printing.stop()}>Stop</button>{/if}
  {:else if job?.opens}
    <a class="btn btn-solid" href={job.opens} target="_blank">Open the {what}</a>
    <button class="link" onclick={make}>anew</button>
  {:else}
    <button class="btn !border-line" onclick={make}>{label}</button>
    {#if asking.said || job?.state === "failed"}<span role="alert">{asking.said || job?.message}</span>{/if}
  {/if}
</span>
