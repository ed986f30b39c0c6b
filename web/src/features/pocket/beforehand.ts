// A card without a server: its answers at the points that were worked out before. Nothing is reckoned here.
import type { Schemas } from "../../lib/api/client";

type Values = Record<string, unknown>;
type Row = Schemas["AroundRow"];
type Point = boolean | number | string;
/** Where the card stood, and its answers from there. */
export type Beforehand = { values: Values; crossings: Schemas["CrossingOut"][] };

const same = (a: unknown, b: unknown) =>
  typeof a === "number" && typeof b === "number"
    ? Math.abs(a - b) <= 1e-6 * Math.max(Math.abs(a), Math.abs(b))
    : JSON.stringify(a ?? null) === JSON.stringify(b ?? null);
const away = (from: number, to: number) =>
  from > 0 && to > 0 ? Math.abs(Math.log(from / to)) : Math.abs(from - to);

/** The points that a field can stand at, ascending; none where it stays as it was. */
export function pointsOf({ crossings }: Beforehand, field: string): Point[] {
  const all = crossings.flatMap(({ axes }) => axes.find((axis) => axis.field === field)?.values ?? []);
  return [...new Set(all)].sort((a, b) => Number(a) - Number(b));
}

/** The values, each brought to the nearest point that was worked out. */
export function broughtTo(kept: Beforehand, values: Values): Values {
  const near = (field: string, value: unknown) => {
    const points = pointsOf(kept, field);
    if (!points.length) return kept.values[field] ?? null;
    if (typeof value !== "number") return points.some((one) => same(one, value)) ? value : kept.values[field];
    const numbers = points.map(Number);
    return numbers.reduce((so, one) => (away(one, value) < away(so, value) ? one : so));
  };
  const fields = new Set([...Object.keys(values), ...Object.keys(kept.values)]);
  return Object.fromEntries([...fields].map((field) => [field, near(field, values[field])]));
}

/** What was turned from where the card stood. */
export const turnedOf = (kept: Beforehand, values: Values) =>
  Object.keys({ ...kept.values, ...values }).filter((field) => !same(kept.values[field], values[field]));

/**
 * The answer at these values: null where the card refuses them, undefined where it was not worked out: more
 * is turned than was crossed.
 */
export function answerOf(kept: Beforehand, values: Values): Values | null | undefined {
  const turned = turnedOf(kept, values);
  for (const { axes, outputs } of kept.crossings) {
    if (!turned.every((field) => axes.some((axis) => axis.field === field))) continue;
    const places = axes.map((axis) => axis.values.findIndex((one) => same(one, values[axis.field])));
    if (places.includes(-1)) continue;
    const index = axes.reduce((so, axis, i) => so * axis.values.length + places[i]!, 0);
    const answer = Object.fromEntries(Object.entries(outputs).map(([name, column]) => [name, column[index]]));
    return Object.values(answer).every((one) => one === null) ? null : answer;
  }
  return undefined;
}

/** The answers along one field, as far as they were worked out. */
export function alongOf(kept: Beforehand, values: Values, field: string): Row[] {
  return pointsOf(kept, field)
    .map((value) => ({ value: Number(value), outputs: answerOf(kept, { ...values, [field]: value }) }))
    .filter((row): row is Row => row.outputs !== undefined);
}
