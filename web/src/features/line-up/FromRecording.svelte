<!-- A frame of a recording that was filed to a take: looked for by its second, held to be lined up with. -->
<script lang="ts">
  import Select from "../../lib/ui/Select.svelte";
  import Slider from "../../lib/ui/Slider.svelte";
  import { Offline, Refused } from "../../lib/api/client";
  import { frameOf } from "../../lib/api/shot";
  import { Latest } from "../../lib/edit/latest";
  import type { Lining, Recording } from "./lining.svelte";

  type Frame = { url: string; picture: Blob; at: number; of: Recording };
  let { lining }: { lining: Lining } = $props();
  const SHARE = 0.7; // nobody holds a slate there
  let chosen = $state("");
  let second = $state<number | null>(null);
  /** The place whose frame is shown: the hand has let go of the slider there. */
  let settled = $state<number | null>(null);
  let open = $state(false);
  let frame = $state.raw<Frame | null>(null);
  let problem = $state("");
  const one = $derived(
    lining.recordings.find((each) => String(each.recording_id) === chosen) ?? lining.recordings[0]!,
  );
  const length = $derived(one.length_s ?? 0);
  const here = $derived(Math.min(second ?? SHARE * length, length));
  const shown = $derived(Math.min(settled ?? SHARE * length, length));
  const options = $derived(
    lining.recordings.map((each) => {
      const whose = each.layer_id === lining.layer ? "" : `${each.layer}, `;
      return [String(each.recording_id), `${whose}take ${each.take_number}, ${each.name}`] as const;
    }),
  );
  // a hand on the slider wants many in a row: one is looked for at a time, then the newest
  const looking = new Latest<{ of: Recording; at: number }>(async ({ of, at }) => {
    const wanted = () => open && of === one && at === shown;
    try {
      const picture = await frameOf(of.recording_id, at);
      if (wanted()) [frame, problem] = [{ url: URL.createObjectURL(picture), picture, at, of }, ""];
    } catch (error) {
      if (!(error instanceof Refused || error instanceof Offline)) throw error;
      if (wanted()) [frame, problem] = [null, error.message];
    }
  });
  $effect(() => {
    if (open) void looking.ask({ of: one, at: shown });
  });
  $effect(() => {
    const url = frame?.url;
    return () => {
      if (url) URL.revokeObjectURL(url);
    };
  });
  async function hold() {
    if (frame && (await lining.holdOf(frame.of, frame.at, frame.picture))) open = false;
  }
  function choose(to: string) {
    chosen = to;
    second = settled = null;
    frame = null;
  }
</script>

<details class="mt-1" bind:open>
  <summary class="cursor-pointer text-muted">A frame of a recording</summary>
  <div class="mt-2 grid gap-2">
    <Select label="Recording" value={String(one.recording_id)} {options} onchange={choose} />
    {#if length}
      <div class="flex items-center gap-3">
        <Slider
          label="Second of the recording"
          class="min-w-0 flex-1"
          most={length}
          step={Math.max(length / 400, 0.02)}
          value={here}
          onchange={(to) => (second = to)}
          oncommit={() => (settled = second)}
        />
        <span class="num w-14 shrink-0 text-right">{here.toFixed(1)} s</span>
      </div>
    {/if}
    {#if problem}
      <p role="alert">{problem}</p>
    {:else if frame}
      <img
        src={frame.url}
        alt={`${frame.of.name} at ${frame.at.toFixed(1)} s`}
        class="aspect-video w-full bg-black object-contain"
      />
    {:else}
      <p class="grid aspect-video w-full place-content-center bg-black text-white">Looking for it…</p>
    {/if}
    <button
      class="btn min-h-11 justify-self-start !border-line"
      disabled={lining.asking.busy || !frame}
      onclick={hold}>Hold this frame</button
    >
  </div>
</details>
