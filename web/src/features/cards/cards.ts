// What is said of cards and their files, in the page's own words.
import type { Schemas } from "../../lib/api/client";

export type Recording = Schemas["RecordingOut"];
export type Take = Schemas["TakeRef"];

const UNITS = ["B", "kB", "MB", "GB", "TB"];
/** Powers of ten, as cards are sold. */
export function bytes(count: number): string {
  let value = count;
  let unit = 0;
  while (value >= 999.5 && unit < UNITS.length - 1) {
    value /= 1000;
    unit += 1;
  }
  return `${value >= 99.5 || unit === 0 ? Math.round(value) : value.toPrecision(2)} ${UNITS[unit]}`;
}
export const takeName = (take: Take) => `${take.shot} · ${take.layer} · take ${take.number}`;
export const files = (count: number) => `${count} ${count === 1 ? "file" : "files"}`;

/** Seconds as a counter shows them. */
export function length(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  return minutes
    ? `${minutes}:${String(Math.floor(seconds % 60)).padStart(2, "0")} min`
    : `${seconds.toFixed(1)} s`;
}

export const SHOWN = ["decide", "filed", "faulty", "all"] as const;
export type Shown = (typeof SHOWN)[number];
/** Which list a file stands in. */
export const listOf = (one: Recording): Exclude<Shown, "all"> =>
  one.fault ? "faulty" : one.filed ? "filed" : "decide";

/** The takes to choose from: first those that it could be, then all, the nearest in time before others. */
export function choices(one: Recording, takes: readonly Take[]): [string, string][] {
  const first = [one.take, ...one.others].filter((take): take is Take => take !== null);
  const known = new Set(first.map((take) => take.id));
  const at = one.logged_at ? new Date(one.logged_at).getTime() : null;
  const away = (take: Take) => (at === null ? 0 : Math.abs(new Date(take.logged_at).getTime() - at));
  const rest = takes.filter((take) => !known.has(take.id)).sort((a, b) => away(a) - away(b));
  return [...first, ...rest].map((take) => [String(take.id), takeName(take)]);
}
