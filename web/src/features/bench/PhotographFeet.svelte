<!-- Where the layers stand in a photograph: moved over its ground by their foot. -->
<script lang="ts">
  import { answered, client, Offline, Refused, type Layer } from "../../lib/api/client";
  import { handles } from "../../lib/draw/handle";
  import { placeIn, type Point } from "../../lib/draw/lines";
  import type { BenchState } from "../../lib/edit/shot.svelte";

  let {
    bench,
    frame,
    picture,
    able,
    k,
    text,
    held = $bindable(null),
    onrefuse,
  }: {
    bench: BenchState;
    /** The delivered frame in the picture: left, top, right, bottom. */
    frame: [number, number, number, number];
    picture: { width_px: number; height_px: number };
    able: boolean;
    k: number;
    text: (value: number, unit: string) => string;
    /** The layer that is in the hand. */
    held: number | null;
    onrefuse: (why: string) => void;
  } = $props();

  const data = $derived(bench.bench);
  const round = (value: number) => Number(value.toPrecision(3));
  type Foot = { layer: Layer; at: Point };
  const scale = $derived((frame[2] - frame[0]) / (data?.delivery_width_px ?? 1));
  const inPicture = ([x, y]: Point): Point => [frame[0] + x * scale, frame[1] + y * scale];
  const feet = $derived.by((): Foot[] =>
    (data?.layers ?? []).flatMap((layer) => {
      if (layer.is_hero || !layer.on_its_ground) return [];
      const points = layer.outlines.flatMap((one) => one.points);
      if (!points.length) return [];
      const xs = points.map((point) => point[0]!);
      const low = Math.max(...points.map((point) => point[1]!));
      return [{ layer, at: inPicture([(Math.min(...xs) + Math.max(...xs)) / 2, low]) }];
    }),
  );
  let svg = $state<SVGGElement | null>(null);
  let asking = false;
  /** When all that the hand has asked for is tried. */
  let moved: Promise<void> = Promise.resolve();
  let next: Point | null = null;
  let gone = false;
  async function moveTo(layer: Layer, at: Point) {
    next = at;
    asking = true;
    try {
      while (next) {
        const [x, y]: Point = next;
        next = null;
        const found = await answered(
          client.POST("/api/layers/{layer_id}/ground", {
            params: { path: { layer_id: layer.id } },
            body: {
              x_px: (x - frame[0]) / scale,
              y_px: (y - frame[1]) / scale,
              frame: bench.looking.frame,
            },
          }),
        );
        onrefuse("");
        if (gone) return;
        bench.try("layers", layer.id, {
          near_m: Number(found.near_m.toFixed(3)),
          offset_m: Number(found.offset_m.toFixed(3)),
        });
      }
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
      onrefuse(error.message);
    } finally {
      asking = false;
    }
  }
  const hold = handles((key: string) => {
    const id = Number(key);
    const layer = () => data!.layers.find((one) => one.id === id)!;
    return {
      able: () => able,
      take: () => {
        held = id;
        gone = false;
        bench.trial.remember();
      },
      move: (_, event) => {
        const at = placeIn(svg!.ownerSVGElement!, event, picture.width_px, picture.height_px);
        if (asking) next = at;
        else moved = moveTo(layer(), at);
      },
      drop: () => {
        held = null;
        const { name } = layer();
        void moved.then(() => bench.commit(`Place ${name}`));
      },
      settle: () => void bench.commit(`Place ${layer().name}`),
      cancel: () => {
        held = next = null;
        gone = true;
        bench.forget();
      },
      step: (way, big) => {
        const by = big ? 1 : 0.1;
        const now = (name: "near_m" | "offset_m") =>
          Number(bench.trial.now("layers", id, name, layer().values[name] ?? layer().near_m));
        bench.try("layers", id, {
          near_m: Number(Math.max(0.1, now("near_m") + way.y * by).toFixed(3)),
          offset_m: Number((now("offset_m") + way.x * by).toFixed(3)),
        });
      },
    };
  });
  const standsAt = (layer: Layer) =>
    text(round(Number(bench.trial.now("layers", layer.id, "near_m", layer.near_m))), "m");
  const cross = $derived(`M${-15 * k} 0H${15 * k}M0 ${-6 * k}V${6 * k}`);
</script>

<g bind:this={svg}>
  {#each feet as { layer, at } (layer.id)}
    <g transform={`translate(${at[0]} ${at[1]})`}>
      <path d={cross} stroke="#000" stroke-width={4 * k} />
      <path d={cross} stroke="#fff" stroke-width={1.8 * k} />
      <rect
        x={-22 * k}
        y={-22 * k}
        width={44 * k}
        height={44 * k}
        fill="transparent"
        class="cursor-move"
        pointer-events={able ? "all" : "none"}
        role="slider"
        tabindex={able ? 0 : -1}
        aria-label={`${layer.name} on the ground`}
        aria-valuenow={layer.near_m}
        aria-valuetext={standsAt(layer)}
        {@attach hold(String(layer.id))}
      />
      <text
        y={20 * k}
        text-anchor="middle"
        font-size={11.5 * k}
        font-weight="650"
        fill="#fff"
        stroke="#000"
        stroke-width={3 * k}
        stroke-linejoin="round"
        paint-order="stroke"
        pointer-events="none">{layer.name}, {standsAt(layer)}</text
      >
    </g>
  {/each}
</g>
