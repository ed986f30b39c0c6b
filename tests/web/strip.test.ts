import type { Schemas } from "../../web/src/lib/api/client";
import { flickerOf, framesOf, inSight, nextOf, placeAt, shownOf } from "../../web/src/features/frames/strip";

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
    expect(nextOf(poses, shown)).toBe(3);
    expect(nextOf(poses, {})).toBe(0);
    expect(nextOf(poses, shownOf(poses.map((one) => taken(one, 0))))).toBe(3);
  });
  it("counts light from the first frame of each block", () => {
    const blocks = sheet([2, 2, 2, 2], [2]);
    const shown = shownOf([taken(blocks[0]!, null), taken(blocks[1]!, 0.02), taken(blocks[2]!, 0.5)]);
    expect(flickerOf(blocks, shown)).toEqual([0, 0.02, 0, null]);
  });
});
