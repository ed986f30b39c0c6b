// The steps of a take: counted down, called out, marked by time.
import { Running, type Step } from "../../web/src/features/log/running.svelte";

const step = (key: string, seconds: number, rolling = true): Step => ({ key, says: key, seconds, rolling });
const STEPS = [step("roll", 0, false), step("slate", 3), step("action", 8), step("cut", 0)];

function runs() {
  const clock = { ms: 0 };
  const call = vi.fn();
  const beep = vi.fn();
  const running = new Running(STEPS, call, beep, () => clock.ms);
  const pass = (seconds: number) => {
    for (let tenth = 0; tenth < seconds * 10; tenth++) {
      clock.ms += 100;
      running.tick();
    }
  };
  vi.useFakeTimers();
  running.begin();
  return { running, call, beep, pass };
}

test("a step without a time waits, and the camera rolls from the first that it should roll in", () => {
  const { running, call, pass } = runs();
  pass(20);
  expect([running.step?.key, running.rolls, running.ran]).toEqual(["roll", false, null]);
  running.mark();
  expect(running.marks).toEqual([]);
  running.next();
  expect([running.step?.key, running.rolls]).toEqual(["slate", true]);
  pass(3.1);
  expect(running.step?.key).toBe("action");
  expect(call.mock.calls.map(([says]) => says)).toEqual(["roll", "slate", "action"]);
});

test("the last three seconds are beeped, and what happens is marked by its time", () => {
  const { running, beep, pass } = runs();
  running.next();
  pass(3.1);
  beep.mockClear();
  pass(4.8);
  expect(beep).toHaveBeenCalledTimes(0);
  running.mark();
  pass(2.9);
  expect(beep.mock.calls).toEqual([[false], [false], [false]]);
  pass(0.3);
  expect(running.step?.key).toBe("cut");
  pass(2);
  running.next();
  expect(running.over).toBe(true);
  expect(running.marks).toEqual([{ at_s: 7.9, step: "action" }]);
  expect(running.ran?.rolled_s).toBeCloseTo(13.1, 1);
  pass(5);
  expect(running.ran?.rolled_s).toBeCloseTo(13.1, 1);
});

test("what is stopped early has rolled as long as it did", () => {
  const { running, pass } = runs();
  running.next();
  pass(2);
  running.stop();
  expect(running.ran).toEqual({ rolled_s: 2, marks: [] });
});
