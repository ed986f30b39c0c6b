// What was refused at a field stays there while the page is read again; a write begins anew.
import { Refused } from "../../web/src/lib/api/client";
import { Asking } from "../../web/src/lib/edit/asking.svelte";

const refused = (field: string, message: string) => () =>
  Promise.reject(new Refused(422, [{ field, message }]));

test("a reading that comes back later leaves what was said at a field", async () => {
  const asking = new Asking();
  await asking.run(refused("note", "Say who was asked."));
  await asking.read(() => Promise.resolve(1));
  expect(asking.at("note")).toBe("Say who was asked.");
});

test("a reading says what is wrong with itself, and takes only that back", async () => {
  const asking = new Asking();
  await asking.run(refused("note", "Say who was asked."));
  await asking.read(refused("", "There is no such shot."));
  expect(asking.whole).toBe("There is no such shot.");
  await asking.read(() => Promise.resolve(1));
  expect(asking.said).toBe("Say who was asked.");
});

test("a write begins without what was said before", async () => {
  const asking = new Asking();
  await asking.run(refused("note", "Say who was asked."));
  expect(await asking.run(() => Promise.resolve(1))).toBe(1);
  expect(asking.said).toBe("");
});

test("what is no refusal is thrown on, by a reading too", async () => {
  const asking = new Asking();
  await expect(asking.read(() => Promise.reject(new TypeError("a fault")))).rejects.toThrow("a fault");
});
