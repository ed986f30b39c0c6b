import type { Schemas } from "../../web/src/lib/api/client";
import {
  dueOf,
  flickerOf,
  framesOf,
  inSight,
  lanesOf,
  newestOf,
  orderOf,
  placeAt,
  playedOf,
  shownOf,
  sinceBreak,
} from "../../web/src/features/frames/strip";

type Pose = Schemas["PoseOut"];
type Exposure = Schemas["ExposureOut"];

function sheet(holds: number[], blocks: number[] = []): Pose[] {
  let frame = 1;
  return holds.map((hold, place) => {
    const pose = {
      id: 100 + place,
      place,
      frame,
      hold,
      block: Math.max(0, ...blocks.filter((one) => one <= place)),
    } as Pose;
    frame += hold;
    return pose;
  });
}
const taken = (pose: Pose, stops: number | null, chosen = true) =>
  ({
    id: pose.id * 10,
    pose_id: pose.id,
    light_pass: 0,
    chosen,
    watched: stops === null ? null : { first: { stops } },
  }) as Exposure;

describe("the exposure sheet as a strip", () => {
  const poses = sheet([2, 2, 1, 3]);

  it("finds the pose that is shown at each frame, held as long as it is", () => {
    expect([1, 2, 3, 4, 5, 6, 7, 8].map((frame) => placeAt(poses, frame))).toEqual([0, 0, 1, 1, 2, 3, 3, 3]);
    expect([placeAt(poses, 0), placeAt(poses, 9)]).toEqual([-1, -1]);
    expect([framesOf(poses), framesOf([])]).toEqual([8, 0]);
  });
  it("finds in thousands of frames what is in sight, without looking at all of them", () => {
    const long = sheet(Array.from({ length: 2880 }, () => 1));
    expect(inSight(long, 1000, 1200, 10)).toEqual([100, 120]);
    expect(inSight(long, -200, 50, 10)).toEqual([0, 5]);
    expect(inSight(long, 28_700, 40_000, 10)).toEqual([2870, 2879]);
    expect(inSight([], 0, 100, 10)).toEqual([0, -1]);
  });
  it("photographs behind the last, also where one between them is missing", () => {
    const shown = shownOf([taken(poses[0]!, null), taken(poses[2]!, 0.1), taken(poses[3]!, 0.1, false)]);
    expect(Object.keys(shown)).toEqual(["100", "102"]);
    const next = (there: Record<number, Exposure>) => dueOf(poses, 0, false, (one) => !!there[one.id]).place;
    expect([next(shown), next({}), next(shownOf(poses.map((one) => taken(one, 0))))]).toEqual([3, 0, 3]);
  });
  it("makes every pass of a pose before the next, back and forth where that is asked for", () => {
    const there: string[] = [];
    const order: string[] = [];
    for (let i = 0; i < 6; i++) {
      const due = dueOf(poses, 2, true, (one, pass) => there.includes(`${one.place} ${pass}`));
      there.push(`${due.place} ${due.pass}`);
      order.push(`${due.place}${"ab"[due.pass]}`);
    }
    expect(order).toEqual(["0a", "0b", "1b", "1a", "2a", "2b"]);
    expect([orderOf(0, 1, true), orderOf(3, 1, true), orderOf(3, 1, false)]).toEqual([
      [0],
      [2, 1, 0],
      [0, 1, 2],
    ]);
  });
  it("plays the last seconds, everything, or the lines that are chosen, holds and all", () => {
    const long = sheet(Array.from({ length: 100 }, () => 2));
    expect(playedOf(long, 49, null, 2, 24)).toEqual({ begins: 53, ends: 101, words: "the last 2 s" });
    expect(playedOf(long, 3, null, 2, 24)).toMatchObject({ begins: 1, ends: 9 });
    expect(playedOf(long, 49, null, 0, 24)).toMatchObject({ begins: 1, ends: 101 });
    expect(playedOf(long, 49, [9, 11], 2, 24)).toEqual({ begins: 19, ends: 25, words: "lines 10 to 12" });
    expect(playedOf([], -1, null, 2, 24)).toMatchObject({ begins: 0, ends: 0 });
  });
  it("says how long somebody has worked, until the break is long enough", () => {
    const began_s = Date.parse("2027-10-24T09:30:00Z") / 1000;
    const stretch = { began_s, over_s: began_s + 50 * 60 };
    expect(sinceBreak(stretch, "2027-10-24T10:15:00Z")).toBeCloseTo(0.75);
    expect(sinceBreak(stretch, "2027-10-24T10:25:00Z")).toBe(0);
    expect(sinceBreak(null, "2027-10-24T10:25:00Z")).toBe(0);
  });
  it("counts light from the first frame of each block", () => {
    const blocks = sheet([2, 2, 2, 2], [2]);
    const shown = shownOf([taken(blocks[0]!, null), taken(blocks[1]!, 0.02), taken(blocks[2]!, 0.5)]);
    expect(flickerOf(blocks, shown)).toEqual([0, 0.02, 0, null]);
  });
});

describe("what was moved for reach, in the strip", () => {
  const span = (first_frame: number, last_frame: number | null) => ({ first_frame, last_frame });

  it("stands in one line where nothing stands at the same time, else below", () => {
    expect(lanesOf([span(1, 12), span(13, 24), span(25, null)])).toEqual([0, 0, 0]);
    expect(lanesOf([span(1, null), span(13, 24), span(20, 30), span(25, 40)])).toEqual([0, 1, 2, 1]);
    expect(lanesOf([])).toEqual([]);
  });
});

describe("what came last", () => {
  const came = (id: number, chosen: boolean) => ({ id, chosen }) as Exposure;

  it("is what arrived last of what is shown, also where a device's clock is behind", () => {
    // in the order of their clocks
    expect(newestOf([came(12, true), came(4, true), came(13, false), came(9, true)])?.id).toBe(12);
    expect(newestOf([came(3, false)])).toBeUndefined();
  });
});
