<!--
  The aims of a hyperlapse as two lines over its photographs: to the side and up or down, against the margin;
  beyond its band a photograph is worth taking again.
-->
<script lang="ts">
  import type { Aim, Hyperlapse } from "./aim";
  import type { Desk } from "./desk.svelte";

  let { desk, told }: { desk: Desk; told: Hyperlapse } = $props();
  const HIGH = 92;
  const ROOM = 8;
  const LEAST_PX = 10;
  const BEYOND = 1.2; // so much of the margin is drawn at least

  let wide = $state(600);
  const count = $derived(Math.max(desk.poses.length, 2));
  /** Without a margin, aims are drawn in px; with one, each side's in shares of its own. */
  const margin = $derived(Math.min(...told.spare_px) > 0);
  const of = (one: Aim, side: 0 | 1) => {
    const px = side ? one.down_px : one.right_px;
    return px === null ? null : px / (margin ? told.spare_px[side]! : 1);
  };
  const most = $derived(
    Math.max(
      margin ? BEYOND : LEAST_PX,
      ...told.aims.flatMap((one) => [Math.abs(of(one, 0) ?? 0), Math.abs(of(one, 1) ?? 0)]),
    ),
  );
  const x = (place: number) => ROOM + (place / (count - 1)) * (wide - 2 * ROOM);
  const y = (off: number) => HIGH / 2 + (off / most) * (HIGH / 2 - 6);
  const lineOf = (side: 0 | 1) => {
    let line = "";
    let before = -2;
    for (const one of told.aims) {
      const value = of(one, side);
      if (value === null) continue;
      line += `${one.place === before + 1 ? "L" : "M"}${x(one.place).toFixed(1)} ${y(value).toFixed(1)} `;
      before = one.place;
    }
    return line;
  };
  const across = $derived(lineOf(0));
  const down = $derived(lineOf(1));
  const worst = (one: Aim) => {
    const [side, up] = [of(one, 0) ?? 0, of(one, 1) ?? 0];
    return Math.abs(side) > Math.abs(up) ? side : up;
  };
  const says = $derived(
    `Aims of ${told.aims.length} photographs: ${told.most_px.toFixed(0)} px at most;` +
      ` ${told.again.length} to take again`,
  );
  const off = $derived(told.aims.filter((one) => one.verdict !== "holds"));
  function clicked(event: MouseEvent) {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const place = Math.round(((event.clientX - box.left - ROOM) / (box.width - 2 * ROOM)) * (count - 1));
    desk.go(Math.min(Math.max(place, 0), count - 1));
  }
</script>

<section class="flex shrink-0 border-t border-line bg-panel text-sm" aria-label="Aims">
  <div class="w-24 shrink-0 border-r border-line px-2 py-1 text-muted">
    Aim
    <span class="mt-0.5 block text-xs"><span class="sample"></span>to the side</span>
    <span class="block text-xs"><span class="sample dashed"></span>up, down</span>
    {#if !margin}<span class="num block text-xs">± {most.toFixed(0)} px</span>{/if}
  </div>
  <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_noninteractive_element_interactions -->
  <div class="min-w-0 flex-1" bind:clientWidth={wide} role="img" aria-label={says} onclick={clicked}>
    <svg width={wide} height={HIGH} class="block" aria-hidden="true">
      {#if margin}
        <rect
          x="0"
          width={wide}
          y={y(-told.holds)}
          height={y(told.holds) - y(-told.holds)}
          fill="var(--raised)"
        />
        {#each [-1, 1] as edge (edge)}
          <line x1="0" x2={wide} y1={y(edge)} y2={y(edge)} stroke="var(--shows)" stroke-dasharray="2 3" />
        {/each}
      {/if}
      <line x1="0" x2={wide} y1={y(0)} y2={y(0)} stroke="var(--line)" />
      <line x1={x(desk.at)} x2={x(desk.at)} y1="0" y2={HIGH} stroke="var(--mark)" />
      <path d={down} fill="none" stroke="var(--muted)" stroke-width="1.2" stroke-dasharray="3 2" />
      <path d={across} fill="none" stroke="var(--text)" stroke-width="1.3" />
      {#each off as one (one.exposure_id)}
        <circle cx={x(one.place)} cy={y(worst(one))} r="4" fill={`var(--${one.verdict})`} />
      {/each}
    </svg>
  </div>
</section>

<style>
  .sample {
    display: inline-block;
    width: 14px;
    margin-right: 5px;
    vertical-align: middle;
    border-top: 1.5px solid var(--text);
  }
  .dashed {
    border-top: 1.5px dashed var(--muted);
  }
</style>
