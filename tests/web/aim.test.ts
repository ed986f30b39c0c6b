import { offWords, steadyBox, turnWords, type Aim } from "../../web/src/features/frames/aim";

const aim = (right_px: number | null, down_px: number | null): Aim => ({
  place: 0,
  exposure_id: 1,
  right_px,
  down_px,
  verdict: "holds",
  shift: null,
});

describe("how a photograph of a hyperlapse is aimed", () => {
  it("is said by where the point is, and met by turning there", () => {
    expect(offWords(aim(64.2, -22.4))).toBe("64 px right, 22 px high");
    expect(turnWords(aim(64.2, -22.4))).toBe("turn right, tilt up");
    expect(offWords(aim(-3.04, 0.2))).toBe("3.0 px left");
    expect(turnWords(aim(-3.04, 0.2))).toBe(""); // nobody turns by so little
    expect(offWords(aim(0.1, 0))).toBe("on its mark");
    expect(offWords(aim(null, null))).toBe("not found");
  });

  it("is made steady by laying what is left over the whole picture", () => {
    // 10 % of the width to the right, of which 80 % are left: a tenth of the margin's side is gone
    const [left, top, grown] = steadyBox([0.1, 0], 0.8);
    expect(grown).toBeCloseTo(1.25);
    expect(left).toBeCloseTo(0);
    expect(top).toBeCloseTo(-0.125);
    // the right edge of the photograph still covers the picture's
    expect(left + grown).toBeGreaterThanOrEqual(1);
  });
});
