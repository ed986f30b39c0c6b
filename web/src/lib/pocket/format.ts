// How an answer is written: four figures, in the reader's units.
import { factor, type Quantity, type Units } from "../bench/units";

const quantityOf = (unit: string): Quantity => (unit === "m" ? "length" : unit === "lx" ? "light" : "number");

export function unitHere(unit: string, units: Units): string {
  if (units === "imperial" && unit === "m") return "ft";
  if (units === "imperial" && unit === "lx") return "fc";
  return unit;
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
