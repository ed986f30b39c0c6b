import { Newest } from "../../web/src/lib/edit/newest";

describe("answers that come in another order than they were asked for", () => {
  test("an older one does not take the place of a newer one", () => {
    const newest = new Newest();
    const [first, second] = [newest.ask(), newest.ask()];
    expect(newest.counts(second)).toBe(true);
    expect(newest.counts(first)).toBe(false);
  });
  test("in order all of them count, also where one never came", () => {
    const newest = new Newest();
    const [first, , third] = [newest.ask(), newest.ask(), newest.ask()];
    expect([newest.counts(first), newest.counts(third)]).toEqual([true, true]);
  });
  test("what happened here outdates what was asked for before, and nothing after", () => {
    const newest = new Newest();
    const before = newest.ask();
    newest.passed();
    expect(newest.counts(before)).toBe(false);
    expect(newest.counts(newest.ask())).toBe(true);
  });
});
