// The path of a point of the figure: its keys, and how it lies over the picture.
import type { Schemas } from "../../lib/api/client";

export type FigurePoint = Schemas["FigurePointOut"];
export type PointKey = Schemas["PointKey"];

/** Keys with one more, in place of the one that stood at its frame, whose easing stays. */
export function onPath(keys: readonly PointKey[], key: Pick<PointKey, "frame" | "x" | "y">): PointKey[] {
  const stood = keys.find((one) => one.frame === key.frame);
  const others = keys.filter((one) => one.frame !== key.frame);
  const eased = { eases_in: stood?.eases_in ?? 0, eases_out: stood?.eases_out ?? 0 };
  return [...others, { ...eased, ...key }].sort((a, b) => a.frame - b.frame);
}

/** From which frame to which a foot has to stand, as it is typed: `1–9, 25–33`. */
export const spansText = (spans: readonly (readonly number[])[]) =>
  spans.map(([first, last]) => `${first}–${last}`).join(", ");

/** What was typed as spans of frames; null where it is none. */
export function spansOf(text: string): number[][] | null {
  const parts = text
    .split(/[,;]/)
    .map((one) => one.trim())
    .filter(Boolean);
  const spans = parts.map((one) => /^(\d+)(?:\s*[–-]\s*(\d+))?$/.exec(one));
  if (spans.some((one) => !one)) return null;
  return spans.map((one) => [Number(one![1]), Number(one![2] ?? one![1])]);
}
