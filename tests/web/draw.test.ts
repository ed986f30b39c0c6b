// What a hand does to a drawing: held, moved, stepped, let go; and where things of a set stand on the screen.
import { drawn, fitted, shifted, ticksOf, type Drawing } from "../../web/src/features/bench/drawing";
import { middle, shape } from "../../web/src/lib/draw/lines";
import { handle, handles, type Hand } from "../../web/src/lib/draw/handle";
import { area, factor, kept, quantityOf, shown, unitOf } from "../../web/src/lib/units";
import { vocabulary } from "../../web/src/lib/vocabulary.svelte";

const SETTLE_MS = 350;

/** An element with a hand on it, and what the hand was told. */
async function held(hand: Partial<Hand> = {}) {
  const element = document.createElement("div");
  element.setPointerCapture = vi.fn();
  const told: string[] = [];
  handle({
    take: (event) => told.push(`take ${event.type}`),
    move: (way) => told.push(`move ${way.x} ${way.y}`),
    drop: (moved) => told.push(`drop ${moved}`),
    step: (way, big) => told.push(`step ${way.x} ${way.y}${big ? " big" : ""}`),
    settle: () => told.push("settle"),
    cancel: () => told.push("cancel"),
    ...hand,
  })(element);
  await Promise.resolve(); // pointers are listened to from the next moment on
  const point = (type: string, x = 0, y = 0, button = 0) =>
    element.dispatchEvent(new MouseEvent(type, { clientX: x, clientY: y, button, cancelable: true }));
  const key = (name: string, shiftKey = false) =>
    element.dispatchEvent(new KeyboardEvent("keydown", { key: name, shiftKey, cancelable: true }));
  return { told, point, key };
}

test("a pointer takes, moves and lets go; y counts upwards", async () => {
  const { told, point } = await held();
  point("pointermove", 5, 5);
  point("pointerdown", 100, 100);
  point("pointermove", 110, 70);
  point("pointerup");
  point("pointermove", 300, 300);
  expect(told).toEqual(["take pointerdown", "move 10 30", "drop true"]);
});

test("within its slack it is a click and no move", async () => {
  const { told, point } = await held({ slack: 4 });
  point("pointerdown", 100, 100);
  point("pointermove", 102, 102);
  point("pointerup");
  expect(told).toEqual(["take pointerdown", "drop false"]);
});

test("another button holds nothing, nor a hand that may not", async () => {
  const one = await held();
  one.point("pointerdown", 0, 0, 2);
  const other = await held({ able: () => false });
  other.point("pointerdown");
  other.key("ArrowUp");
  expect([one.told, other.told]).toEqual([[], []]);
});

test("a pointer that is taken away leaves things as they were", async () => {
  const { told, point } = await held();
  point("pointerdown");
  point("pointermove", 9, 0);
  point("pointercancel");
  point("pointerup");
  expect(told).toEqual(["take pointerdown", "move 9 0", "cancel"]);
});

test("arrow keys step, and what they did is settled once when they rest", async () => {
  const { told, key } = await held();
  key("ArrowLeft");
  key("ArrowUp", true);
  key("PageDown");
  key("a");
  vi.advanceTimersByTime(SETTLE_MS);
  expect(told.filter((one) => !one.startsWith("take"))).toEqual([
    "step -1 0",
    "step 0 1 big",
    "step 0 -1 big",
    "settle",
  ]);
});

test("Escape takes back what keys have not settled", async () => {
  const { told, key } = await held();
  key("ArrowRight");
  key("Escape");
  vi.advanceTimersByTime(SETTLE_MS);
  expect(told.slice(-2)).toEqual(["step 1 0", "cancel"]);
});

test("Home and End go to the ends where there are any", async () => {
  const ends: boolean[] = [];
  const { key } = await held({ end: (last) => ends.push(last) });
  key("Home");
  key("End");
  expect(ends).toEqual([false, true]);
  const without = await held();
  without.key("Home");
  expect(without.told).toEqual([]);
});

test("a thing keeps its handle however often it is drawn", () => {
  const of = handles((key: number) => ({ move: () => key, drop: () => {} }));
  expect(of(1)).toBe(of(1));
  expect(of(1)).not.toBe(of(2));
});

const STANDS = {
  lens_height_m: 1.5,
  wanted_height_m: 1.5,
  ground_height_m: 0.2,
  distance_m: 4,
  far_m: 6,
  focus_m: 4,
  tilt_deg: -3,
  view_across_deg: 40,
  solids: [],
  lamps: [{ z: 2, x: -1, y: 2.5, aim_z: 4, aim_x: 0, aim_y: 1 }],
  lamp_ids: [31],
  sheet: { z: 6, left: -1.5, right: 1.5, bottom: 0, top: 2.5 },
} as never;
const length: Drawing["length"] = (metres) => `${metres} m`;

test("a set is drawn to scale: equal metres are equal pixels across and up", () => {
  const view = fitted(STANDS, true, 1280, 300);
  const drawing = drawn(STANDS, view, true, 1280, 300, length);
  expect(drawing.px(3) - drawing.px(2)).toBeCloseTo(view.scale);
  expect(drawing.py(1) - drawing.py(2)).toBeCloseTo(view.scale);
  expect(drawing.px(0)).toBe(drawing.camera);
  expect(drawing.py(0)).toBe(drawing.floor);
  expect(drawing.lensY).toBe(drawing.py(1.5));
  expect(drawing.px(6)).toBeLessThan(1280);
  expect(drawing.py(2.5)).toBeGreaterThan(0);
});

test("from above the lens is on the axis", () => {
  const drawing = drawn(STANDS, fitted(STANDS, false, 1280, 300), false, 1280, 300, length);
  expect(drawing.lensY).toBe(drawing.floor);
});

test("the ruler's marks are even and within the drawing", () => {
  const ticks = ticksOf({ scale: 100, camera: 120 }, 1280, 1, "m");
  const gaps = ticks.slice(1).map((tick, i) => tick.at - ticks[i]!.at);
  expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(1e-6);
  expect(ticks[0]).toEqual({ at: 120, label: "0 m" });
  expect(ticks.at(-1)!.at).toBeLessThanOrEqual(1280);
  const feet = ticksOf({ scale: 100, camera: 120 }, 1280, 0.3048, "ft");
  expect(feet[5]!.label).toMatch(/ft$/);
});

test("what is moved by hand is said from the near end of its layer", () => {
  const lamp = shifted("lamp", 0, 0.5, 0.25, STANDS, 4, true, null);
  expect(lamp).toEqual({ what: "lamps", id: 31, fields: { behind_m: -1.5, height_m: 2.75 } });
  const aim = shifted("aim", 0, 0, 0.5, STANDS, 4, false, null);
  expect(aim).toEqual({ what: "lamps", id: 31, fields: { aim_behind_m: 0, aim_across_m: 0.5 } });
  const sheet = shifted("sheet", 0, 1, 0.5, STANDS, 4, false, { id: 8 } as never);
  expect(sheet).toEqual({ what: "backings", id: 8, fields: { behind_m: 3, across_m: 0.5 } });
  expect(shifted("lamp", 7, 0, 0, STANDS, 4, true, null)).toBeNull();
});

const WORDS = {
  kinds: [{ key: "model", name: "model" }],
  combines: [{ key: "key", name: "key" }],
  choices: [{ key: "wet_ground", name: "wet ground" }],
  lines: [
    {
      key: "matte",
      name: "Matte line",
      shape: "line",
      start: [
        [0.25, 0.5],
        [0.75, 0.5],
      ],
    },
    {
      key: "keep_clear",
      name: "Keep clear",
      shape: "zone",
      start: [
        [0, 0],
        [1, 0],
        [1, 1],
      ],
    },
    {
      key: "framing",
      name: "Final framing",
      shape: "rectangle",
      start: [
        [0.1, 0.1],
        [0.9, 0.9],
      ],
    },
  ],
  verdicts: [],
  schools: [],
  sheets: [],
  units: [
    { quantity: "length", units: "metric", sign: "m", per_kept: 1 },
    { quantity: "length", units: "imperial", sign: "ft", per_kept: 1 / 0.3048 },
    { quantity: "light", units: "metric", sign: "lx", per_kept: 1 },
    { quantity: "light", units: "imperial", sign: "fc", per_kept: 0.3048 ** 2 },
  ],
} as never;

test("a line is drawn as its kind says, and begins in the middle of the frame", () => {
  vocabulary.take(WORDS);
  expect(
    shape("matte", [
      [0, 0],
      [4, 0],
    ]),
  ).toBe("M0 0L4 0");
  expect(
    shape("keep_clear", [
      [0, 0],
      [4, 0],
      [4, 4],
    ]),
  ).toBe("M0 0L4 0L4 4Z");
  expect(
    shape("framing", [
      [0, 0],
      [4, 2],
    ]),
  ).toBe("M0 0L4 0L4 2L0 2Z");
  expect(middle("matte", 1920, 1080)).toEqual([
    [480, 540],
    [1440, 540],
  ]);
});

test("values are read and typed in the reader's units, and kept in metres and lux", () => {
  vocabulary.take(WORDS);
  expect([factor("length", "imperial"), unitOf("length", "imperial", "m")]).toEqual([1 / 0.3048, "ft"]);
  expect([quantityOf("m"), quantityOf("lx"), quantityOf("°")]).toEqual(["length", "light", "number"]);
  expect(shown(3.048, "length", "imperial")).toBe("10");
  expect(kept("10", "length", "imperial")).toBeCloseTo(3.048);
  expect(kept("f/5,6", "number", "metric")).toBe(5.6);
  expect(kept("", "number", "metric")).toBeNaN();
  expect([area(10, "metric"), area(9.290304, "imperial")]).toEqual(["10 m²", "100 ft²"]);
  // 1 fc is 1 lm/ft²: 100 fc are 1076.39 lx
  expect(kept("100", "light", "imperial")).toBeCloseTo(1076.39, 2);
});

test("a word that nobody has said yet is said as it is spelled", () => {
  vocabulary.take(WORDS);
  expect([
    vocabulary.kind("new_kind"),
    vocabulary.choice("wet_ground"),
    vocabulary.choice("dry_ground"),
  ]).toEqual(["new_kind", "wet ground", "dry ground"]);
  expect(vocabulary.combine("key", "green")).toBe("key, green");
});
