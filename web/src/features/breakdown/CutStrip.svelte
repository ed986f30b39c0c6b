<!-- The chosen shot at the foot of the cut: what it is, what will show, what is to be filmed, its cuts. -->
<script lang="ts">
  import type { Bench, Schemas } from "../../lib/api/client";
  import { readBench } from "../../lib/api/shot";
  import { Asking } from "../../lib/edit/asking.svelte";
  import { session } from "../../lib/session.svelte";
  import { tip } from "../../lib/ui/tip.svelte";
  import Verdict from "../../lib/ui/Verdict.svelte";
  import { day, hours, plural } from "../../lib/hours";

  type Line = Schemas["WallLine"];
  let { shot, shots, joints, rate }: { shot: Line; shots: Line[]; joints: Schemas["Joint"][]; rate: number } =
    $props();

  const MOST = 4;
  const WAIT_MS = 150;
  const asking = new Asking();
  let bench = $state.raw<Bench | null>(null);
  $effect(() => {
    const { id, revision, layers } = shot;
    const units = session.person?.units ?? "metric";
    const school = session.school;
    void revision;
    if (bench?.shot_id !== id) bench = null;
    if (!layers) return;
    // running along the cut by key asks nothing
    const soon = window.setTimeout(async () => {
      const found = await asking.read(() => readBench(id, { units, school, basis: "shot" } as never));
      if (found && found.shot_id === shot.id) bench = found;
    }, WAIT_MS);
    return () => window.clearTimeout(soon);
  });
  const showing = $derived(
    (bench?.layers ?? [])
      .flatMap((layer) =>
        layer.items
          .filter((one) => one.verdict !== "holds" && !one.accepted && !one.informs)
          .map((item) => ({ layer, item })),
      )
      .sort((a, b) => b.item.ladder - a.item.ladder),
  );
  const open = $derived((bench?.layers ?? []).filter((one) => one.set_up_id !== null && !one.takes));
  const name = (id: number) => shots.find((one) => one.id === id)?.code ?? "";
  const cuts = $derived(
    joints
      .filter((one) => one.left_id === shot.id || one.right_id === shot.id)
      .map((joint) => ({
        where: joint.right_id === shot.id ? "before" : "after",
        code: name(joint.right_id === shot.id ? joint.left_id : joint.right_id),
        items: joint.items,
      })),
  );
</script>

<aside
  class={[
    "shrink-0 border-t border-line bg-panel max-lg:max-h-[30vh] max-lg:overflow-y-auto lg:grid",
    "lg:h-[168px] lg:grid-cols-[19rem_1.15fr_1fr_1fr]",
  ]}
  aria-label={`${shot.code}, ${shot.title}`}
>
  <section class="flex min-w-0 flex-col gap-1 overflow-hidden border-line px-3.5 py-2.5 lg:border-r">
    <h2 class="flex items-baseline gap-2 text-lg">
      <span class="num font-normal text-muted">{shot.code}</span><span class="truncate">{shot.title}</span>
    </h2>
    <p class="line-clamp-2 text-muted">{shot.description || "Nothing said of it yet."}</p>
    {#if shot.recipes.length}<p class="truncate">{shot.recipes.join("; ")}</p>{/if}
    <p class="num truncate text-sm text-muted">
      {shot.place || "no place yet"} · {(shot.length_frames / rate).toFixed(1)} s, {shot.length_frames} frames
    </p>
    <div class="mt-auto flex gap-2 pt-1">
      <a class="btn btn-solid" href={`#/shots/${shot.id}/plan`}>Board <span class="key">b</span></a>
      <a class="btn" href={`#/shots/${shot.id}/bench`}>Bench <span class="key">e</span></a>
      <a class="btn" href={`#/shots/${shot.id}/log`}>Log <span class="key">t</span></a>
    </div>
  </section>
  <section class="min-w-0 overflow-y-auto border-line px-3.5 py-2.5 max-lg:border-t lg:border-r">
    <h3 class="pb-1">Will show</h3>
    {#each showing.slice(0, MOST) as { layer, item } (`${layer.id} ${item.item}`)}
      <p class="grid grid-cols-[14px_1fr_auto] items-baseline gap-x-2 py-px">
        <span class="self-center"><Verdict verdict={item.verdict} size={11} /></span>
        <span class="truncate">{item.label} <span class="text-muted">{layer.name}</span></span>
        <span class="num">{item.amount_text} <span class="text-muted">{item.unit}</span></span>
      </p>
    {:else}
      <p class="text-muted">
        {!shot.layers
          ? "No plates are laid out yet."
          : bench
            ? "Nothing: everything holds."
            : asking.said || "Looking…"}
      </p>
    {/each}
    {#if showing.length > MOST}<a class="link text-muted" href={`#/shots/${shot.id}/bench`}
        >and {showing.length - MOST} more</a
      >{/if}
  </section>
  <section class="min-w-0 overflow-y-auto border-line px-3.5 py-2.5 max-lg:border-t lg:border-r">
    <h3 class="pb-1">Still to do</h3>
    {#each open.slice(0, MOST) as layer (layer.id)}
      <p class="truncate py-px">{layer.name}</p>
    {/each}
    {#if open.length > MOST}<p class="text-muted">
        and {plural(open.length - MOST, "more plate", "more plates")}
      </p>{/if}
    <p class="text-muted">
      {shot.fault
        ? "Neither hours nor cautions can be worked out"
        : `${hours(shot.hours_left)} of ${hours(shot.hours)} left`}{shot.shoot_on
        ? `, next ${day(shot.shoot_on)}`
        : ""}
    </p>
    {#if shot.open_hazards.length}<p class="line-clamp-2">
        <b>{plural(shot.open_hazards.length, "caution")} open:</b>
        <span class="text-muted">{shot.open_hazards.join(", ")}</span>
      </p>{/if}
  </section>
  <section class="min-w-0 overflow-y-auto px-3.5 py-2.5 max-lg:border-t max-lg:border-line">
    <h3 class="pb-1">Across its cuts</h3>
    {#each cuts as cut (cut.where)}
      <p class="pt-px">
        {cut.where}, <span class="num">{cut.code}</span>:
        {#each cut.items as item, i (item.item)}{i ? ", " : ""}{#if item.verdict === "holds"}<span
              class="text-muted">{item.label.toLowerCase()} holds</span
            >{:else}<b
              style:color={item.verdict === "shows" ? "var(--shows)" : "var(--tight)"}
              {@attach tip(() => item.sentence)}>{item.short}</b
            >{/if}{/each}
      </p>
    {:else}
      <p class="text-muted">Neither neighbour is set in the same place: nothing is held against it.</p>
    {/each}
  </section>
</aside>
