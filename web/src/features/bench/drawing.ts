// Where things stand in the drawing of a set: how it is fitted, its ruler, and what a hand on it asks for.
// Metres in, pixels out.
import type { Bench, Standing } from "../../lib/api/client";
import type { Hand } from "../../lib/draw/handle";

export const FLOOR_GAP = 26;
const CAMERA_X = 120;
const RULERS = [0.05, 0.1, 0.25, 0.5, 1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 5000];

/** Pixels a metre, and where the lens stands. */
export type View = { scale: number; camera: number };
export type Field = "distance_m" | "lens_height_m" | "focus_distance_m" | "ground_height_m";
/** What a hand can hold. */
export type Held = "camera" | "focus" | "ground" | "lamp" | "aim" | "sheet";
/** What stands on the set beside the camera. */
export type Placed = "lamp" | "aim" | "sheet";
export const NAMES: Record<Held, string> = {
  camera: "Move the camera",
  focus: "Pull focus",
  ground: "Raise the model",
  lamp: "Move the lamp",
  aim: "Aim the lamp",
  sheet: "Move the backing",
};
/** A set as it is drawn: metres from the lens and from the floor in, pixels out. */
export type Drawing = {
  side: boolean;
  width: number;
  height: number;
  /** Under the names at the top. */
  top: number;
  floor: number;
  /** Where the lens is. */
  camera: number;
  lensY: number;
  scale: number;
  px: (z: number) => number;
  py: (y: number) => number;
  /** A length as it is read. */
  length: (metres: number, places?: number) => string;
};
export type Handles = { writes: boolean; hand: (what: Held, at?: number) => Hand };
export type Shifted = { what: "lamps" | "backings"; id: number; fields: Record<string, number> };

export const rad = (deg: number) => (deg * Math.PI) / 180;
export const round = (value: number, places = 4) => Number(value.toFixed(places));
export const headOf = (stands: Standing | null) => (stands?.lamps.length ? 48 : 30);

function reach(stands: Standing): number {
  if (stands.sheet)
    return Math.max(stands.sheet.z, stands.focus_m, ...stands.lamps.map((lamp) => lamp.z)) * 1.35;
  const own = Math.min(stands.far_m, Math.max(stands.focus_m, stands.distance_m) * 2.6);
  return Math.max(own, ...stands.lamps.map((lamp) => lamp.z)) * 1.12;
}
function halfAcross(stands: Standing, far: number): number {
  const seen = stands.solids.flatMap((solid) =>
    solid.above.filter(([z]) => z! < far).map(([, x]) => Math.abs(x!)),
  );
  const cone = far * Math.tan((stands.view_across_deg * Math.PI) / 360);
  const aside = [
    ...stands.lamps.map((lamp) => Math.abs(lamp.x)),
    Math.abs(stands.sheet?.left ?? 0),
    Math.abs(stands.sheet?.right ?? 0),
  ];
  return Math.max(0.2, cone * 0.5, Math.min(Math.max(0, ...seen), cone * 1.5), ...aside);
}
/** The whole set in the drawing, from the side or from above. */
export function fitted(stands: Standing | null, side: boolean, width: number, height: number): View {
  if (!stands) return { scale: 1, camera: CAMERA_X };
  const far = reach(stands);
  const tops = stands.solids.flatMap((solid) => solid.side.map(([z, y]) => (z! < far ? y! : 0)));
  const tall = Math.max(
    stands.lens_height_m * 1.12,
    stands.wanted_height_m * 1.1,
    ...tops.map((top) => top * 1.08),
    ...stands.lamps.map((lamp) => lamp.y * 1.1),
    (stands.sheet?.top ?? 0) * 1.08,
    0.05,
  );
  const room = height - FLOOR_GAP - headOf(stands);
  const vertical = side ? room / tall : room / 2 / (halfAcross(stands, far) * 1.1);
  return { scale: Math.min((width - CAMERA_X - 30) / far, vertical), camera: CAMERA_X };
}

/** What a field is being turned to, or undefined where it stands as answered. */
export type Tried = (
  what: "set_ups" | "layers" | "lamps" | "backings",
  id: number,
  field: string,
) => number | undefined;

/**
 * A set as it was answered, with what is under the hand where the hand has it: what follows from that (bands,
 * words, what is wanted) comes with the next answer. `near` is the front edge of the set-up's nearest layer.
 */
export function underHand(
  stands: Standing,
  near: number,
  set_up: number,
  sheet: number | undefined,
  tried: Tried,
): Standing {
  const turned = (field: Field) => tried("set_ups", set_up, field);
  const away = (turned("distance_m") ?? near) - near;
  const raised = (turned("ground_height_m") ?? stands.ground_height_m) - stands.ground_height_m;
  const from = near + away;
  const lamps = stands.lamps.map((lamp, i) => {
    const of = (field: string) => tried("lamps", stands.lamp_ids[i] ?? -1, field);
    const z = (field: string, stood: number) => {
      const behind = of(field);
      return behind === undefined ? stood + away : from + behind;
    };
    return {
      ...lamp,
      z: z("behind_m", lamp.z),
      y: of("height_m") ?? lamp.y,
      x: of("across_m") ?? lamp.x,
      aim_z: z("aim_behind_m", lamp.aim_z),
      aim_y: of("aim_height_m") ?? lamp.aim_y,
      aim_x: of("aim_across_m") ?? lamp.aim_x,
    };
  });
  const backing = stands.sheet && { ...stands.sheet, z: stands.sheet.z + away };
  if (backing && sheet !== undefined) {
    const of = (field: string) => tried("backings", sheet, field);
    const behind = of("behind_m");
    if (behind !== undefined) backing.z = from + behind;
    const up = (of("bottom_m") ?? backing.bottom) - backing.bottom;
    const middle = (backing.left + backing.right) / 2;
    const aside = (of("across_m") ?? middle) - middle;
    Object.assign(backing, {
      bottom: backing.bottom + up,
      top: backing.top + up,
      left: backing.left + aside,
      right: backing.right + aside,
    });
  }
  const moved = (points: number[][], up: number) => points.map(([z, v]) => [z! + away, v! + up]);
  return {
    ...stands,
    lens_height_m: turned("lens_height_m") ?? stands.lens_height_m,
    focus_m: turned("focus_distance_m") ?? stands.focus_m,
    distance_m: stands.distance_m + away,
    far_m: stands.far_m + away,
    ground_height_m: stands.ground_height_m + raised,
    solids:
      away || raised
        ? stands.solids.map((solid) => ({
            ...solid,
            side: moved(solid.side, raised),
            above: moved(solid.above, 0),
          }))
        : stands.solids,
    lamps,
    sheet: backing,
  };
}

/** The drawing of a set in this view. */
export function drawn(
  stands: Standing | null,
  view: View,
  side: boolean,
  width: number,
  height: number,
  length: Drawing["length"],
): Drawing {
  const top = headOf(stands);
  const floor = side ? height - FLOOR_GAP : top + (height - FLOOR_GAP - top) / 2;
  const py = (y: number) => floor - y * view.scale;
  return {
    side,
    width,
    height,
    top,
    floor,
    camera: view.camera,
    lensY: stands && side ? py(stands.lens_height_m) : floor,
    scale: view.scale,
    px: (z) => view.camera + z * view.scale,
    py,
    length,
  };
}

/** The marks of the ruler; `unit` is metres a unit. */
export function ticksOf(
  view: View,
  width: number,
  unit: number,
  unitName: string,
): { at: number; label: string }[] {
  const span = (width - view.camera) / view.scale / unit;
  const step = RULERS.find((one) => span / one <= Math.max(width / 116, 3)) ?? 10000;
  const small = step / 5;
  const out: { at: number; label: string }[] = [];
  for (let n = 0; n * small <= span; n++) {
    const value = n * small;
    const at = view.camera + value * unit * view.scale;
    out.push({ at, label: n % 5 ? "" : `${Number(value.toFixed(2))} ${unitName}` });
  }
  return out;
}

type Backing = Bench["set_ups"][number]["backing"];
/**
 * A lamp, its aim or the sheet, moved by metres of the drawing; places are counted from `near`, the front
 * of the set-up's nearest layer.
 */
export function shifted(
  what: Placed,
  at: number,
  dx: number,
  dy: number,
  from: Standing,
  near: number,
  side: boolean,
  backing: Backing,
): Shifted | null {
  if (what === "sheet") {
    if (!backing || !from.sheet) return null;
    const middle = (from.sheet.left + from.sheet.right) / 2;
    const behind_m = round(from.sheet.z + dx - near, 3);
    const fields: Record<string, number> = side
      ? { behind_m, bottom_m: round(from.sheet.bottom + dy, 3) }
      : { behind_m, across_m: round(middle + dy, 3) };
    return { what: "backings", id: backing.id, fields };
  }
  const lamp = from.lamps[at];
  const id = from.lamp_ids[at];
  if (!lamp || id === undefined) return null;
  const aims = what === "aim";
  const [z, v] = aims ? [lamp.aim_z, side ? lamp.aim_y : lamp.aim_x] : [lamp.z, side ? lamp.y : lamp.x];
  const name = (field: string) => (aims ? `aim_${field}` : field);
  const fields = {
    [name("behind_m")]: round(z + dx - near, 3),
    [name(side ? "height_m" : "across_m")]: round(v + dy, 3),
  };
  return { what: "lamps", id, fields };
}
