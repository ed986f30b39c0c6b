// What the hand has seen: the versions on screen, and what came of its own writes, shown yet or not.
import type { Bench } from "../api/client";
import { KINDS, rows, versions, type Changes, type Versions } from "./changes";

export class Seen {
  #mine: Versions = rows<number>();

  of(bench: Bench | null): Versions {
    return this.#raise(versions(bench));
  }
  #raise(seen: Versions): Versions {
    for (const what of KINDS)
      for (const [id, version] of Object.entries(this.#mine[what]))
        seen[what][+id] = Math.max(version, seen[what][+id] ?? 0);
    return seen;
  }
  /**
   * What was written has been seen, by what waits behind it and by what comes next. A row that is gone counts
   * on.
   */
  wrote(changes: Changes, seen: Versions, found: Bench, behind: { seen: Versions }[]) {
    const written = versions(found);
    for (const what of KINDS)
      for (const id of Object.keys(changes[what]))
        this.#mine[what][+id] = written[what][+id] ?? (seen[what][+id] ?? 0) + 1;
    for (const later of behind) this.#raise(later.seen);
  }
}
