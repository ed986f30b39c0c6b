import { keyOut, purityOf } from "../../web/src/lib/draw/keyed";
import { placedIn, shownOfLayer } from "../../web/src/features/frames/stacked";

/** So many pixels of each colour, one after the other. */
const pixels = (...colours: [number, number, number, number][]) =>
  new Uint8ClampedArray(
    colours.flatMap(([count, ...rgb]) =>
      Array(count)
        .fill([...rgb, 255])
        .flat(),
    ),
  );
const at = (all: Uint8ClampedArray, pixel: number) => [...all.slice(4 * pixel, 4 * pixel + 4)];

describe("a picture before its sheet", () => {
  it("says how pure the sheet is, and that there is none", () => {
    expect(purityOf(pixels([700, 20, 30, 150], [300, 140, 120, 110]), "blue")).toBe(120);
    expect(purityOf(pixels([700, 20, 150, 30], [300, 140, 120, 110]), "blue")).toBe(0);
    // a blue button is no sheet
    expect(purityOf(pixels([10, 20, 30, 250], [990, 120, 120, 120]), "blue")).toBe(0);
  });

  it("is clear where the sheet is, solid where the subject is, and loses the sheet's colour", () => {
    const all = pixels([1, 20, 30, 150], [1, 140, 120, 110], [1, 90, 90, 100], [1, 60, 70, 120]);
    keyOut(all, "blue", 120);
    expect(at(all, 0)[3]).toBe(0);
    expect(at(all, 1)).toEqual([140, 120, 110, 255]);
    expect(at(all, 2)).toEqual([90, 90, 90, 255]);
    const [, , blue, alpha] = at(all, 3) as [number, number, number, number];
    expect(blue).toBe(70);
    expect(alpha).toBeGreaterThan(0);
    expect(alpha).toBeLessThan(255);
  });

  it("keys green as it keys blue", () => {
    const all = pixels([1, 20, 150, 30], [1, 200, 190, 180]);
    keyOut(all, "green", 120);
    expect([at(all, 0)[3], at(all, 1)[3]]).toEqual([0, 255]);
  });
});

describe("another layer of the shot", () => {
  it("lies where the delivered frame has it, in a picture that shows more than the frame", () => {
    const own = [-240, -120, 2400, 1350];
    expect(placedIn(own, [0, 0, 1920, 1080], 1200)).toEqual([120, 60, 960, 540]);
    expect(placedIn(own, own, 1200)).toEqual([0, 0, 1200, 675]);
  });

  it("is seen as long as it is held, and not where it is missing", () => {
    const poses = [
      { frame: 1, hold: 2, exposure_id: 11 },
      { frame: 5, hold: 3, exposure_id: 13 },
    ];
    expect([1, 2, 3, 4, 5, 7, 8].map((frame) => shownOfLayer(poses, frame))).toEqual([
      11,
      11,
      null,
      null,
      13,
      13,
      null,
    ]);
  });
});
