import { onPath, spansOf, spansText } from "../../web/src/features/frames/path";

const key = (frame: number, x = 0.5) => ({ frame, x, y: 0.5, eases_in: 0, eases_out: 0 });

describe("the path of a point", () => {
  it("takes a key in by its frame", () => {
    expect(onPath([key(1), key(25)], { frame: 13, x: 0.2, y: 0.3 }).map((one) => one.frame)).toEqual([
      1, 13, 25,
    ]);
  });
  it("puts a key in the place of the one at its frame, and leaves how it is eased", () => {
    const eased = { ...key(13), eases_in: 0.3, eases_out: 0.1 };
    const path = onPath([key(1), eased], { frame: 13, x: 0.2, y: 0.3 });
    expect(path).toEqual([key(1), { frame: 13, x: 0.2, y: 0.3, eases_in: 0.3, eases_out: 0.1 }]);
  });
  it("says when a foot stands, and reads what is typed", () => {
    expect(
      spansText([
        [1, 9],
        [25, 25],
      ]),
    ).toBe("1–9, 25–25");
    expect(spansOf("1–9, 25-33; 40")).toEqual([
      [1, 9],
      [25, 33],
      [40, 40],
    ]);
    expect(
      spansOf(
        spansText([
          [3, 8],
          [9, 9],
        ]),
      ),
    ).toEqual([
      [3, 8],
      [9, 9],
    ]);
    expect(spansOf("")).toEqual([]);
    for (const none of ["a", "1–", "1–2–3", "-4"]) expect(spansOf(none)).toBeNull();
  });
});
