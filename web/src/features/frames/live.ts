// The live picture of a camera of the browser: seen as often as the machine can draw it beside its work.

const LIVE_MS = 60;
/** What was just taken is stored and measured first, where all is done by one machine. */
const BUSY_MS = 400;
/** Of the time, so much may go into drawing: one part in so many. */
const PARTS = 4;

/** From one drawing to the next, where each takes so long. */
export function restOf(drawing: number, busy: boolean): number {
  return Math.max(LIVE_MS, PARTS * drawing, busy ? BUSY_MS : 0);
}
/** Call `seen` when there is a new picture of a film and a rest has gone by. */
export function follow(
  video: HTMLVideoElement,
  signal: AbortSignal,
  rest: () => number,
  seen: () => void,
): void {
  let drawn = -Infinity;
  const next = (time: number) => {
    if (signal.aborted) return;
    if (time - drawn >= rest()) {
      drawn = time;
      seen();
    }
    video.requestVideoFrameCallback(next);
  };
  video.requestVideoFrameCallback(next);
}
