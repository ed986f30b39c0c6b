/** Words on a picture: inside it, never over one another, and a point's before a line's. */
import { boxOf, wordsOf, type Drawn } from "../../web/src/lib/ui/words-on-picture";

const SIZE = { width: 390, height: 290 };
const off = () => 6;
const placed = (overlays: Drawn[]) => wordsOf(overlays, SIZE, off);

function overlap(overlays: Drawn[]): boolean {
  const boxes = placed(overlays).map((each) => boxOf(each.at, each.one.text));
  return boxes.some((one, index) =>
    boxes
      .slice(index + 1)
      .some(
        (other) =>
          one.left < other.right &&
          other.left < one.right &&
          one.top < other.bottom &&
          other.top < one.bottom,
      ),
  );
}

const point = (x: number, y: number, text: string): Drawn => ({ kind: "point", places: [[x, y]], text });
const contour = (x: number, text: string): Drawn => ({
  kind: "line",
  places: Array.from({ length: 40 }, (_, index) => [x + 0.02 * Math.sin(index), index / 39]),
  text,
});

test("contours that lie close leave out words rather than write over the darkest place", () => {
  const lines = Array.from({ length: 9 }, (_, index) => contour(0.6 + 0.04 * index, `−${index / 3} stop`));
  const overlays = [...lines, point(0.95, 0.2, "darkest, 3.9 stop under")];
  expect(overlap(overlays)).toBe(false);
  expect(placed(overlays).map((each) => each.one.text)).toContain("darkest, 3.9 stop under");
  expect(placed(overlays).length).toBeGreaterThan(3);
});

test("points beside one another write in rows", () => {
  const overlays = [
    point(0.3, 0.5, "brightest"),
    point(0.32, 0.5, "what is crossed"),
    point(0.3, 0.99, "edge"),
  ];
  expect(placed(overlays)).toHaveLength(3);
  expect(overlap(overlays)).toBe(false);
});

test("words stay inside a small picture", () => {
  for (const [x, y] of [
    [0, 0],
    [1, 1],
    [0.69, 0.5],
    [0.71, 0],
  ] as const)
    for (const each of placed([point(x, y, "what the camera records")])) {
      const box = boxOf(each.at, each.one.text);
      expect(box.left).toBeGreaterThanOrEqual(0);
      expect(box.right).toBeLessThanOrEqual(SIZE.width);
      expect([box.top >= 0, box.bottom <= SIZE.height]).toEqual([true, true]);
    }
});

test("what says the same says it once, and without words nothing is written", () => {
  expect(placed([contour(0.2, "0"), contour(0.6, "0"), contour(0.4, "")])).toHaveLength(1);
});
