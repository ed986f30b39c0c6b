import { hoursOf, hoursText } from "../../web/src/features/days/hours";

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
