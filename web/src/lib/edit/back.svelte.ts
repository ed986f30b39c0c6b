// Changes one after the other, and the way back: what is asked while another is under way waits for it, undo
// too. Every change is kept in the production's history under its key; taking back asks the history, so it
// outlives the page.
import { answered, client, keyNumber, keysIssued, Refused, writeKey } from "../api/client";
import type { Asking } from "./asking.svelte";

/** One entry of the history: by the key under which this page sent it, or by its number. */
export type Which = { key: string } | { write: number };
type Step = { label: string; at: number; which: Which };

let steps = 0;
/** Which step came when, over all ways back: two lists on one screen are taken back in one order. */
export const nextStep = () => ++steps;

const REMEMBERED = 30;
/** Of one shot; of some kinds of rows, with commas between, or of one row of them. */
export type Scope = { shot?: number; kinds?: string; row?: number };

export const NEVER = -Infinity;
// numbers of the history come before every step of this page, in their own order
const BEFORE_EVERYTHING = -1e12;

/**
 * What one did oneself before this page had given out `keys` keys, and what still stands of it, oldest first.
 */
export async function ownSteps(production: number, of: Scope, keys: number): Promise<Step[]> {
  const query = { mine: true, standing: true, limit: REMEMBERED, ...of };
  const found = await answered(
    client.GET("/api/productions/{production_id}/history", {
      params: { path: { production_id: production }, query },
    }),
  );
  return found.writes
    .filter((one) => keyNumber(one.key) <= keys)
    .reverse()
    .map((one) => ({
      label: one.title,
      at: BEFORE_EVERYTHING + one.id,
      which: one.key ? { key: one.key } : { write: one.id },
    }));
}

/** Give what a write changed its values from before. */
export function takeBack(production: number, which: Which, key = writeKey()) {
  return answered(
    client.POST("/api/productions/{production_id}/take-back", {
      params: { path: { production_id: production } },
      headers: { "Idempotency-Key": key },
      body: { write: null, key: "", ...which },
    }),
  );
}

export class WayBack {
  #steps = $state.raw<Step[]>([]);
  #last: Promise<unknown> = Promise.resolve();
  #keys = keysIssued();
  /** After somebody else's save: theirs is shown, and this saves mine over it. */
  again = $state.raw<(() => Promise<unknown>) | null>(null);

  /**
   * `production` is asked when it is needed; `reread` after something was taken back, or theirs came first.
   */
  constructor(
    readonly asking: Asking,
    readonly production: () => number | null,
    readonly reread: () => Promise<unknown> | void,
  ) {}

  get can() {
    return this.#steps.length > 0;
  }
  get label() {
    return this.#steps.at(-1)?.label;
  }
  get newest() {
    return this.#steps.at(-1)?.at ?? NEVER;
  }
  /** When everything asked so far is done. */
  get done(): Promise<unknown> {
    return this.#last;
  }

  /** Do this when everything asked before is done. */
  run<T>(work: () => Promise<T>): Promise<T> {
    const next = this.#last.then(work);
    this.#last = next.catch(() => undefined);
    return next;
  }
  /**
   * A write in its turn, under a key of its own: when it is done it can be taken back. Undefined where it was
   * refused.
   */
  do<T>(label: string | ((done: T) => string), write: (key: string) => Promise<T>): Promise<T | undefined> {
    return this.run(async () => {
      const key = writeKey();
      this.again = null;
      const done = await this.asking.run(() => write(key));
      if (done === undefined && this.asking.at("version")) {
        await Promise.resolve(this.reread()).catch(() => undefined);
        this.again = () => this.do(label, write);
      }
      if (done !== undefined) {
        const step = {
          label: typeof label === "string" ? label : label(done),
          at: nextStep(),
          which: { key },
        };
        this.#steps = [...this.#steps, step];
      }
      return done;
    });
  }
  /** Neither mine nor the reason is wanted any more. */
  leave() {
    this.again = null;
    this.asking.problems = [];
  }
  /** What one did here before this page was opened. */
  async fill(of: Scope) {
    const production = this.production();
    if (!production) return;
    const earlier = await ownSteps(production, of, this.#keys);
    this.#steps = [...earlier, ...this.#steps];
  }
  /** What a worker wrote for one just now, so that it can be taken back like what one did oneself. */
  pick(of: Scope): Promise<void> {
    return this.run(async () => {
      const production = this.production();
      const newest = production && (await ownSteps(production, of, Infinity)).at(-1);
      if (!newest || !("write" in newest.which)) return;
      const { write } = newest.which;
      if (this.#steps.some(({ which }) => "write" in which && which.write === write)) return;
      this.#steps = [...this.#steps, { ...newest, at: nextStep() }];
    });
  }
  undo(): Promise<void> {
    return this.run(async () => {
      const step = this.#steps.at(-1);
      const production = this.production();
      if (!step || !production) return;
      let refused = false;
      const done = await this.asking.run(async () => {
        try {
          return await takeBack(production, step.which);
        } catch (error) {
          refused = error instanceof Refused;
          throw error;
        }
      });
      // Without connection it can be tried again; what was refused (somebody has changed it since) will not
      // go back.
      if (done || refused) this.#steps = this.#steps.slice(0, -1);
      if (done) await this.reread();
    });
  }
}

type Way = {
  readonly can: boolean;
  readonly label: string | undefined;
  readonly newest: number;
  /** When everything asked of it so far is done. */
  readonly done: Promise<unknown>;
  undo(): Promise<unknown>;
};

/** Several ways back on one screen: what was done last, by any of them, is taken back first. */
export class LastOf {
  #undoing: Promise<unknown> = Promise.resolve();

  constructor(readonly ways: () => Way[]) {}

  get #last(): Way | undefined {
    return this.ways().reduce<Way | undefined>(
      (last, way) => (!last || way.newest > last.newest ? way : last),
      undefined,
    );
  }
  get can() {
    return this.#last?.can ?? false;
  }
  get label() {
    return this.#last?.label;
  }
  /** Only when all that was asked is done is it known what came last. */
  undo(): Promise<unknown> {
    this.#undoing = this.#undoing
      .catch(() => undefined)
      .then(() => Promise.all(this.ways().map((way) => way.done)))
      .then(() => this.#last?.undo());
    return this.#undoing;
  }
}
