<!--
  The exposure sheet as a strip in the shot's own frames: a picture a pose, its hold, the columns, and the
  light of every frame as a line. Only what is in sight is drawn.
-->
<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import type { Desk } from "./desk.svelte";
  import { frameAt, pictureOfStrip, stripOf, type Clip } from "./clips.svelte";
  import { addressOf } from "./pictures";
  import { COLUMNS, flickerOf, framesOf, inSight, lanesOf, type Pose } from "./strip";

  let { desk }: { desk: Desk } = $props();
  const AROUND_PX = 200;
  const SMALL_PX = 640;
  const HIGH = { frames: 16, picture: 38, hold: 17, text: 17, rig: 20, light: 34, film: 30 } as const;
  const LEAST_STOPS = 0.03; // the line is as high as this at least
  const WORDS_PX = 5.6; // a letter, about

  let perFrame = $state(22);
  let strip = $state<HTMLElement | null>(null);
  let left = $state(0);
  let wide = $state(800);

  const poses = $derived(desk.poses);
  const length = $derived(framesOf(poses));
  const sight = $derived(inSight(poses, left - AROUND_PX, left + wide + AROUND_PX, perFrame));
  const seen = $derived(poses.slice(sight[0], sight[1] + 1));
  // pictures are fetched where the strip rests, not of all that it rolls over
  const RESTS_MS = 120;
  let rolls = $state(false);
  let rests = 0;
  function rolled() {
    left = strip?.scrollLeft ?? 0;
    rolls = true;
    window.clearTimeout(rests);
    rests = window.setTimeout(() => (rolls = false), RESTS_MS);
  }
  onDestroy(() => window.clearTimeout(rests));
  /** The exposures whose pictures stand in the strip. */
  let shown = $state.raw<Record<number, true>>({});
  $effect(() => {
    if (rolls) return;
    shown = Object.fromEntries(seen.flatMap((pose) => (desk.inStrip[pose.id] ? [[pose.id, true]] : [])));
  });
  const xOf = (pose: Pose) => (pose.frame - 1) * perFrame;
  const rate = $derived(Math.round(desk.sheet?.rate_fps ?? 24));
  const seconds = $derived(
    Array.from({ length: Math.ceil(length / rate) }, (_, i) => i).filter((second) => {
      const x = second * rate * perFrame;
      return x > left - AROUND_PX && x < left + wide + AROUND_PX;
    }),
  );
  const flicker = $derived(flickerOf(poses, desk.inStrip));
  const most = $derived(Math.max(LEAST_STOPS, ...flicker.map((one) => Math.abs(one ?? 0))));
  const yOf = (stops: number) => HIGH.light / 2 - (stops / most) * (HIGH.light / 2 - 4);
  const line = $derived(
    seen
      .map((pose) => [xOf(pose) + (pose.hold * perFrame) / 2, flicker[pose.place]] as const)
      .filter((one): one is readonly [number, number] => one[1] !== null && one[1] !== undefined)
      .map(([x, stops]) => `${x.toFixed(1)},${yOf(stops).toFixed(1)}`)
      .join(" "),
  );
  /** Frames whose light was said to be another, as a whole or from one side. */
  const lit = $derived(
    seen.flatMap((pose) => {
      const told = desk.inStrip[pose.id]?.watched?.warnings ?? [];
      const said = told.find((one) => one.what === "light" || one.what === "side");
      return said ? [{ pose, said, y: yOf(flicker[pose.place] ?? 0) }] : [];
    }),
  );
  /** What is written in a column, each as wide as it is until the next is written. */
  const hyper = $derived(!!desk.sheet?.hyperlapse); // nothing is posed, and light is as day makes it
  const heads = $derived(hyper ? [] : COLUMNS);
  const columns = $derived(
    heads.map(([key]) => {
      const there = poses.filter((one) => one[key]);
      return there.map((one, i) => ({ pose: one, ends: there[i + 1]?.frame ?? length + 1, text: one[key] }));
    }),
  );
  const written = $derived(
    columns.map((column) =>
      column.filter((one) => one.ends > (seen[0]?.frame ?? 1) && one.pose.frame <= (seen.at(-1)?.frame ?? 1)),
    ),
  );
  const worst = (pose: Pose) => {
    const told = desk.inStrip[pose.id]?.watched?.warnings ?? [];
    return told.find((one) => one.verdict === "shows")?.verdict ?? told[0]?.verdict ?? null;
  };
  // what is looked at stays in sight
  $effect(() => {
    const pose = poses[desk.at];
    if (!strip || !pose) return;
    untrack(() => {
      const x = xOf(pose);
      const room = 3 * perFrame * pose.hold;
      if (x < strip!.scrollLeft + room) strip!.scrollLeft = Math.max(0, x - wide / 2);
      else if (x > strip!.scrollLeft + wide - 2 * room) strip!.scrollLeft = x - wide / 2;
    });
  });
  const rigs = $derived(desk.sheet?.rigs ?? []);
  /** The marks that each rig is turned for a pose, as high as its longest step is. */
  const turns = $derived(
    rigs.map(({ id, positions }) => {
      const by = positions.map((to, i) => to - (positions[i - 1] ?? to));
      return { id, by, longest: Math.max(1, ...by.map(Math.abs)) };
    }),
  );
  const ticks = $derived(
    turns.map(({ id, by, longest }) => ({
      id,
      bars: seen.map((pose) => ({ pose, share: (by[pose.place] ?? 0) / longest })).filter((one) => one.share),
    })),
  );
  const top = HIGH.frames + HIGH.picture;
  const performance = $derived(desk.sheet?.clips.find((one) => one.use === "performance") ?? null);
  /** The picture of its strip that stands at a pose. */
  const filmAt = (clip: Clip, pose: Pose) => {
    const { at, of } = pictureOfStrip(clip, frameAt(clip, pose.frame, desk.sheet?.rate_fps ?? 24));
    const wide = HIGH.film * clip.aspect;
    return `url(${stripOf(clip)}) ${-at * wide}px 0 / ${of * wide}px ${HIGH.film}px no-repeat`;
  };
  const filmed = $derived(top + (hyper ? 0 : HIGH.hold) + heads.length * HIGH.text);
  const cheats = $derived(desk.sheet?.cheats.cheats ?? []);
  const lanes = $derived(lanesOf(cheats));
  const moved = $derived(cheats.length ? (1 + Math.max(...lanes)) * HIGH.text : 0);
  const cheated = $derived(filmed + (performance ? HIGH.film : 0));
  const below = $derived(cheated + moved);
  const high = $derived(below + rigs.length * HIGH.rig + (hyper ? 0 : HIGH.light));
  const goes = (pose: Pose, on: boolean) =>
    desk.go(pose.place === desk.next && !desk.inStrip[pose.id] && !on ? null : pose.place, on);
  const chosen = (pose: Pose) =>
    desk.from !== null && pose.place >= desk.span[0] && pose.place <= desk.span[1];
  const named = (pose: Pose) => {
    const one = desk.inStrip[pose.id];
    const state = one ? "taken" : desk.waits[pose.id] ? "on its way" : "not taken";
    const says = worst(pose);
    return `Frame ${pose.place + 1}, ${state}${says ? `, ${says}` : ""}`;
  };
</script>

<section class="flex shrink-0 border-t border-line bg-panel text-sm" aria-label="Exposure sheet">
  <div class="w-24 shrink-0 border-r border-line text-muted" style:height={`${high}px`}>
    <p class="px-2" style:height={`${HIGH.frames}px`}>{hyper ? "Photograph" : "Frame"}</p>
    <p class="flex items-center gap-1 px-2" style:height={`${HIGH.picture}px`}>
      <button
        class="btn !min-h-6 !border-line !px-2"
        aria-label="Narrower frames"
        onclick={() => (perFrame = Math.max(6, Math.round(perFrame / 1.5)))}>−</button
      >
      <button
        class="btn !min-h-6 !border-line !px-2"
        aria-label="Wider frames"
        onclick={() => (perFrame = Math.min(50, Math.round(perFrame * 1.5)))}>+</button
      >
    </p>
    {#if !hyper}<p class="px-2" style:height={`${HIGH.hold}px`}>Hold</p>{/if}
    {#each heads as [key, name] (key)}<p class="px-2" style:height={`${HIGH.text}px`}>{name}</p>{/each}
    {#if performance}<p class="px-2" style:height={`${HIGH.film}px`}>Performance</p>{/if}
    {#if moved}<p class="px-2" style:height={`${moved}px`}>Moved</p>{/if}
    {#each rigs as rig (rig.id)}<p class="truncate px-2" style:height={`${HIGH.rig}px`} title={rig.name}>
        {rig.name}
      </p>{/each}
    {#if !hyper}<p class="px-2" style:height={`${HIGH.light}px`}>
        Flicker<br /><span class="num text-xs">± {most.toFixed(most < 0.1 ? 2 : 1)} stop</span>
      </p>{/if}
  </div>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    class="relative min-w-0 flex-1 overflow-x-auto overflow-y-hidden"
    bind:this={strip}
    bind:clientWidth={wide}
    onscroll={rolled}
    tabindex="0"
    role="group"
    aria-label="Frames of the shot"
  >
    <div class="relative" style:width={`${length * perFrame}px`} style:height={`${high}px`}>
      {#each seconds as second (second)}
        <span
          class="num absolute top-0 border-l border-line pl-1 text-xs text-muted"
          style:left={`${second * rate * perFrame}px`}
          style:height={`${high}px`}>{second * rate + 1}</span
        >
      {/each}
      {#each seen as pose (pose.id)}
        {@const one = desk.inStrip[pose.id]}
        {@const said = worst(pose)}
        <button
          class={[
            "absolute cursor-pointer overflow-hidden border-r border-ground bg-raised",
            desk.at === pose.place && "z-10 outline-2 outline-ink",
            !one && pose.place === desk.next && "border border-dashed border-mark",
          ]}
          style:left={`${xOf(pose)}px`}
          style:width={`${pose.hold * perFrame}px`}
          style:top={`${HIGH.frames}px`}
          style:height={`${HIGH.picture}px`}
          aria-label={named(pose)}
          aria-pressed={desk.at === pose.place}
          onclick={(event) => goes(pose, event.shiftKey)}
          tabindex={desk.at === pose.place ? 0 : -1}
        >
          {#if one && shown[pose.id]}<img
              src={addressOf(one.id, SMALL_PX)}
              alt=""
              loading="lazy"
              decoding="async"
              class="h-full w-full object-cover"
            />{/if}
          {#if said}<span
              class={["absolute inset-x-0 bottom-0 h-1", said === "shows" ? "bg-shows" : "bg-tight"]}
            ></span>{/if}
        </button>
        {#if !hyper}<span
            class={[
              "num absolute truncate border-r border-line px-1 text-xs",
              pose.key && "font-strong",
              chosen(pose) && "bg-ink text-ground",
            ]}
            style:left={`${xOf(pose)}px`}
            style:width={`${pose.hold * perFrame}px`}
            style:top={`${top}px`}
            >{pose.key ? "◆" : ""}{pose.hold * perFrame > 14 || !pose.key ? pose.hold : ""}</span
          >{/if}
        {#if pose.begins_block}<span
            class="absolute top-0 z-10 w-0.5 bg-ink"
            style:left={`${xOf(pose) - 1}px`}
            style:height={`${high}px`}
          ></span>{/if}
      {/each}
      {#if performance}
        {#each seen as pose (pose.id)}
          <span
            class="absolute border-r border-ground"
            style:left={`${xOf(pose)}px`}
            style:width={`${pose.hold * perFrame}px`}
            style:top={`${filmed}px`}
            style:height={`${HIGH.film}px`}
            style:background={filmAt(performance, pose)}
          ></span>
        {/each}
      {/if}
      {#each cheats as cheat, i (cheat.id)}
        {@const frames = (cheat.last_frame ?? length) - cheat.first_frame + 1}
        {#if frames > 0}<span
            class="absolute border-t border-l-2 border-mark"
            style:left={`${(cheat.first_frame - 1) * perFrame}px`}
            style:width={`${Math.max(frames * perFrame, WORDS_PX)}px`}
            style:top={`${cheated + (lanes[i] ?? 0) * HIGH.text}px`}
            style:height={`${HIGH.text}px`}
            title={`${cheat.name}. ${cheat.text}`}
            ><span class="sticky left-0 inline-block max-w-full truncate pl-1">{cheat.name}</span></span
          >{/if}
      {/each}
      {#each written as column, i (i)}
        {#each column as { pose, ends, text } (pose.id)}
          <span
            class="absolute truncate border-l-2 border-mark pl-1"
            style:left={`${xOf(pose)}px`}
            style:width={`${Math.max((ends - pose.frame) * perFrame, WORDS_PX)}px`}
            style:top={`${top + HIGH.hold + i * HIGH.text}px`}
            style:height={`${HIGH.text}px`}
            title={text}>{text}</span
          >
        {/each}
      {/each}
      {#each ticks as { id, bars }, i (id)}
        <svg
          class="absolute left-0 overflow-visible"
          style:top={`${below + i * HIGH.rig}px`}
          width={length * perFrame}
          height={HIGH.rig}
          aria-hidden="true"
        >
          {#each bars as { pose, share } (pose.id)}
            <rect
              x={xOf(pose) - 1}
              y={HIGH.rig - 2 - Math.abs(share) * (HIGH.rig - 4)}
              width="3"
              height={Math.abs(share) * (HIGH.rig - 4)}
              fill={share > 0 ? "var(--text)" : "var(--mark)"}
            />
          {/each}
        </svg>
      {/each}
      {#if !hyper}<svg
          class="absolute left-0 overflow-visible"
          style:top={`${below + rigs.length * HIGH.rig}px`}
          width={length * perFrame}
          height={HIGH.light}
          role="img"
          aria-label="Light of every frame over the block's first, stops"
        >
          <line x1="0" x2={length * perFrame} y1={HIGH.light / 2} y2={HIGH.light / 2} stroke="var(--line)" />
          <polyline points={line} fill="none" stroke="var(--text)" stroke-width="1.3" />
          {#each lit as { pose, said, y } (pose.id)}
            <circle cx={xOf(pose) + (pose.hold * perFrame) / 2} cy={y} r="4" fill={`var(--${said.verdict})`}
              ><title>{said.text}</title></circle
            >
          {/each}
        </svg>{/if}
    </div>
  </div>
</section>
