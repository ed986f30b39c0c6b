// The telephone as a level and a compass: it lies on the camera, its screen up, its top towards the set. By
// the W3C's device orientation, beta is then the camera's tilt and gamma its roll; both turn with the
// telephone's own axes, so each is exact whatever the other is.
const KEPT = 20; // readings, a second or so
const TWICE = 2;

type Reading = { tilt: number; roll: number; heading: number | null };
type Asks = { requestPermission?: () => Promise<string> };
type Turned = DeviceOrientationEvent & { webkitCompassHeading?: number };

const mean = (values: number[]) => values.reduce((sum, one) => sum + one, 0) / Math.max(values.length, 1);
export function spread(values: number[]): number {
  const middle = mean(values);
  return TWICE * Math.sqrt(mean(values.map((one) => (one - middle) ** 2)));
}
/** What the level itself is off by: read on one surface, and again turned round by half a turn. */
export const ownError = (first: Reading, turned: Reading) => ({
  tilt: (first.tilt + turned.tilt) / 2,
  roll: (first.roll + turned.roll) / 2,
});
/** Clockwise from north, from what the browser tells. */
export function headingOf(event: Turned): number | null {
  if (event.webkitCompassHeading !== undefined) return event.webkitCompassHeading;
  return event.absolute && event.alpha !== null ? (360 - event.alpha) % 360 : null;
}

export class Level {
  readings = $state.raw<Reading[]>([]);
  zero = $state.raw({ tilt: 0, roll: 0 });
  first = $state.raw<Reading | null>(null);
  on = $state(false);
  problem = $state("");

  get now(): Reading | null {
    if (!this.readings.length) return null;
    return {
      tilt: mean(this.readings.map((one) => one.tilt)) - this.zero.tilt,
      roll: mean(this.readings.map((one) => one.roll)) - this.zero.roll,
      heading: this.readings.at(-1)!.heading,
    };
  }
  /** Two deviations of what is read while it lies still, degrees. */
  get within(): number {
    const tilts = spread(this.readings.map((one) => one.tilt));
    return Math.max(tilts, spread(this.readings.map((one) => one.roll)));
  }
  read(event: Turned) {
    if (event.beta === null || event.gamma === null) return;
    const one = { tilt: event.beta, roll: event.gamma, heading: headingOf(event) };
    this.readings = [...this.readings.slice(1 - KEPT), one];
  }
  #heard = (event: Event) => this.read(event as Turned);

  async begin() {
    this.problem = "";
    const asks = window.DeviceOrientationEvent as unknown as Asks | undefined;
    if (!asks) {
      this.problem = "This device does not tell how it lies.";
      return;
    }
    if (asks.requestPermission && (await asks.requestPermission().catch(() => "denied")) !== "granted") {
      this.problem = "This page may not read how the telephone lies: allow it, and try again.";
      return;
    }
    const name = "ondeviceorientationabsolute" in window ? "deviceorientationabsolute" : "deviceorientation";
    window.addEventListener(name, this.#heard);
    this.on = true;
    window.setTimeout(() => {
      if (this.on && !this.readings.length) this.problem = "Nothing is read: this device has no such sensor.";
    }, 1500);
  }
  stop() {
    window.removeEventListener("deviceorientationabsolute", this.#heard);
    window.removeEventListener("deviceorientation", this.#heard);
    this.on = false;
    this.readings = [];
  }
  /** Take what it reads now as the first, or the second turned round: then its own error is known. */
  prove() {
    const last = this.readings.length
      ? { ...this.now!, tilt: this.now!.tilt + this.zero.tilt, roll: this.now!.roll + this.zero.roll }
      : null;
    if (!last) return;
    if (!this.first) this.first = last;
    else {
      this.zero = ownError(this.first, last);
      this.first = null;
    }
  }
}
