import { restOf } from "../../web/src/features/frames/live";

describe("from one live picture to the next", () => {
  test("it is drawn sixteen times a second where drawing costs nothing", () => {
    expect(restOf(0, false)).toBe(60);
    expect(restOf(10, false)).toBe(60);
  });
  test("a machine that draws slowly has three quarters of its time for the rest", () => {
    expect(restOf(90, false)).toBe(360);
  });
  test("while a frame is stored and measured it is drawn seldom, not never", () => {
    expect(restOf(10, true)).toBe(400);
    expect(restOf(150, true)).toBe(600);
  });
});
