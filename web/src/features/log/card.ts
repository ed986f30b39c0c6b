// A setting of the card in words, as planned or as it was.
import type { Schemas } from "../../lib/api/client";
import { shown, unitOf, type Units } from "../../lib/units";

type Setting = Schemas["SettingOut"];

/** What a setting was, in words; as planned where it was not touched. */
export function inWords(line: Setting, value: number | undefined, units: Units): string {
  if (value === undefined) return line.text;
  const choice = line.choices.find((one) => Math.abs(one.value - value) < 1e-6);
  const unit = unitOf(line.quantity, units, line.unit);
  return (
    (line.field === "f_number" && choice ? "f/" : "") +
    (choice?.label ?? shown(value, line.quantity, units)) +
    (unit && line.field !== "f_number" ? ` ${unit}` : "")
  );
}
