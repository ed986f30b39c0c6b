// A tone that rises as the picture closes in, and is joined by its fifth when it holds: for whoever looks at
// the head and not at the screen.
const LOWEST_HZ = 160;
const HIGHEST_HZ = 880;
const SETTLES_S = 0.08;
const LOUD = 0.08;
const FIFTH = 1.5;

/**
 * How high it sounds at a place of the ladder: 0 is in register, from 1 on it is tight, from 2 on it shows;
 * each step is a few notes lower.
 */
export const pitch = (place: number) => Math.max(LOWEST_HZ, HIGHEST_HZ * 2 ** (-Math.max(place, 0) / 3));

export class Tone {
  #sound: AudioContext | null = null;
  #voices: { tone: OscillatorNode; loud: GainNode }[] = [];

  get on() {
    return this.#sound !== null;
  }
  begin() {
    const sound = (this.#sound = new AudioContext());
    void sound.resume();
    this.#voices = [0, 1].map(() => {
      const tone = sound.createOscillator();
      const loud = sound.createGain();
      loud.gain.value = 0;
      tone.connect(loud).connect(sound.destination);
      tone.start();
      return { tone, loud };
    });
  }
  /** Nothing is measured: silence. */
  say(place: number | null) {
    if (!this.#sound) return;
    const at = this.#sound.currentTime;
    const holds = place !== null && place <= 1;
    this.#voices.forEach(({ tone, loud }, i) => {
      if (place !== null) tone.frequency.setTargetAtTime(pitch(place) * (i ? FIFTH : 1), at, SETTLES_S);
      loud.gain.setTargetAtTime(place === null || (i && !holds) ? 0 : LOUD, at, SETTLES_S);
    });
  }
  stop() {
    void this.#sound?.close();
    this.#sound = null;
    this.#voices = [];
  }
}
