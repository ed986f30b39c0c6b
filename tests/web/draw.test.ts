// What a hand does to a drawing: held, moved, stepped, let go; and where things of a set stand on the screen.
import { sharing } from "../../web/src/lib/edit/sharing";
import { room } from "../../web/src/lib/draw/pace";
import {
  drawn,
  fitted,
  shifted,
  ticksOf,
  underHand,
  type Drawing,
  type Tried,
} from "../../web/src/features/bench/drawing";
import type { Standing } from "../../web/src/lib/api/client";
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

/** The page's pictures, drawn when the test says so; `ms` after the one before. */
function pictures() {
  let now = 0;
  let asked = new Map<number, FrameRequestCallback>();
  let last = 0;
  vi.spyOn(performance, "now").mockImplementation(() => now);
  vi.spyOn(window, "requestAnimationFrame").mockImplementation((call) => {
    asked.set(++last, call);
    return last;
  });
  vi.spyOn(window, "cancelAnimationFrame").mockImplementation((id) => void asked.delete(id));
  return (ms = 16, count = 1) => {
    for (let i = 0; i < count; i++) {
      const calls = [...asked.values()];
      asked = new Map();
      now += ms;
      for (const call of calls) call(now);
    }
  };
}
afterEach(() => void vi.restoreAllMocks());

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
  const picture = pictures();
  const { told, point } = await held();
  point("pointerdown");
  point("pointermove", 9, 0);
  picture();
  point("pointermove", 20, 0);
  point("pointercancel");
  point("pointerdown", 50, 50);
  picture();
  point("pointerup");
  expect(told).toEqual(["take pointerdown", "move 9 0", "cancel", "take pointerdown", "drop false"]);
});

test("a picture shows one place of the pointer, however many it passed; letting go the last", async () => {
  const picture = pictures();
  const { told, point } = await held();
  point("pointerdown");
  for (const x of [3, 6, 9]) point("pointermove", x, 0);
  picture();
  for (const x of [12, 15]) point("pointermove", x, 0);
  point("pointerup");
  picture();
  expect(told).toEqual(["take pointerdown", "move 9 0", "move 15 0", "drop true"]);
});

test("what follows from a drag waits while the hand's own pictures stumble, and not for ever", async () => {
  const picture = pictures();
  const { point } = await held();
  expect(room()).toBeNull();
  point("pointerdown");
  picture(16, 12);
  expect(room()).toBeNull();
  picture(40, 6);
  let over = false;
  const waiting = room()!.then(() => (over = true));
  await vi.advanceTimersByTimeAsync(20);
  expect(over).toBe(false);
  picture(100, 6);
  await vi.advanceTimersByTimeAsync(20);
  await waiting;
  point("pointerup");
  expect(room()).toBeNull();
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
} as unknown as Standing;
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

test("what is moved by hand is said from the front edge of its layer", () => {
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

test("a set stands where the hand has it before the answer is there", () => {
  const nothing: Tried = () => undefined;
  expect(underHand(STANDS, 4, 1, 8, nothing)).toEqual(STANDS);
  const turned: Record<string, number> = { distance_m: 5, lens_height_m: 1.2, ground_height_m: 0.3 };
  const there = underHand(STANDS, 4, 1, 8, (what, _, field) =>
    what === "set_ups" ? turned[field] : undefined,
  );
  // the camera goes back by a metre: everything stands a metre further from it
  expect(there.distance_m - STANDS.distance_m).toBeCloseTo(1);
  expect(there.far_m - STANDS.far_m).toBeCloseTo(1);
  expect(there.lamps[0]!.z - STANDS.lamps[0]!.z).toBeCloseTo(1);
  expect(there.sheet!.z - STANDS.sheet!.z).toBeCloseTo(1);
  expect([there.lens_height_m, there.ground_height_m]).toEqual([1.2, 0.3]);
  expect(there.wanted_height_m).toBe(STANDS.wanted_height_m); // what is wanted, core says
});

test("what is pulled is drawn where it was pulled to", () => {
  for (const [what, side] of [
    ["lamp", true],
    ["lamp", false],
    ["aim", true],
    ["sheet", true],
    ["sheet", false],
  ] as const) {
    const to = shifted(what, 0, 0.4, 0.2, STANDS, 4, side, { id: 8 } as never)!;
    const tried: Tried = (kind, id, field) =>
      kind === to.what && id === to.id ? to.fields[field] : undefined;
    const there = underHand(STANDS, 4, 1, 8, tried);
    const [was, is] = [STANDS, there].map((stands) => {
      const lamp = stands.lamps[0]!;
      const sheet = stands.sheet!;
      if (what === "lamp") return [lamp.z, side ? lamp.y : lamp.x];
      if (what === "aim") return [lamp.aim_z, side ? lamp.aim_y : lamp.aim_x];
      return [sheet.z, side ? sheet.bottom : (sheet.left + sheet.right) / 2];
    });
    expect(is![0]! - was![0]!).toBeCloseTo(0.4, 3);
    expect(is![1]! - was![1]!).toBeCloseTo(0.2, 3);
  }
});

test("an answer shares with the one before it what has not changed", () => {
  const known = {
    layers: [
      { id: 1, items: [{ amount: 1 }] },
      { id: 2, items: [] },
    ],
    text: "a",
    gone: 1,
  };
  const fresh = {
    layers: [
      { id: 1, items: [{ amount: 2 }] },
      { id: 2, items: [] },
    ],
    text: "a",
    gone: null,
  };
  const shared = sharing(structuredClone(fresh), known);
  expect(shared).toEqual(fresh);
  expect(shared).not.toBe(known);
  expect(shared.layers[1]).toBe(known.layers[1]);
  expect(shared.layers[0]).not.toBe(known.layers[0]);
  expect(sharing(structuredClone(known), known)).toBe(known);
  expect(sharing([1, 2], [1, 2, 3])).toEqual([1, 2]);
  expect(sharing({ a: undefined }, { b: undefined })).toEqual({ a: undefined });
  expect(sharing([] as unknown, {})).toEqual([]);
});
