<!--
  Shots from a file or from what is typed: first what it would do and what is wrong with it, then all of it or
  nothing.
-->
<script lang="ts">
  import { tip } from "../../lib/ui/tip.svelte";
  import { Dialog } from "bits-ui";
  import { answered, client, writeKey, type Schemas } from "../../lib/api/client";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { place } from "../../lib/place.svelte";
  import { plural } from "../../lib/hours";

  let {
    open = $bindable(false),
    production,
    onchange,
  }: { open: boolean; production: number; onchange: () => void } = $props();

  const KINDS = {
    csv: "a table (CSV)",
    fountain: "a screenplay",
    otio: "a timeline",
    edl: "an edit list",
    lines: "typed lines",
  };
  const EXAMPLE = "TM130 The last tide, the sea takes the quay (96)\nTM140 Wren at the window";
  const asking = new Asking();
  let name = $state("");
  let text = $state("");
  let seen = $state.raw<Schemas["PreviewOut"] | null>(null);
  let waiting = 0;
  let turn = 0;

  function changed() {
    seen = null;
    window.clearTimeout(waiting);
    if (text.trim()) waiting = window.setTimeout(() => void look(), 350);
  }
  async function look() {
    const own = ++turn;
    const body = { name, text, kind: "" as const };
    const found = await asking.run(() =>
      answered(
        client.POST("/api/productions/{production_id}/preview", {
          params: { path: { production_id: production } },
          body,
        }),
      ),
    );
    if (own === turn) seen = found ?? null;
  }
  async function choose(event: Event) {
    const file = (event.currentTarget as HTMLInputElement).files?.[0];
    if (!file) return;
    name = file.name;
    text = await file.text();
    await look();
  }
  async function take() {
    const done = await asking.run(() =>
      answered(
        client.POST("/api/productions/{production_id}/take-in", {
          params: { path: { production_id: production } },
          headers: { "Idempotency-Key": writeKey() },
          body: { version: place.version, name, text, kind: "" },
        }),
      ),
    );
    if (!done) {
      if (asking.at("version")) await place.readProductions();
      return;
    }
    open = false;
    name = text = "";
    seen = null;
    onchange();
  }
  const fits = $derived(seen && !seen.faults.length && seen.new + seen.changed > 0);
  const inWords = (field: string) => ({ length_frames: "frames", position: "order" })[field] ?? field;
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="fixed inset-0 z-40 bg-black/60" />
    <Dialog.Content
      class={[
        "fixed top-1/2 left-1/2 z-50 flex max-h-[92vh] w-[min(58rem,96vw)] -translate-x-1/2",
        "-translate-y-1/2 flex-col border border-ink bg-raised p-4",
      ]}
    >
      <Dialog.Title class="text-lg font-strong">Add shots</Dialog.Title>
      <Dialog.Description class="mt-1 text-muted">
        One shot a line: code, title, a comma and what happens, the frames in brackets. Or a table (CSV), a
        screenplay (Fountain or plain text: scenes, and lines marked with FX: or [[fx …]]), a timeline (OTIO)
        or an edit list (CMX 3600). A code that is there already is changed, not doubled.
      </Dialog.Description>
      <div class="mt-3 flex flex-wrap items-center gap-3">
        <label class="btn !border-line">
          Choose a file
          <input
            type="file"
            class="sr-only"
            accept=".csv,.tsv,.txt,.fountain,.otio,.edl,text/plain,text/csv,application/json"
            onchange={choose}
          />
        </label>
        {#if name}<span class="truncate">{name}</span>{/if}
        {#if !text}<button
            class="link"
            onclick={() => {
              text = EXAMPLE;
              changed();
            }}>Show me an example</button
          >{/if}
      </div>
      <textarea
        class="num mt-2 min-h-24 w-full flex-1 border border-line bg-ground p-2"
        rows="5"
        aria-label="Shots, one a line"
        placeholder={EXAMPLE}
        bind:value={text}
        oninput={() => {
          name = "";
          changed();
        }}></textarea>
      {#if asking.said}<p role="alert" class="mt-2">{asking.said}</p>{/if}
      {#if seen}
        <p class="mt-2" aria-live="polite">
          Read as {KINDS[seen.kind as keyof typeof KINDS] ?? seen.kind}:
          <b>{plural(seen.new, "new shot")}</b>, {seen.changed}
          changed,
          {seen.same} the same. {seen.notes.join(" ")}
        </p>
        {#if seen.faults.length}
          <div role="alert" class="mt-2 max-h-40 overflow-y-auto border border-ink p-2">
            <b
              >{plural(seen.faults.length + seen.more_faults, "fault")}: nothing is taken in until they are
              mended.</b
            >
            <ul>
              {#each seen.faults as one, i (i)}<li>
                  <span class="num"
                    >{one.line ? `line ${one.line}` : "the file"}{one.column ? `, ${one.column}` : ""}</span
                  >: {one.message}
                </li>{/each}
            </ul>
            {#if seen.more_faults}<p class="text-muted">and {seen.more_faults} more.</p>{/if}
          </div>
        {/if}
        {#if seen.rows.length}
          <div class="mt-2 max-h-64 min-h-0 overflow-auto border border-line">
            <table class="w-full">
              <thead
                ><tr class="text-left">
                  {#each ["Line", "", "Shot", "Title", "What happens", "Frames", "Place"] as head, i (i)}<th
                      class="sticky top-0 bg-raised px-2 py-1 font-strong">{head}</th
                    >{/each}
                </tr></thead
              >
              <tbody>
                {#each seen.rows as row (row.line + row.code)}
                  <tr class={row.state === "same" ? "text-muted" : ""}>
                    <td class="num px-2">{row.line}</td>
                    <td class="px-2 whitespace-nowrap"
                      >{row.state === "changed"
                        ? `changes ${row.changes.map(inWords).join(", ")}`
                        : row.state}</td
                    >
                    <td class="num px-2 whitespace-nowrap">{row.code}</td>
                    <td class="max-w-48 truncate px-2" {@attach tip(() => row.title)}>{row.title}</td>
                    <td class="max-w-64 truncate px-2" {@attach tip(() => row.description)}
                      >{row.description}</td
                    >
                    <td class="num px-2 text-right">{row.length_frames ?? ""}</td>
                    <td class="max-w-32 truncate px-2">{row.place}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
            {#if seen.more}<p class="px-2 py-1 text-muted">and {seen.more} more.</p>{/if}
          </div>
        {/if}
      {/if}
      <div class="mt-3 flex items-center gap-3">
        <button class="btn btn-solid" disabled={!fits || asking.busy} onclick={take}
          >{seen && fits ? `Take in ${plural(seen.new + seen.changed, "shot")}` : "Take in"}</button
        >
        <Dialog.Close class="btn !border-line">Leave it</Dialog.Close>
      </div>
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
