<!-- What lies beside the sheet and beneath the picture: a stand-in's performance, the live plate. -->
<script lang="ts">
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import Slider from "../../lib/ui/Slider.svelte";
  import { Film, frameAt, proxyOf, type Clip, type Clips } from "./clips.svelte";
  import type { Desk } from "./desk.svelte";

  let { desk, clips }: { desk: Desk; clips: Clips } = $props();
  const USES = [
    ["performance", "Performance"],
    ["plate", "Live plate"],
  ] as const;
  type Use = (typeof USES)[number][0];
  const HOW = [
    ["mixed", "mixed"],
    ["added", "added"],
    ["keyed", "keyed"],
  ] as const;
  const films = $derived(desk.sheet?.films ?? []);
  const clipOf = (use: Use) => desk.sheet?.clips.find((one) => one.use === use) ?? null;
  const performance = $derived(clipOf("performance"));
  const plate = $derived(clipOf("plate"));
  const how = $derived(HOW.filter(([key]) => key !== "keyed" || desk.sheet?.backing));
  const LAID = {
    whole: "as it is",
    mixed: "mixed",
    added: "added",
    screened: "screened",
    multiplied: "multiplied",
    keyed: "keyed",
  } as const;
  const others = $derived(desk.sheet?.beside ?? []);
  const beneath = $derived(
    (plate && clips.beneath) || others.some((one) => !one.in_front && clips.seen[one.layer_id]),
  );
  const options = $derived([
    ["", "none"] as const,
    ...films.map((one) => [String(one.recording_id), one.name] as const),
  ]);
  function chosen(use: Use, to: string) {
    const clip = clipOf(use);
    if (!to) return clip && void desk.writes.clip(clip, { removed: true }, "take a recording away");
    if (clip) return void desk.writes.clip(clip, { recording_id: Number(to) }, "another recording");
    void desk.writes.addClip(use, Number(to));
  }
  function begins(clip: { first_frame: number }, event: Event, write: (to: number) => void) {
    const field = event.currentTarget as HTMLInputElement;
    const to = Math.round(Number(field.value));
    if (!field.value.trim() || !(to >= 1)) field.value = String(clip.first_frame);
    else if (to !== clip.first_frame) write(to);
  }
  const begun = (clip: Clip) => (to: number) =>
    void desk.writes.clip(clip, { first_frame: to }, "where it begins");

  let video = $state<HTMLVideoElement | null>(null);
  let film: Film | null = null;
  $effect(() => {
    if (!video) return;
    const made = (film = new Film(video, () => undefined));
    return () => {
      made.close();
      film = null;
    };
  });
  const at = $derived(performance && frameAt(performance, clips.frame, desk.sheet?.rate_fps ?? 24));
  $effect(() => {
    void video;
    if (performance && at !== null) film?.go(at, performance.rate_fps);
  });
</script>

{#if films.length || others.length}
  <section class="border-t border-line px-3 py-2" aria-label="Beside and beneath">
    <h2 class="text-muted">Beside and beneath</h2>
    {#each USES as [use, name] (use)}
      {@const clip = clipOf(use)}
      <div class="mt-1 grid grid-cols-[5.5rem_minmax(0,1fr)] items-center gap-x-2 gap-y-1">
        <span>{name}</span>
        {#if desk.takes}
          <Select
            label={name}
            value={clip ? String(clip.recording_id) : ""}
            {options}
            onchange={(to) => chosen(use, to)}
          />
        {:else}<span class="text-muted">{clip?.name ?? "none"}</span>{/if}
        {#if clip}
          <label for={`first-${clip.id}`} class="text-muted">from its frame</label>
          <input
            id={`first-${clip.id}`}
            class="field num"
            value={clip.first_frame}
            disabled={!desk.takes}
            onchange={(event) => begins(clip, event, begun(clip))}
          />
        {/if}
      </div>
    {/each}
    {#if others.length}
      <h3 class="mt-2 text-muted">The shot's other layers, front first</h3>
      <ul>
        {#each others as one (one.layer_id)}
          <li>
            <div class="flex min-h-7 items-center gap-2">
              <label class="flex min-w-0 flex-1 items-center gap-1.5"
                ><input
                  type="checkbox"
                  class="size-4 shrink-0 accent-ink"
                  checked={clips.seen[one.layer_id] ?? false}
                  onchange={(event) => (clips.seen[one.layer_id] = event.currentTarget.checked)}
                /><span class="truncate">{one.name}</span></label
              >
              <span class="shrink-0 text-muted">{one.in_front ? "in front" : "behind"}, {LAID[one.laid]}</span
              >
            </div>
            {#if one.clip && clips.seen[one.layer_id]}
              {@const clip = one.clip}
              <label class="flex items-center gap-2 pl-6"
                ><span class="min-w-0 flex-1 truncate text-muted" title={clip.name}>{clip.name}</span><span
                  class="text-muted">from its frame</span
                ><input
                  class="field num w-14 shrink-0"
                  aria-label={`${one.name}, from its frame`}
                  value={clip.first_frame}
                  disabled={!desk.takes}
                  onchange={(event) =>
                    begins(clip, event, (to) => void desk.writes.layerBegins(clip, to, one.name))}
                /></label
              >
            {/if}
          </li>
        {/each}
      </ul>
    {/if}
    {#if plate || beneath}
      <div class="mt-2 flex flex-wrap items-center gap-2">
        {#if plate}
          <button
            class="btn !border-line"
            aria-pressed={clips.beneath}
            onclick={() => (clips.beneath = !clips.beneath)}>Plate beneath</button
          >
        {/if}
        {#if beneath}
          <Choice
            label="How it is laid over what is beneath"
            value={clips.how}
            options={how}
            onchange={(to) => (clips.how = to)}
          />
          {#if clips.how === "keyed" && clips.noSheet}
            <p class="basis-full text-muted" role="status">
              No {desk.sheet?.backing} sheet is seen in the picture: it is mixed.
            </p>
          {/if}
          {#if clips.how === "mixed" || (clips.how === "keyed" && clips.noSheet)}
            <Slider
              label="How much of what is animated"
              value={100 * clips.amount}
              most={100}
              class="w-24"
              onchange={(to) => (clips.amount = to / 100)}
            />
          {/if}
        {/if}
      </div>
    {/if}
    {#if performance}
      {#key performance.recording_id}
        <!-- svelte-ignore a11y_media_has_caption -->
        <video
          bind:this={video}
          src={proxyOf(performance)}
          class="mt-2 w-full bg-black"
          aria-label={`${performance.name} at frame ${clips.frame}`}
          data-frame={at}
        ></video>
      {/key}
      <p class="num text-muted">its frame {(at ?? 0) + 1}, at frame {clips.frame} of the shot</p>
    {/if}
  </section>
{/if}
