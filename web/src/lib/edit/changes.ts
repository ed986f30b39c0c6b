// Changes of a shot's rows, by kind and id: laid over each other, and what is saved of every row.
import type { Bench, Schemas } from "../api/client";
import type { Which } from "./back.svelte";

export type Fields = Record<string, unknown>;
export const KINDS = ["set_ups", "layers", "lamps", "backings", "lines", "shot"] as const;
export type Kind = (typeof KINDS)[number];
type Rows<T> = Record<Kind, Record<number, T>>;
export type Changes = Rows<Fields>;
export type Versions = Rows<number>;
/**
 * What was done: its entry in the history, and how the drawing looks without it and with it until the server
 * has answered.
 */
export type Step = { which: Which; at: number; label: string; back: Changes; forward: Changes };
/**
 * What waits to be sent: changes of rows, or an entry of the history (`takesBack`) that goes back to what
 * stood before.
 */
export type Waiting = { key: string; changes: Changes; seen: Versions; step: Step | null; takesBack?: Which };
export type Added = Omit<Partial<Schemas["AddIn"]>, "what"> & { what: "layer" | "lamp" | "backing" | "line" };

export function rows<T>(): Rows<T> {
  return { set_ups: {}, layers: {}, lamps: {}, backings: {}, lines: {}, shot: {} };
}
export const noChanges = (): Changes => rows<Fields>();
/** Lay changes over others, field by field. */
export function lay(changes: Changes, over: Changes): void {
  for (const what of KINDS)
    for (const [id, fields] of Object.entries(changes[what]))
      over[what][+id] = { ...over[what][+id], ...fields };
}
export const isEmpty = (changes: Changes) => KINDS.every((kind) => !Object.keys(changes[kind]).length);

/** Changes without the fields that others change too, and which fields those are. */
export function without(changes: Changes, others: Changes): { left: Changes; mended: string[] } {
  const mended: string[] = [];
  for (const what of KINDS)
    for (const [id, fields] of Object.entries(others[what]))
      for (const name of Object.keys(fields)) {
        mended.push(name);
        delete changes[what][+id]?.[name];
        if (!Object.keys(changes[what][+id] ?? {}).length) delete changes[what][+id];
      }
  return { left: changes, mended };
}

/** Every saved row of a bench: its version and its values, by kind and id. */
export function saved(bench: Bench | null): Rows<{ version: number; values: Fields }> {
  const found = rows<{ version: number; values: Fields }>();
  if (!bench) return found;
  found.shot[bench.shot_id] = { version: bench.version, values: bench.shot.values };
  for (const one of bench.layers)
    found.layers[one.id] = { version: one.version, values: { ...one, ...one.values, removed: false } };
  for (const one of bench.lines)
    found.lines[one.id] = { version: one.version, values: { ...one.values, removed: false } };
  for (const one of bench.set_ups) {
    found.set_ups[one.id] = one;
    for (const lamp of one.lamps)
      found.lamps[lamp.id] = { version: lamp.version, values: { ...lamp.values, removed: false } };
    if (one.backing)
      found.backings[one.backing.id] = {
        version: one.backing.version,
        values: { ...one.backing.values, removed: false },
      };
  }
  return found;
}

export function versions(bench: Bench | null): Versions {
  const found = rows<number>();
  const all = saved(bench);
  for (const kind of KINDS) for (const [id, row] of Object.entries(all[kind])) found[kind][+id] = row.version;
  return found;
}

/** The values that the fields in `changes` have in a bench with what is `coming` laid over it. */
export function before(changes: Changes, bench: Bench | null, coming: Changes): Changes {
  const back = noChanges();
  const known = saved(bench);
  for (const what of KINDS)
    for (const [id, fields] of Object.entries(changes[what])) {
      const values = { ...known[what][+id]?.values, ...coming[what][+id] };
      // what the Bench does not hold itself (parts) comes back with the server's answer alone
      const held = Object.keys(fields).filter((name) => name in values);
      back[what][+id] = Object.fromEntries(held.map((name) => [name, values[name] ?? null]));
    }
  return back;
}

/** Changes as they are sent: each row with the version that was seen. */
export function edits(changes: Changes, seen: Versions): Pick<Schemas["ChangesIn"], Kind> {
  return Object.fromEntries(
    KINDS.map((what) => [
      what,
      Object.fromEntries(
        Object.entries(changes[what]).map(([id, fields]) => [
          id,
          { version: seen[what][+id] ?? 0, changes: fields },
        ]),
      ),
    ]),
  ) as Pick<Schemas["ChangesIn"], Kind>;
}
