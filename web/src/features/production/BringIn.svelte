<!-- A production's file brought in: it becomes a production of its own, whole, or nothing of it does. -->
<script lang="ts">
  import { push } from "svelte-spa-router";
  import { answered, client, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { place } from "../../lib/place.svelte";

  const sending = new Asking();
  let came = $state.raw<Schemas["CameInOut"] | null>(null);

  async function chosen(event: Event & { currentTarget: HTMLInputElement }) {
    const file = event.currentTarget.files?.[0];
    event.currentTarget.value = ""; // the same file can be chosen again
    if (!file) return;
    const body = new FormData();
    body.append("file", file);
    const done = await sending.run(() =>
      answered(
        client.POST("/api/film-file", { body: body as never, bodySerializer: (form) => form as never }),
      ),
    );
    if (!done) return;
    await place.readProductions();
    place.open(done.id);
    came = done;
    if (!done.left_out.length) await push("/");
  }
  const count = (number: number, word: string) => `${number} ${word}${number === 1 ? "" : "s"}`;
</script>

<div class="grid gap-2">
  {#if came}
    <p>
      <b>{came.title}</b> is here: {count(came.shots, "shot")}, {count(came.takes, "take")}, {count(
        came.pictures,
        "picture",
      )}. Its file is of a newer version; what this one knows nothing of stayed out:
    </p>
    <ul class="list-disc pl-5 text-muted">
      {#each came.left_out as one (one)}<li>{one}</li>{/each}
    </ul>
    <a class="btn btn-solid justify-self-start" href="#/">Open it</a>
  {:else}
    <div class="flex flex-wrap items-center gap-x-3 gap-y-2">
      <label class="btn !border-line focus-within:outline-2" class:opacity-50={sending.busy}>
        {sending.busy ? "Bringing it in…" : "Choose its file"}
        <input
          type="file"
          class="sr-only"
          accept=".zip,application/zip"
          aria-label="Choose the file of a production"
          disabled={sending.busy}
          onchange={chosen}
        />
      </label>
      <span class="text-muted">A zip that was taken out of a production, here or on another machine.</span>
    </div>
    {#if sending.said}<p role="alert">{sending.said}</p>{/if}
  {/if}
</div>
