/** Where words stand on a picture: beside what they are about, inside it, and never over one another. */

export type Drawn = {
  kind: string;
  places: readonly (readonly number[])[];
  text: string;
};
type Size = { width: number; height: number };
export type At = { x: number; y: number; anchor: "start" | "end" };
export type Word<D extends Drawn> = { one: D; at: At };
type Box = { left: number; right: number; top: number; bottom: number };

/** Of the letters of a picture, about. */
const LETTER_PX = 6.4;
const ABOVE_PX = 11;
const BELOW_PX = 4;
const APART_PX = 8;
const TRIED = 12;
/** Up or down by a row, where words of a point or an area would lie over others. */
const ROWS = [0, 1, -1, 2, -2];
const ROW_PX = 16;

export function boxOf(at: At, text: string): Box {
  const wide = LETTER_PX * text.length;
  const left = at.anchor === "start" ? at.x : at.x - wide;
  return { left, right: left + wide, top: at.y - ABOVE_PX, bottom: at.y + BELOW_PX };
}

/** How far two boxes are apart, px; 0 where they touch. */
function apart(one: Box, other: Box): number {
  const across = Math.max(0, one.left - other.right, other.left - one.right);
  return Math.hypot(across, Math.max(0, one.top - other.bottom, other.top - one.bottom));
}

function beside(place: readonly number[], text: string, off: number, size: Size): At {
  const [x, y] = [place[0]! * size.width, place[1]! * size.height];
  const end = x > size.width * 0.7;
  const wide = LETTER_PX * text.length;
  const [least, most] = end ? [2 + wide, size.width - 2] : [2, size.width - 2 - wide];
  return {
    x: Math.max(2, Math.min(Math.max(least, end ? x - off : x + off), Math.max(least, most))),
    y: Math.min(Math.max(14, y + 4), size.height - 6),
    anchor: end ? "end" : "start",
  };
}

/**
 * Points and areas first; a line's words where they are farthest from the others that stand, and of what says
 * the same once. Words of a line that find no room are left out: the lines beside it have theirs.
 */
export function wordsOf<D extends Drawn>(
  overlays: readonly D[],
  size: Size,
  off: (one: D) => number,
): Word<D>[] {
  const placed: Word<D>[] = [];
  const space = (at: At, text: string) =>
    Math.min(Infinity, ...placed.map((each) => apart(boxOf(at, text), boxOf(each.at, each.one.text))));
  const told = overlays.filter((one) => one.text && one.places.length);
  for (const one of told.filter((each) => each.kind !== "line")) {
    const first = beside(one.places[0]!, one.text, off(one), size);
    const rows = ROWS.map((row) => ({ ...first, y: first.y + row * ROW_PX })).filter(
      (at) => at.y >= 14 && at.y <= size.height - 6,
    );
    placed.push({ one, at: rows.find((at) => space(at, one.text) > 0) ?? first });
  }
  for (const one of told.filter((each) => each.kind === "line")) {
    if (placed.some((each) => each.one.kind === "line" && each.one.text === one.text)) continue;
    const step = Math.max(1, Math.floor(one.places.length / TRIED));
    const tries = one.places
      .filter((_, index) => index % step === 0)
      .map((place) => beside(place, one.text, off(one), size));
    const best = tries.reduce((a, b) => (space(b, one.text) > space(a, one.text) ? b : a));
    if (space(best, one.text) > APART_PX) placed.push({ one, at: best });
  }
  return placed;
}
