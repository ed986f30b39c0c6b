// What is asked for when something new comes into the kit, and what is usual in it.
import type { KindName, Values } from "./kit.svelte";

type New = { begins: Values; asks: readonly string[] };

const asked = (begins: Values, more: Values = {}): New => ({
  begins: { ...begins, ...more },
  asks: Object.keys(begins),
});

export const NEWS: Record<KindName | "builtIn", New> = {
  camera: asked({ name: "", base_iso: 400, lowest_iso: 100, highest_iso: 6400 }),
  mode: asked(
    {
      name: "",
      recorded_width_px: null,
      recorded_height_px: null,
      highest_fps: 30,
      bit_depth: 8,
      sampling: "4:2:0",
      long_groups: true,
    },
    { gate: "aps" },
  ),
  lens: asked({
    name: "",
    focal_length_mm: 50,
    longest_mm: null,
    widest_f_number: 1.8,
    widest_long_f_number: null,
    smallest_f_number: 22,
    closest_focus_m: 0.45,
    closest_long_m: null,
    focusing: "unit",
  }),
  builtIn: asked({
    name: "",
    focal_length_mm: 6.9,
    widest_f_number: 1.8,
    smallest_f_number: 1.8,
    closest_focus_m: 0.1,
  }),
  lamp: asked({
    name: "",
    reading_lx: null,
    reading_m: null,
    half_off_m: null,
    intensity_cd: 1000,
    beam_deg: 90,
    area_m2: 0,
    warmest_k: 5600,
    coolest_k: 5600,
  }),
  support: asked({ name: "", lowest_lens_m: 0.4, highest_lens_m: 1.6, travel_m: null, mm_a_turn: null }),
  filter: asked({ name: "", stops: 1 }),
  gear: asked({
    name: "",
    kind: "backing",
    width_m: null,
    height_m: null,
    colour: "",
    reflectance: null,
  }),
};

/** A recording, with what the server says that it begins with. */
export const newMode = (known: { new_mode: Values } | null): New => ({
  ...NEWS.mode,
  begins: { ...NEWS.mode.begins, ...known?.new_mode },
});

export const OTHERS = [
  ["support", "Supports", "how low and how high they bring the lens; what moves it", "Add a support"],
  ["filter", "Grey filters", "none entered: whole stops up to six are reckoned with", "Add a filter"],
  ["gear", "Sheets and gear", "backings, screens, diffusion, balls, charts, tape", "Add a piece of gear"],
] as const;
