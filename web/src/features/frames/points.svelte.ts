// Points of the figure at the desk: their paths over the picture, and what a click there says of one.
import type { Schemas } from "../../lib/api/client";
import { onPath, type FigurePoint, type PointKey } from "./path";
import type { Exposure } from "./strip";
import type { SheetWrites } from "./writes";

/** What points need of the desk. */
type Desk = {
  readonly sheet: Schemas["ExposureSheetOut"] | null;
  readonly poses: Schemas["PoseOut"][];
  readonly at: number;
  readonly last: number;
  readonly looked: number | null;
  readonly exposure: Exposure | null;
  readonly writes: SheetWrites;
  go(place: number | null): void;
};

export class Points {
  /** Their paths lie over the picture. */
  shown = $state(false);
  /** What a click on the picture says: where a key of the path is, or where the point is seen. */
  pointing = $state.raw<{ id: number; as: "key" | "seen" } | null>(null);

  constructor(readonly desk: Desk) {}

  get all(): FigurePoint[] {
    return this.desk.sheet?.points ?? [];
  }
  /** The photograph in which a point can be marked: what is looked at, or what was taken last. */
  get photograph(): Exposure | null {
    const { exposure } = this.desk;
    return exposure?.light_pass === 0 ? exposure : null;
  }
  seenIn(point: FigurePoint, exposure: Exposure | null) {
    return point.seen.find((one) => one.exposure_id === exposure?.id) ?? null;
  }
  /** The frame of the shot that a key is set for. */
  get frame(): number {
    return this.desk.poses[this.desk.at]?.frame ?? 1;
  }
  ask(id: number, as: "key" | "seen") {
    if (this.pointing?.id === id && this.pointing.as === as) return (this.pointing = null);
    this.shown = true;
    // what is marked has to be seen
    if (as === "seen" && this.desk.looked === null) this.desk.go(this.desk.last);
    return (this.pointing = { id, as });
  }
  async clicked(x: number, y: number) {
    const { pointing } = this;
    const point = this.all.find((one) => one.id === pointing?.id);
    this.pointing = null;
    if (!point || !pointing) return;
    if (pointing.as === "key") await this.key(point, { frame: this.frame, x, y });
    else if (this.photograph) await this.desk.writes.place(point, this.photograph, { x, y });
  }
  /** A key of a path, in place of the one that stood at its frame. */
  key(point: FigurePoint, key: Pick<PointKey, "frame" | "x" | "y">) {
    return this.keys(point, (keys) => onPath(keys, key));
  }
  keys(point: FigurePoint, to: (keys: PointKey[]) => PointKey[]) {
    return this.desk.writes.point(
      point,
      (now) => ({ keys: to(now.keys).sort((a, b) => a.frame - b.frame) }),
      `the path of ${point.name}`,
    );
  }
}
