// What the hand tries and has not saved: laid over what waits to be sent, over what the server answered last.
import type { Bench } from "../api/client";
import { before, isEmpty, lay, noChanges, without, type Changes, type Fields, type Kind } from "./changes";

export class Trial {
  draft = $state<Changes>(noChanges());
  /** What stood when the hand began. */
  #from: Bench | null = null;

  constructor(
    /** What waits to be sent, oldest first. */
    readonly waiting: () => Changes[],
    readonly bench: () => Bench | null,
  ) {}

  get isEmpty() {
    return isEmpty(this.draft);
  }
  /** What is tried, over what waits to be sent. */
  readonly unsaved: Changes = $derived.by(() => {
    const all = noChanges();
    for (const changes of [...this.waiting(), this.draft]) lay(changes, all);
    return all;
  });
  /** The saved state that what is tried is told from. */
  get from(): Bench | null {
    return this.#from ?? this.bench();
  }

  /** Remember the saved state before something is tried, so that it can be undone. */
  remember() {
    if (this.isEmpty && this.bench() && !this.#from) this.#from = this.bench();
  }
  put(what: Kind, id: number, fields: Fields) {
    this.draft[what][id] = { ...this.draft[what][id], ...fields };
  }
  /** Nothing is tried any more; what was, is given. */
  take(): Changes {
    const changes = $state.snapshot(this.draft) as Changes;
    this.draft = noChanges();
    return changes;
  }
  /** Put back under what is tried since. */
  putBack(changes: Changes) {
    const back = $state.snapshot(changes) as Changes;
    lay($state.snapshot(this.draft) as Changes, back);
    this.draft = back;
  }
  /** Leave out what other changes say; which fields those are. */
  leave(others: Changes): string[] {
    const { left, mended } = without($state.snapshot(this.draft) as Changes, others);
    this.draft = left;
    return mended;
  }
  /** Forget what stood when the hand began. */
  done() {
    this.#from = null;
  }

  /** A field as it stands under the hand: what is tried or on its way, else what the server answered last. */
  now<T>(what: Kind, id: number, field: string, answered: T): T {
    const tried = this.unsaved[what][id];
    return tried && field in tried ? (tried[field] as T) : answered;
  }
  /** Rows with their values as they stand under the hand, without those that are being removed. */
  held<T extends { id: number; values: Fields }>(what: Kind, rows: T[]): T[] {
    const tried = this.unsaved[what];
    return rows
      .filter((one) => !tried[one.id]?.removed)
      .map((one) => (tried[one.id] ? { ...one, values: { ...one.values, ...tried[one.id] } } : one));
  }
  /** The values that the shot has for the fields in `changes` once what is on its way has been saved. */
  before(changes: Changes): Changes {
    const coming = noChanges();
    for (const one of this.waiting()) lay(one, coming);
    return $state.snapshot(before(changes, this.from, coming)) as Changes;
  }
}
