// Layers are told apart by hatching, as in building drawings, so that they stay distinct without colour.
const NAMES: Record<string, string> = {
  live: "live plate",
  live_element: "live element",
  model: "model",
  frame_by_frame: "frame by frame",
  rig: "rig shot",
  clean_plate: "clean plate",
  split: "split half",
  shadow_pass: "shadow pass",
  light_pass: "light pass",
  reflection_pass: "reflection pass",
  focus_pass: "focus pass",
  black_element: "element on black",
  stock: "stock",
  painted: "painted",
  three_d: "3-D",
  haze: "haze",
};
const COMBINE: Record<string, string> = {
  base: "base",
  key: "key",
  hand_matte: "hand matte",
  difference: "difference",
  split: "split",
  over: "over",
  add: "add",
  screen: "screen",
  multiply: "multiply",
  shadow_alpha: "shadow alpha",
  in_camera: "in camera",
  behind: "behind",
};
const OTHERS: Record<string, string> = {
  wet_ground: "wet ground",
  contact_shadow: "contact shadow",
  set_speed: "a speed that we set",
};

export function kindName(kind: string): string {
  return NAMES[kind] ?? kind;
}

export function combineName(combine: string, colour: string): string {
  return (COMBINE[combine] ?? combine) + (colour ? `, ${colour}` : "");
}

/** A choice as people say it. */
export function inWords(choice: string): string {
  return NAMES[choice] ?? COMBINE[choice] ?? OTHERS[choice] ?? choice.replaceAll("_", " ");
}
