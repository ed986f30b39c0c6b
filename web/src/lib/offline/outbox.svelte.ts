// What was made at the camera and waits to be sent: takes, the photographs after them, frames of the desk.
import { answered, client, type Schemas, type Verdict } from "../api/client";
import { keepStill } from "../api/stills";
import { Sending, type Sent } from "./sending.svelte";

export type Kept = Sent & {
  shot: number;
  name: string;
  body: Schemas["TakeIn"];
  /** Of its shot, and which take of the layer it is here: the server numbers it when it comes. */
  code?: string;
  number?: number;
  /** What it would be given, as far as it was worked out before. */
  told?: { verdict: Verdict; sure: string } | null;
};
/** A photograph: of a take that has arrived, or of one that waits under its key. */
export type KeptStill = Sent & {
  shot: number;
  take: number | null;
  takeKey?: string;
  /** What it is kept for, where that is not what one of its layer is as a rule. */
  of?: Schemas["StillOut"]["of"];
  photograph: Blob;
  at: string;
};

export const photographs = new Sending<KeptStill, Schemas["StillOut"]>({
  name: "photographs",
  ready: (one) => one.take !== null || !one.takeKey,
  send: (one, signal) => {
    const more = {
      ...(one.take === null ? {} : { take_id: String(one.take) }),
      ...(one.of ? { of: one.of } : {}),
      photographed_at: one.at,
    };
    return keepStill(one.layer, one.key, one.photograph, more, signal);
  },
});

export const outbox = new Sending<Kept, Schemas["TakeOut"]>({
  name: "takes",
  send: (one, signal) =>
    answered(
      client.POST("/api/layers/{layer_id}/takes", {
        params: { path: { layer_id: one.layer } },
        headers: { "Idempotency-Key": one.key },
        body: $state.snapshot(one.body) as Schemas["TakeIn"],
        signal,
      }),
    ),
  replaced: async (mended, key) => {
    for (const still of photographs.waiting)
      if (still.takeKey === mended) await photographs.box.change(still.key, { takeKey: key });
  },
  arrived: async (one, take) => {
    for (const still of photographs.waiting)
      if (still.takeKey === one.key) await photographs.box.change(still.key, { take: take.id });
    void photographs.send();
  },
});

/** A frame of an exposure sheet, taken at a pose; its name says which, where it waits. */
export type KeptFrame = Sent & {
  sheet: number;
  pose: number;
  place: number;
  pass?: number;
  name: string;
  photograph: Blob;
  at: string;
};
export const frames = new Sending<KeptFrame, Schemas["ExposureOut"]>({
  name: "frames",
  send: (one, signal) => {
    const form = new FormData();
    form.append("file", one.photograph, `${one.name}.${one.photograph.type.split("/")[1] ?? "jpeg"}`);
    form.append("taken_at", one.at);
    form.append("light_pass", String(one.pass ?? 0));
    return answered(
      client.POST("/api/poses/{pose_id}/exposures", {
        params: { path: { pose_id: one.pose } },
        headers: { "Idempotency-Key": one.key },
        body: form as never,
        bodySerializer: (body) => body as never,
        signal,
      }),
    );
  },
});

/** Keep a photograph of a take that has arrived, of one that waits under its key, or of the layer alone. */
export function photographed(
  of: Pick<KeptStill, "shot" | "layer" | "take" | "takeKey" | "of">,
  photograph: Blob,
  at: string,
) {
  return photographs.add({ ...of, photograph, at });
}
