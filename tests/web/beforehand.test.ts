// A card without a server: at the points that were worked out it answers, beside them it goes to the nearest.
import { alongOf, answerOf, broughtTo, pointsOf, turnedOf } from "../../web/src/features/pocket/beforehand";

const stops = [2.8, 4, 5.6];
const metres = [1, 2];
const crossed = (fields: [string, number[]][], answer: (values: number[]) => number | null) => {
  const rows = fields.reduce<number[][]>(
    (so, [, values]) => so.flatMap((row) => values.map((one) => [...row, one])),
    [[]],
  );
  return {
    axes: fields.map(([field, values]) => ({ field, values })),
    outputs: { near: rows.map(answer) },
  };
};
const whole = {
  values: { f_number: 4, distance_m: 2, note: "x" },
  crossings: [
    crossed(
      [
        ["f_number", stops],
        ["distance_m", metres],
      ],
      ([stop, distance]) => (stop === 5.6 && distance === 1 ? null : stop! * distance!),
    ),
  ],
};
const pairs = {
  values: { a: 1, b: 1, c: 1 },
  crossings: (["ab", "ac", "bc"] as const).map(([one, other]) =>
    crossed(
      [
        [one!, [1, 2]],
        [other!, [1, 2]],
      ],
      ([x, y]) => 10 * x! + y!,
    ),
  ),
};

test("at its points it is the answer, with the last axis running fastest", () => {
  for (const f_number of stops)
    for (const distance_m of metres)
      expect(answerOf(whole, { f_number, distance_m, note: "x" })).toEqual(
        f_number === 5.6 && distance_m === 1 ? null : { near: f_number * distance_m },
      );
});

test("a value beside them goes to the nearest, by its ratio; what does not turn stays", () => {
  expect(broughtTo(whole, { f_number: 4.7, distance_m: 1.45, note: "y" })).toEqual({
    f_number: 4,
    distance_m: 2,
    note: "x",
  });
  expect(broughtTo(whole, { f_number: 90, distance_m: 0, note: "x" })).toMatchObject({
    f_number: 5.6,
    distance_m: 1,
  });
  expect([pointsOf(whole, "f_number"), pointsOf(whole, "note")]).toEqual([stops, []]);
});

test("of many numbers two may be turned, and what is turned is named", () => {
  expect(answerOf(pairs, { a: 2, b: 1, c: 2 })).toEqual({ near: 22 });
  expect(answerOf(pairs, { a: 2, b: 2, c: 2 })).toBeUndefined();
  expect(turnedOf(pairs, { a: 2, b: 2, c: 1 })).toEqual(["a", "b"]);
});

test("along one field there is a table, as far as it was worked out", () => {
  const rows = alongOf(whole, { f_number: 4, distance_m: 1, note: "x" }, "f_number");
  expect(rows).toEqual([
    { value: 2.8, outputs: { near: 2.8 } },
    { value: 4, outputs: { near: 4 } },
    { value: 5.6, outputs: null },
  ]);
  expect(alongOf(pairs, { a: 2, b: 2, c: 1 }, "c")).toEqual([{ value: 1, outputs: { near: 22 } }]);
});
