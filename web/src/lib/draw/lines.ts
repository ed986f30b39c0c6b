// The lines of a board: what each is called, how it is drawn, what it wants to be drawn with.
import type { Bench } from "../api/client";

export type BoardLine = Bench["lines"][number];
export type LineKind = BoardLine["kind"];
export type Point = [number, number];

export const KINDS: { kind: LineKind; name: string; least: number; most: number; help: string }[] = [
  {
    kind: "matte",
    name: "Matte line",
    least: 2,
    most: 200,
    help: "A layer passes behind it; nothing in front may rise above it.",
  },
  {
    kind: "split",
    name: "Split line",
    least: 2,
    most: 200,
    help: "Between two halves: each stays on its side.",
  },
  {
    kind: "paint_out",
    name: "Paint-out",
    least: 3,
    most: 200,
    help: "Must go: what, in which frames, why. Its hours are counted.",
  },
  { kind: "keep_clear", name: "Keep clear", least: 3, most: 200, help: "Nothing may come into it." },
  {
    kind: "framing",
    name: "Final framing",
    least: 2,
    most: 2,
    help: "The last crop, from corner to corner: only what is in it is cut.",
  },
  { kind: "tracking", name: "Tracking mark", least: 1, most: 1, help: "Must stay in the frame, uncovered." },
  {
    kind: "recurring",
    name: "Recurs here",
    least: 1,
    most: 1,
    help: "A thing of the place that every shot of it must have.",
  },
];
export const kindOf = (kind: LineKind) => KINDS.find((one) => one.kind === kind)!;
export const CLOSED = new Set<LineKind>(["paint_out", "keep_clear"]);
export const DASH: Partial<Record<LineKind, string>> = {
  split: "14 6",
  keep_clear: "3 4",
  paint_out: "9 4 2 4",
};

export const pointsOf = (line: BoardLine): Point[] => (line.values.points as Point[]) ?? [];

export const pathOf = (points: Point[], closed: boolean) =>
  points.length ? "M" + points.map(([x, y]) => `${x} ${y}`).join("L") + (closed ? "Z" : "") : "";

/** The outline of a line: a framing is a rectangle between its corners, zones are closed. */
export function shape(kind: LineKind, points: Point[]): string {
  if (kind === "framing" && points.length === 2) {
    const [a, b] = points as [Point, Point];
    return pathOf([a, [b[0], a[1]], b, [a[0], b[1]]], true);
  }
  return pathOf(points, CLOSED.has(kind));
}

/** A shape in the middle of the frame, for whoever draws by keyboard. */
export function middle(kind: LineKind, width: number, height: number): Point[] {
  const at = (x: number, y: number): Point => [Math.round(width * x), Math.round(height * y)];
  if (kind === "matte") return [at(0.25, 0.5), at(0.75, 0.5)];
  if (kind === "split") return [at(0.5, 0), at(0.5, 1)];
  if (kind === "framing") return [at(0.1, 0.1), at(0.9, 0.9)];
  if (kind === "tracking" || kind === "recurring") return [at(0.5, 0.5)];
  return [at(0.4, 0.4), at(0.6, 0.4), at(0.6, 0.6), at(0.4, 0.6)];
}
