// The verdict of a take that only the telephone knows of: found where it was worked out, and open where not.
import { foretold, isExact, sureness } from "../../web/src/features/log/foretold";
import type { Schemas, Verdict } from "../../web/src/lib/api/client";

const item = (key: string, verdict: Verdict, amount_text = "3") => ({
  item: key,
  label: key.toUpperCase(),
  where: "",
  amount_text,
  unit: "px",
  verdict,
  sentence: "",
  to_do: "",
});
const given = (...items: ReturnType<typeof item>[]) => ({
  verdict: items[0]?.verdict ?? ("holds" as Verdict),
  shows: 0,
  tight: 0,
  holds: 0,
  items,
});
const point = (field: string, value: number, ...items: ReturnType<typeof item>[]) => ({
  field,
  value,
  ...given(...items),
});
const grain = item("grain", "tight", "1.3");
const table: Schemas["ForetoldOut"] = {
  layer_id: 4,
  sun: false,
  planned: given(grain),
  points: [
    point("f_number", 4, item("focus", "shows", "9"), grain),
    point("f_number", 5.6, item("focus", "tight", "4"), grain),
    point("f_number", 11, grain),
    point("tilt_deg", 1, item("height", "shows", "12"), grain),
    point("tilt_deg", -1, item("focus", "tight", "5"), grain),
  ],
};
const card = [
  { field: "f_number", label: "Stop", value: 8 },
  { field: "tilt_deg", label: "Tilt", value: 0 },
  { field: "iso", label: "ISO", value: 400 },
];
const told = (changed: Record<string, number>) => foretold(table, card, changed);
const keys = (changed: Record<string, number>) => told(changed).items.map((one) => [one.item, one.verdict]);

test("as planned, and at a point, it is what the server would give", () => {
  expect([told({}).verdict, keys({}), isExact(told({}))]).toEqual(["tight", [["grain", "tight"]], true]);
  expect(told({ f_number: 4.00001 })).toMatchObject({ verdict: "shows", items: [{ item: "focus" }, grain] });
  expect(isExact(told({ f_number: 4 }))).toBe(true);
});

test("between two points both are said, and the worse of them counts", () => {
  const between = told({ f_number: 5 });
  expect([between.verdict, isExact(between)]).toEqual(["shows", false]);
  expect(sureness(between, (_, value) => `f/${value}`)).toBe(
    "Stop: shows at f/4, tight at f/5.6, not worked out between.",
  );
});

test("further off than was worked out nothing is guessed", () => {
  const beyond = told({ f_number: 22 });
  expect([beyond.beyond, isExact(beyond), keys({ f_number: 22 })]).toEqual([
    ["Stop"],
    false,
    [["grain", "tight"]],
  ]);
  expect(told({ iso: 800 }).beyond).toEqual(["ISO"]);
});

test("several settings are known each by itself, and never called exact", () => {
  const apart = told({ f_number: 5.6, tilt_deg: 1 });
  expect(apart.items.map((one) => one.item)).toEqual(["height", "grain", "focus"]);
  expect([apart.verdict, isExact(apart)]).toEqual(["shows", false]);
  expect(sureness(apart, String)).toBe(
    "Each setting by itself: what they do together is judged when it is sent.",
  );
  const both = told({ f_number: 5.6, tilt_deg: -1 });
  expect([both.together, both.items.map((one) => one.item)]).toEqual([["FOCUS"], ["grain"]]);
  expect(sureness(both, String)).toContain("FOCUS: moved by more than one setting");
});

test("what the sun lights is exact for the sun as planned only", () => {
  const outdoors = foretold({ ...table, sun: true }, card, { f_number: 4 });
  expect([isExact(outdoors), sureness(outdoors, String)]).toEqual([false, "With the sun as planned."]);
});
