import { hoursOf, hoursText, withHour } from "../../web/src/features/days/hours";

test.each([
  ["sat sun 08:00 to 18:00", "sat sun 08:00 to 18:00"],
  ["8 to 18", "08:00 to 18:00"],
  ["Saturday 9:30–12; 2027-10-24 10 to 14:15", "sat 09:30 to 12:00; 2027-10-24 10:00 to 14:15"],
  ["", ""],
])("%s is read, and written as %s", (typed, written) => {
  expect(hoursText(hoursOf(typed)!)).toBe(written);
});

test.each(["sat", "9 to", "sat 9 10 11", "someday 9 to 10", "2027-10-24 2027-10-25 9 to 10"])(
  "%s is no hours",
  (typed) => expect(hoursOf(typed)).toBeNull(),
);

test("an hour is taken out of a day and put in again", () => {
  const day = [{ start_min: 510, end_min: 720 }];
  const without = withHour(day, 10);
  expect(without).toEqual([
    { start_min: 510, end_min: 600 },
    { start_min: 660, end_min: 720 },
  ]);
  expect(withHour(without, 10)).toEqual(day);
  expect(withHour(day, 8)).toEqual([{ start_min: 540, end_min: 720 }]);
  expect(withHour([{ start_min: 600, end_min: 660 }], 10)).toEqual([]);
  expect(withHour([], 9)).toEqual([{ start_min: 540, end_min: 600 }]);
});
