// Takes that wait to be sent: none is lost, none is logged twice.
import { here, quiet } from "./server";

const RETRY_MS = 4000;
const STORE = "jungoptic.outbox";
const body = (note = "") => ({ note, actual: {} }) as never;

/** The outbox of a page that has just been opened; the page before it is closed and hears nothing more. */
const listen = window.addEventListener.bind(window);
let closed = new AbortController();
async function opened() {
  vi.resetModules();
  closed.abort();
  closed = new AbortController();
  vi.spyOn(window, "addEventListener").mockImplementation(
    (name: string, told: EventListenerOrEventListenerObject) => listen(name, told, { signal: closed.signal }),
  );
  return (await import("../../web/src/lib/offline/outbox.svelte")).outbox;
}
const kept = () => JSON.parse(localStorage.getItem(STORE) ?? "[]") as { name: string; problem?: string }[];

test("a take is kept until the server has said yes, and told when it has", async () => {
  const outbox = await opened();
  const told: number[] = [];
  outbox.onsent((take) => told.push(take.number));
  here.server.hold();
  const sent = outbox.add("camera", 1, 4, "Take 1", body());
  await quiet();
  expect(kept()).toHaveLength(1);
  here.server.letGo();
  await sent;
  expect([kept().length, told]).toEqual([0, [1]]);
});

test("without connection takes wait in order and are sent once each", async () => {
  const outbox = await opened();
  here.server.away = true;
  await outbox.add("camera", 1, 4, "Take 1", body("one"));
  await outbox.add("camera", 1, 4, "Take 2", body("two"));
  expect([outbox.offline, kept().map((one) => one.name)]).toEqual([true, ["Take 1", "Take 2"]]);
  here.server.away = false;
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect(here.server.takes.map((one) => one.note)).toEqual(["one", "two"]);
  expect([outbox.offline, kept()]).toEqual([false, []]);
});

test("they outlive the page", async () => {
  const before = await opened();
  here.server.away = true;
  await before.add("camera", 1, 4, "Take 1", body());
  here.server.away = false;
  await opened();
  await quiet();
  expect(here.server.takes).toHaveLength(1);
  expect(kept()).toEqual([]);
});

test("when the line is back they go at once", async () => {
  const outbox = await opened();
  here.server.away = true;
  await outbox.add("camera", 1, 4, "Take 1", body());
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
  await outbox.add("camera", 1, 4, "Take 1", body());
  await vi.advanceTimersByTimeAsync(RETRY_MS);
  await quiet();
  expect(new Set(here.server.keys).size).toBe(1);
  expect([here.server.takes.length, kept().length]).toEqual([1, 0]);
});

test("what was refused stays with its reason, and what stands behind it goes", async () => {
  const outbox = await opened();
  here.server.away = true;
  await outbox.add("camera", 1, 4, "Take 1", body("refuse this"));
  await outbox.add("camera", 1, 4, "Take 2", body("good"));
  here.server.away = false;
  await outbox.send();
  expect(here.server.takes.map((one) => one.note)).toEqual(["good"]);
  expect(kept()).toMatchObject([{ name: "Take 1", problem: "That cannot be." }]);
  const asked = here.server.asked.length;
  await outbox.send();
  expect(here.server.asked).toHaveLength(asked); // it is not asked again by itself
  outbox.drop(outbox.waiting[0]!.key);
  expect(kept()).toEqual([]);
});
