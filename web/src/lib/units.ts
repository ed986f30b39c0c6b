// Metres and lux are what is kept; in what people read and type them, the vocabulary says.
import type { Schemas } from "./api/client";
import { vocabulary } from "./vocabulary.svelte";

export type Quantity = Schemas["Dial"]["quantity"];
export type Units = Schemas["PersonOut"]["units"];

/** How many of the reader's unit are one of what is kept. */
export function factor(quantity: Quantity, units: Units): number {
  return vocabulary.unit(quantity, units)?.per_kept ?? 1;
}

export function unitOf(quantity: Quantity, units: Units, own: string): string {
  return vocabulary.unit(quantity, units)?.sign ?? own;
}

/** The quantity that a unit that is kept belongs to. */
export function quantityOf(unit: string): Quantity {
  return (
    (["length", "light"] as const).find((one) => vocabulary.unit(one, "metric")?.sign === unit) ?? "number"
  );
}

/** A kept value as it is typed: 0.133, 11100. */
export function shown(value: number, quantity: Quantity, units: Units): string {
  const here = value * factor(quantity, units);
  if (quantity === "length") return String(Number(here.toFixed(3)));
  return String(Number(here.toPrecision(Math.abs(here) >= 1000 ? 6 : 4)));
}

/** What was typed as a kept value; a comma is read as a decimal point. NaN when it is no number. */
export function kept(text: string, quantity: Quantity, units: Units): number {
  const plain = text.trim().replace(/^f\//i, "").replace(",", ".");
  return plain === "" ? NaN : Number(plain) / factor(quantity, units);
}

/** An area as it is read: 63.7 m², 686 ft². */
export function area(value_m2: number, units: Units): string {
  const here = value_m2 * factor("length", units) ** 2;
  const sign = `${unitOf("length", units, "m")}²`;
  return units === "metric" ? `${Number(here.toFixed(1))} ${sign}` : `${Math.round(here)} ${sign}`;
}
