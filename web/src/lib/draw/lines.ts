// The lines of a board in the frame: their outline, and where one stands that is added by keyboard.
import type { Bench } from "../api/client";
import { vocabulary } from "../vocabulary.svelte";

export type BoardLine = Bench["lines"][number];
export type LineKind = BoardLine["kind"];
export type Point = [number, number];

export const pointsOf = (line: BoardLine): Point[] => (line.values.points as Point[]) ?? [];

export const pathOf = (points: Point[], closed: boolean) =>
  points.length ? "M" + points.map(([x, y]) => `${x} ${y}`).join("L") + (closed ? "Z" : "") : "";

/** The outline of a line: a framing is a rectangle between its corners, zones are closed. */
export function shape(kind: LineKind, points: Point[]): string {
  const how = vocabulary.line(kind).shape;
  if (how === "rectangle" && points.length === 2) {
    const [a, b] = points as [Point, Point];
    return pathOf([a, [b[0], a[1]], b, [a[0], b[1]]], true);
  }
  return pathOf(points, how === "zone");
}

/** Where something stands that is added by keyboard: `start` in shares of the picture. */
export const startIn = (start: number[][], width: number, height: number): Point[] =>
  start.map(([x, y]): Point => [Math.round(width * Number(x)), Math.round(height * Number(y))]);

/** A shape in the middle of the frame, for whoever draws by keyboard. */
export const middle = (kind: LineKind, width: number, height: number): Point[] =>
  startIn(vocabulary.line(kind).start, width, height);

/** Where a pointer is in a picture that is so wide and high in its own px: never out of it. */
export function placeIn(
  picture: Element,
  event: PointerEvent | MouseEvent,
  width: number,
  height: number,
): Point {
  const box = picture.getBoundingClientRect();
  return [
    Math.min(Math.max(((event.clientX - box.left) / box.width) * width, 0), width),
    Math.min(Math.max(((event.clientY - box.top) / box.height) * height, 0), height),
  ];
}

/** Dashes as they are drawn where `k` px of the picture are one of the screen; undefined for none. */
export const dashes = (dash: string, k: number) =>
  dash
    ? dash
        .split(" ")
        .map((length) => Number(length) * k)
        .join(" ")
    : undefined;
