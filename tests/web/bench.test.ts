// The Bench's memory: what is tried, what waits to be sent, what was refused, and the way back, whenever the
// answers come.
import { BenchState } from "../../web/src/lib/edit/shot.svelte";
import { noChanges } from "../../web/src/lib/edit/changes";
import { speakFor } from "../../web/src/lib/api/client";
import { people, waiting } from "../../web/src/lib/offline/store";
import { session } from "../../web/src/lib/session.svelte";
import { opened, supervises, SET_UP, turn } from "./hand";
import { here, quiet } from "./server";

const RETRY_MS = 3000;
const WATCH_MS = 4000;

beforeEach(supervises);

const held = (bench: BenchState, field: string) => bench.trial.now("set_ups", SET_UP, field, null as unknown);
const written = () => here.server.writes.map((one) => one.set_ups[SET_UP]?.changes);

test("many turns of a hand are one step, saved once and taken back at once", async () => {
  const bench = await opened();
  for (const stop of [9, 10, 11]) turn(bench, { f_number: stop });
  expect(written()).toEqual([]);
  await bench.commit("Stop");
  expect(written()).toEqual([{ f_number: 11 }]);
  await bench.undo();
  expect(here.server.setUp.values.f_number).toBe(8);
  await bench.redo();
  expect(here.server.setUp.values.f_number).toBe(11);
  expect([bench.steps.can, bench.steps.label]).toEqual([true, "Stop"]);
});

test("while an answer is on its way only the newest trial is asked behind it", async () => {
  const bench = await opened();
  here.server.hold();
  for (const stop of [9, 10, 11, 12]) turn(bench, { f_number: stop });
  await quiet();
  here.server.letGo();
  await quiet();
  const tried = here.server.asked
    .filter((one) => one.path.endsWith("/trial"))
    .map((one) => one.body.set_ups[SET_UP].f_number);
  expect(tried).toEqual([9, 12]);
});

test("what is under the hand stands over what was answered", async () => {
  const bench = await opened();
  here.server.hold();
  turn(bench, { f_number: 11 });
  void bench.commit("Stop");
  turn(bench, { focus_distance_m: 2 });
  expect([held(bench, "f_number"), held(bench, "focus_distance_m")]).toEqual([11, 2]);
  const rows = bench.trial.held(
    "set_ups",
    bench.bench!.set_ups as { id: number; values: Record<string, unknown> }[],
  );
  expect(rows[0]!.values).toMatchObject({ f_number: 11, focus_distance_m: 2, lens_height_m: 0.35 });
  here.server.letGo();
  await quiet();
});

test("two steps on their way are taken back in order, and both ways go out", async () => {
  const bench = await opened();
  here.server.hold();
  turn(bench, { lens_height_m: 0.5 });
  void bench.commit("Height");
  turn(bench, { focus_distance_m: 2 });
  void bench.commit("Focus");
  void bench.undo();
  void bench.undo();
  await quiet();
  expect(bench.steps.can).toBe(false);
  here.server.letGo();
  await quiet();
  expect(written()).toEqual([{ lens_height_m: 0.5 }, { focus_distance_m: 2 }]);
  const keys = here.server.asked.filter((one) => one.path.endsWith("/changes")).map((one) => one.key);
  expect(here.server.takenBack.map((one) => one.key)).toEqual([keys[1], keys[0]]);
  expect(here.server.setUp.values).toMatchObject({ lens_height_m: 0.35, focus_distance_m: 1 });
  expect(bench.conflict).toBeNull();
});

test("undo drops first what is only being tried", async () => {
  const bench = await opened();
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  turn(bench, { f_number: 16 });
  await bench.undo();
  await quiet();
  expect(held(bench, "f_number")).toBeNull();
  expect(here.server.setUp.values.f_number).toBe(11);
  expect(bench.steps.label).toBe("Stop");
});

test("what was refused stays with its reason while something else is saved, and goes mended", async () => {
  const bench = await opened();
  turn(bench, { focus_distance_m: 0.1 });
  await bench.commit("Focus");
  await quiet();
  expect(bench.problems.map((one) => one.message)).toEqual(["focuses from 0.3 m; 0.1 m was given"]);
  expect(bench.steps.can).toBe(false); // it was no step
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  await quiet();
  expect(here.server.setUp.values).toMatchObject({ f_number: 11, focus_distance_m: 1 });
  expect(held(bench, "focus_distance_m")).toBe(0.1);
  expect(bench.problems).toHaveLength(1);
  await bench.set("Focus", "set_ups", SET_UP, { focus_distance_m: 0.4 });
  await quiet();
  expect(bench.problems).toEqual([]);
  expect(here.server.setUp.values.focus_distance_m).toBe(0.4);
});

test("a nudge that has not settled is saved before the change that follows it", async () => {
  const bench = await opened();
  turn(bench, { lens_height_m: 0.36 });
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  await quiet();
  expect(written()).toEqual([{ lens_height_m: 0.36 }, { f_number: 11 }]);
});

test("a refusal of what the hand has dropped since is not shown", async () => {
  const bench = await opened();
  here.server.hold();
  turn(bench, { focus_distance_m: 0.1 });
  await quiet();
  bench.forget();
  here.server.letGo();
  await quiet();
  expect(bench.problems).toEqual([]);
  expect(held(bench, "focus_distance_m")).toBeNull();
});

test("a trial asked before a write that answers after it does not undo what the write showed", async () => {
  const bench = await opened();
  here.server.hold("/trial");
  turn(bench, { f_number: 9 });
  await quiet();
  turn(bench, { f_number: 11 });
  await bench.commit("Stop");
  expect(bench.bench!.set_ups[0]!.values.f_number).toBe(11);
  here.server.letGo();
  here.server.hold("/bench"); // what is asked next would hide it
  await quiet();
  expect(bench.bench!.set_ups[0]!.values.f_number).toBe(11);
});

test("another's save in between stops mine and says so; mine can be saved over it", async () => {
  const bench = await opened();
  here.server.savedByAnother({ f_number: 5.6 });
  await bench.set("Focus", "set_ups", SET_UP, { focus_distance_m: 2 });
  expect(bench.conflict).toContain("Somebody changed it");
  expect(here.server.setUp.values.focus_distance_m).toBe(1);
  await bench.resolve(true);
  expect(here.server.setUp.values).toMatchObject({ f_number: 5.6, focus_distance_m: 2 });
  expect(bench.conflict).toBeNull();
});

test("after a conflict theirs can be taken, and mine is dropped", async () => {
  const bench = await opened();
  here.server.savedByAnother({ f_number: 5.6 });
  await bench.set("Focus", "set_ups", SET_UP, { focus_distance_m: 2 });
  await bench.resolve(false);
  await quiet();
  expect(here.server.setUp.values).toMatchObject({ f_number: 5.6, focus_distance_m: 1 });
  expect([held(bench, "focus_distance_m"), bench.steps.can]).toEqual([null, false]);
});

test("without connection a change waits, is tried again with the same key, and is written once", async () => {
  const bench = await opened();
  here.server.away = true;
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  expect([bench.offline, bench.waiting.length]).toEqual([true, 1]);
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  expect(here.server.setUp.values.f_number).toBe(8);
  here.server.away = false;
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect([bench.offline, bench.waiting.length, here.server.setUp.values.f_number]).toEqual([false, 0, 11]);
  expect([...(await people())]).toEqual([]);
});

test("what waits outlives the page, and can still be taken back", async () => {
  const before = await opened();
  here.server.away = true;
  await before.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  before.close();
  here.server.away = false;
  const bench = new BenchState(1);
  await quiet();
  expect(here.server.setUp.values.f_number).toBe(11);
  expect(bench.steps.label).toBe("Stop");
  await bench.undo();
  await quiet();
  expect(here.server.setUp.values.f_number).toBe(8);
});

test("what one person left is neither shown to the next nor written in their name", async () => {
  const before = await opened();
  here.server.away = true;
  await before.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  before.close();
  here.server.away = false;
  session.person = { username: "another" } as never;
  const bench = new BenchState(1);
  await bench.load();
  await quiet();
  expect([here.server.setUp.values.f_number, bench.waiting, bench.steps.can]).toEqual([8, [], false]);
  expect([...(await people())]).toEqual([["supervisor", 1]]);
});

test("an answer that got lost does not write twice", async () => {
  const bench = await opened();
  const real = here.server.fetch;
  here.server.fetch = async (request) => {
    await real(request); // it arrived, its answer does not
    here.server.fetch = real;
    throw new TypeError("Failed to fetch");
  };
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect(new Set(here.server.keys).size).toBe(1);
  expect(here.server.keys).toHaveLength(2);
  expect([here.server.setUp.version, bench.conflict]).toEqual([2, null]);
});

test("what others save is looked for, but not while a hand is on something", async () => {
  const bench = await opened();
  here.server.savedByAnother({ f_number: 5.6 });
  turn(bench, { focus_distance_m: 2 });
  await quiet();
  const looked = () => here.server.asked.filter((one) => one.path.endsWith("/version")).length;
  const before = looked();
  await vi.advanceTimersByTimeAsync(WATCH_MS);
  expect(looked()).toBe(before);
  bench.forget();
  await quiet();
  here.server.savedByAnother({ f_number: 4 });
  await vi.advanceTimersByTimeAsync(WATCH_MS);
  await quiet();
  expect(bench.bench!.set_ups[0]!.values.f_number).toBe(4);
  bench.close();
  const closed = here.server.asked.length;
  await vi.advanceTimersByTimeAsync(3 * WATCH_MS);
  expect(here.server.asked.length).toBe(closed);
});

test("something new is a step: undo removes it, redo brings it back", async () => {
  const bench = await opened();
  await bench.add("Add a layer", { what: "layer" });
  expect(bench.steps.label).toBe("Add a layer");
  await bench.undo();
  await quiet();
  expect(here.server.bench().layers[0]!.values).toEqual({ removed: true });
  await bench.redo();
  await quiet();
  expect(here.server.bench().layers[0]!.values).toEqual({ removed: false });
});

test("what was done before the page was opened is taken back too", async () => {
  const before = await opened();
  await before.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  await before.set("Focus", "set_ups", SET_UP, { focus_distance_m: 2 });
  before.close();
  const bench = await opened();
  await quiet();
  expect(bench.steps.label).toBe("Earlier 2");
  await bench.undo();
  await bench.undo();
  await quiet();
  expect(here.server.setUp.values).toMatchObject({ f_number: 8, focus_distance_m: 1 });
  expect(bench.steps.can).toBe(false);
  await bench.redo();
  await quiet();
  expect(here.server.setUp.values.f_number).toBe(11);
});

test("what is begun while one's own undo is on its way has seen what the undo did", async () => {
  const bench = await opened();
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  here.server.hold("/bench"); // the undo is done, what stands since is still being read
  void bench.undo();
  await quiet();
  turn(bench, { lens_height_m: 0.5 });
  await quiet();
  here.server.letGo();
  await bench.commit("Height");
  await quiet();
  expect(bench.conflict).toBeNull();
  expect(here.server.setUp.values).toMatchObject({ f_number: 8, lens_height_m: 0.5 });
});

test("so it has when the step is from before the page was opened", async () => {
  const before = await opened();
  await before.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  before.close();
  const bench = await opened();
  await quiet();
  here.server.hold("/take-back");
  void bench.undo();
  await quiet();
  turn(bench, { lens_height_m: 0.5 });
  void bench.commit("Height");
  await quiet();
  here.server.letGo();
  await quiet();
  expect(bench.conflict).toBeNull();
  expect(here.server.setUp.values).toMatchObject({ f_number: 8, lens_height_m: 0.5 });
});

test("but not what somebody else saved between", async () => {
  const bench = await opened();
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  turn(bench, { lens_height_m: 0.5 });
  const begun = bench.trial.take();
  here.server.savedByAnother({ lens_height_m: 0.8 });
  await bench.undo();
  bench.trial.putBack(begun);
  await bench.commit("Height");
  await quiet();
  expect(bench.conflict).toBe("Somebody changed it while you worked.");
  expect(here.server.setUp.values).toMatchObject({ f_number: 8, lens_height_m: 0.8 });
});

test("what waits has seen what was sent before it, after a reload too", async () => {
  const bench = await opened();
  here.server.hold("/changes");
  turn(bench, { f_number: 11 });
  void bench.commit("Stop");
  turn(bench, { lens_height_m: 0.5 });
  void bench.commit("Height");
  await quiet();
  here.server.letGo();
  here.server.hold("/changes"); // the second is sent, and the page closed before the answer
  await quiet();
  here.server.letNone();
  expect(await waiting("supervisor", "shot 1")).toMatchObject([{ body: { seen: { set_ups: { 7: 2 } } } }]);
});

test("what somebody has changed since does not go back, and the reason is said", async () => {
  const bench = await opened();
  await bench.set("Stop", "set_ups", SET_UP, { f_number: 11 });
  here.server.savedByAnother({ f_number: 5.6 });
  await bench.undo();
  await quiet();
  expect(bench.problems.map((one) => one.message)).toEqual(["Somebody changed it while you worked."]);
  expect([here.server.setUp.values.f_number, bench.conflict, held(bench, "f_number")]).toEqual([
    5.6,
    null,
    null,
  ]);
});

test("a change of nothing is no step", async () => {
  const bench = await opened();
  await bench.commit("Nothing");
  expect([bench.steps.can, here.server.writes.length]).toEqual([false, 0]);
  expect(bench.unsaved).toEqual(noChanges());
});

test("what one person changed is not sent in the name of the next on the same page", async () => {
  const bench = await opened();
  here.server.away = true;
  turn(bench, { f_number: 11 });
  await bench.commit("Stop");
  here.server.away = false;
  session.person = { username: "camera" } as never;
  speakFor("camera");
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect(written()).toEqual([]);
  expect([...(await people())]).toEqual([["supervisor", 1]]);
  speakFor("supervisor");
  session.person = { username: "supervisor" } as never;
  await opened();
  await quiet();
  expect(written()).toEqual([{ f_number: 11 }]);
});
