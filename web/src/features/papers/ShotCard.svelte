<!--
  The printed card of one shot: asked for on either paper, followed, stopped, opened; what was printed last is
  still there.
-->
<script lang="ts">
  import Progress from "../../lib/ui/Progress.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import { onDestroy, untrack } from "svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { session } from "../../lib/session.svelte";
  import { when } from "../../lib/ui/when";

  let { shot, version, last }: { shot: number; version: number; last: Schemas["JobOut"] | null } = $props();
  const asking = new Asking();
  const printing = new Followed(
    asking,
    untrack(() => last),
  );
  const job = $derived(printing.job);
  onDestroy(() => printing.close());

  function make(paper: "a4" | "letter") {
    const person = session.person;
    if (!person) return;
    void printing.ask((key) =>
      answered(
        client.POST("/api/shots/{shot_id}/cards", {
          params: { path: { shot_id: shot } },
          headers: { "Idempotency-Key": key },
          body: { version, paper, units: person.units, school: person.school },
        }),
      ),
    );
  }
</script>

{#if job && isGoing(job)}
  <span class="text-muted">{job.state === "waiting" ? "waiting for a free worker" : ""}</span>
  <Progress class="w-28" value={job.progress} label="Making the card" />
  {#if printing.stops}<button class="btn" onclick={() => printing.stop()}>Stop</button>{/if}
{:else}
  {#if asking.said}<span class="text-shows max-sm:w-full" role="alert">{asking.said}</span>
  {:else if job?.opens}
    <span class="num text-muted">{when(job.asked_at)}</span>
    <a class="btn btn-solid" href={job.opens} target="_blank" rel="noopener" {@attach tip(() => job.title)}
      >Open the card</a
    >
  {:else if job}<span class={job.state === "failed" ? "text-shows max-sm:w-full" : "text-muted"}
      >{job.message}</span
    >
    <button class="link whitespace-nowrap" onclick={() => printing.again()}>Try again</button>{/if}
  <button class="btn" onclick={() => make("a4")}>Make card, A4</button>
  <button class="btn" onclick={() => make("letter")}>US Letter</button>
{/if}
