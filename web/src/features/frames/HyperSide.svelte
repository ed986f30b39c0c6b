<!--
  Beside the picture of a hyperlapse: at the camera (metronome, aim, what to take again), the plan of its way,
  and what it costs to make it steady.
-->
<script lang="ts">
  import { Tabs } from "bits-ui";
  import { onDestroy } from "svelte";
  import Choice from "../../lib/ui/Choice.svelte";
  import Select from "../../lib/ui/Select.svelte";
  import TabList from "../../lib/ui/TabList.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { frames } from "../../lib/offline/outbox.svelte";
  import { choices } from "../line-up/sources";
  import { capital, lasting, metres, offWords, turnWords, type Hyperlapse } from "./aim";
  import type { Desk } from "./desk.svelte";
  import HyperPlan from "./HyperPlan.svelte";
  import { Metronome } from "./metronome.svelte";
  import TakeOut from "./TakeOut.svelte";

  let {
    desk,
    told,
    steady = $bindable(),
    pointing = $bindable(),
  }: { desk: Desk; told: Hyperlapse; steady: boolean; pointing: boolean } = $props();
  const TABS = [
    ["take", "At the camera"],
    ["plan", "Plan"],
    ["steady", "Steady"],
  ] as const;
  const STEADY_ON = [
    ["mark", "its mark"],
    ["path", "its own path"],
  ] as const;
  let tab = $state<(typeof TABS)[number][0]>("take");
  const metronome = new Metronome(
    () => told.plan.interval_s ?? 0,
    () => {
      if (metronome.takes && desk.source) void desk.take();
      else if (desk.sounds) desk.sound.taken();
    },
    () => desk.sounds && desk.sound.tick(),
  );
  onDestroy(() => metronome.stop());
  const done = $derived.by(() => {
    const due = desk.poses[desk.next];
    return !due || desk.isThere(due, desk.due.pass);
  });
  $effect(() => {
    if (done && metronome.takes) metronome.stop();
  });

  const aim = $derived(told.aims.find((one) => one.exposure_id === desk.exposure?.id) ?? null);
  const turn = $derived(aim ? turnWords(aim) : "");
  const place = $derived(desk.poses.findIndex((one) => one.id === desk.exposure?.pose_id));
  const station = $derived(told.stations[desk.next]);
  const before = $derived(told.stations[desk.next - 1]);
  const turned = $derived(station && before ? station.turned_deg - before.turned_deg : 0);
  const refused = $derived(frames.waiting.filter((one) => one.sheet === desk.id && one.problem));
  const again = $derived(desk.once ? desk.once.place + 1 : 0);
  /** What was said no to stands at a field of the plan. */
  const atField = $derived(
    tab === "plan" && desk.asking.problems.every((one) => one.field.startsWith("plan.")),
  );
  const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
  const SHORT = 12; // so many numbers are said of photographs that are to be taken again
</script>

<aside
  class="flex min-h-0 flex-col overflow-y-auto border-l border-line max-lg:border-l-0"
  aria-label="Hyperlapse"
>
  <Tabs.Root bind:value={tab}>
    <TabList tabs={TABS} label="Hyperlapse" look="wide" />
    {#if desk.asking.said && !atField}<p class="px-3 pt-2 text-shows" role="alert">{desk.asking.said}</p>{/if}
    <Tabs.Content value="take">
      {#if desk.takes}
        <div class="grid grid-cols-[1fr_auto] gap-2 p-3">
          <button
            class={["btn min-h-14 text-lg", desk.source && !done && "btn-solid"]}
            disabled={!desk.source || done}
            onclick={() => void desk.take()}>{done ? "All are taken" : `Take ${desk.next + 1}`}</button
          >
          <button class="btn min-h-14" disabled={!desk.source || again < 1} onclick={() => void desk.again()}
            >{again > 0 ? `Again ${again}` : "Again"}</button
          >
          <div class="col-span-2">
            <Select
              label="Camera"
              value={desk.source}
              options={choices(desk.devices, "no camera")}
              onchange={(to) => void desk.begin(to)}
            />
          </div>
          {#if desk.problem}<p class="col-span-2" role="alert">{desk.problem}</p>{/if}
          {#each refused as one (one.key)}
            <p class="col-span-2" role="alert">
              Photograph {one.place + 1}: {one.problem}
              <button class="link" onclick={() => void frames.box.drop(one.key)}>let it go</button>
            </p>
          {/each}
        </div>
      {/if}

      <section class="min-h-22 border-t border-line px-3 py-2" aria-label="Aim" aria-live="polite">
        {#if aim}
          <h2 class="flex items-center gap-2 text-lg">
            <Verdict verdict={aim.verdict} size={14} />
            <span class="num">{offWords(aim)}</span>
          </h2>
          {#if aim.right_px === null}
            <p>
              Photograph {place + 1}: {told.name} is not found: mark it in the photograph, or take it again.
            </p>
          {:else if aim.verdict === "holds"}
            <p class="text-muted">
              Photograph {place + 1}. {turn ? `${capital(turn)} for the next.` : "Keep it there."}
            </p>
          {:else}
            <p>Photograph {place + 1}. <b>Take it again:</b> {turn}.</p>
          {/if}
        {:else}
          <p class="text-muted">
            Hold <b>{told.name}</b> on its guide mark, then take: the first photograph says how it looks.
          </p>
        {/if}
        {#if desk.takes && desk.exposure}
          <button
            class="link min-h-6"
            aria-pressed={pointing}
            onclick={() => {
              desk.go(place);
              pointing = !pointing;
            }}>{pointing ? "click on it in the picture…" : `mark ${told.name} by hand`}</button
          >
        {/if}
      </section>

      <section class="border-t border-line px-3 py-2" aria-label="Metronome">
        <div class="flex items-center gap-3">
          <span class="num text-3xl leading-none" aria-hidden="true"
            >{metronome.going ? metronome.left.toFixed(1) : (told.plan.interval_s ?? 0).toFixed(1)}</span
          >
          <span class="text-muted">s {metronome.going ? "to the next" : "from one to the next"}</span>
          <button
            class={["btn ml-auto min-h-11", metronome.going && "btn-solid"]}
            aria-pressed={metronome.going}
            onclick={() => (metronome.going ? metronome.stop() : metronome.start())}
            >{metronome.going ? "Stop" : "Start"}</button
          >
        </div>
        <div class="mt-1 flex flex-wrap gap-x-4">
          <label class="flex min-h-6 items-center gap-1.5"
            ><input type="checkbox" class="size-4 accent-ink" bind:checked={metronome.takes} />takes on the
            beat</label
          >
          <label class="flex min-h-6 items-center gap-1.5"
            ><input type="checkbox" class="size-4 accent-ink" bind:checked={desk.sounds} />is heard</label
          >
        </div>
        {#if told.rhythm.lacks_s > 0}
          <p class="mt-1 text-tight">
            Too quick by <span class="num">{told.rhythm.lacks_s.toFixed(1)}</span> s: exposing, writing and
            stepping take <span class="num">{told.rhythm.least_s.toFixed(1)}</span>.
          </p>
        {/if}
      </section>

      <section class="grid grid-cols-[1fr_auto] gap-x-3 border-t border-line px-3 py-2" aria-label="Where">
        <span class="text-muted">Step on</span>
        <span class="num text-right">{metres(told.step_m)}</span>
        {#if Math.abs(turned) > 0.0005}
          <span class="text-muted">and turn</span>
          <span class="num text-right">{Math.abs(turned).toFixed(2)}° {turned > 0 ? "right" : "left"}</span>
        {/if}
        <span class="text-muted">Margin left at the sides</span>
        <span class={["num text-right", told.left_px[0]! < 0 && "text-shows"]}
          >{told.left_px[0]!.toFixed(0)} of {told.spare_px[0]!.toFixed(0)} px</span
        >
        <span class="text-muted">at top and bottom</span>
        <span class={["num text-right", told.left_px[1]! < 0 && "text-shows"]}
          >{told.left_px[1]!.toFixed(0)} of {told.spare_px[1]!.toFixed(0)} px</span
        >
        <span class="text-muted">Still to take</span>
        <span class="num text-right"
          >{lasting((told.plan.interval_s ?? 0) * Math.max(desk.poses.length - told.aims.length, 0))}</span
        >
      </section>

      {#if told.again.length}
        <section class="border-t border-line px-3 py-2" aria-label="Take again">
          <h2>Take again</h2>
          <div class="mt-1 flex flex-wrap gap-1.5">
            {#each told.again.slice(0, SHORT) as one (one)}
              <button class="btn num min-h-8 !border-line" onclick={() => desk.go(one)}>{one + 1}</button>
            {/each}
            {#if told.again.length > SHORT}<span class="self-center text-muted"
                >and {told.again.length - SHORT} more</span
              >{/if}
          </div>
        </section>
      {/if}
    </Tabs.Content>

    <Tabs.Content value="plan"><HyperPlan {desk} {told} /></Tabs.Content>

    <Tabs.Content value="steady">
      {#if told.steadied}
        {@const one = told.steadied}
        <section class="px-3 py-2" aria-label="Made steady">
          <div class="flex flex-wrap items-center gap-2">
            <span class="text-muted">{capital(told.name)} stands on</span>
            <Choice
              label="Steady on"
              value={told.plan.steady_on ?? "mark"}
              options={STEADY_ON}
              onchange={(to) => void desk.writes.hyperlapse({ steady_on: to })}
            />
          </div>
          <p class="mt-1 text-muted">
            {told.plan.steady_on === "path"
              ? "It goes on smoothly, as it went: that costs less of the picture."
              : "It stands still in the frame: every aim is paid for."}
          </p>
          <h2 class="mt-2 flex items-center gap-2 text-lg">
            <Verdict verdict={one.verdict} size={14} />
            <span>enlarged <span class="num">{one.enlarged.toFixed(2)}</span> ×</span>
          </h2>
          <dl class="mt-1 grid grid-cols-[1fr_auto] gap-x-3">
            <dt class="text-muted">Off every side</dt>
            <dd class="num text-right">{percent(one.margin)}</dd>
            <dt class="text-muted">Left of the width</dt>
            <dd class="num text-right">{percent(one.crop)}</dd>
            <dt class="text-muted">Planned for it</dt>
            <dd class="num text-right">{(told.plan.margin_pct ?? 0).toFixed(1)} %</dd>
            <dt class="text-muted">Worst aim</dt>
            <dd class="num text-right">{told.most_px.toFixed(1)} px</dd>
          </dl>
          <div class="mt-2 flex flex-wrap gap-2">
            <button class="btn !border-line" aria-pressed={steady} onclick={() => (steady = !steady)}
              >Show it steady</button
            >
            <button
              class="btn !border-line"
              aria-pressed={desk.playing}
              onclick={() => {
                desk.seconds = 0;
                desk.play();
              }}>{desk.playing ? "Stop" : "Play it all"}</button
            >
          </div>
          <p class="mt-2">
            <a class="link" href={`/api/hyperlapses/${told.id}/transforms.csv`} download
              >Shifts of every photograph (CSV)</a
            >
          </p>
        </section>
      {:else}
        <p class="px-3 py-2 text-muted">
          Take five photographs at least: what it costs to make them steady stands here then.
        </p>
      {/if}
      <TakeOut {desk} />
    </Tabs.Content>
  </Tabs.Root>
  {#if desk.sheet}
    <details class="border-t border-line px-3 py-2">
      <summary class="min-h-6 cursor-pointer text-muted">Cautions: walking with the eye to the finder</summary
      >
      {#each desk.sheet.cautions as one (one.title)}
        <h2 class="mt-2 font-strong">{one.title}</h2>
        <p>{one.text}</p>
        <p class="text-muted">Safer: {one.safer}</p>
      {/each}
      <p class="mt-2 font-strong">{desk.sheet.deference}</p>
    </details>
  {/if}
</aside>
