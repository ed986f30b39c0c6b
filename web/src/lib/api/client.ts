// The one way to the server: typed by its own schema, with the CSRF cookie read at every request.
import createClient, { type Middleware } from "openapi-fetch";
import { keeping } from "../offline/kept";
import type { components, paths } from "./schema";

export type Schemas = components["schemas"];
export type Bench = Schemas["BenchOut"];
export type Layer = Schemas["LayerOut"];
export type Item = Schemas["ItemOut"];
export type Dial = Schemas["Dial"];
export type Standing = Schemas["StandingOut"];
export type Answer = Schemas["AnswerOut"];
export type Problem = Schemas["ProblemOut"];
export type Verdict = Schemas["ItemOut"]["verdict"];

/** What the server said no to: each problem names the field and says what to do. */
export class Refused extends Error {
  constructor(
    readonly status: number,
    readonly problems: Problem[],
  ) {
    super(problems.map((problem) => problem.message).join(" ") || `The server answered ${status}.`);
  }
  at(field: string): string | undefined {
    return this.problems.find((problem) => problem.field === field)?.message;
  }
}

/** The server could not be reached; nothing is known to be wrong with what was sent. */
export class Offline extends Error {
  constructor(message = "The server cannot be reached.") {
    super(message);
  }
}

/** Nobody is signed in any more, or somebody else: what was asked waits until its person is back. */
export class SignedOut extends Offline {
  constructor() {
    super("Sign in again to go on.");
  }
}

function cookie(name: string): string {
  return document.cookie.match(new RegExp(`(?:^|; )${name}=([^;]*)`))?.[1] ?? "";
}

let speaker = "";
/** For whom this page asks: the server refuses to answer it when somebody else is signed in. */
export function speakFor(username: string) {
  speaker = username;
}
/** Whether this page asks for `username` now: what somebody else left in it is not sent in their name. */
export const speaksFor = (username: string) => username === speaker;
let lost: (reason: string) => void = () => {};
/** Called when nobody is signed in any more, or somebody else. */
export function whenSignedOut(told: (reason: string) => void) {
  lost = told;
}

const csrf: Middleware = {
  onRequest({ request }) {
    if (speaker) request.headers.set("X-Person", encodeURIComponent(speaker));
    if (request.method === "GET") return request;
    request.headers.set("X-CSRFToken", cookie("csrftoken"));
    if (!request.headers.has("Idempotency-Key")) request.headers.set("Idempotency-Key", writeKey());
    return request;
  },
};

const client = createClient<paths>({ baseUrl: window.location.origin, credentials: "same-origin" });
client.use(csrf, keeping);

type Outcome<T> = { data?: T; error?: unknown; response: Response };

async function answered<T>(asked: Promise<Outcome<T>>): Promise<T> {
  let outcome: Outcome<T>;
  try {
    outcome = await asked;
  } catch {
    throw new Offline();
  }
  if (outcome.response.ok) return outcome.data as T;
  const status = outcome.response.status;
  if (status === 502 || status === 503 || status === 504) throw new Offline();
  const body = outcome.error as { problems?: Problem[] } | undefined;
  if (status === 401 && speaker) {
    const reason = body?.problems?.find((one) => one.field === "person")?.message;
    lost(reason ?? "You are signed out on this device. Sign in again to go on.");
    throw new SignedOut();
  }
  throw new Refused(status, body?.problems ?? []);
}

export { answered, client };

const issued = new Map<string, number>();
/** How many keys this page has given out, and which number one has: 0 for a key of another page. */
export const keysIssued = () => issued.size;
export const keyNumber = (key: string) => issued.get(key) ?? 0;

/** A key for one write, so that sending it twice does it once. */
export function writeKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  const key = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  issued.set(key, issued.size + 1);
  return key;
}
