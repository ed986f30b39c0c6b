<!-- The call sheet of a day: the last one given out, what has changed since, and the next. -->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { answered, client } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import { place } from "../../lib/place.svelte";
  import { session } from "../../lib/session.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import { when } from "../../lib/ui/when";
  import type { DaysBoard } from "./days.svelte";

  let { board }: { board: DaysBoard } = $props();
  const found = $derived(board.day!);
  const sheet = $derived(found.sheet);
  const day = $derived(found.day);
  const printing = new Followed(new Asking());
  const job = $derived(printing.job);
  onDestroy(() => printing.close());

  // the print of the last sheet, whoever gave it out
  $effect(() => {
    const id = sheet?.job;
    if (!id || untrack(() => job?.id) === id) return;
    void printing.asking
      .read(() => answered(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: id } } })))
      .then((one) => one && printing.follow(one));
  });

  async function give(paper: "a4" | "letter") {
    const { person } = session;
    if (!person || !place.production) return;
    const path = { production_id: place.production };
    await printing.ask((key) =>
      answered(
        client.POST("/api/productions/{production_id}/call-sheets", {
          params: { path },
          headers: { "Idempotency-Key": key },
          body: { version: place.version, day: day.date, paper, units: person.units, school: person.school },
        }),
      ),
    );
    await board.read();
  }
  const calendar = (name: string) =>
    `/api/productions/${found.production_id}/calls.ics?name=${encodeURIComponent(name)}`;
</script>

<section class="border-b border-line px-3.5 py-2.5" aria-label="Call sheet">
  <div class="flex flex-wrap items-center gap-2">
    <h2 class="mr-auto">
      Call sheet {#if sheet}{sheet.number}
        <span class="font-normal text-muted">{when(sheet.issued_at)}, {sheet.issued_by}</span>
      {/if}
    </h2>
    {#if job && isGoing(job)}
      <Progress class="w-20" value={job.progress} label="Printing the call sheet" />
      {#if printing.stops}<button class="link" onclick={() => printing.stop()}>Stop</button>{/if}
    {:else}
      {#if job?.opens}<a class="btn !border-line" href={job.opens} target="_blank" rel="noopener">Open</a>
      {:else if job?.state === "failed" || job?.state === "stopped"}<button
          class="link"
          onclick={() => printing.again()}>Print it again</button
        >{/if}
      {#if board.writes && !day.over}
        <button class="btn !border-line" disabled={!day.slots.length} onclick={() => give("a4")}
          >{sheet ? `Give out sheet ${sheet.number + 1}` : "Give out a call sheet"}</button
        >
      {/if}
    {/if}
  </div>
  {#if printing.asking.said}<p class="mt-1" role="alert">{printing.asking.said}</p>{/if}
  {#if sheet?.changed.length}
    <p class="mt-1 text-tight">Otherwise by now:</p>
    <ul>
      {#each sheet.changed as one, number (number)}<li class="text-pretty">{one}</li>{/each}
    </ul>
  {:else if sheet}
    <p class="mt-1 text-muted">Nothing that it calls for has changed since.</p>
  {/if}
  {#if day.calls.length}
    <p class="mt-1 text-muted">
      Calendar of
      {#each day.calls as call, number (call.person)}{number ? ", " : ""}<a
          class="link"
          href={calendar(call.person)}
          download>{call.person}</a
        >{/each};
      <a class="link" href={`/api/productions/${found.production_id}/days.csv`} download>all days as CSV</a>
    </p>
  {/if}
</section>
