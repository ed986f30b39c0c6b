// What can be measured of frames, by the question that it answers, and what has to be marked for it.
import type { Schemas } from "../../lib/api/client";

export type What = Schemas["FramesMeasuredOut"]["what"];
export type MarkKind = Schemas["MarkOut"]["kind"];
export type Tab = "backing" | "key" | "still" | "light" | "fine";

/** Two opposite corners of a region, a line or a zone of several places, or the four corners of a chart. */
export type Shape = "region" | "line" | "zone" | "corners";
export const SHAPES: Record<MarkKind, Shape> = {
  backing: "region",
  still: "region",
  edge: "region",
  grain: "region",
  light: "region",
  point: "region",
  patch: "region",
  line: "line",
  zone: "zone",
  mirror: "region",
  ball: "region",
  card: "region",
  chart: "corners",
};
export const MARK_NAMES: Record<MarkKind, string> = {
  backing: "the backing",
  still: "what stands still",
  edge: "an edge",
  grain: "an even part",
  light: "where the light falls",
  point: "the reference point",
  patch: "what is to be covered",
  line: "the line",
  zone: "the zone",
  mirror: "the mirror ball",
  ball: "the grey ball",
  card: "the grey card",
  chart: "the chart",
};

export type Row = {
  what: What;
  name: string;
  /** What may be marked for it; the first that is marked counts. */
  marks: readonly MarkKind[];
  /** It cannot be measured without. */
  needs?: boolean;
  /** It is held against another recording: must be, or may be. */
  against?: "must" | "may";
  /** Only of a clip. */
  clip?: boolean;
  /** It looks at one frame. */
  frame?: boolean;
};

export const TABS = [
  ["backing", "Backing"],
  ["key", "Key"],
  ["still", "Stands still"],
  ["light", "Light"],
  ["fine", "Fine"],
] as const satisfies readonly (readonly [Tab, string])[];

export const ROWS: Record<Tab, readonly Row[]> = {
  backing: [{ what: "evenness", name: "How even it is", marks: ["backing"], frame: true }],
  key: [
    { what: "key", name: "Whether it keys", marks: ["backing"], against: "may", frame: true },
    { what: "matte-hours", name: "Hours by hand", marks: [], against: "must", clip: true },
    { what: "black", name: "An element on black", marks: [], clip: true },
  ],
  still: [
    { what: "still", name: "Camera", marks: ["still"], against: "may", frame: true },
    { what: "movement", name: "Movement", marks: ["zone", "line"], clip: true },
    { what: "seam", name: "Where to split", marks: [], against: "must", clip: true },
    { what: "patch", name: "Patch from a frame beside", marks: ["patch"], needs: true, clip: true },
    { what: "wobble", name: "Wobble", marks: ["point"], clip: true },
  ],
  light: [
    { what: "change", name: "What changed", marks: ["still"], against: "must", frame: true },
    { what: "flicker", name: "Flicker", marks: ["light"], clip: true },
    { what: "light", name: "Light of a part", marks: ["light"], clip: true },
    { what: "ball", name: "Where it comes from", marks: ["mirror", "ball"], against: "may", frame: true },
    {
      what: "grey",
      name: "Exposure and white",
      marks: ["card", "chart"],
      needs: true,
      against: "may",
      frame: true,
    },
  ],
  fine: [
    { what: "grain", name: "Grain", marks: ["grain"], against: "may" },
    { what: "edge", name: "Sharpness", marks: ["edge"], needs: true, against: "may", frame: true },
    { what: "photograph", name: "Lens, height, tilt", marks: [], frame: true },
  ],
};

/** Under which question a row stands; what is told of all frames under none. */
export const tabOf = (what: What): Tab | undefined =>
  TABS.find(([tab]) => ROWS[tab].some((row) => row.what === what))?.[0];

/** What is sent of a mark: a region, or its places. */
export function marked(kind: MarkKind, places: number[][]): Partial<Schemas["MeasureFramesIn"]> {
  const of = kind === "ball" ? "grey" : kind === "mirror" ? "mirror" : kind === "zone" ? "zone" : "";
  if (SHAPES[kind] !== "region") return { places, kind: kind === "chart" ? "chart" : of };
  const [first, second] = places as [[number, number], [number, number]];
  const left = Math.max(0, Math.min(first[0], second[0]));
  const top = Math.max(0, Math.min(first[1], second[1]));
  const right = Math.min(1, Math.max(first[0], second[0]));
  const bottom = Math.min(1, Math.max(first[1], second[1]));
  return { region: [left, top, right - left, bottom - top], kind: of };
}

/** How many places make a mark: at least and at most. */
export function placesOf(kind: MarkKind): [number, number] {
  const shape = SHAPES[kind];
  if (shape === "region") return [2, 2];
  if (shape === "corners") return [4, 4];
  return [shape === "line" ? 2 : 3, 40];
}

const PLACES: Record<string, number> = { px: 2, "px a frame": 1, stop: 2, "°": 2, mired: 0, "%": 1 };
/** An amount with its error, to as many places as it is known. */
export function amountText({ value, error, unit }: Schemas["MeasuredAmountOut"]): string {
  let places = PLACES[unit] ?? 2;
  if (error && error < 0.1) places = Math.max(places, 2);
  if (Number.isInteger(value) && error === null) places = 0;
  const off = error === null ? "" : ` ± ${error.toFixed(places)}`;
  const shown = value.toFixed(places).replace(/^-(?=[0.]+$)/, "");
  return `${shown}${off}${unit === "°" ? "°" : unit ? ` ${unit}` : ""}`;
}
