// Where a live picture comes from: a camera or capture device of this browser, or the simulated camera.
import { answered, client, type Schemas } from "../../lib/api/client";

/** How the simulated camera stands off its plan: degrees, metres, and the logarithm of the focal length. */
export type Off = Record<"pan" | "tilt" | "roll" | "zoom" | "aside" | "up" | "forward", number>;
export const AS_PLANNED: Off = { pan: 0, tilt: 0, roll: 0, zoom: 0, aside: 0, up: 0, forward: 0 };

/** What is sent to be measured is so wide; what is shown may be wider. */
const SENT_PX = 960;
const FILMED_PX = 640;
const QUALITY = 0.9;

export type Device = { id: string; name: string };
export const SIMULATED = "simulated";
const ANY = "any";
export const GONE = "The camera was unplugged, or another program took it: choose it again.";

/** Where a live picture may come from, to be chosen. */
export const choices = (known: readonly Device[], none: string) => [
  ["", none] as const,
  ...(known.length
    ? known.map((one) => [one.id, one.name] as const)
    : [[ANY, "a camera of this device"] as const]),
  [SIMULATED, "simulated camera"] as const,
];

/** The cameras and capture devices that this browser knows of; named once it was allowed to use one. */
export async function devices(): Promise<Device[]> {
  const found = (await navigator.mediaDevices?.enumerateDevices?.()) ?? [];
  return found
    .filter((one) => one.kind === "videoinput")
    .map((one, i) => ({ id: one.deviceId, name: one.label || `Camera ${i + 1}` }));
}

/** Begin to film with a device; the one that looks away from whoever holds it where any will do. */
export function opened(device: string): Promise<MediaStream> {
  const which = device !== ANY ? { deviceId: { exact: device } } : { facingMode: "environment" };
  return navigator.mediaDevices.getUserMedia({
    video: { ...which, width: { ideal: 1920 }, height: { ideal: 1080 } },
    audio: false,
  });
}
/** Why a camera could not be opened, and what to do. */
export function whyNot(error: unknown): string {
  const name = (error as DOMException | null)?.name ?? "";
  if (name === "NotAllowedError")
    return "This page may not use the camera: allow it in the browser's settings for this address.";
  if (name === "NotFoundError" || name === "OverconstrainedError")
    return "No camera or capture device was found: plug one in, or take the simulated camera.";
  if (name === "NotReadableError")
    return "The camera is in use by another program: close that one and try again.";
  if (!navigator.mediaDevices)
    return "A browser gives its camera only over https: open this page by its safe address (see Telephone).";
  return "The camera could not be opened.";
}

/** The middle of what a video shows that has the gate's shape, width over height: left, top, wide, high. */
export function middleOf(video: HTMLVideoElement, aspect: number): [number, number, number, number] {
  const wide = Math.min(video.videoWidth, video.videoHeight * aspect);
  const high = wide / aspect;
  return [(video.videoWidth - wide) / 2, (video.videoHeight - high) / 2, wide, high];
}

/**
 * What a video shows now, as a JPEG, not wider than `most`: of a picture that is wider or higher than the
 * gate the middle, as it is shown. `aspect` is the gate's width over its height.
 */
export function still(
  video: HTMLVideoElement,
  canvas: HTMLCanvasElement,
  aspect: number,
  most = SENT_PX,
  quality = QUALITY,
): Promise<Blob | null> {
  const middle = middleOf(video, aspect);
  if (!middle[2]) return Promise.resolve(null);
  canvas.width = Math.round(Math.min(middle[2], most));
  canvas.height = Math.round(canvas.width / aspect);
  canvas.getContext("2d")!.drawImage(video, ...middle, 0, 0, canvas.width, canvas.height);
  return new Promise((done) => canvas.toBlob(done, "image/jpeg", quality));
}

export type Measured = Schemas["LinedUpOut"];
export type Filmed = Schemas["LiveOut"];
type How = { units: "metric" | "imperial"; school: "measured" | "covered" };

/** One picture of the simulated camera (base64), and what was measured of it where it is held against one. */
export function simulated(
  layer: number,
  off: Off,
  number: number,
  faults: readonly string[],
  against: number | null,
  how: How,
  signal: AbortSignal,
): Promise<Filmed> {
  const query = { ...off, number, width: FILMED_PX, faults: faults.join(","), against, ...how };
  return answered(
    client.GET("/api/layers/{layer_id}/live", { params: { path: { layer_id: layer }, query }, signal }),
  );
}
/** What a picture in base64 is as a file. */
export function fileOf(picture: string): Blob {
  const bytes = Uint8Array.from(atob(picture), (letter) => letter.charCodeAt(0));
  return new Blob([bytes], { type: "image/jpeg" });
}

/** A live picture against the one that is held. */
export function measured(
  layer: number,
  against: number,
  picture: Blob,
  how: How,
  signal: AbortSignal,
): Promise<Measured> {
  const form = new FormData();
  form.append("file", picture, "live.jpg");
  form.append("against", String(against));
  form.append("units", how.units);
  form.append("school", how.school);
  return answered(
    client.POST("/api/layers/{layer_id}/line-up", {
      params: { path: { layer_id: layer } },
      body: form as never,
      bodySerializer: (body) => body as never,
      signal,
    }),
  );
}
