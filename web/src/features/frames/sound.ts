// What the desk says while the eyes are on the puppet: taken, and look before you move on.
const TAKEN = [{ hz: 1320, at: 0, lasts: 0.05 }];
const WARNING = [
  { hz: 440, at: 0, lasts: 0.16 },
  { hz: 330, at: 0.2, lasts: 0.26 },
];
const TICK = [{ hz: 880, at: 0, lasts: 0.05 }];
const LOUD = 0.12;
const SLOWER = 0.9; // over a fan, in a garage
const FADES_S = 0.02;

export class Sound {
  #sound: AudioContext | null = null;
  taken() {
    this.#play(TAKEN);
  }
  /** A second before the beat. */
  tick() {
    this.#play(TICK);
  }
  warning() {
    this.#play(WARNING);
  }
  /** Spoken by a voice of the device, where it has one: eyes and hands stay at the crank. */
  say(text: string) {
    const voice = window.speechSynthesis as SpeechSynthesis | undefined;
    if (!voice || !text) return;
    voice.cancel(); // what was said before is not so any more
    const spoken = new SpeechSynthesisUtterance(text);
    spoken.lang = "en";
    spoken.rate = SLOWER;
    voice.speak(spoken);
  }
  stop() {
    (window.speechSynthesis as SpeechSynthesis | undefined)?.cancel();
    void this.#sound?.close();
    this.#sound = null;
  }
  #play(notes: readonly { hz: number; at: number; lasts: number }[]) {
    if (!window.AudioContext) return;
    const sound = (this.#sound ??= new AudioContext());
    void sound.resume();
    for (const { hz, at, lasts } of notes) {
      const tone = sound.createOscillator();
      const loud = sound.createGain();
      const begins = sound.currentTime + at;
      tone.frequency.value = hz;
      loud.gain.setValueAtTime(0, begins);
      loud.gain.linearRampToValueAtTime(LOUD, begins + FADES_S);
      loud.gain.setValueAtTime(LOUD, begins + lasts - FADES_S);
      loud.gain.linearRampToValueAtTime(0, begins + lasts);
      tone.connect(loud).connect(sound.destination);
      tone.start(begins);
      tone.stop(begins + lasts);
    }
  }
}
