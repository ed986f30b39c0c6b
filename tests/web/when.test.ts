// Days and weeks as the reader counts them.
import { dateIn, weekOf } from "../../web/src/lib/ui/when";

const FRIDAY = new Date(2026, 10, 27, 15, 30); // 27 November 2026, by the calendar

test.each([
  ["monday", 23],
  ["sunday", 22],
  ["saturday", 21],
] as const)("a week that begins on %s", (starts, day) => {
  expect(weekOf(FRIDAY, starts)).toEqual(new Date(2026, 10, day));
  expect(weekOf(new Date(2026, 10, day), starts)).toEqual(new Date(2026, 10, day));
});

test("a day in figures and in a language", () => {
  expect(dateIn("iso", FRIDAY)).toBe("2026-11-27");
  expect(dateIn("de", FRIDAY)).toContain("Nov");
  expect(dateIn("en-US", FRIDAY)).toBe("Nov 27, 2026");
});
