<!-- Beside the picture: take, what to look at before the next move, how it is seen, the sheet's line. -->
<script lang="ts">
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import Slider from "../../lib/ui/Slider.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { clock } from "../../lib/ui/when";
  import { choices, SIMULATED } from "../line-up/sources";
  import { frames } from "../../lib/offline/outbox.svelte";
  import { AVERAGED } from "./average";
  import BuildUp from "./BuildUp.svelte";
  import Cheats from "./Cheats.svelte";
  import type { Clips } from "./clips.svelte";
  import { FOLDER, LOOKS, type Desk } from "./desk.svelte";
  import { looksIntoFolders } from "./folder";
  import Line from "./Line.svelte";
  import Passes from "./Passes.svelte";
  import Pieces from "./Pieces.svelte";
  import Points from "./Points.svelte";
  import Recordings from "./Recordings.svelte";
  import Rig from "./Rig.svelte";
  import TakeOut from "./TakeOut.svelte";

  let { desk, clips, onpoint }: { desk: Desk; clips: Clips; onpoint: (box: number[] | null) => void } =
    $props();
  const NUDGE_PX = 0.8;
  const BOUNCE_STOPS = 0.08;
  const LIGHTER_STOPS = 0.05;

  const options = $derived([
    ...choices(desk.devices, "no camera"),
    ...(looksIntoFolders() ? [[FOLDER, "a folder that is written into"] as const] : []),
  ]);
  const refused = $derived(frames.waiting.filter((one) => one.sheet === desk.id && one.problem));
  let chooser = $state<HTMLInputElement | null>(null);
  const exposure = $derived(desk.exposure);
  const pose = $derived(desk.poses[desk.at] ?? null);
  const others = $derived(pose && desk.looked !== null ? desk.exposuresOf(pose) : []);
  const again = $derived(desk.once ? desk.once.place + 1 : 0);
  const told = $derived((desk.seen?.place ?? -1) + 1); // what was taken last may still be on its way
  const named = $derived(desk.sheet?.passes ?? []);
  const against = $derived(exposure?.watched ?? null);
  const builds = $derived(desk.building.place !== null);
  const px = (value: number | null | undefined) => (value == null ? "–" : value.toFixed(2).replace("-", "−"));
  const stops = (value: number | null | undefined) =>
    value == null ? "–" : `${value < -0.0005 ? "−" : "+"}${Math.abs(value).toFixed(3)}`;
  async function taken(event: Event) {
    const field = event.currentTarget as HTMLInputElement;
    await desk.takeIn([...(field.files ?? [])]);
    field.value = "";
  }
  // --- the next turn of each rig is spoken when it is another one, by name where there are several
  const canSpeak = "speechSynthesis" in window;
  const rigs = $derived(desk.sheet?.rigs ?? []);
  const turns = $derived(
    rigs
      .flatMap((rig) => (rig.next ? [rigs.length > 1 ? `${rig.name}: ${rig.next.text}` : rig.next.text] : []))
      .join(". "),
  );
  $effect(() => {
    if (desk.speaks) desk.sound.say(turns);
  });
  const PLAYED = [
    ["1", "1 s"],
    ["2", "2 s"],
    ["5", "5 s"],
    ["0", "all"],
  ] as const;
  const FAULTS = [
    ["nudge", "a nudge"],
    ["bounce", "a bounce"],
    ["lighter", "a lamp up"],
    ["hand", "a hand"],
  ] as const;
  const on = (key: string) =>
    ({
      nudge: desk.faults.nudge_px !== 0,
      bounce: desk.faults.bounce_stops !== 0,
      lighter: desk.faults.lighter_stops !== 0,
      hand: desk.faults.hand,
    })[key] ?? false;
  function toggle(key: string) {
    const to = !on(key);
    if (key === "nudge") desk.faults.nudge_px = to ? NUDGE_PX : 0;
    if (key === "bounce") desk.faults.bounce_stops = to ? BOUNCE_STOPS : 0;
    if (key === "lighter") desk.faults.lighter_stops = to ? LIGHTER_STOPS : 0;
    if (key === "hand") desk.faults.hand = to;
  }
</script>

<aside class="flex min-h-0 flex-col overflow-y-auto border-l border-line max-lg:border-l-0" aria-label="Desk">
  {#if desk.takes}
    <div class="grid grid-cols-[1fr_auto] gap-2 p-3">
      <button
        class={["btn min-h-11 text-lg", desk.source && "btn-solid"]}
        disabled={!desk.source}
        onclick={() => void desk.take()}>{desk.folder ? "Waits for" : "Take"} {desk.next + 1}</button
      >
      <button class="btn min-h-11" disabled={!desk.source || again < 1} onclick={() => void desk.again()}
        >{again > 0 ? `Again ${again}` : "Again"}</button
      >
      <div class="col-span-2">
        <Select label="Camera" value={desk.source} {options} onchange={(to) => void desk.begin(to)} />
      </div>
      {#if named.length}
        <p class="col-span-2 text-lg" role="status">
          Now: <b>{named[desk.due.pass]}</b>
          <span class="text-muted">of frame {desk.due.place + 1}</span>
        </p>
      {/if}
      {#if desk.folder}
        <p class="col-span-2" role="status">
          {#if desk.anew}The next picture is of frame <span class="num">{desk.anew.place + 1}</span>, again.
          {:else}Looks into <b>{desk.folder.name}</b>: its next picture is frame
            <span class="num">{desk.next + 1}</span>.{/if}
        </p>
        {#if desk.folder.before.length}
          <button
            class="btn col-span-2 !border-line"
            onclick={() => void desk.takeIn(desk.folder?.before ?? [])}
            >Take in the {desk.folder.before.length} that lie there</button
          >
        {/if}
      {/if}
      {#if desk.problem}<p class="col-span-2" role="alert">{desk.problem}</p>{/if}
      {#each refused as one (one.key)}
        <p class="col-span-2" role="alert">
          Frame {one.place + 1}: {one.problem}
          <button class="link" onclick={() => void frames.box.drop(one.key)}>let it go</button>
        </p>
      {/each}
      {#if desk.asking.said}<p class="col-span-2" role="alert">{desk.asking.said}</p>{/if}
    </div>
  {/if}

  <section class="border-t border-line px-3 py-2" aria-live="polite">
    {#if exposure && !desk.told.length}
      <h2 class="flex items-center gap-2 text-lg">
        <Verdict verdict="holds" size={14} />
        {against ? "All holds" : "First of its block"}
      </h2>
      <p class="text-muted">
        Frame {told}: {against ? "move on." : "the frames after it are held against it."}
      </p>
    {:else if exposure}
      <h2 class="text-lg">Frame {told}: look before you move on</h2>
      <ul>
        {#each desk.told as one (one.what + one.text)}
          <li>
            <button
              class="flex w-full cursor-pointer gap-2 py-1 text-left hover:bg-raised"
              onpointerenter={() => onpoint(one.box)}
              onpointerleave={() => onpoint(null)}
              onfocus={() => onpoint(one.box)}
              onblur={() => onpoint(null)}
            >
              <span class="pt-0.5"><Verdict verdict={one.verdict} /></span>
              <span>{one.text}</span>
            </button>
          </li>
        {/each}
      </ul>
    {:else}
      <h2 class="text-lg">Nothing is taken yet</h2>
      <p class="text-muted">
        Choose a camera and take the first frame. Each one is then held against the last and against the first
        of its block.
      </p>
    {/if}
    {#if against}
      <table class="mt-1.5 w-full">
        <thead class="text-left text-muted">
          <tr
            ><th class="font-normal">against</th><th class="font-normal">last</th><th class="font-normal"
              >first</th
            ></tr
          >
        </thead>
        <tbody class="num">
          <tr>
            <th class="text-left font-sans font-normal">Camera <span class="text-muted">px</span></th>
            <td>{px(against.last?.camera_px)}</td><td>{px(against.first?.camera_px)}</td>
          </tr>
          {#if against.last?.goes_px}<tr>
              <th class="text-left font-sans font-normal"
                >off its way of <span class="text-muted">px</span></th
              >
              <td>{px(against.last.goes_px)}</td><td>{px(against.first?.goes_px)}</td>
            </tr>{/if}
          <tr>
            <th class="text-left font-sans font-normal">Light <span class="text-muted">stop</span></th>
            <td>{stops(against.last?.stops)}</td><td>{stops(against.first?.stops)}</td>
          </tr>
          <tr>
            <th class="text-left font-sans font-normal">Softer <span class="text-muted">px</span></th>
            <td>{px(against.last?.softer_px)}</td><td>{px(against.first?.softer_px)}</td>
          </tr>
        </tbody>
      </table>
    {/if}
  </section>

  {#if builds}<BuildUp {desk} {onpoint} />{/if}
  {#each desk.sheet?.rigs ?? [] as rig (rig.id)}<Rig {desk} {rig} />{/each}
  {#each desk.points.all.filter((one) => one.next) as point (point.id)}
    <section class="border-t border-line px-3 py-2" aria-label={`Next step of ${point.name}`}>
      <h2 class="truncate text-muted">{point.name}, to frame {(point.next?.place ?? 0) + 1}</h2>
      <p class="num" aria-live="polite">{point.next?.text}</p>
    </section>
  {/each}
  <section class="grid gap-2 border-t border-line px-3 py-2">
    <Choice
      label="Over the live picture"
      value={desk.look}
      options={LOOKS}
      onchange={(to) => (desk.look = to)}
    />
    {#if desk.look === "mix"}
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
        <label class="flex items-center gap-1.5"
          >before <input
            type="number"
            class="field num w-12"
            min="0"
            max="8"
            bind:value={desk.before}
          /></label
        >
        <label class="flex items-center gap-1.5"
          >after <input type="number" class="field num w-12" min="0" max="8" bind:value={desk.after} /></label
        >
        <Slider
          label="How much of them"
          class="w-20"
          most={1}
          step={0.05}
          value={desk.mixed}
          onchange={(to) => (desk.mixed = to)}
        />
      </div>
    {/if}
    <div class="flex flex-wrap gap-2">
      <button class="btn !border-line" aria-pressed={desk.playing} onclick={() => desk.play()}
        >{desk.playing ? "Stop" : `Play ${desk.plays.words}`}</button
      >
      <Choice
        label="So much is played"
        value={String(desk.seconds)}
        options={PLAYED}
        onchange={(to) => (desk.seconds = Number(to))}
      />
      <button class="btn !border-line" aria-pressed={desk.blinks} onclick={() => (desk.blinks = !desk.blinks)}
        >Block's first</button
      >
      {#if desk.looked !== null}<button class="btn !border-line" onclick={() => desk.go(null)}>To live</button
        >{/if}
    </div>
    {#if desk.source === SIMULATED}
      <div class="flex flex-wrap items-center gap-x-3" role="group" aria-label="What goes wrong">
        {#each FAULTS as [key, name] (key)}
          <label class="flex min-h-6 items-center gap-1.5"
            ><input
              type="checkbox"
              class="size-4 accent-ink"
              checked={on(key)}
              onchange={() => toggle(key)}
            />{name}</label
          >
        {/each}
      </div>
    {/if}
  </section>

  {#if named.length}
    <section class="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line px-3 py-2">
      <h2 class="text-muted">In the strip</h2>
      <Choice
        label="Pass in the strip"
        value={String(desk.passLooked)}
        options={named.map((name, i) => [String(i), name] as const)}
        onchange={(to) => (desk.passLooked = Number(to))}
      />
    </section>
  {/if}
  {#if others.length}
    <section class="border-t border-line px-3 py-2">
      <h2 class="text-muted">Exposures of frame {desk.at + 1}</h2>
      <ul>
        {#each others as one (one.id)}
          <li class="flex min-h-7 items-center gap-2">
            <span class={["num", one.chosen && "font-strong"]}>{clock(one.taken_at)}</span>
            {#if named.length}<span class="truncate text-muted">{named[one.light_pass]}</span>{/if}
            <span class="text-muted">{one.chosen ? "shown" : ""}</span>
            {#if desk.takes}
              <span class="ml-auto flex gap-3">
                {#if !one.chosen}
                  <button class="link min-h-6" onclick={() => void desk.writes.show(one)}>show</button>
                {/if}
                <button class="link min-h-6" onclick={() => void desk.writes.remove(one)}>take away</button>
              </span>
            {/if}
          </li>
        {/each}
      </ul>
    </section>
  {/if}
  {#if pose}<Line {desk} {pose} />{/if}
  <Recordings {desk} {clips} />
  <Points {desk} />
  <Pieces {desk} {onpoint} />
  <Cheats {desk} />
  {#if desk.last >= 0 && desk.takes && !builds}<BuildUp {desk} {onpoint} />{/if}
  {#if desk.takes}
    <Passes {desk} />
    <section class="grid gap-2 border-t border-line px-3 py-2" aria-label="Camera and files">
      <h2 class="text-muted">Camera and files</h2>
      <div class="flex flex-wrap items-center gap-x-3 gap-y-1">
        <span>Average of</span>
        <Choice
          label="Exposures averaged"
          value={String(desk.averaged)}
          options={AVERAGED}
          onchange={(to) => (desk.averaged = Number(to))}
        />
        <span class="text-muted">in low light</span>
      </div>
      <div>
        <div class="flex flex-wrap items-center gap-2">
          <button class="btn !border-line" onclick={() => chooser?.click()}>Take files in…</button>
          <button
            class="btn !border-line"
            aria-pressed={desk.pedal.asks}
            onclick={() => (desk.pedal.asks = !desk.pedal.asks)}
            >{desk.pedal.asks
              ? "Press the pedal, or any key…"
              : desk.pedal.code
                ? `Pedal: ${desk.pedal.code}`
                : "Set a foot pedal"}</button
          >
          {#if desk.pedal.code && !desk.pedal.asks}
            <button class="link min-h-6" onclick={() => desk.pedal.set("")}>none</button>
          {/if}
        </div>
        <input
          bind:this={chooser}
          class="sr-only"
          type="file"
          multiple
          tabindex="-1"
          aria-label="Files of frames, in the order of their names"
          accept="image/jpeg,image/png,image/webp,image/tiff,.exr"
          onchange={(event) => void taken(event)}
        />
      </div>
      <label class="flex min-h-6 items-center gap-1.5"
        ><input type="checkbox" class="size-4 accent-ink" bind:checked={desk.sounds} />sound of taken, and of
        a warning</label
      >
      {#if rigs.length && canSpeak}
        <label class="flex min-h-6 items-center gap-1.5"
          ><input type="checkbox" class="size-4 accent-ink" bind:checked={desk.speaks} />the next turn of a
          rig spoken</label
        >
      {/if}
    </section>
  {/if}
  <TakeOut {desk} />
  {#if desk.takes && !desk.sheet?.rigs.length}
    <p class="border-t border-line px-3 py-2">
      <button class="btn !border-line" onclick={() => void desk.writes.addRig()}>Add a geared rig</button>
    </p>
  {/if}
  {#if desk.sheet}
    <details class="border-t border-line px-3 py-2">
      <summary class="min-h-6 cursor-pointer text-muted">Cautions: nights, lamps, under the table</summary>
      {#each desk.sheet.cautions as one (one.title)}
        <h2 class="mt-2 font-strong">{one.title}</h2>
        <p>{one.text}</p>
        <p class="text-muted">Safer: {one.safer}</p>
      {/each}
      <p class="mt-2 font-strong">{desk.sheet.deference}</p>
    </details>
  {/if}
</aside>
