// A server in small for the browser's own logic: one shot with one set-up, versions, keys and refusals as the
// real one has them.
// What is asked is worked out at once; while answers are held, nobody hears of it before `letGo`.

import "fake-indexeddb/auto";

type Values = Record<string, unknown>;
type Row = { id: number; version: number; values: Values };
export type Asked = { method: string; path: string; body: any; key: string | null; person: string | null };

const json = (body: unknown, status = 200) =>
  new Response(JSON.stringify(body), { status, headers: { "Content-Type": "application/json" } });
const problem = (field: string, message: string, status: number) =>
  json({ problems: [{ field, message }] }, status);

export class Server {
  asked: Asked[] = [];
  /** What was asked and is not waited for any more. */
  left: string[] = [];
  away = false;
  /** Who is signed in on this device; anybody where this is not said. */
  signedIn = "";
  setUp: Row = { id: 7, version: 1, values: { f_number: 8, focus_distance_m: 1, lens_height_m: 0.35 } };
  takes: Values[] = [];
  #holding: string | null = null;
  #held: (() => void)[] = [];
  #done = new Map<string, unknown>();
  /** The history: what every write under a key has changed, as values from before and since. */
  history: {
    id: number;
    key: string;
    mine: boolean;
    back: () => boolean;
    again: () => boolean;
    gone: boolean;
  }[] = [];
  #added: { what: string; values: Values; version: number }[] = [];

  fetch = async (request: Request): Promise<Response> => {
    const path = new URL(request.url).pathname.replace("/api", "");
    const text = request.method === "GET" ? "" : await request.text();
    if (this.away) throw new TypeError("Failed to fetch");
    if (path === "/health/ready") return json({});
    const asked = {
      method: request.method,
      path,
      body: text ? JSON.parse(text) : null,
      key: request.headers.get("Idempotency-Key"),
      person: request.headers.get("X-Person"),
    };
    this.asked.push(asked);
    if (this.signedIn && this.signedIn !== asked.person)
      return problem("person", "Somebody else is signed in.", 401);
    const answer = this.#answer(asked);
    if (this.#holding !== null && path.endsWith(this.#holding))
      await new Promise<void>((go, gone) => {
        this.#held.push(go);
        request.signal.addEventListener("abort", () => {
          this.left.push(path);
          gone(request.signal.reason);
        });
      });
    return answer;
  };

  /** Hold the answers of addresses with this ending. */
  hold(ending = "") {
    this.#holding = ending;
  }
  letGo() {
    this.#holding = null;
    for (const go of this.#held.splice(0)) go();
  }

  /** What is held is never answered: the page that asked is gone. */
  letNone() {
    this.#holding = null;
    this.#held = [];
  }

  /** The bodies of what was written, oldest first. */
  get writes() {
    return this.asked.filter((one) => one.path.endsWith("/changes")).map((one) => one.body);
  }
  get keys() {
    return this.asked.filter((one) => one.key).map((one) => one.key);
  }
  /** As somebody else saves it. */
  savedByAnother(values: Values) {
    this.setUp = {
      ...this.setUp,
      version: this.setUp.version + 1,
      values: { ...this.setUp.values, ...values },
    };
  }

  /** What was asked of the history: keys, or numbers of entries. */
  get takenBack() {
    return this.asked.filter((one) => one.path.endsWith("/take-back")).map((one) => one.body);
  }

  bench(over: Values = {}) {
    return {
      shot_id: 1,
      version: 1,
      revision: this.setUp.version,
      production_revision: 1,
      production_id: 5,
      role: "supervisor",
      shot: { values: {} },
      layers: this.#added.map((one, i) => ({ id: 100 + i, version: one.version, values: one.values })),
      lines: [],
      set_ups: [{ ...this.setUp, values: { ...this.setUp.values, ...over }, lamps: [], backing: null }],
      selected: null,
      hero_layer_id: null,
    };
  }

  #answer({ method, path, body, key }: Asked): Response {
    if (path.endsWith("/bench")) return json(this.bench());
    if (path.endsWith("/log")) return json({ code: "TM010", asked: this.asked.length });
    if (path.endsWith("/solve")) return json({ answers: [] });
    if (path.endsWith("/version")) return json({ revision: this.setUp.version, production_revision: 1 });
    if (path.endsWith("/history")) {
      const own = this.history.filter((one) => one.mine && !one.gone);
      const line = (one: { id: number; key: string }) => ({
        id: one.id,
        key: one.key,
        title: `Earlier ${one.id}`,
      });
      return json({ writes: own.map(line).reverse(), next: null });
    }
    if (path.endsWith("/trial")) return this.#refusal(body.set_ups[7]) ?? json(this.bench(body.set_ups[7]));
    if (method === "POST" && key && this.#done.has(key)) return json(this.#done.get(key));
    const answer = path.endsWith("/takes")
      ? this.#log(body)
      : path.endsWith("/add")
        ? this.#add(body, key ?? "")
        : path.endsWith("/take-back")
          ? this.#takeBack(body, key ?? "")
          : this.#write(body, key ?? "");
    if (answer instanceof Response) return answer;
    if (key) this.#done.set(key, answer);
    return json(answer);
  }

  #refusal(values?: Values) {
    const focus = values?.focus_distance_m as number | undefined;
    if (focus === undefined || focus >= 0.3) return null;
    return problem("focus_distance_m", `focuses from 0.3 m; ${focus} m was given`, 422);
  }
  #keep(key: string, back: () => boolean, again: () => boolean) {
    this.history.push({ id: this.history.length + 1, key, mine: true, back, again, gone: false });
  }
  #takeBack(body: any, key: string) {
    const entry = this.history.find((one) => (body.write ? one.id === body.write : one.key === body.key));
    if (!entry) return problem("", "There is no such entry.", 404);
    const before = this.setUp.version;
    if (!entry.back()) return problem("version", "Somebody changed it while you worked.", 409);
    entry.gone = true;
    this.history.push({
      ...entry,
      id: this.history.length + 1,
      key,
      mine: false,
      back: entry.again,
      again: entry.back,
      gone: false,
    });
    const set_ups = this.setUp.version > before ? { [this.setUp.id]: this.setUp.version } : {};
    return { write: this.history.length, id: entry.id, version: 1, versions: { set_ups } };
  }
  #write(body: any, key: string) {
    const edit = body.set_ups[7];
    for (const [id, one] of Object.entries<any>(body.layers ?? {})) {
      const row = this.#added[+id - 100]!;
      Object.assign(row, { version: row.version + 1, values: { ...row.values, ...one.changes } });
    }
    if (!edit) return this.bench();
    if (edit.version !== this.setUp.version)
      return problem("version", "Somebody changed it while you worked.", 409);
    const refused = this.#refusal(edit.changes);
    if (refused) return refused;
    const before = this.setUp.values;
    const was = Object.fromEntries(Object.keys(edit.changes).map((name) => [name, before[name]]));
    const from = (now: Values, then: Values) => () => {
      if (Object.entries(now).some(([name, value]) => this.setUp.values[name] !== value)) return false;
      this.savedByAnother(then);
      return true;
    };
    this.savedByAnother(edit.changes);
    this.#keep(key, from(edit.changes, was), from(was, edit.changes));
    return this.bench();
  }
  #add(body: any, key: string) {
    const row = { what: body.what, values: { removed: false } as Values, version: 1 };
    this.#added.push(row);
    const to = (removed: boolean) => () => {
      Object.assign(row, { version: row.version + 1, values: { removed } });
      return true;
    };
    this.#keep(key, to(true), to(false));
    return { id: 99 + this.#added.length, bench: this.bench() };
  }
  #log(body: Values) {
    if (body.note === "refuse this") return problem("note", "That cannot be.", 422);
    this.takes.push(body);
    return { id: this.takes.length, number: this.takes.length };
  }
}

const soon = globalThis.setTimeout; // the real one: the tests' clock stands

/** What the page's fetch goes to; a new one before every test. */
export const here = { server: new Server() };
globalThis.fetch = ((request: Request) => here.server.fetch(request)) as typeof fetch;

beforeEach(async () => {
  here.server = new Server();
  localStorage.clear();
  if (!("databases" in indexedDB)) indexedDB = new IDBFactory(); // one test forbids it
  // the device is empty
  await new Promise((gone) => (indexedDB.deleteDatabase("jungoptic").onsuccess = gone));
  vi.useFakeTimers({ toFake: ["performance", "setTimeout", "clearTimeout", "setInterval", "clearInterval"] });
});
afterEach(() => void vi.useRealTimers());

/** Everything that is under way, as far as it goes without a held answer or a timer. */
export async function quiet() {
  let asked = -1;
  while (asked !== here.server.asked.length) {
    asked = here.server.asked.length;
    for (let i = 0; i < 5; i++) await new Promise((done) => soon(done, 0));
  }
}
