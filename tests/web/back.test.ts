// The way back: one change after the other, and undo in the same queue.
import { nextStep, WayBack } from "../../web/src/lib/state/back.svelte";

/** A promise that a test lets go. */
function later<T>() {
  let go!: (value: T) => void;
  const promise = new Promise<T>((done) => (go = done));
  return { promise, go };
}

test("a change waits for the one before it, also when that failed", async () => {
  const back = new WayBack();
  const first = later<void>();
  const did: string[] = [];
  const failing = back.run(async () => {
    await first.promise;
    did.push("first");
    throw new Error("refused");
  });
  const second = back.run(async () => did.push("second"));
  expect(did).toEqual([]);
  first.go();
  await expect(failing).rejects.toThrow("refused");
  await second;
  expect(did).toEqual(["first", "second"]);
});

test("undo takes back what is still under way, once it is done", async () => {
  const back = new WayBack();
  const answer = later<void>();
  let value = 0;
  void back.run(async () => {
    await answer.promise;
    value = 1;
    back.remember("One", async () => ((value = 0), true));
  });
  const undone = back.undo();
  expect(back.can).toBe(false);
  answer.go();
  await undone;
  expect([value, back.can]).toEqual([0, false]);
});

test("what could not be taken back can be tried again", async () => {
  const back = new WayBack();
  let connected = false;
  back.remember("Remove a place", async () => connected);
  await back.undo();
  expect([back.can, back.label]).toEqual([true, "Remove a place"]);
  connected = true;
  await back.undo();
  expect(back.can).toBe(false);
});

test("of two ways back on one screen the newest step is known", async () => {
  const drawing = new WayBack();
  const planning = new WayBack();
  drawing.remember("Move a line", async () => true);
  const between = nextStep();
  planning.remember("Choose a recipe", async () => true);
  expect(drawing.newest).toBeLessThan(between);
  expect(planning.newest).toBeGreaterThan(between);
  await planning.undo();
  expect(planning.newest).toBe(0);
  expect(drawing.label).toBe("Move a line");
});
