// The first layer of a shot: what everything else is held against.
import type { BenchState } from "../../lib/edit/shot.svelte";

export const addHero = (bench: BenchState) =>
  bench.add("Add the hero plate", {
    what: "layer",
    fields: {
      name: "Hero plate",
      kind: "live",
      combine: "base",
      near_m: 5,
      depth_m: 20,
      width_m: 6,
      height_m: 3,
      fills_frame: true,
    },
  });
