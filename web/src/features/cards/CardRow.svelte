<!-- A file of a card: what it says, whose it is and why, what it says otherwise than was logged. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import { clock } from "../../lib/ui/when";
  import { bytes, choices, length, takeName, type Recording, type Take } from "./cards";

  let {
    one,
    takes,
    busy,
    onfile,
    onlog,
  }: {
    one: Recording;
    takes: readonly Take[];
    busy: boolean;
    onfile: (take: number | null) => void;
    /** Log the take that its slate names. */
    onlog: (slate: Recording["slates"][number]) => void;
  } = $props();

  const says = $derived(
    [
      [one.length_s === null ? "" : length(one.length_s), bytes(one.size_bytes), one.timecode],
      [one.recorded, one.camera],
      one.settings,
    ]
      .map((parts) => parts.filter(Boolean).join(" · "))
      .filter(Boolean),
  );
  const unlogged = $derived(one.slates.find((slate) => slate.take_id === null && slate.layer_id !== null));
  const options = $derived<[string, string][]>([["", "no take"], ...choices(one, takes)]);
  let choosing = $state(false);
  const WORDS = { matched: "Matched", likely: "Likely", unknown: "Unknown" };
  const BY = {
    code: "by its slate",
    time: "by its time",
    settings: "by its settings",
    hand: "by hand",
    "": "",
  };
</script>

<li
  class={[
    "grid grid-cols-[7.5rem_minmax(0,1fr)] gap-x-3 border-b border-line px-4 py-2.5",
    "sm:grid-cols-[10rem_minmax(0,1fr)_minmax(0,1.1fr)]",
  ]}
>
  <div class="row-span-2 sm:row-span-1">
    {#if one.picture}<img
        src={one.picture}
        alt={`A frame of ${one.name}`}
        class="aspect-video w-full bg-panel object-contain"
        loading="lazy"
      />{:else}<div class="grid aspect-video w-full place-content-center bg-panel text-muted">
        no picture
      </div>{/if}
  </div>
  <div class="min-w-0">
    <p class="flex flex-wrap items-baseline gap-x-2">
      <b class="num break-all">{one.name}</b>
      {#if one.began_at}<span class="text-muted" title="By the camera's own clock">{clock(one.began_at)}</span
        >{/if}
      {#if !one.here}<span class="text-muted">not on the card any more</span>{/if}
    </p>
    {#each says as line (line)}<p class="num text-muted">{line}</p>{/each}
    {#each one.slates as slate (slate.code)}
      <p>
        Slate: {slate.shot || "?"}{slate.layer ? ` · ${slate.layer}` : ""} · take {slate.number}
        <span class="num text-muted">{slate.code}</span>
      </p>
    {/each}
    {#if one.copied_to}<p class="break-all text-muted" title={`SHA-256 ${one.sha256}`}>
        Copied and read back: <span class="num">{one.copied_to}</span>
      </p>{/if}
  </div>
  <div class="min-w-0 max-sm:col-span-2 max-sm:col-start-1 max-sm:mt-1.5">
    {#if one.fault}
      <p><b>Cannot be used.</b> {one.fault}</p>
    {:else}
      <p class="flex flex-wrap items-baseline gap-x-2">
        <b class={one.filed ? "" : "border border-ink px-1.5 text-sm"}
          >{one.filed ? "Filed" : WORDS[one.sure]}</b
        >
        {#if one.take}<a class="link" href={`#/shots/${one.take.shot_id}/log`}>{takeName(one.take)}</a>{/if}
        <span class="text-muted">{one.filed || one.take ? BY[one.by] : ""}</span>
      </p>
      {#if one.why}<p class="text-muted">{one.why}</p>{/if}
      {#if one.differs.length}
        <p>
          From the file: {#each one.differs as each, i (each.field)}{i ? ", " : ""}{each.label.toLowerCase()}
            <b class="num">{each.after}</b> <span class="text-muted">(logged {each.before})</span>{/each}
        </p>
      {/if}
      <div class="mt-1.5 flex flex-wrap items-center gap-2">
        {#if !one.filed && one.take}
          <button class="btn" disabled={busy} onclick={() => onfile(one.take!.id)}
            >File it there<span class="sr-only">: {one.name}</span></button
          >
        {/if}
        {#each one.filed ? [] : one.others as other (other.id)}
          <button class="btn !border-line" disabled={busy} onclick={() => onfile(other.id)}
            >{takeName(other)}<span class="sr-only">: {one.name}</span></button
          >
        {/each}
        {#if !one.filed && unlogged}
          <button class="btn" disabled={busy} onclick={() => onlog(unlogged)}
            >Log the take on its slate<span class="sr-only">: {one.name}</span></button
          >
        {/if}
        {#if choosing}
          <Select
            class="field !w-auto max-w-full"
            label={`The take of ${one.name}`}
            value={one.filed ? String(one.take?.id ?? "") : ""}
            {options}
            disabled={busy}
            onchange={(to) => {
              choosing = false;
              onfile(to ? Number(to) : null);
            }}
          />
          <button class="link text-muted pointer-coarse:min-h-11" onclick={() => (choosing = false)}
            >leave it</button
          >
        {:else}
          <button
            class="link text-muted pointer-coarse:min-h-11"
            disabled={busy}
            onclick={() => (choosing = true)}
            >{one.filed || one.take || one.others.length ? "another take" : "choose its take"}<span
              class="sr-only">: {one.name}</span
            ></button
          >
        {/if}
      </div>
    {/if}
  </div>
</li>
