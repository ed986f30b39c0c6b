import { frameAt, pictureOfStrip, type Clip } from "../../web/src/features/frames/clips.svelte";

const clip = (fields: Partial<Clip>): Clip => ({
  id: 1,
  use: "plate",
  recording_id: 7,
  name: "plate",
  first_frame: 1,
  frames: 100,
  rate_fps: 24,
  strip_every: 4,
  aspect: 16 / 9,
  version: 1,
  ...fields,
});

describe("a recording at a frame of the shot", () => {
  it("begins where it was laid, and stays at its ends", () => {
    expect(frameAt(clip({}), 1, 24)).toBe(0);
    expect(frameAt(clip({ first_frame: 12 }), 5, 24)).toBe(15);
    expect(frameAt(clip({}), 500, 24)).toBe(99);
  });

  it("runs at its own rate", () => {
    // a second of the shot is a second of what was recorded
    expect(frameAt(clip({ rate_fps: 48 }), 25, 24)).toBe(48);
    expect(frameAt(clip({ rate_fps: 25 }), 25, 24)).toBe(25);
    expect(frameAt(clip({ rate_fps: 12 }), 4, 24)).toBe(1);
  });

  it("has the nearest picture of its strip", () => {
    expect(pictureOfStrip(clip({}), 0)).toEqual({ at: 0, of: 25 });
    expect(pictureOfStrip(clip({}), 43)).toEqual({ at: 10, of: 25 });
    expect(pictureOfStrip(clip({ frames: 2, strip_every: 4 }), 1)).toEqual({ at: 0, of: 1 });
  });
});
