// The layers of the shot laid over one another: where each lies in the picture, and how.
import type { Schemas } from "../../lib/api/client";
import { Keyer, type Four, type Sheet } from "../../lib/draw/keyed";
import { placeAt } from "./strip";

export type Beside = Schemas["LayerBesideOut"];
export type How = Beside["laid"];
type Sides = readonly number[]; // left, top, width, height

const MIXED = 0.5;
const OPS: Record<How, GlobalCompositeOperation> = {
  whole: "source-over",
  mixed: "source-over",
  added: "lighter",
  screened: "screen",
  multiplied: "multiply",
  keyed: "source-over",
};

/** Where something of the delivered frame lies in a picture so many px wide that shows `own` of it. */
export function placedIn(own: Sides, sides: Sides, wide: number): [number, number, number, number] {
  const k = wide / own[2]!;
  return [(sides[0]! - own[0]!) * k, (sides[1]! - own[1]!) * k, sides[2]! * k, sides[3]! * k];
}

/** The exposure of another layer at a frame of the shot; null before the first and where one is missing. */
export const shownOfLayer = (poses: Beside["poses"], frame: number) =>
  poses[placeAt(poses, frame)]?.exposure_id ?? null;

export type Laid = {
  how: How;
  sheet: Sheet | "";
  /** How much of it is seen where it is mixed. */
  amount?: number;
  /** Where it goes on the canvas, px. */
  to: Four;
  /** What of it is shown, its own px; all of it when left out. */
  of?: Four | undefined;
};

const KEYED_PX = 640;

export class Stacked {
  readonly #keyer = new Keyer();

  /** Lay a picture over what is there; whether as it is to be: where no sheet is seen in it, it is mixed. */
  over(on: CanvasRenderingContext2D, picture: CanvasImageSource, laid: Laid): boolean {
    const { how, sheet, amount = MIXED, to, of } = laid;
    const size = [KEYED_PX, Math.round((KEYED_PX * to[3]) / to[2])] as const;
    const keyed = how === "keyed" && sheet ? this.#keyer.keyed(picture, sheet, size, of) : null;
    on.save();
    on.globalCompositeOperation = OPS[how];
    on.globalAlpha = how === "mixed" || (how === "keyed" && !keyed) ? amount : 1;
    if (keyed) on.drawImage(keyed, ...to);
    else if (of) on.drawImage(picture, ...of, ...to);
    else on.drawImage(picture, ...to);
    on.restore();
    return how !== "keyed" || !!keyed;
  }
}
