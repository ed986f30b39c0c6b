// How a photograph of a hyperlapse is aimed, in words for whoever stands behind the camera.
import type { Schemas } from "../../lib/api/client";

export type Hyperlapse = Schemas["HyperlapseOut"];
export type Aim = Schemas["AimOut"];
export type Plan = Schemas["HyperPlan"];

const SAID_PX = 0.5;
const TURNED_PX = 4; // nobody turns a camera by less on purpose
const px = (value: number) => Math.abs(value).toFixed(Math.abs(value) < 10 ? 1 : 0);

/** How far the point is off its mark, to each side. */
export function offWords(aim: Aim): string {
  if (aim.right_px === null || aim.down_px === null) return "not found";
  const told = [
    Math.abs(aim.right_px) > SAID_PX && `${px(aim.right_px)} px ${aim.right_px > 0 ? "right" : "left"}`,
    Math.abs(aim.down_px) > SAID_PX && `${px(aim.down_px)} px ${aim.down_px > 0 ? "low" : "high"}`,
  ].filter(Boolean);
  return told.join(", ") || "on its mark";
}

/** Which way the camera has to be turned to bring the point to its mark: to where it lies. */
export function turnWords(aim: Aim): string {
  if (aim.right_px === null || aim.down_px === null) return "";
  const told = [
    Math.abs(aim.right_px) > TURNED_PX && `turn ${aim.right_px > 0 ? "right" : "left"}`,
    Math.abs(aim.down_px) > TURNED_PX && `tilt ${aim.down_px > 0 ? "down" : "up"}`,
  ].filter(Boolean);
  return told.join(", ");
}

/** How a photograph is drawn to be steady: where its left top goes, how large it is; in shares. */
export function steadyBox(shift: readonly number[], kept: number): [number, number, number] {
  const grown = 1 / kept;
  const [right = 0, down = 0] = shift;
  return [(right - (1 - kept) / 2) * grown, (down - (1 - kept) / 2) * grown, grown];
}

export const capital = (words: string) => words.charAt(0).toUpperCase() + words.slice(1);
export const metres = (value: number) =>
  value < 1 ? `${(100 * value).toFixed(1)} cm` : `${value.toFixed(2)} m`;
export function lasting(seconds: number): string {
  const minutes = Math.floor(seconds / 60);
  return minutes ? `${minutes} min ${Math.round(seconds % 60)} s` : `${seconds.toFixed(0)} s`;
}
