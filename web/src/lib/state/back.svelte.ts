// Changes one after the other, and the way back: what is asked while another is under way waits for it, undo too.
type Step = { label: string; at: number; back: () => Promise<boolean> };

let steps = 0;
/** Which step came when, over all ways back: two lists on one screen are taken back in one order. */
export const nextStep = () => ++steps;

export class WayBack {
  #steps = $state.raw<Step[]>([]);
  #last: Promise<unknown> = Promise.resolve();

  get can() {
    return this.#steps.length > 0;
  }
  get label() {
    return this.#steps.at(-1)?.label;
  }
  get newest() {
    return this.#steps.at(-1)?.at ?? 0;
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
  /** How to take back what was just done; ``back`` runs by itself and must not call :meth:`run`. */
  remember(label: string, back: Step["back"]) {
    this.#steps = [...this.#steps, { label, at: nextStep(), back }];
  }
  undo(): Promise<void> {
    return this.run(async () => {
      const step = this.#steps.at(-1);
      if (!step) return;
      // What could not be taken back (no connection, somebody else was there) can be tried again.
      if (await step.back()) this.#steps = this.#steps.slice(0, -1);
    });
  }
}
