// What is read at the camera is remembered by this device, by person and address, and given again where the
// server cannot be reached.
import type { Middleware } from "openapi-fetch";
import { reach } from "./reach.svelte";
import { recall, remember } from "./store";

/** What is asked for at the camera. */
const AT_THE_CAMERA = [
  /^\/api\/(session|vocabulary|productions|calculations)$/,
  /^\/api\/productions\/\d+\/(wall|days|shooting-days\/[\d-]+)$/,
  /^\/api\/shots\/\d+\/(log|plan|stills)$/,
  /^\/api\/layers\/\d+\/foretold$/,
  /^\/api\/calculations\/\w+$/,
];
/** A server that has not answered by then is not there, where something is remembered. */
const PATIENCE_MS = 20_000;

/** Marks an answer that did not come from the server. */
const REMEMBERED = "X-Remembered";
/** The session is remembered for the device: nobody is known before it is read. */
const SESSION = "/api/session";
const personOf = (request: Request, name: string) =>
  name === SESSION ? "" : decodeURIComponent(request.headers.get("X-Person") ?? "");

function nameOf(request: Request): string | null {
  const url = new URL(request.url);
  if (request.method !== "GET" || !AT_THE_CAMERA.some((one) => one.test(url.pathname))) return null;
  return url.pathname + url.search;
}
const gone = (status: number) => status === 502 || status === 503 || status === 504;

async function remembered(request: Request): Promise<Response | undefined> {
  const name = nameOf(request);
  const found = name && (await recall(personOf(request, name), name));
  if (!found) return undefined;
  reach.shows(found.at);
  return new Response(JSON.stringify(found.body), {
    headers: { "Content-Type": "application/json", [REMEMBERED]: "yes" },
  });
}

export const keeping: Middleware = {
  async onRequest({ request }) {
    const name = nameOf(request);
    if (!name || !(await recall(personOf(request, name), name))) return request;
    const signal = AbortSignal.any([request.signal, AbortSignal.timeout(PATIENCE_MS)]);
    return new Request(request, { signal });
  },
  async onResponse({ request, response }) {
    if (response.headers.has(REMEMBERED)) return undefined;
    if (gone(response.status)) {
      reach.missed();
      return remembered(request);
    }
    reach.answered();
    const name = response.ok ? nameOf(request) : null;
    if (name)
      void response
        .clone()
        .json()
        .then((body) => remember(personOf(request, name), name, body));
    return undefined;
  },
  async onError({ request, error }) {
    if ((error as Error | null)?.name === "AbortError") return undefined; // nobody waits for it any more
    reach.missed();
    return remembered(request);
  },
};

/** Who is signed in, as this device is to remember it. */
export const rememberSession = (found: unknown) => remember("", SESSION, found);
