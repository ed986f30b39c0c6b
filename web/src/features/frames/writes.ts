// What is written of an exposure sheet: its lines, which exposure is shown, its rigs, its pieces of the set.
// One write after the other, each by the version that the one before it left.
import { answered, client, type Schemas } from "../../lib/api/client";
import type { WayBack } from "../../lib/edit/back.svelte";
import type { FigurePoint } from "./path";
import type { Exposure, Pose } from "./strip";

export type Rig = Schemas["RigOut"];
export type SetPiece = Schemas["SetPieceOut"];
export type SheetCheat = Schemas["SheetCheatOut"];
export type Box = [number, number, number, number];
const NEW_RIG: Omit<Schemas["RigIn"], "version"> = {
  name: "Rig",
  carries: "figure",
  lead_mm: 1,
  gears: [],
  driven: false,
  marks: 10,
  take_up: 5,
  legs: [],
};
const MIDDLE = 0.5;
const NUMBERS = ["ones", "twos", "threes", "fours"];
export const onWords = (on: number) => NUMBERS[on - 1] ?? `${on}s`;

type PointFields = Partial<Schemas["FigurePointChange"]>;
type Sheet = Schemas["ExposureSheetOut"];
/** What writes need of the desk. */
type Written = {
  readonly id: number;
  readonly sheet: Sheet | null;
  readonly way: WayBack;
  readonly motor: { turn(rig: Rig): Promise<void> };
  readonly poses: Pose[];
  readonly at: number;
  readonly span: [number, number];
  read(): Promise<unknown>;
  go(place: number | null): void;
};

export class SheetWrites {
  constructor(readonly desk: Written) {}

  #do(label: string, write: (key: string) => Promise<unknown>) {
    return this.desk.way.do(label, async (key) => {
      const done = await write(key);
      await this.desk.read();
      return done;
    });
  }
  /** Have another exposure of a pose shown. */
  show(exposure: Exposure) {
    return this.#exposure(`show another frame ${this.desk.at + 1}`, exposure, { chosen: true });
  }
  remove(exposure: Exposure) {
    return this.#exposure(`take frame ${this.desk.at + 1} away`, exposure, { removed: true });
  }
  #exposure(label: string, exposure: Exposure, to: { chosen: true } | { removed: boolean }) {
    return this.#do(label, (key) => {
      const { version } = this.desk.sheet?.exposures.find((one) => one.id === exposure.id) ?? exposure;
      return answered(
        client.PATCH("/api/exposures/{exposure_id}", {
          params: { path: { exposure_id: exposure.id } },
          headers: { "Idempotency-Key": key },
          body: { chosen: null, removed: null, version, ...to },
        }),
      );
    });
  }
  /** Write into a line of the sheet. */
  line(pose: Pose, fields: Partial<Schemas["PoseChange"]>) {
    return this.#do(`frame ${pose.place + 1} of the sheet`, (key) => {
      const { version } = this.desk.poses.find((one) => one.id === pose.id) ?? pose;
      return answered(
        client.PATCH("/api/poses/{pose_id}", {
          params: { path: { pose_id: pose.id } },
          headers: { "Idempotency-Key": key },
          body: { ...fields, version } as Schemas["PoseChange"],
        }),
      );
    });
  }
  /** A new line before another one, held as long. */
  insert(before: Pose) {
    return this.#do(`a line before ${before.place + 1}`, (key) => {
      const { place, hold } = this.desk.poses.find((one) => one.id === before.id) ?? before;
      const after = this.desk.poses[place - 1]?.id ?? null;
      return answered(
        client.POST("/api/exposure-sheets/{sheet_id}/poses", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { after, hold, version: this.desk.sheet!.version },
        }),
      );
    });
  }
  /** Put the lines that are chosen on ones, twos, threes, hold each so long, or leave them out. */
  async span(how: Schemas["SpanChange"]["how"], on: number) {
    const [first, last] = this.desk.span.map((place) => this.desk.poses[place]!) as [Pose, Pose];
    const lines =
      first === last ? `line ${first.place + 1}` : `lines ${first.place + 1} to ${last.place + 1}`;
    const label = how === "left_out" ? `leave out ${lines}` : `${lines} on ${onWords(on)}`;
    const done = await this.#do(label, (key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/span", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { first: first.id, last: last.id, how, on, version: this.desk.sheet!.version },
        }),
      ),
    );
    if (done) this.desk.go(first.place);
  }
  /** Which exposures are made of each pose. */
  sheet(label: string, fields: Partial<Schemas["SheetChange"]>) {
    return this.#do(label, (key) =>
      answered(
        client.PATCH("/api/exposure-sheets/{sheet_id}", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { ...fields, version: this.desk.sheet!.version } as Schemas["SheetChange"],
        }),
      ),
    );
  }
  /** A geared rig under what is animated, or under its camera. */
  addRig() {
    return this.#do("add a rig", (key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/rigs", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { ...NEW_RIG, version: this.desk.sheet!.version },
        }),
      ),
    );
  }
  rig(rig: Rig, fields: Partial<Schemas["RigChange"]>) {
    return this.#do(`${rig.name} changed`, (key) => {
      const { version } = this.desk.sheet?.rigs.find((one) => one.id === rig.id) ?? rig;
      return answered(
        client.PATCH("/api/rigs/{rig_id}", {
          params: { path: { rig_id: rig.id } },
          headers: { "Idempotency-Key": key },
          body: { ...fields, version } as Schemas["RigChange"],
        }),
      );
    });
  }
  /** The crank was turned as it was said, or has its motor do it. */
  turned(rig = this.desk.sheet?.rigs.find((one) => one.next)) {
    if (!rig?.next) return Promise.resolve();
    return rig.driven ? this.desk.motor.turn(rig) : this.rig(rig, { stands: rig.next.to });
  }
  /** Something of the set that has to stand. */
  addPiece(box: Box) {
    const name = `Piece ${(this.desk.sheet?.pieces.length ?? 0) + 1}`;
    return this.#do(`mark ${name}`, (key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/pieces", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { name, box, version: this.desk.sheet!.version },
        }),
      ),
    );
  }
  /** Something that was moved so that a hand reaches, from a frame of the shot on. */
  addCheat(body: Omit<Schemas["SheetCheatIn"], "version">) {
    return this.#do(`record ${body.name}`, (key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/cheats", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { ...body, version: this.desk.sheet!.version },
        }),
      ),
    );
  }
  cheat(cheat: SheetCheat, fields: Partial<Schemas["SheetCheatChange"]>) {
    return this.#do(fields.removed ? `take ${cheat.name} away` : `${cheat.name} moved`, (key) => {
      const { version } = this.desk.sheet?.cheats.cheats.find((one) => one.id === cheat.id) ?? cheat;
      return answered(
        client.PATCH("/api/sheet-cheats/{cheat_id}", {
          params: { path: { cheat_id: cheat.id } },
          headers: { "Idempotency-Key": key },
          body: { ...fields, version } as Schemas["SheetCheatChange"],
        }),
      );
    });
  }
  /** A point of the figure. */
  addPoint() {
    const name = `Point ${(this.desk.sheet?.points.length ?? 0) + 1}`;
    return this.#do(`add ${name}`, (key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/figure-points", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { name, version: this.desk.sheet!.version },
        }),
      ),
    );
  }
  /** `fields` may follow from how the point is once the writes before this one are done. */
  point(point: FigurePoint, fields: PointFields | ((now: FigurePoint) => PointFields), label: string) {
    return this.#do(label, (key) => {
      const now = this.#now(point);
      const to = typeof fields === "function" ? fields(now) : fields;
      return answered(
        client.PATCH("/api/figure-points/{point_id}", {
          params: { path: { point_id: point.id } },
          headers: { "Idempotency-Key": key },
          body: { ...to, version: now.version } as Schemas["FigurePointChange"],
        }),
      );
    });
  }
  /** Where a point is seen in a photograph, shares of it; what is not said of it stays as it stood. */
  place(point: FigurePoint, exposure: Exposure, said: { x?: number; y?: number }) {
    return this.#do(`${point.name} marked`, (key) => {
      const { version, seen } = this.#now(point);
      const { x = MIDDLE, y = MIDDLE } = seen.find((one) => one.exposure_id === exposure.id) ?? {};
      return answered(
        client.POST("/api/figure-points/{point_id}/places", {
          params: { path: { point_id: point.id } },
          headers: { "Idempotency-Key": key },
          body: { x, y, ...said, exposure_id: exposure.id, version },
        }),
      );
    });
  }
  /** A recording beside the sheet or beneath it. */
  addClip(use: Schemas["SheetClipIn"]["use"], recording: number) {
    return this.#do(use === "plate" ? "the live plate" : "the performance", (key) =>
      answered(
        client.POST("/api/exposure-sheets/{sheet_id}/clips", {
          params: { path: { sheet_id: this.desk.id } },
          headers: { "Idempotency-Key": key },
          body: { use, recording_id: recording, first_frame: 1, version: this.desk.sheet!.version },
        }),
      ),
    );
  }
  /** From which of its frames on the film of another layer of the shot is seen. */
  layerBegins(film: Schemas["LayerFilmOut"], first_frame: number, name: string) {
    const { clip_id: id, version, recording_id } = film;
    return this.#do(`where ${name} begins`, (key) =>
      id === null || version === null
        ? answered(
            client.POST("/api/exposure-sheets/{sheet_id}/clips", {
              params: { path: { sheet_id: this.desk.id } },
              headers: { "Idempotency-Key": key },
              body: { use: "layer", recording_id, first_frame, version: this.desk.sheet!.version },
            }),
          )
        : answered(
            client.PATCH("/api/sheet-clips/{clip_id}", {
              params: { path: { clip_id: id } },
              headers: { "Idempotency-Key": key },
              body: { first_frame, version } as Schemas["SheetClipChange"],
            }),
          ),
    );
  }
  clip(clip: Schemas["SheetClipOut"], fields: Partial<Schemas["SheetClipChange"]>, label: string) {
    return this.#do(label, (key) => {
      const { version } = this.desk.sheet?.clips.find((one) => one.id === clip.id) ?? clip;
      return answered(
        client.PATCH("/api/sheet-clips/{clip_id}", {
          params: { path: { clip_id: clip.id } },
          headers: { "Idempotency-Key": key },
          body: { ...fields, version } as Schemas["SheetClipChange"],
        }),
      );
    });
  }
  /** Another plan of the hyperlapse; what is not said of it stays. */
  hyperlapse(fields: Partial<Schemas["HyperPlan"]>) {
    return this.#do("the plan of the hyperlapse", (key) => {
      const { id, version, plan } = this.desk.sheet!.hyperlapse!;
      return answered(
        client.PATCH("/api/hyperlapses/{hyperlapse_id}", {
          params: { path: { hyperlapse_id: id } },
          headers: { "Idempotency-Key": key },
          body: { version, plan: { ...plan, ...fields } },
        }),
      );
    });
  }
  #now(point: FigurePoint): FigurePoint {
    return this.desk.sheet?.points.find((one) => one.id === point.id) ?? point;
  }
  piece(piece: SetPiece, fields: Partial<Schemas["PieceChange"]>) {
    return this.#do(fields.removed ? `take ${piece.name} away` : `${piece.name} changed`, (key) => {
      const { version } = this.desk.sheet?.pieces.find((one) => one.id === piece.id) ?? piece;
      return answered(
        client.PATCH("/api/set-pieces/{piece_id}", {
          params: { path: { piece_id: piece.id } },
          headers: { "Idempotency-Key": key },
          body: { ...fields, version } as Schemas["PieceChange"],
        }),
      );
    });
  }
}
