// The simulated camera at the desk: a photograph of a frame of the shot, with what somebody has go wrong.

export type Faults = { nudge_px: number; bounce_stops: number; lighter_stops: number; hand: boolean };
export const NO_FAULTS: Faults = { nudge_px: 0, bounce_stops: 0, lighter_stops: 0, hand: false };
const MOST_EXPOSURES = 1000; // numbers of its photographs of one frame
let number = 0;

/** Throws an Error that says what to do. */
export async function photograph(
  sheet: number,
  frame: number,
  width: number,
  faults: Faults,
  signal?: AbortSignal,
): Promise<Blob> {
  number = (number + 1) % MOST_EXPOSURES;
  const query = Object.entries({ ...faults, frame, number, width }).map(([name, to]) => `${name}=${to}`);
  const address = `/api/exposure-sheets/${sheet}/simulated.jpg?${query.join("&")}`;
  const answer = await fetch(address, signal ? { signal } : {});
  if (!answer.ok) throw new Error("The simulated camera gives no picture: is there a set-up on the Bench?");
  return answer.blob();
}
