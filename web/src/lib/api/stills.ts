// A photograph of a layer's set, sent to be kept: after a take, or through the taking camera.
import { answered, client, type Schemas } from "./client";

export type More = {
  take_id?: string;
  photographed_at?: string;
  of?: Schemas["StillOut"]["of"];
  note?: string;
};

export function keepStill(layer: number, key: string, picture: Blob, more: More, signal?: AbortSignal) {
  const form = new FormData();
  form.append("file", picture, "photograph.jpg");
  for (const [name, value] of Object.entries(more)) form.append(name, value);
  return answered(
    client.POST("/api/layers/{layer_id}/stills", {
      params: { path: { layer_id: layer } },
      headers: { "Idempotency-Key": key },
      body: form as never,
      bodySerializer: (body) => body as never,
      signal: signal ?? null,
    }),
  );
}
