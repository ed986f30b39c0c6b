// What a telephone tells as a level, and the tone that rises as a picture closes in.
import { edges } from "../../web/src/features/line-up/edges";
import { headingOf, Level, ownError, spread } from "../../web/src/features/line-up/level.svelte";
import { pitch } from "../../web/src/features/line-up/tone";

const lies = (beta: number, gamma: number, more = {}) =>
  ({ beta, gamma, alpha: null, absolute: false, ...more }) as never;

test("beta is the tilt and gamma the roll, over the last readings", () => {
  const level = new Level();
  for (let i = 0; i < 60; i++) level.read(lies(3 + (i % 2) * 0.2, -1));
  expect(level.readings.length).toBe(20);
  expect(level.now!.tilt).toBeCloseTo(3.1, 6);
  expect(level.now!.roll).toBe(-1);
  expect(level.within).toBeCloseTo(0.2, 6);
  level.read(lies(null as never, 0));
  expect(level.readings.length).toBe(20);
});

test("turned round on the same surface its own error is told and taken away", () => {
  // the surface leans by 1.5°, the telephone reads 0.4° too much
  expect(ownError({ tilt: 1.9, roll: 0.2, heading: null }, { tilt: -1.1, roll: 0.2, heading: null })).toEqual(
    { tilt: expect.closeTo(0.4, 9) as number, roll: expect.closeTo(0.2, 9) as number },
  );
  const level = new Level();
  level.read(lies(1.9, 0.2));
  level.prove();
  expect(level.first).not.toBeNull();
  level.readings = [];
  level.read(lies(-1.1, 0.2));
  level.prove();
  expect(level.first).toBeNull();
  expect(level.now!.tilt).toBeCloseTo(-1.5, 9);
  expect(level.now!.roll).toBeCloseTo(0, 9);
});

test("a heading is clockwise from north, where the device knows north", () => {
  expect(headingOf(lies(0, 0, { alpha: 90, absolute: true }))).toBe(270);
  expect(headingOf(lies(0, 0, { alpha: 90 }))).toBeNull();
  expect(headingOf(lies(0, 0, { webkitCompassHeading: 12 }))).toBe(12);
  expect(spread([])).toBe(0);
});

test("the tone rises as it closes, and does not fall out of hearing", () => {
  const places = [0, 0.5, 1, 2, 4, 8, 16];
  const tones = places.map(pitch);
  expect(tones[0]).toBe(880);
  expect([...tones].sort((a, b) => b - a)).toEqual(tones);
  expect(Math.min(...tones)).toBe(160);
});

test("the edges of a picture stand where its greys change, and nowhere else", () => {
  const [wide, high, begins] = [8, 5, 4];
  const grey = Float32Array.from({ length: wide * high }, (_, i) => (i % wide < begins ? 20 : 50));
  const steep = edges(grey, wide, high);
  const row = Array.from(steep.slice(2 * wide, 3 * wide));
  expect(row).toEqual([0, 0, 0, 30, 30, 0, 0, 0]);
  expect(Math.max(...steep.slice(0, wide), ...steep.slice(-wide))).toBe(0);
});
