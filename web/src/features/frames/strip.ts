// The exposure sheet as a strip: which pose is shown at a frame, and which of them can be seen.
import type { Schemas } from "../../lib/api/client";

export type Pose = Schemas["PoseOut"];
export type Exposure = Schemas["ExposureOut"];

/** What is written beside a pose. */
export const COLUMNS = [
  ["figure", "Figure"],
  ["camera", "Camera"],
  ["light", "Light"],
  ["mouth", "Eyes, mouth"],
  ["note", "Note"],
] as const;

/** The pose that is shown at a frame of the shot (from 1), by halving; -1 for none. */
export function placeAt(poses: readonly Pick<Pose, "frame" | "hold">[], frame: number): number {
  let [low, high] = [0, poses.length - 1];
  while (low <= high) {
    const middle = (low + high) >> 1;
    const pose = poses[middle]!;
    if (frame < pose.frame) high = middle - 1;
    else if (frame >= pose.frame + pose.hold) low = middle + 1;
    else return middle;
  }
  return -1;
}

/** How many frames of the shot the poses are shown for. */
export const framesOf = (poses: readonly Pose[]) => {
  const last = poses.at(-1);
  return last ? last.frame + last.hold - 1 : 0;
};

/** The first and the last pose of which something lies between two places of the strip, px. */
export function inSight(
  poses: readonly Pose[],
  from: number,
  to: number,
  perFrame: number,
): [number, number] {
  if (!poses.length) return [0, -1];
  const at = (px: number) => Math.min(Math.max(Math.floor(px / perFrame) + 1, 1), framesOf(poses));
  return [placeAt(poses, at(from)), placeAt(poses, at(to))];
}

/** The exposure that is shown of each pose in a pass, by pose. */
export function shownOf(exposures: readonly Exposure[], pass = 0): Record<number, Exposure> {
  const found: Record<number, Exposure> = {};
  for (const one of exposures) if (one.chosen && one.light_pass === pass) found[one.pose_id] = one;
  return found;
}

/** In which order a pose's passes are made: each begins with the light that the one before it ended with. */
export function orderOf(passes: number, place: number, alternate: boolean): number[] {
  const order = Array.from({ length: Math.max(passes, 1) }, (_, i) => i);
  return alternate && place % 2 ? order.reverse() : order;
}

/** The place and the pass that are photographed next: `there` says which are there already. */
export function dueOf(
  poses: readonly Pose[],
  passes: number,
  alternate: boolean,
  there: (pose: Pose, pass: number) => boolean,
): { place: number; pass: number } {
  const order = (place: number) => orderOf(passes, place, alternate);
  const last = poses.findLastIndex((one) => order(one.place).some((pass) => there(one, pass)));
  const missing = last < 0 ? undefined : order(last).find((pass) => !there(poses[last]!, pass));
  if (missing !== undefined) return { place: last, pass: missing };
  const place = Math.min(last + 1, poses.length - 1);
  return { place, pass: order(place)[0]! };
}

/**
 * The frames of the shot that are played, the last one left out: lines that are chosen, the last seconds that
 * were taken, or with 0 seconds everything.
 */
export function playedOf(
  poses: readonly Pose[],
  last: number,
  span: readonly [number, number] | null,
  seconds: number,
  rate: number,
): { begins: number; ends: number; words: string } {
  const end = poses[span ? span[1] : last];
  if (!end) return { begins: 0, ends: 0, words: "" };
  const ends = end.frame + end.hold;
  if (span) return { begins: poses[span[0]]!.frame, ends, words: `lines ${span[0] + 1} to ${span[1] + 1}` };
  const begins = seconds ? Math.max(1, ends - Math.round(seconds * rate)) : 1;
  return { begins, ends, words: seconds ? `the last ${seconds} s` : "everything" };
}

/** In which line each span of frames stands, so that none lies over another; null for one without end. */
export function lanesOf(spans: readonly { first_frame: number; last_frame: number | null }[]): number[] {
  const ends: number[] = [];
  return spans.map(({ first_frame: first, last_frame: last }) => {
    const free = ends.findIndex((end) => end < first);
    const lane = free < 0 ? ends.length : free;
    ends[lane] = last ?? Infinity;
    return lane;
  });
}

/** How long somebody has worked without a break at `now`, h; 0 in a break. */
export function sinceBreak(stretch: Schemas["StretchOut"] | null | undefined, now: string): number {
  const at = Date.parse(now) / 1000;
  return stretch && at < stretch.over_s ? Math.max(0, at - stretch.began_s) / 3600 : 0;
}

/** Stops over the block's first frame, of every pose that was photographed: the line under the strip. */
export function flickerOf(poses: readonly Pose[], shown: Record<number, Exposure>): (number | null)[] {
  return poses.map((pose) => {
    const one = shown[pose.id];
    if (!one) return null;
    if (pose.block === pose.place) return 0;
    return one.watched?.first?.stops ?? null;
  });
}

/** Exposures with one that has just come: of its pose and pass it is the one that is shown. */
export function withExposure(exposures: readonly Exposure[], exposure: Exposure): Exposure[] {
  const same = (one: Exposure) =>
    one.pose_id === exposure.pose_id && one.light_pass === exposure.light_pass && exposure.chosen;
  const others = exposures.filter((one) => one.id !== exposure.id);
  return [...others.map((one) => (same(one) ? { ...one, chosen: false } : one)), exposure];
}
/** What came last of what is shown, whatever the clock of its device said. */
export const newestOf = (exposures: readonly Exposure[]): Exposure | undefined =>
  exposures.reduce<Exposure | undefined>(
    (last, one) => (one.chosen && one.id > (last?.id ?? 0) ? one : last),
    undefined,
  );
/** Whether a frame says something that the one before it did not say. */
export function saysMore(exposure: Exposure, before: Exposure | undefined): boolean {
  const known = before?.watched?.warnings ?? [];
  return (exposure.watched?.warnings ?? []).some(
    (one) => one.since === "last" || !known.some((other) => other.what === one.what),
  );
}
