// Metres and lux are what is kept; feet and foot-candles are only how some people read and type them.
const FEET_PER_METRE = 1 / 0.3048;
const LUX_PER_FOOTCANDLE = 10.764;

export type Quantity = "number" | "length" | "light";
export type Units = "metric" | "imperial";

export function factor(quantity: Quantity, units: Units): number {
  if (units === "metric") return 1;
  return quantity === "length" ? FEET_PER_METRE : quantity === "light" ? 1 / LUX_PER_FOOTCANDLE : 1;
}

export function unitOf(quantity: Quantity, units: Units, own: string): string {
  if (quantity === "length") return units === "metric" ? "m" : "ft";
  if (quantity === "light") return units === "metric" ? "lx" : "fc";
  return own;
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
  return units === "metric" ? `${Number(here.toFixed(1))} m²` : `${Math.round(here)} ft²`;
}
