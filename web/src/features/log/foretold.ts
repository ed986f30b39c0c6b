// The verdict of a take that only this device knows of, looked up in what the server worked out before.
// Nothing is judged here: what was not worked out is said to be open.
import type { Schemas, Verdict } from "../../lib/api/client";

type Given = Schemas["VerdictOut"];
type Item = Given["items"][number];
type Setting = Pick<Schemas["SettingOut"], "field" | "label" | "value">;
type Point = { value: number; given: Given };

export type Foretold = {
  verdict: Verdict;
  items: Item[];
  /** The points on both sides of a value that lies between two of them. */
  between: { label: string; low: Point; high: Point }[];
  /** Settings further off than was worked out. */
  beyond: string[];
  /** Items that more than one of the settings moves. */
  together: string[];
  /** Several settings are otherwise: each is known by itself, and not what they do together. */
  apart: boolean;
  /** The sun stands as planned; the take has it where it stood. */
  sun: boolean;
};

/** Worst first. */
const ORDER: Verdict[] = ["shows", "tight", "holds"];
const worse = (a: Verdict, b: Verdict) => (ORDER.indexOf(a) < ORDER.indexOf(b) ? a : b);
const worstOf = (items: Item[]) => items.reduce<Verdict>((so, one) => worse(so, one.verdict), "holds");
const same = (a: number, b: number) => Math.abs(a - b) <= 1e-4 * Math.max(Math.abs(a), Math.abs(b), 1e-3);

/** The points at a value, or on both sides of it; none beyond the last one. */
function around(points: Point[], value: number): Point[] {
  const exact = points.find((one) => same(one.value, value));
  if (exact) return [exact];
  const low = points.filter((one) => one.value < value).at(-1);
  const high = points.find((one) => one.value > value);
  return low && high ? [low, high] : [];
}
const byKey = (items: Item[]): Partial<Record<string, Item>> =>
  Object.fromEntries(items.map((one) => [one.item, one]));

export function foretold(
  table: Schemas["ForetoldOut"],
  card: Setting[],
  changed: Record<string, number>,
): Foretold {
  const found: Foretold = {
    verdict: "holds",
    items: [],
    between: [],
    beyond: [],
    together: [],
    apart: Object.keys(changed).length > 1,
    sun: table.sun,
  };
  const stands: Record<string, Point[]> = {};
  for (const line of card) {
    const value = changed[line.field];
    if (value === undefined) continue;
    const points = table.points
      .filter((one) => one.field === line.field)
      .map((one): Point => ({ value: one.value, given: one }));
    if (line.value !== null) points.push({ value: line.value, given: table.planned });
    const near = around(
      points.sort((a, b) => a.value - b.value),
      value,
    );
    if (near.length === 2) found.between.push({ label: line.label, low: near[0]!, high: near[1]! });
    if (near.length) stands[line.field] = near;
    else found.beyond.push(line.label);
  }
  const settings = Object.values(stands);
  if (settings.length === 1 && settings[0]!.length === 1) {
    const { verdict, items } = settings[0]![0]!.given;
    return { ...found, verdict, items };
  }
  const planned = byKey(table.planned.items);
  const asPlanned = (item: Item | undefined, key: string) =>
    item?.amount_text === planned[key]?.amount_text && item?.verdict === planned[key]?.verdict;
  const given = settings.map((points) => points.map((one) => byKey(one.given.items)));
  const keys = new Set([planned, ...given.flat()].flatMap((one) => Object.keys(one)));
  for (const key of keys) {
    const moved = given.filter((points) => points.some((items) => !asPlanned(items[key], key)));
    const rows = (moved[0]?.map((items) => items[key]) ?? [planned[key]]).filter((one) => one !== undefined);
    const worst = rows.toSorted((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict))[0];
    if (moved.length > 1) found.together.push((worst ?? planned[key])?.label ?? key);
    else if (worst) found.items.push(worst);
  }
  found.items.sort((a, b) => ORDER.indexOf(a.verdict) - ORDER.indexOf(b.verdict));
  return { ...found, verdict: worstOf(found.items) };
}

/** Whether nothing of it is open: it is what the server would give. */
export const isExact = (one: Foretold) => !one.between.length && !one.beyond.length && !one.apart && !one.sun;

/** How sure it is, in words; what the amounts are between two points is not guessed. */
export function sureness(one: Foretold, says: (line: string, value: number) => string): string {
  const told = one.between.map(
    ({ label, low, high }) =>
      `${label}: ${low.given.verdict} at ${says(label, low.value)}, ${high.given.verdict} at ` +
      `${says(label, high.value)}, not worked out between.`,
  );
  if (one.beyond.length) told.push(`${one.beyond.join(", ")}: further off than was worked out.`);
  if (one.together.length) told.push(`${one.together.join(", ")}: moved by more than one setting.`);
  if (one.apart) told.push("Each setting by itself: what they do together is judged when it is sent.");
  if (one.sun) told.push("With the sun as planned.");
  return told.join(" ");
}
