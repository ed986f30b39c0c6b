// The way back of a shot, and forward again: what was done here, and before this page was opened.
import { keysIssued, Offline, Refused } from "../api/client";
import { NEVER, ownSteps } from "./back.svelte";
import { noChanges, type Step } from "./changes";

export class Steps {
  undoable = $state.raw<Step[]>([]);
  redoable = $state.raw<Step[]>([]);
  #keys = keysIssued();

  get can() {
    return this.undoable.length > 0;
  }
  get label() {
    return this.undoable.at(-1)?.label;
  }
  get newest() {
    return this.undoable.at(-1)?.at ?? NEVER;
  }

  did(step: Step) {
    this.undoable = [...this.undoable, step];
    this.redoable = [];
  }
  /** It never happened: the server refused it. */
  drop(key: string) {
    const other = (one: Step) => !("key" in one.which) || one.which.key !== key;
    this.undoable = this.undoable.filter(other);
    this.redoable = this.redoable.filter(other);
  }
  /** The last step, which is being taken back under this key. */
  back(key: string): Step | undefined {
    const step = this.undoable.at(-1);
    if (!step) return;
    this.undoable = this.undoable.slice(0, -1);
    this.redoable = [...this.redoable, { ...step, which: { key } }];
    return step;
  }
  /** The last step that was taken back, which is being done again. */
  forward(key: string, at: number): Step | undefined {
    const step = this.redoable.at(-1);
    if (!step) return;
    this.redoable = this.redoable.slice(0, -1);
    this.undoable = [...this.undoable, { ...step, which: { key }, at }];
    return step;
  }
  /** What one did to this shot before this page was opened can be taken back here too. */
  async fill(production: number, shot: number) {
    try {
      const known = this.undoable.map((one) => JSON.stringify(one.which));
      const earlier = await ownSteps(production, { shot }, this.#keys);
      const fresh = earlier.filter((one) => !known.includes(JSON.stringify(one.which)));
      const unseen = { back: noChanges(), forward: noChanges() };
      this.undoable = [...fresh.map((one) => ({ ...one, ...unseen })), ...this.undoable];
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
    }
  }
}
