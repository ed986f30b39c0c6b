// The hand comes first: while something is dragged, what follows from it is asked for only as long as the
// page shows the hand itself without stumbling.

const WINDOW_MS = 400;
const PICTURES_A_SECOND = 54; // 50 are aimed at
/** Even where the page cannot keep up, an answer is asked for this often. */
const LONGEST_MS = 400;

let drawn: number[] = [];
let frame = 0;

function count(now: number) {
  drawn = [...drawn.filter((one) => one > now - WINDOW_MS), now];
  frame = requestAnimationFrame(count);
}

/** A hand takes hold of something. */
export function begin() {
  drawn = [];
  cancelAnimationFrame(frame);
  frame = requestAnimationFrame(count);
}
/** It lets go. */
export function end() {
  cancelAnimationFrame(frame);
  frame = 0;
}

function keepsUp(): boolean {
  const took = drawn.length ? drawn.at(-1)! - drawn[0]! : 0;
  return took <= WINDOW_MS / 4 || ((drawn.length - 1) * 1000) / took >= PICTURES_A_SECOND;
}

/** Until there is room for more than the hand; null where there is, or nothing is dragged. */
export function room(): Promise<void> | null {
  return frame && !keepsUp() ? wait() : null;
}
async function wait() {
  const until = performance.now() + LONGEST_MS;
  while (frame && !keepsUp() && performance.now() < until)
    await new Promise((next) => setTimeout(next, 1000 / PICTURES_A_SECOND));
}
