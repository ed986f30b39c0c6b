// What the hand has seen: the versions on screen, and what came of its own writes, shown yet or not.
import type { Bench } from "../api/client";
import { KINDS, rows, versions, type Changes, type Versions } from "./changes";

/** Versions as the server gives them: by kind and id. */
type Counted = Record<string, Record<string, number>>;

export class Seen {
  /** For every row: which version became which by a write of this hand. */
  #own = rows<Record<number, number>>();

  of(bench: Bench | null): Versions {
    return this.since(versions(bench));
  }
  /** These versions, and what they have become where nobody but this hand wrote between. */
  since(seen: Versions): Versions {
    const now = rows<number>();
    for (const what of KINDS)
      for (const [id, version] of Object.entries(seen[what])) {
        let last = version;
        for (let next = this.#own[what][+id]?.[last]; next; next = this.#own[what][+id]?.[last]) last = next;
        now[what][+id] = last;
      }
    return now;
  }
  #became(what: keyof Versions, id: number, before: number, after: number) {
    if (after > before) (this.#own[what][id] ??= {})[before] = after;
  }
  /** A write of these rows was taken at the versions that it had seen: each counts one up. */
  wrote(changes: Changes, seen: Versions) {
    for (const what of KINDS)
      for (const id of Object.keys(changes[what])) {
        const version = seen[what][+id] ?? 0;
        this.#became(what, +id, version, version + 1);
      }
  }
  /** A write was taken back, whatever it was of: these rows count one up to these versions. */
  tookBack(counted: Counted) {
    for (const what of KINDS)
      for (const [id, version] of Object.entries(counted[what] ?? {}))
        this.#became(what, +id, version - 1, version);
  }
}
