// What a layer looks like: the shelf, read once; its parts; an outline made to fit it.
import { answered, client, type Schemas } from "../../lib/api/client";

export type Outline = Schemas["ShelfOutline"];
export type Part = Schemas["PartsOut"]["parts"][number] & {
  name: string;
  lies: boolean;
  behind_m: number;
  thickness_m: number;
  colour: string;
  colour_low: string | null;
  points: [number, number][];
};

class Shelf {
  outlines = $state.raw<Outline[] | null>(null);
  #asked: Promise<void> | null = null;

  read(): Promise<void> {
    return (this.#asked ??= answered(client.GET("/api/looks")).then(
      (found) => {
        this.outlines = found as Outline[];
      },
      (error) => {
        this.#asked = null;
        throw error;
      },
    ));
  }
}
export const shelf = new Shelf();

const of = (layer_id: number) => ({ path: { layer_id } });
export const readParts = async (layer: number) =>
  (await answered(client.GET("/api/layers/{layer_id}/parts", { params: of(layer) }))).parts as Part[];
export const fitted = (layer: number, outline: string, true_size: boolean) =>
  answered(
    client.GET("/api/layers/{layer_id}/look", { params: { ...of(layer), query: { outline, true_size } } }),
  );
export function fromSvg(layer: number, file: File) {
  const body = new FormData();
  body.append("file", file);
  return answered(
    client.POST("/api/layers/{layer_id}/outline", {
      params: of(layer),
      body: body as never,
      bodySerializer: (form) => form as never,
    }),
  );
}

/** The pieces of an outline back to front, as one draws them in a box so wide and high. */
export function pieces(outline: Outline, width: number, height: number): { d: string; fill: string }[] {
  const at = ([x, y]: [number, number]) => `${(x * width).toFixed(1)} ${((1 - y) * height).toFixed(1)}`;
  return [...outline.parts]
    .sort((a, b) => (b.behind ?? 0) - (a.behind ?? 0))
    .map((piece) => ({ d: `M${piece.points.map(at).join("L")}Z`, fill: piece.colour }));
}

/** The frame of a clip that stands in a player, as a picture. */
export function frameOf(video: HTMLVideoElement, name: string): Promise<File> {
  const canvas = document.createElement("canvas");
  canvas.width = video.videoWidth;
  canvas.height = video.videoHeight;
  canvas.getContext("2d")!.drawImage(video, 0, 0);
  return new Promise((give, fail) =>
    canvas.toBlob(
      (data) =>
        data
          ? give(new File([data], `${name} at ${video.currentTime.toFixed(2)} s.png`, { type: "image/png" }))
          : fail(new Error("The frame could not be taken.")),
      "image/png",
    ),
  );
}
