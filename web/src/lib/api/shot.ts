// What the Bench asks of a shot.
import { answered, client, type Schemas } from "./client";

const of = (shot_id: number) => ({ path: { shot_id } });
const once = (key: string) => ({ "Idempotency-Key": key });
type Query = Omit<
  Schemas["Trial"],
  "set_ups" | "layers" | "lamps" | "backings" | "lines" | "shot" | "moving"
>;

export const readBench = (shot: number, query: Query) =>
  answered(client.GET("/api/shots/{shot_id}/bench", { params: { ...of(shot), query } }));
export const readVersion = (shot: number) =>
  answered(client.GET("/api/shots/{shot_id}/version", { params: of(shot) }));
export const tryOut = (shot: number, body: Schemas["Trial"]) =>
  answered(client.POST("/api/shots/{shot_id}/trial", { params: of(shot), body }));
export const save = (shot: number, key: string, body: Schemas["ChangesIn"]) =>
  answered(client.POST("/api/shots/{shot_id}/changes", { params: of(shot), headers: once(key), body }));
export const add = (shot: number, key: string, body: Schemas["AddIn"]) =>
  answered(client.POST("/api/shots/{shot_id}/add", { params: of(shot), headers: once(key), body }));
export const accept = (shot: number, key: string, body: Schemas["AcceptIn"]) =>
  answered(client.POST("/api/shots/{shot_id}/accept", { params: of(shot), headers: once(key), body }));
export function givePicture(layer_id: number, key: string, version: number, file: File, shown: boolean) {
  const form = new FormData();
  form.append("version", String(version));
  form.append("shown", String(shown));
  form.append("file", file);
  return answered(
    client.POST("/api/layers/{layer_id}/picture", {
      params: { path: { layer_id } },
      headers: once(key),
      body: form as never,
      bodySerializer: (body) => body as never,
    }),
  );
}
type Picture = Promise<{ data?: Blob; error?: unknown; response: Response }>;
/** The view through the lens as a JPEG. */
export const look = (shot: number, body: Schemas["PictureIn"]) =>
  answered(
    client.POST("/api/shots/{shot_id}/picture", { params: of(shot), body, parseAs: "blob" }) as Picture,
  );
/** The frame of a recording that is seen at a second of it, a JPEG. */
export function frameOf(recording_id: number, second: number) {
  const params = { path: { recording_id }, query: { second } };
  return answered(
    client.GET("/api/recordings/{recording_id}/frame.jpg", { params, parseAs: "blob" }) as Picture,
  );
}
