// The rhythm of a hyperlapse: a beat every interval, counted down, heard; on the beat a photograph is taken.
const LOOKS_MS = 100;
const COUNTED_S = 3; // so many seconds before the beat are heard

export class Metronome {
  going = $state(false);
  /** Seconds to the next beat. */
  left = $state(0);
  /** On the beat a photograph is taken by itself. */
  takes = $state(true);
  #next = 0;
  #ticks = 0;

  constructor(
    readonly intervalS: () => number,
    readonly beat: () => void,
    readonly count: () => void,
  ) {}

  start() {
    this.going = true;
    this.#next = performance.now() + this.intervalS() * 1000;
    this.#look();
    this.#ticks = window.setInterval(() => this.#look(), LOOKS_MS);
  }
  stop() {
    window.clearInterval(this.#ticks);
    this.going = false;
    this.left = 0;
  }
  #look() {
    const before = Math.ceil(this.left);
    let left = (this.#next - performance.now()) / 1000;
    if (left <= 0) {
      // who was away for a while is not caught up with
      const every = this.intervalS();
      this.#next += every * 1000 * Math.ceil(-left / every || 1);
      left = (this.#next - performance.now()) / 1000;
      this.beat();
    } else if (Math.ceil(left) < before && Math.ceil(left) <= COUNTED_S) this.count();
    this.left = left;
  }
}
