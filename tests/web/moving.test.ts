// While a hand moves, what takes a search waits; what was known of it stays until the hand rests.
import { stillKnown } from "../../web/src/lib/edit/known";
import type { Bench } from "../../web/src/lib/api/client";
import { opened, supervises, SET_UP, turn } from "./hand";
import { here, quiet } from "./server";

const REST_MS = 150;

beforeEach(supervises);

const asked = () =>
  here.server.asked
    .filter((one) => one.path.endsWith("/trial"))
    .map((one) => [one.body.set_ups[SET_UP].f_number, one.body.moving]);

test("a hand that moves asks for what takes no search, and for the rest when it rests", async () => {
  const bench = await opened();
  turn(bench, { f_number: 9 });
  await quiet();
  await vi.advanceTimersByTimeAsync(REST_MS - 10);
  turn(bench, { f_number: 10 });
  await quiet();
  await vi.advanceTimersByTimeAsync(REST_MS - 10);
  expect(asked()).toEqual([
    [9, true],
    [10, true],
  ]);
  await vi.advanceTimersByTimeAsync(10 * REST_MS);
  expect(asked().slice(2)).toEqual([[10, false]]);
  turn(bench, { f_number: 11 });
  await bench.commit("Stop");
  await vi.advanceTimersByTimeAsync(10 * REST_MS);
  expect(asked().filter(([, moving]) => !moving)).toHaveLength(1); // what is saved is answered whole
});

test("the server gets as long a pause as its last answer took, and then the newest is asked", async () => {
  const bench = await opened();
  here.server.hold("/trial");
  turn(bench, { f_number: 9 });
  await vi.advanceTimersByTimeAsync(80);
  here.server.letGo();
  await quiet();
  turn(bench, { f_number: 10 });
  await vi.advanceTimersByTimeAsync(70);
  turn(bench, { f_number: 11 });
  expect(asked()).toEqual([[9, true]]);
  await vi.advanceTimersByTimeAsync(15);
  expect(asked()).toEqual([
    [9, true],
    [11, true],
  ]);
  bench.close();
});

test("margins that wait stay as wide as they were, about where each dial belongs now", () => {
  const dial = (field: string, hero: number | null, low: number | null, high: number | null) => ({
    field,
    hero,
    holds_low: low,
    holds_high: high,
  });
  const answer = (layer_id: number, placings: unknown, dials: unknown[], wants_text = "") =>
    ({ layers: [], selected: { layer_id, placings, dials, standing: { wants_text } } }) as never as Bench;
  const placings = [{ dial: "lens_height_m" }, { dial: "distance_m" }];
  const rested = answer(1, placings, [
    dial("lens_height_m", 0.13, 0.12, 0.15),
    dial("distance_m", 1, null, null),
    dial("focus_distance_m", 1, 0.9, null),
  ]);
  const moved = answer(1, null, [
    dial("lens_height_m", 0.2, null, null),
    dial("distance_m", 2, null, null),
    dial("focus_distance_m", 1, null, 1.4),
  ]);
  const known = stillKnown(moved, rested).selected!;
  expect(known.placings).toBe(placings);
  expect(known.dials.map((one) => [one.holds_low, one.holds_high])).toEqual([
    [expect.closeTo(0.19), expect.closeTo(0.22)],
    [null, null],
    [null, 1.4],
  ]);
  const wants = (now: string) =>
    stillKnown(answer(1, null, [], now), answer(1, [], [], "lens wants 0.13 m ± 2 mm")).selected!.standing
      .wants_text;
  expect(wants("lens wants 0.13 m")).toBe("lens wants 0.13 m ± 2 mm");
  expect(wants("lens wants 0.1 m")).toBe("lens wants 0.1 m");
  const other = answer(2, null, [dial("lens_height_m", 0.2, null, null)]);
  expect(stillKnown(other, rested).selected!.placings).toBeNull();
  const whole = answer(1, [], []);
  expect(stillKnown(whole, rested).selected!.placings).toEqual([]);
});

test("what is refused under the hand is not asked again when it rests", async () => {
  const bench = await opened();
  turn(bench, { focus_distance_m: 0.1 });
  await quiet();
  expect(bench.problemAt("focus_distance_m")).toContain("0.1 m");
  await vi.advanceTimersByTimeAsync(10 * REST_MS);
  expect(asked()).toHaveLength(1);
  bench.close();
});
