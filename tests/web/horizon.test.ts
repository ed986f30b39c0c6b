import { horizonOf, horizonText } from "../../web/src/features/days/horizon";

test("a horizon is typed as pairs and comes back by direction", () => {
  const points = horizonOf("140 12; 90/4, ");
  expect(points).toEqual([
    { azimuth_deg: 140, height_deg: 12 },
    { azimuth_deg: 90, height_deg: 4 },
  ]);
  expect(horizonText(points!)).toBe("90 4, 140 12");
  expect(horizonOf("")).toEqual([]);
});

test.each(["90", "90 4 7", "400 3", "90 95", "east 4", "-3 4", "90 -7"])("%s is no horizon", (typed) => {
  expect(horizonOf(typed)).toBeNull();
});
