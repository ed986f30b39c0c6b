<!--
  The set from above, to scale: its pieces, what of them is in any frame, and where the cameras stand.
  Dragged, or moved by arrow keys.
-->
<script lang="ts">
  import { factor, unitOf } from "../../lib/units";
  import { handles } from "../../lib/draw/handle";
  import type { Piece, SetState } from "./set.svelte";

  let {
    set,
    writes,
    chosen = $bindable(null),
  }: { set: SetState; writes: boolean; chosen: { kind: "piece" | "view"; at: number } | null } = $props();

  const build = $derived(set.build!);
  let width = $state(640);
  let height = $state(400);
  type Drag = {
    kind: "piece" | "view";
    at: number;
    x: number;
    z: number;
    from: [number, number];
  };
  let drag = $state<Drag | null>(null);
  let frozen = $state<typeof fitted | null>(null);

  const span = $derived.by(() => {
    const xs: number[] = [];
    const zs: number[] = [];
    for (const one of build.pieces)
      for (const corner of one.corners) {
        xs.push(corner[0]!);
        zs.push(corner[2]!);
      }
    for (const one of build.views) {
      xs.push(one.x_m);
      zs.push(one.z_m);
    }
    if (!xs.length) return { left: -3, right: 3, near: -1, far: 5, deep: 6 };
    const [left, right, near, far] = [Math.min(...xs), Math.max(...xs), Math.min(...zs), Math.max(...zs)];
    return { left, right, near, far, deep: Math.max(far - near, 1) };
  });
  const reach = $derived(3 * Math.max(2, span.deep * 0.35));
  const fitted = $derived.by(() => {
    const room = { w: Math.max(width - 96, 50), h: Math.max(height - 84, 50) };
    const scale = Math.min(room.w / Math.max(span.right - span.left, 1), room.h / span.deep);
    return { scale, midX: (span.left + span.right) / 2, midZ: (span.near + span.far) / 2 };
  });
  const view = $derived(frozen ?? fitted);
  const px = (x: number) => width / 2 + (x - view.midX) * view.scale;
  const pz = (z: number) => height / 2 - 8 - (z - view.midZ) * view.scale;
  const moved = (kind: Drag["kind"], at: number): [number, number] =>
    drag && drag.kind === kind && drag.at === at ? [drag.x - drag.from[0], drag.z - drag.from[1]] : [0, 0];

  /** Where along its length a piece is seen by any camera: what of an upright piece must be there at all. */
  function seenAlong(one: Piece): [number, number][] {
    return one.seen.map((ring) => {
      const us = ring.map((point) => point[0]!);
      return [Math.min(...us), Math.max(...us)];
    });
  }
  function along(one: Piece, u: number): [number, number] {
    const [a, d] = [one.corners[0]!, one.corners[3]!];
    const share = u / one.width_m;
    return [a[0]! + (d[0]! - a[0]!) * share, a[2]! + (d[2]! - a[2]!) * share];
  }
  function onFloor(one: Piece, u: number, v: number): [number, number] {
    const [a, b, d] = [one.corners[0]!, one.corners[1]!, one.corners[3]!];
    const [su, sv] = [u / one.width_m, v / one.height_m];
    return [
      a[0]! + (d[0]! - a[0]!) * su + (b[0]! - a[0]!) * sv,
      a[2]! + (d[2]! - a[2]!) * su + (b[2]! - a[2]!) * sv,
    ];
  }
  const path = (points: [number, number][]) =>
    points.map(([x, z], i) => `${i ? "L" : "M"}${px(x)} ${pz(z)}`).join("");
  const step = $derived([0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50].find((one) => one * view.scale >= 44) ?? 100);
  const ruler = $derived.by(() => {
    const first = Math.ceil((view.midX - width / 2 / view.scale) / step);
    const last = Math.floor((view.midX + width / 2 / view.scale) / step);
    return Array.from({ length: Math.max(0, last - first + 1) }, (_, i) => (first + i) * step);
  });
  /** Where each name stands: above the middle of its piece, further up where another one is already. */
  const names = $derived.by(() => {
    const taken: { x: number; y: number; half: number }[] = build.views.map((one) => ({
      x: px(one.x_m),
      y: pz(one.z_m) + 24,
      half: 28,
    }));
    return build.pieces.map((one) => {
      const [x, z] = one.lies ? onFloor(one, one.width_m / 2, one.height_m / 2) : [one.x_m, one.z_m];
      const half = one.name.length * 3.6 + 4;
      let y = pz(z) - 9;
      for (
        let n = 0;
        n < 4 && taken.some((at) => Math.abs(at.y - y) < 14 && Math.abs(at.x - px(x)) < at.half + half);
        n++
      )
        y -= 15;
      if (!one.lies) taken.push({ x: px(x), y, half });
      return { x: px(x), y };
    });
  });
  const said = (metres: number) => `${Number((metres * factor("length", set.units)).toFixed(1))}`;

  const round = (value: number) => Number(value.toFixed(3));
  /** A piece ("piece:0") or a camera ("view:2") on the floor. */
  const hold = handles((key: string) => {
    const [kind, place] = key.split(":") as [Drag["kind"], string];
    const at = Number(place);
    const back = () => (drag = frozen = null);
    return {
      able: () => writes,
      take: (event) => {
        if (event instanceof KeyboardEvent) return;
        const one = kind === "piece" ? build.pieces[at]! : build.views[at]!;
        frozen = fitted;
        drag = { kind, at, x: one.x_m, z: one.z_m, from: [one.x_m, one.z_m] };
      },
      move: (way) => {
        if (drag)
          drag = { ...drag, x: drag.from[0] + way.x / view.scale, z: drag.from[1] + way.y / view.scale };
      },
      drop: () => void drop(),
      cancel: back,
      step: (way, big) => {
        const by = big ? 1 : 0.1;
        const moves = (now: { x_m?: number; z_m?: number }) => ({
          x_m: round((now.x_m ?? 0) + way.x * by),
          z_m: round((now.z_m ?? 0) + way.y * by),
        });
        void (kind === "piece" ? set.piece(at, moves) : set.view(at, moves));
      },
    };
  });
  async function drop() {
    const own = drag;
    if (!own) return;
    const [x_m, z_m] = [Number(own.x.toFixed(2)), Number(own.z.toFixed(2))];
    if (x_m !== own.from[0] || z_m !== own.from[1])
      await (own.kind === "piece" ? set.piece(own.at, { x_m, z_m }) : set.view(own.at, { x_m, z_m }));
    drag = frozen = null;
  }
  function choose(event: PointerEvent, kind: Drag["kind"], at: number) {
    if (event.button === 0) chosen = { kind, at };
  }
  function turn(event: KeyboardEvent, kind: Drag["kind"], at: number) {
    if (event.key === "Enter" || event.key === " ") {
      chosen = { kind, at };
      event.preventDefault();
    }
    const by = { "[": -1, "]": 1, "{": -10, "}": 10 }[event.key];
    if (!writes || !by) return;
    event.preventDefault();
    const turned = (degrees: number) => round(((((degrees + by + 180) % 360) + 360) % 360) - 180);
    if (kind === "piece") void set.piece(at, (now) => ({ turn_deg: turned(now.turn_deg) }));
    else void set.view(at, (now) => ({ heading_deg: turned(now.heading_deg ?? 0) }));
  }
  const KEYS = "Arrow keys move it, [ and ] turn it";
  const codeOf = ({ code, establishing }: { code: string; establishing: boolean }) =>
    code + (establishing ? " wide" : "");
  const seenBy = (codes: string[]) => (codes.length ? `seen by ${codes.join(", ")}` : "in no frame");
</script>

<div class="relative h-full min-h-72" bind:clientWidth={width} bind:clientHeight={height}>
  <svg
    {width}
    {height}
    class="absolute inset-0 touch-none select-none"
    role="group"
    aria-label="The set from above"
  >
    <defs>
      <pattern
        id="seen-floor"
        width="6"
        height="6"
        patternUnits="userSpaceOnUse"
        patternTransform="rotate(45)"
      >
        <path d="M0 0V6" stroke="var(--mark)" stroke-width="1.2" />
      </pattern>
    </defs>
    {#each build.pieces.filter((one) => one.lies) as one (one.name)}
      <g>
        <path
          d={`${path(one.corners.map((c): [number, number] => [c[0]!, c[2]!]))}Z`}
          fill="none"
          stroke="var(--line)"
        />
        {#each one.seen as ring, i (i)}
          <path
            d={`${path(ring.map((p) => onFloor(one, p[0]!, p[1]!)))}Z`}
            fill="url(#seen-floor)"
            opacity="0.55"
          />
        {/each}
      </g>
    {/each}
    {#each build.cones as cone, i (i)}
      {@const first = build.views.findIndex((one) => one.code === cone.name)}
      {@const [dx, dz] = moved("view", first)}
      {@const start = i === build.cones.findIndex((one) => one.name === cone.name)}
      {#each [-1, 1] as side (side)}
        {@const angle = ((cone.heading_deg + side * cone.half_deg) * Math.PI) / 180}
        <path
          d={path([
            [cone.x_m + dx, cone.z_m + dz],
            [cone.x_m + dx + reach * Math.sin(angle), cone.z_m + dz + reach * Math.cos(angle)],
          ])}
          stroke={chosen?.kind === "view" && chosen.at === first ? "var(--text)" : "var(--mark)"}
          stroke-dasharray={start ? undefined : "2 5"}
          fill="none"
        />
      {/each}
    {/each}
    {#each build.pieces as one, i (one.name)}
      {#if !one.lies || chosen?.kind === "piece"}
        {@const [dx, dz] = moved("piece", i)}
        {@const on = chosen?.kind === "piece" && chosen.at === i}
        <g
          class={writes ? "cursor-move" : ""}
          transform={`translate(${dx * view.scale} ${-dz * view.scale})`}
          role="button"
          tabindex="0"
          aria-label={`${one.name}, ${seenBy(one.by)}. ${KEYS}`}
          aria-pressed={on}
          onpointerdown={(event) => choose(event, "piece", i)}
          onkeydown={(event) => turn(event, "piece", i)}
          {@attach hold(`piece:${i}`)}
        >
          {#if !one.lies}
            <path
              d={path([along(one, 0), along(one, one.width_m)])}
              stroke="transparent"
              stroke-width="18"
              fill="none"
            />
            <path
              d={path([along(one, 0), along(one, one.width_m)])}
              stroke="var(--mark)"
              stroke-width="1.4"
              stroke-dasharray="4 4"
              fill="none"
            />
            {#each seenAlong(one) as [from, to], j (j)}
              <path
                d={path([along(one, from), along(one, to)])}
                stroke="var(--text)"
                stroke-width={on ? 8 : one.made === "built" ? 5 : 2}
                fill="none"
              />
              {#if one.made !== "built"}<path
                  d={path([along(one, from), along(one, to)])}
                  stroke="var(--ground)"
                  stroke-width="1.2"
                  stroke-dasharray="3 3"
                  fill="none"
                />{/if}
            {/each}
            {#if one.wheels}
              {#each [0.12, 0.88] as share (share)}
                {@const [x, z] = along(one, one.width_m * share)}
                <circle cx={px(x)} cy={pz(z)} r="3.5" fill="var(--ground)" stroke="var(--text)" />
              {/each}
            {/if}
          {/if}
          <text
            x={names[i]!.x}
            y={names[i]!.y}
            text-anchor="middle"
            font-size="12"
            paint-order="stroke"
            stroke="var(--ground)"
            stroke-width="4"
            fill={one.by.length ? "var(--text)" : "var(--muted)"}
            font-weight={on ? 650 : 450}>{one.name}</text
          >
        </g>
      {/if}
    {/each}
    {#each build.views as one, i (one.id)}
      {@const [dx, dz] = moved("view", i)}
      {@const on = chosen?.kind === "view" && chosen.at === i}
      <g
        transform={`translate(${px(one.x_m + dx)} ${pz(one.z_m + dz)})`}
        class={writes ? "cursor-move" : ""}
        role="button"
        tabindex="0"
        aria-label={`${codeOf(one)}, camera heading ${one.heading_deg}°. ${KEYS}`}
        aria-pressed={on}
        onpointerdown={(event) => choose(event, "view", i)}
        onkeydown={(event) => turn(event, "view", i)}
        {@attach hold(`view:${i}`)}
      >
        <circle r="14" fill="transparent" />
        <path
          d="M-6 9H6V-4H3V-9H-3V-4H-6Z"
          transform={`rotate(${one.heading_deg})`}
          fill={on ? "var(--text)" : "var(--ground)"}
          stroke="var(--text)"
          stroke-width="1.4"
        />
        <text
          y="24"
          text-anchor="middle"
          font-size="12"
          class="num"
          font-weight="650"
          paint-order="stroke"
          stroke="var(--ground)"
          stroke-width="4"
          fill="var(--text)">{one.code}{one.establishing ? " wide" : ""}</text
        >
      </g>
    {/each}
    <g aria-hidden="true">
      <path d={`M0 ${height - 20.5}H${width}`} stroke="var(--line)" />
      {#each ruler as at (at)}
        <path d={`M${px(at)} ${height - 20}v5`} stroke="var(--mark)" />
        <text x={px(at)} y={height - 4} text-anchor="middle" font-size="11" class="num" fill="var(--muted)"
          >{said(at)}{at === ruler.at(-1) ? ` ${unitOf("length", set.units, "")}` : ""}</text
        >
      {/each}
    </g>
  </svg>
</div>
