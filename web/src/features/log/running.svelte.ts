// The steps of a take as they run: which one, how long it still lasts, what was marked while the camera
// rolled.
import type { Schemas } from "../../lib/api/client";

export type Step = Schemas["ProtocolStep"];
export type Ran = { rolled_s: number; marks: Schemas["TakeMark"][] };

const SOON_S = 3; // the last seconds of a step are beeped
const TICK_MS = 100;

/** Steps one after the other; `now` is the clock, milliseconds. What is called out goes to `call`. */
export class Running {
  at = $state(0);
  left_s = $state(0);
  marks = $state.raw<Schemas["TakeMark"][]>([]);
  over = $state(false);
  #began = 0;
  #rolledAt = $state<number | null>(null);
  #rolled_s = $state<number | null>(null);
  #beeped = 0;
  #timer = 0;

  constructor(
    readonly steps: readonly Step[],
    readonly call: (says: string) => void,
    readonly beep: (last: boolean) => void,
    readonly now: () => number = () => performance.now(),
  ) {}

  get step(): Step | undefined {
    return this.steps[this.at];
  }
  get following(): Step | undefined {
    return this.steps[this.at + 1];
  }
  get rolls() {
    return this.#rolledAt !== null && this.#rolled_s === null;
  }
  /** How long the camera has rolled, s. */
  get rolled_s() {
    if (this.#rolledAt === null) return 0;
    return this.#rolled_s ?? (this.now() - this.#rolledAt) / 1000;
  }
  get ran(): Ran | null {
    if (this.#rolledAt === null) return null;
    return { rolled_s: Number(this.rolled_s.toFixed(1)), marks: this.marks };
  }

  begin() {
    this.#enter(0);
    this.#timer = window.setInterval(() => this.tick(), TICK_MS);
  }
  stop() {
    window.clearInterval(this.#timer);
    if (this.rolls) this.#rolled_s = this.rolled_s;
    this.over = true;
  }
  #enter(at: number) {
    const step = this.steps[at];
    if (!step) return this.stop();
    this.at = at;
    this.#began = this.now();
    this.#beeped = SOON_S + 1;
    this.left_s = step.seconds;
    // the camera rolls from the first step on that it should roll in, to its cut
    if (step.rolling && this.#rolledAt === null) this.#rolledAt = this.now();
    this.call(step.says);
  }
  next() {
    if (this.over) return;
    if (this.step?.key === "cut" && this.rolls) this.#rolled_s = this.rolled_s;
    this.beep(true);
    this.#enter(this.at + 1);
  }
  tick() {
    const step = this.step;
    if (this.over || !step?.seconds) return;
    this.left_s = Math.max(0, step.seconds - (this.now() - this.#began) / 1000);
    const whole = Math.ceil(this.left_s);
    if (whole > 0 && whole <= SOON_S && whole < this.#beeped && step.seconds > SOON_S) {
      this.#beeped = whole;
      this.beep(false);
    }
    if (this.left_s <= 0) this.next();
  }
  /** Something good by chance, or an event: by its time. */
  mark() {
    if (!this.rolls) return;
    const mark = { at_s: Number(this.rolled_s.toFixed(1)), step: this.step?.says ?? "" };
    this.marks = [...this.marks, mark];
  }
}

/** A short tone; the last of a count is higher. */
export function beeper() {
  let sound: AudioContext | null = null;
  return {
    beep(last: boolean) {
      sound ??= new AudioContext();
      void sound.resume();
      const tone = sound.createOscillator();
      tone.frequency.value = last ? 1320 : 880;
      tone.connect(sound.destination);
      tone.start();
      tone.stop(sound.currentTime + (last ? 0.25 : 0.1));
    },
    close: () => void sound?.close(),
  };
}

/** Said aloud, where this device can. */
export function speak(says: string) {
  if (!("speechSynthesis" in window)) return;
  window.speechSynthesis.cancel();
  const words = new SpeechSynthesisUtterance(says);
  words.lang = "en";
  window.speechSynthesis.speak(words);
}
