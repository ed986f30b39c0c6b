// The way back: one change after the other, undo in the same queue, and the history asked by the key of each
// write.
import { Offline, Refused } from "../../web/src/lib/api/client";
import { Asking } from "../../web/src/lib/edit/asking.svelte";
import { LastOf, nextStep, WayBack } from "../../web/src/lib/edit/back.svelte";
import { here, quiet } from "./server";

/** A promise that a test lets go. */
function later<T>() {
  let go!: (value: T) => void;
  const promise = new Promise<T>((done) => (go = done));
  return { promise, go };
}

function wayBack() {
  const asking = new Asking();
  const read = vi.fn();
  return { asking, read, back: new WayBack(asking, () => 5, read) };
}
/** A write that the history knows from then on; `free` says whether nobody has changed it since. */
const kept =
  (free = () => true) =>
  async (key: string) => {
    here.server.history.push({ id: 1, key, mine: true, back: free, again: free, gone: false });
    return key;
  };

test("a change waits for the one before it, also when that failed", async () => {
  const { back } = wayBack();
  const first = later<void>();
  const did: string[] = [];
  const failing = back.run(async () => {
    await first.promise;
    did.push("first");
    throw new Error("broken");
  });
  const second = back.run(async () => did.push("second"));
  expect(did).toEqual([]);
  first.go();
  await expect(failing).rejects.toThrow("broken");
  await second;
  expect(did).toEqual(["first", "second"]);
});

test("undo takes back what is still under way, once it is done", async () => {
  const { back, read } = wayBack();
  const answer = later<void>();
  let key = "";
  void back.do("One", async (own) => {
    await answer.promise;
    key = own;
    return kept()(own);
  });
  const undone = back.undo();
  expect(back.can).toBe(false);
  answer.go();
  await undone;
  expect([here.server.takenBack[0].key, back.can, read.mock.calls.length]).toEqual([key, false, 1]);
});

test("without connection it can be tried again; what somebody changed since cannot", async () => {
  const { back, asking, read } = wayBack();
  await back.do("Remove a place", kept());
  here.server.away = true;
  await back.undo();
  expect([back.can, back.label, asking.said.includes("cannot be reached")]).toEqual([
    true,
    "Remove a place",
    true,
  ]);
  here.server.away = false;
  await back.undo();
  expect([back.can, read.mock.calls.length]).toEqual([false, 1]);
  await back.do(
    "Change it",
    kept(() => false),
  );
  await back.undo();
  expect([back.can, asking.said, read.mock.calls.length]).toEqual([
    false,
    "Somebody changed it while you worked.",
    1,
  ]);
});

test("what was refused is no step", async () => {
  const { back, asking } = wayBack();
  const refused = async () =>
    Promise.reject(new Refused(422, [{ field: "name", message: "It needs a name." }]));
  expect(await back.do("Add", refused)).toBeUndefined();
  expect(await back.do("Add", async () => Promise.reject(new Offline()))).toBeUndefined();
  expect([back.can, asking.said.includes("cannot be reached")]).toEqual([false, true]);
});

test("what one did before the page was opened can be taken back, by its key or its number", async () => {
  const { back } = wayBack();
  const entry = { mine: true, back: () => true, again: () => true, gone: false };
  here.server.history.push({ id: 8, key: "", ...entry }, { id: 9, key: "a", ...entry });
  await back.fill({ kinds: "place" });
  expect(back.label).toBe("Earlier 9");
  await back.undo();
  await back.undo();
  await quiet();
  expect(here.server.takenBack).toEqual([
    { write: null, key: "a" },
    { write: 8, key: "" },
  ]);
});

test("of two ways back on one screen the newest step is known", async () => {
  const { back: drawing } = wayBack();
  const { back: planning } = wayBack();
  await drawing.do("Move a line", kept());
  const between = nextStep();
  await planning.do("Choose a recipe", kept());
  expect(drawing.newest).toBeLessThan(between);
  expect(planning.newest).toBeGreaterThan(between);
  await planning.undo();
  expect(planning.newest).toBeLessThan(drawing.newest);
  expect(drawing.label).toBe("Move a line");
});

test("what comes last is known only when all that was asked is done: undo waits for it", async () => {
  const [one, other] = [wayBack(), wayBack()];
  const last = new LastOf(() => [one.back, other.back]);
  await one.back.do("Earlier", kept());
  const answer = later<void>();
  let key = "";
  void other.back.do("Later", async (own) => {
    await answer.promise;
    key = own;
    return kept()(own);
  });
  const undone = last.undo();
  answer.go();
  await undone;
  expect([here.server.takenBack.map((entry) => entry.key), last.label]).toEqual([[key], "Earlier"]);
});

test("after somebody else's save theirs is read, and mine can be saved over it", async () => {
  const { asking, back, read } = wayBack();
  let theirs = true;
  const write = async (key: string) => {
    if (theirs) throw new Refused(409, [{ field: "version", message: "Somebody changed it." }]);
    return kept()(key);
  };
  await back.do("Mine", write);
  expect([asking.said, read.mock.calls.length, back.can]).toEqual(["Somebody changed it.", 1, false]);
  theirs = false;
  await back.again!();
  expect([asking.said, back.label, back.again]).toEqual(["", "Mine", null]);
});

test("what was refused for another reason is not saved over anything", async () => {
  const { back } = wayBack();
  await back.do("Mine", async () => {
    throw new Refused(422, [{ field: "name", message: "Too long." }]);
  });
  expect(back.again).toBeNull();
  back.leave();
  expect(back.asking.said).toBe("");
});

test("what a worker wrote for one is the newest step, once", async () => {
  const { back } = wayBack();
  await back.do("Move a job", kept());
  here.server.history.push({ id: 12, key: "", mine: true, back: () => true, again: () => true, gone: false });
  await back.pick({ kinds: "booking" });
  await back.pick({ kinds: "booking" });
  expect(back.label).toBe("Earlier 12");
  await back.undo();
  await quiet();
  expect([back.label, here.server.takenBack]).toEqual(["Move a job", [{ write: 12, key: "" }]]);
});
