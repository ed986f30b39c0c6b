// What was read at the camera is there without a server, for its person and no other.
import { here, quiet } from "./server";

async function page(person: string) {
  vi.resetModules();
  const api = await import("../../web/src/lib/api/client");
  const { reach } = await import("../../web/src/lib/offline/reach.svelte");
  api.speakFor(person);
  const log = () =>
    api.answered(api.client.GET("/api/shots/{shot_id}/log", { params: { path: { shot_id: 1 } } }));
  return { ...api, reach, log };
}
test("a log that was read is given again, and the page knows since when and as of when", async () => {
  const { log, reach } = await page("camera");
  const read = await log();
  await quiet();
  here.server.away = true;
  expect(await log()).toEqual(read);
  expect([reach.away, reach.asOf > 0]).toEqual([true, true]);
  const again = await page("camera"); // the page is opened anew
  expect(await again.log()).toEqual(read);
});

test("nobody reads what another has read here", async () => {
  const { log } = await page("camera");
  await log();
  await quiet();
  here.server.away = true;
  const other = await page("loader");
  await expect(other.log()).rejects.toThrow(other.Offline);
});

test("what is not of the camera is not kept", async () => {
  const { client, answered, Offline } = await page("camera");
  const path = { shot_id: 1 };
  const bench = () => answered(client.GET("/api/shots/{shot_id}/bench", { params: { path } }));
  await bench();
  await quiet();
  here.server.away = true;
  await expect(bench()).rejects.toThrow(Offline);
});

test("a proxy that says the server is gone counts as gone, and it is looked for", async () => {
  const { log, reach } = await page("camera");
  const read = await log();
  await quiet();
  const real = here.server.fetch;
  here.server.fetch = async () => new Response("", { status: 502 });
  expect(await log()).toEqual(read);
  const back: string[] = [];
  reach.onback(() => back.push("back"));
  await vi.advanceTimersByTimeAsync(4000);
  expect([reach.away, back]).toEqual([true, []]);
  here.server.fetch = real;
  await vi.advanceTimersByTimeAsync(4000);
  await quiet();
  expect([reach.away, reach.asOf, back]).toEqual([false, 0, ["back"]]);
});

test("a question that nobody waits for any more says nothing of the server", async () => {
  const { client, reach } = await page("camera");
  const gone = new AbortController();
  here.server.hold();
  const asked = client.GET("/api/shots/{shot_id}/log", {
    params: { path: { shot_id: 1 } },
    signal: gone.signal,
  });
  await quiet();
  gone.abort();
  await expect(asked).rejects.toThrow();
  expect(reach.away).toBe(false);
  here.server.letGo();
});
