// What is drawn on a layer's picture to read its camera and its light.
import type { Schemas } from "../api/client";
import { vocabulary } from "../vocabulary.svelte";
import { pathOf, startIn, type Point } from "./lines";

export type MarkKind = Schemas["MarkWordsOut"]["key"];
export type Mark = { kind: MarkKind; points: Point[]; height_m?: number };

/** How many px of the screen a press must go to have drawn a line. */
export const DRAWN_PX = 6;

/** A mark in the middle of the picture, for whoever draws by keyboard. */
export const markInMiddle = (kind: MarkKind, width: number, height: number): Point[] =>
  startIn(vocabulary.mark(kind).start, width, height);

/** Its lines: a shadow goes from the top down to the foot and on to the tip. */
export function markPath({ kind, points }: Pick<Mark, "kind" | "points">): string {
  const [foot, top, ...others] = points;
  return pathOf(kind === "shadow" && foot && top ? [top, foot, ...others] : points, false);
}
