// What an answer leaves out while a hand moves, as it was when the hand last rested.
import type { Bench } from "../api/client";

/** `found`, its margins that wait as wide as they were, about where each dial belongs now, and its fixes that
 * must be searched for as they were found. */
export function stillKnown(found: Bench, before: Bench | null): Bench {
  if (before) keepFixes(found, before);
  const [now, then] = [found.selected, before?.selected];
  if (!now || now.placings || !then?.placings || now.layer_id !== then.layer_id) return found;
  now.placings = then.placings;
  // "lens wants 0.133 m" as it was said with its margin, while that is what it wants
  const wants = then.standing.wants_text;
  if (wants.startsWith(`${now.standing.wants_text} `)) now.standing.wants_text = wants;
  for (const { dial: field } of then.placings) {
    const [dial, old] = [now, then].map((one) => one.dials.find((dial) => dial.field === field));
    if (!dial || old?.hero == null || dial.hero == null) continue;
    const moved = dial.hero - old.hero;
    dial.holds_low = old.holds_low === null ? null : old.holds_low + moved;
    dial.holds_high = old.holds_high === null ? null : old.holds_high + moved;
  }
  return found;
}

function keepFixes(found: Bench, before: Bench) {
  const layer = (bench: Bench) => bench.layers.find((one) => one.id === found.selected?.layer_id);
  const then = new Map(layer(before)?.items.map((one) => [one.item, one.fixes]));
  for (const one of layer(found)?.items ?? []) one.fixes ??= then.get(one.item) ?? null;
}
