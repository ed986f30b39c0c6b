// How an answer is written: four figures, in the reader's units.
import { factor, quantityOf, unitOf, type Units } from "../../lib/units";

export function unitHere(unit: string, units: Units): string {
  return unitOf(quantityOf(unit), units, unit);
}

export function figure(value: number, unit: string, units: Units): string {
  const here = value * factor(quantityOf(unit), units);
  if (here === 0) return "0";
  const size = Math.abs(here);
  if (size < 1e-4 || size >= 1e7) return here.toPrecision(3);
  return String(Number(here.toPrecision(4)));
}

/** Any answer in a line: numbers, yes or no, words, short lists. */
export function inWords(value: unknown, unit: string, units: Units): string {
  if (value === null || value === undefined) return "none";
  if (typeof value === "number") return figure(value, unit, units);
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (Array.isArray(value)) {
    const shown = value.slice(0, 24).map((one) => inWords(one, unit, units));
    return shown.join(", ") + (value.length > 24 ? ` … ${value.length} in all` : "");
  }
  return String(value);
}

/** A map of numbers over a surface, where the value is one. */
export const grid = (value: unknown): number[][] | null =>
  Array.isArray(value) && Array.isArray(value[0]) && typeof value[0][0] === "number" && value[0].length > 3
    ? (value as number[][])
    : null;
/** Records, where the value is a list of them. */
export const records = (value: unknown): Record<string, unknown>[] | null =>
  Array.isArray(value) && typeof value[0] === "object" && value[0] !== null && !Array.isArray(value[0])
    ? (value as Record<string, unknown>[])
    : null;
