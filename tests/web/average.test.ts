// Several exposures as one: their mean, rounded once.
import { meanOf } from "../../web/src/features/frames/average";

test("the mean of a code is rounded once, to the nearest", () => {
  const rows = [
    [0, 10, 255, 255],
    [1, 10, 254, 255],
    [1, 11, 255, 255],
  ].map((row) => new Uint8ClampedArray(row));
  expect([...meanOf(rows)]).toEqual([1, 10, 255, 255]);
});

test("noise of sixteen exposures is a quarter of that of one", () => {
  let seed = 7;
  const dice = () => ((seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5) * 40;
  const rows = Array.from({ length: 16 }, () => Uint8ClampedArray.from({ length: 4000 }, () => 128 + dice()));
  const spread = (row: Uint8ClampedArray) =>
    Math.sqrt(row.reduce((sum, one) => sum + (one - 128) ** 2, 0) / 4000);
  expect(spread(meanOf(rows)) / spread(rows[0]!)).toBeCloseTo(0.25, 1);
});
