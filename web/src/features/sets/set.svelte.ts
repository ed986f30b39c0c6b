// One set in plan: what the server worked out of it, what is being dragged, and the way back.
import { answered, client, Refused, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { place } from "../../lib/place.svelte";
import { session } from "../../lib/session.svelte";

export type Build = Schemas["BuildOut"];
export type Piece = Build["pieces"][number];
export type View = Schemas["ViewIn"];
type Saved = { fields: Schemas["BuildIn"]["fields"]; pieces: PieceIn[]; views: View[] };
/** What to change in a row, given as it is when its turn comes. */
type Change<T> = Partial<T> | ((now: T) => Partial<T>);

export const PIECE_NAMES = [
  "name",
  "x_m",
  "z_m",
  "turn_deg",
  "width_m",
  "height_m",
  "base_m",
  "lies",
  "made",
  "wheels",
] as const;
export const SET_NAMES = [
  "name",
  "place_id",
  "scale",
  "spare_pct",
  "width_mm",
  "height_mm",
  "kerf_mm",
  "price",
] as const;
export type PieceIn = Pick<Piece, (typeof PIECE_NAMES)[number]>;

function only<T extends object, K extends keyof T>(row: T, names: readonly K[]): Pick<T, K> {
  return Object.fromEntries(names.map((name) => [name, row[name]])) as Pick<T, K>;
}

function changed<T>(rows: T[], at: number, change: Change<T>): T[] {
  return rows.map((one, i) =>
    i === at ? { ...one, ...(typeof change === "function" ? change(one) : change) } : one,
  );
}

export class SetState {
  build = $state.raw<Build | null>(null);
  missing = $state("");
  readonly asking = new Asking();
  readonly back = new WayBack(
    this.asking,
    () => place.production,
    async () => {
      await this.look();
      this.changed();
    },
  );

  constructor(
    readonly id: number,
    readonly changed: () => void,
  ) {}

  get units() {
    return session.units;
  }
  get pieces(): PieceIn[] {
    return (this.build?.pieces ?? []).map((one) => only(one, PIECE_NAMES));
  }
  get views(): View[] {
    return (this.build?.views ?? []).map((one) =>
      only(one, ["shot_id", "x_m", "z_m", "heading_deg", "establishing"]),
    );
  }

  async look() {
    const params = { path: { build_id: this.id }, query: { units: this.units } };
    this.build = await answered(client.GET("/api/builds/{build_id}", { params }));
  }
  async read() {
    await this.asking.read(async () => {
      try {
        await this.look();
      } catch (error) {
        if (!(error instanceof Refused) || error.status !== 404) throw error;
        this.missing = error.message;
      }
    });
  }

  /**
   * Save what is given over what stands when its turn comes; what is not given stays. Says whether it was
   * saved.
   */
  async save(label: string, to: (now: Saved) => Partial<Saved>): Promise<boolean> {
    const saved = await this.back.do(label, async (key) => {
      const now = this.build!;
      const given = to({ fields: only(now, SET_NAMES), pieces: this.pieces, views: this.views });
      const build = await answered(
        client.PUT("/api/builds/{build_id}", {
          params: { path: { build_id: this.id }, query: { units: this.units } },
          headers: { "Idempotency-Key": key },
          body: {
            version: now.version,
            fields: given.fields ?? {},
            pieces: given.pieces ?? null,
            views: given.views ?? null,
          },
        }),
      );
      this.build = build;
      this.changed();
      return build;
    });
    return saved !== undefined;
  }
  set(label: string, fields: Saved["fields"]) {
    return this.save(label, () => ({ fields }));
  }
  piece(at: number, change: Change<PieceIn>) {
    return this.save(`Change ${this.pieces[at]?.name}`, (now) => ({
      pieces: changed(now.pieces, at, change),
    }));
  }
  view(at: number, change: Change<View>) {
    return this.save("Change a camera", (now) => ({ views: changed(now.views, at, change) }));
  }
}
