<!-- What was photographed, out as numbered pictures with an edit and the sheet as a table. -->
<script lang="ts">
  import { onDestroy } from "svelte";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { Followed, isGoing } from "../../lib/events/job.svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Progress from "../../lib/ui/Progress.svelte";
  import type { Desk } from "./desk.svelte";

  let { desk }: { desk: Desk } = $props();
  type Format = Schemas["TakeOutIn"]["format"];
  const FORMATS = [
    ["png", "PNG"],
    ["tiff", "TIFF"],
    ["exr", "EXR"],
  ] as const;
  const HOLDS = [
    ["frames", "a picture a frame"],
    ["poses", "a picture a pose"],
  ] as const;
  let format = $state<NonNullable<Format>>("png");
  let expanded = $state(true);
  const asking = new Asking();
  const packing = new Followed(asking);
  const job = $derived(packing.job);
  onDestroy(() => packing.close());

  function pack() {
    void packing.ask((key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/pictures", {
          params: { path: { sheet_id: desk.id } },
          headers: { "Idempotency-Key": key },
          body: { version: desk.sheet!.version, format, expanded },
        }),
      ),
    );
  }
</script>

<section class="border-t border-line px-3 py-2" aria-label="Frames out">
  <h2 class="text-muted">Frames out</h2>
  <div class="mt-1 flex flex-wrap gap-2">
    <Choice label="As" value={format} options={FORMATS} onchange={(to) => (format = to)} />
    <Choice
      label="Holds"
      value={expanded ? "frames" : "poses"}
      options={HOLDS}
      onchange={(to) => (expanded = to === "frames")}
    />
  </div>
  <div class="mt-2 flex flex-wrap items-center gap-2">
    {#if job && isGoing(job)}
      <Progress class="w-28" value={job.progress} label="Packing the frames" />
      {#if packing.stops}<button class="btn" onclick={() => packing.stop()}>Stop</button>{/if}
    {:else}
      <button class="btn !border-line" onclick={pack}>Pack</button>
      {#if asking.said}<span class="text-shows" role="alert">{asking.said}</span>
      {:else if job?.opens}<a class="btn btn-solid" href={job.opens}>Save the ZIP</a>
      {:else if job}<span class={job.state === "failed" ? "text-shows" : "text-muted"}>{job.message}</span
        >{/if}
    {/if}
  </div>
  <p class="mt-1 text-muted">
    With an edit (OTIO) and the sheet (CSV). EXR is linear light, half floats; TIFF has 16 bits.
  </p>
</section>
