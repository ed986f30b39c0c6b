// Takes that wait to be sent: none is lost, none is logged twice, none in another's name.
import { here, quiet } from "./server";

const RETRY_MS = 4000;
const body = (note = "") => ({ note, actual: {} }) as never;
const take = (layer: number, name: string, body: never) => ({ shot: 1, layer, name, body });

/**
 * The outbox of a page that `person` has just opened; the page before it is closed and hears nothing more.
 */
const listen = window.addEventListener.bind(window);
let closed = new AbortController();
async function opened(person = "camera") {
  vi.resetModules();
  closed.abort();
  closed = new AbortController();
  vi.spyOn(window, "addEventListener").mockImplementation(
    (name: string, told: EventListenerOrEventListenerObject) => listen(name, told, { signal: closed.signal }),
  );
  const { speakFor } = await import("../../web/src/lib/api/client");
  const { outbox } = await import("../../web/src/lib/offline/outbox.svelte");
  speakFor(person);
  await outbox.begin(person);
  return outbox;
}
/** What stands on the device, whatever any page believes. */
async function kept(person = "camera") {
  const { waiting } = await import("../../web/src/lib/offline/store");
  return (await waiting(person, "takes")).map((row) => row.body as { name: string; problem?: string });
}
const names = async (person?: string) => (await kept(person)).map((one) => one.name);

test("a take is kept until the server has said yes, and told when it has", async () => {
  const outbox = await opened();
  const told: number[] = [];
  outbox.onsent((take) => told.push(take.number));
  here.server.hold();
  const sent = outbox.add(take(4, "Take 1", body()));
  await quiet();
  expect(await names()).toEqual(["Take 1"]);
  here.server.letGo();
  await sent;
  expect([await names(), told]).toEqual([[], [1]]);
});

test("a take stands on the device before it is sent", async () => {
  const outbox = await opened();
  const real = here.server.fetch;
  let before: string[] = [];
  here.server.fetch = async (request) => {
    before = await names();
    return real(request);
  };
  await outbox.add(take(4, "Take 1", body()));
  expect(before).toEqual(["Take 1"]);
});

test("without connection takes wait in order and are sent once each", async () => {
  const outbox = await opened();
  const { reach } = await import("../../web/src/lib/offline/reach.svelte");
  here.server.away = true;
  await outbox.add(take(4, "Take 1", body("one")));
  await outbox.add(take(4, "Take 2", body("two")));
  expect([reach.away, await names()]).toEqual([true, ["Take 1", "Take 2"]]);
  here.server.away = false;
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect(here.server.takes.map((one) => one.note)).toEqual(["one", "two"]);
  expect([reach.away, await names()]).toEqual([false, []]);
});

test("they outlive the page", async () => {
  const before = await opened();
  here.server.away = true;
  await before.add(take(4, "Take 1", body()));
  here.server.away = false;
  await opened();
  await quiet();
  expect(here.server.takes).toHaveLength(1);
  expect(await names()).toEqual([]);
});

test("a page that dies while a take is being sent sends it again, and it is logged once", async () => {
  const before = await opened();
  here.server.hold();
  void before.add(take(4, "Take 1", body()));
  await quiet();
  expect(here.server.takes).toHaveLength(1); // the server has it, and the page never heard so
  here.server.letNone();
  await opened();
  await quiet();
  expect(new Set(here.server.keys).size).toBe(1);
  expect([here.server.takes.length, await names()]).toEqual([1, []]);
});

test("when the line is back they go at once", async () => {
  const outbox = await opened();
  here.server.away = true;
  await outbox.add(take(4, "Take 1", body()));
  here.server.away = false;
  window.dispatchEvent(new Event("online"));
  await quiet();
  expect(here.server.takes).toHaveLength(1);
});

test("an answer that got lost does not log a take twice", async () => {
  const outbox = await opened();
  const real = here.server.fetch;
  here.server.fetch = async (request) => {
    await real(request);
    here.server.fetch = real;
    throw new TypeError("Failed to fetch");
  };
  await outbox.add(take(4, "Take 1", body()));
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect(new Set(here.server.keys).size).toBe(1);
  expect([here.server.takes.length, await names()]).toEqual([1, []]);
});

test.each([500, 429])(
  "after an answer of %i a take is sent again, and those of its layer wait for it a while",
  async (status) => {
    const outbox = await opened();
    const real = here.server.fetch;
    here.server.fetch = async (request) =>
      (await request.clone().text()).includes("one") ? new Response("{}", { status }) : real(request);
    const logged = () => here.server.takes.map((one) => one.note);
    await outbox.add(take(4, "Take 1", body("one")));
    await outbox.add(take(4, "Take 2", body("two")));
    await outbox.add(take(5, "Take 1", body("another layer")));
    expect(logged()).toEqual(["another layer"]);
    expect((await kept()).map((one) => [one.name, one.problem])).toEqual([
      ["Take 1", undefined],
      ["Take 2", undefined],
    ]);
    for (let tries = 0; tries < 5; tries++) await vi.advanceTimersByTimeAsync(RETRY_MS);
    await quiet();
    expect(logged()).toEqual(["another layer", "two"]);
    here.server.fetch = real;
    await vi.advanceTimersByTimeAsync(RETRY_MS);
    await quiet();
    expect([logged(), await names()]).toEqual([["another layer", "two", "one"], []]);
  },
);

test("two pages of one device without connection keep both their takes", async () => {
  here.server.away = true;
  const first = await opened();
  const second = await opened();
  await Promise.all([first.add(take(4, "Take 1", body("one"))), second.add(take(5, "Take 1", body("two")))]);
  here.server.away = false;
  await opened();
  await quiet();
  expect(here.server.takes.map((one) => one.note).toSorted()).toEqual(["one", "two"]);
});

test("what was refused stays with its reason, and what stands behind it goes", async () => {
  const outbox = await opened();
  here.server.away = true;
  await outbox.add(take(4, "Take 1", body("refuse this")));
  await outbox.add(take(4, "Take 2", body("good")));
  here.server.away = false;
  await outbox.send();
  expect(here.server.takes.map((one) => one.note)).toEqual(["good"]);
  expect(await kept()).toMatchObject([{ name: "Take 1", problem: "That cannot be." }]);
  const asked = here.server.asked.length;
  await outbox.send();
  expect(here.server.asked).toHaveLength(asked); // it is not asked again by itself
  await outbox.add(take(4, "Take 1", body("mended")), outbox.waiting[0]!.key);
  expect(here.server.takes.map((one) => one.note)).toEqual(["good", "mended"]);
  expect(await names()).toEqual([]);
});

test("what one person left on a phone is neither shown to the next nor sent in their name", async () => {
  const first = await opened("camera");
  here.server.away = true;
  await first.add(take(4, "Take 1", body("camera's")));
  here.server.away = false;
  const second = await opened("loader");
  await quiet();
  expect([here.server.takes, second.waiting]).toEqual([[], []]);
  await second.add(take(4, "Take 1", body("loader's")));
  expect(here.server.takes.map((one) => one.note)).toEqual(["loader's"]);
  expect(here.server.asked.map((one) => one.person)).toEqual(["loader"]);
  const { people } = await import("../../web/src/lib/offline/store");
  expect([...(await people())]).toEqual([["camera", 1]]);
  await opened("camera");
  await quiet();
  expect(here.server.asked.at(-1)!.person).toBe("camera");
  expect(here.server.takes.map((one) => one.note)).toEqual(["loader's", "camera's"]);
});

test("while somebody else is signed in on the device a take waits, and is no mistake of it", async () => {
  const outbox = await opened("camera");
  const { whenSignedOut } = await import("../../web/src/lib/api/client");
  const reasons: string[] = [];
  whenSignedOut((reason) => reasons.push(reason));
  here.server.signedIn = "loader"; // in another window
  await outbox.add(take(4, "Take 1", body()));
  expect(reasons).toEqual(["Somebody else is signed in."]);
  expect([here.server.takes, await kept()]).toMatchObject([[], [{ name: "Take 1" }]]);
  expect(outbox.waiting[0]!.problem).toBeUndefined();
  here.server.signedIn = "camera";
  await opened("camera");
  await quiet();
  expect(here.server.takes).toHaveLength(1);
});

test("a full device makes room from what was only read, and says when there is none", async () => {
  const outbox = await opened();
  const store = await import("../../web/src/lib/offline/store");
  await store.remember("camera", "log 1", { large: true });
  here.server.away = true;
  const put = vi.spyOn(IDBObjectStore.prototype, "put");
  const full = () => {
    throw new DOMException("full", "QuotaExceededError");
  };
  put.mockImplementationOnce(full);
  await outbox.add(take(4, "Take 1", body("one")));
  expect([await names(), await store.recall("camera", "log 1")]).toEqual([["Take 1"], null]);
  put.mockImplementation(full);
  await outbox.add(take(4, "Take 2", body("two")));
  expect([await names(), outbox.box.unkept.length]).toEqual([["Take 1"], 1]);
  // It is not kept, and yet not lost while the page is open; leaving it is asked about.
  const leaving = new Event("beforeunload", { cancelable: true });
  window.dispatchEvent(leaving);
  expect(leaving.defaultPrevented).toBe(true);
  here.server.away = false;
  await outbox.send();
  expect(here.server.takes.map((one) => one.note)).toEqual(["one", "two"]);
  expect(outbox.box.unkept).toEqual([]);
});

test("in a window that keeps nothing takes are sent all the same", async () => {
  indexedDB = {
    open: () => {
      throw new DOMException("no", "SecurityError");
    },
  } as unknown as IDBFactory;
  const outbox = await opened();
  here.server.away = true;
  await outbox.add(take(4, "Take 1", body()));
  expect(outbox.box.unkept).toHaveLength(1);
  here.server.away = false;
  await outbox.send();
  expect([here.server.takes.length, outbox.waiting.length]).toEqual([1, 0]);
});

test("what the device could not keep waits in the page until its person is back", async () => {
  indexedDB = {
    open: () => {
      throw new DOMException("no", "SecurityError");
    },
  } as unknown as IDBFactory;
  const outbox = await opened("camera");
  const { speakFor } = await import("../../web/src/lib/api/client");
  here.server.away = true;
  await outbox.add(take(4, "Take 1", body("camera's")));
  here.server.away = false;
  for (const person of ["", "loader"]) {
    speakFor(person);
    await outbox.begin(person);
    await quiet();
    expect([here.server.takes, outbox.waiting, outbox.box.unkept.length]).toEqual([[], [], 1]);
  }
  speakFor("camera");
  await outbox.begin("camera");
  await quiet();
  expect(here.server.takes.map((one) => one.note)).toEqual(["camera's"]);
  expect(outbox.box.unkept).toEqual([]);
});

test("nor is one lost that somebody else's sign-in overtakes on its way to the device", async () => {
  indexedDB = {
    open: () => {
      throw new DOMException("no", "SecurityError");
    },
  } as unknown as IDBFactory;
  const outbox = await opened("camera");
  const { speakFor } = await import("../../web/src/lib/api/client");
  const adding = outbox.add(take(4, "Take 1", body("camera's")));
  speakFor("loader");
  await Promise.all([outbox.begin("loader"), adding]);
  await quiet();
  expect([here.server.takes, outbox.waiting, outbox.box.unkept.length]).toEqual([[], [], 1]);
  speakFor("camera");
  await outbox.begin("camera");
  await quiet();
  expect(here.server.takes.map((one) => one.note)).toEqual(["camera's"]);
});
