// One shot on the bench: what the server judged, what is being tried, what waits to be saved, and the way back.
import { answered, client, keysIssued, Offline, Refused, writeKey, type Bench, type Schemas } from "../api/client";
import { NEVER, nextStep, ownSteps, takeBack, type Which } from "./back.svelte";
import { session } from "./session.svelte";

export type Fields = Record<string, unknown>;
export const KINDS = ["set_ups", "layers", "lamps", "backings", "lines", "shot"] as const;
export type Kind = (typeof KINDS)[number];
type Rows<T> = Record<Kind, Record<number, T>>;
export type Changes = Rows<Fields>;
type Versions = Rows<number>;
/** What was done: its entry in the history, and how the drawing looks without it and with it until the server has answered. */
type Step = { which: Which; at: number; label: string; back: Changes; forward: Changes };
/** What waits to be sent: changes of rows, or an entry of the history (`takesBack`) that goes back to what stood before. */
type Waiting = { key: string; changes: Changes; seen: Versions; step: Step | null; takesBack?: Which };
export type Added = Omit<Partial<Schemas["AddIn"]>, "what"> & { what: "layer" | "lamp" | "backing" | "line" };

const RETRY_MS = 3000;
const SETTLE_MS = 350;
const WATCH_MS = 4000;
const COARSE_PX = 640;
const FINE_PX = 1280;

function rows<T>(): Rows<T> {
  return { set_ups: {}, layers: {}, lamps: {}, backings: {}, lines: {}, shot: {} };
}
export const noChanges = (): Changes => rows<Fields>();
/** Lay changes over others, field by field. */
function lay(changes: Changes, over: Changes): void {
  for (const what of KINDS)
    for (const [id, fields] of Object.entries(changes[what])) over[what][+id] = { ...over[what][+id], ...fields };
}
const isEmpty = (changes: Changes) => KINDS.every((kind) => !Object.keys(changes[kind]).length);

/** Every saved row of a bench: its version and its values, by kind and id. */
function saved(bench: Bench | null): Rows<{ version: number; values: Fields }> {
  const found = rows<{ version: number; values: Fields }>();
  if (!bench) return found;
  found.shot[bench.shot_id] = { version: bench.version, values: bench.shot.values };
  for (const one of bench.layers)
    found.layers[one.id] = { version: one.version, values: { ...one, ...one.values, removed: false } };
  for (const one of bench.lines)
    found.lines[one.id] = { version: one.version, values: { ...one.values, removed: false } };
  for (const one of bench.set_ups) {
    found.set_ups[one.id] = one;
    for (const lamp of one.lamps)
      found.lamps[lamp.id] = { version: lamp.version, values: { ...lamp.values, removed: false } };
    if (one.backing)
      found.backings[one.backing.id] = {
        version: one.backing.version,
        values: { ...one.backing.values, removed: false },
      };
  }
  return found;
}

function versions(bench: Bench | null): Versions {
  const found = rows<number>();
  const all = saved(bench);
  for (const kind of KINDS) for (const [id, row] of Object.entries(all[kind])) found[kind][+id] = row.version;
  return found;
}

export class BenchState {
  bench = $state.raw<Bench | null>(null);
  draft = $state<Changes>(noChanges());
  selected = $state<number | null>(null);
  basis = $state<"planned" | "shot">("shot");
  frame = $state(0);
  afterFinish = $state(true);
  asFilmed = $state(false);
  picture = $state<string | null>(null);
  problems = $state<Schemas["ProblemOut"][]>([]);
  conflict = $state<string | null>(null);
  offline = $state(false);
  missing = $state<string | null>(null);
  waiting = $state<Waiting[]>([]);
  undoable = $state.raw<Step[]>([]);
  redoable = $state.raw<Step[]>([]);

  #keys = keysIssued();
  #asking = false;
  #again = false;
  #sending = false;
  #turn = 0;
  #mine: Versions = rows<number>();
  #stored: string;
  #looking = false;
  #lookAgain = 0;
  #settling = 0;
  #watching = 0;
  #adding: Promise<unknown> = Promise.resolve();

  constructor(readonly shot: number) {
    if (shot) this.#watching = window.setInterval(() => void this.#watch(), WATCH_MS);
    this.#stored = `jungoptic.bench.${shot}`;
    this.waiting = JSON.parse(localStorage.getItem(this.#stored) ?? "[]");
    this.undoable = this.waiting.flatMap((one) => ($state.snapshot(one.step) as Step | null) ?? []);
    if (this.waiting.length) void this.#flush();
  }

  /** What one did to this shot before this page was opened can be taken back here too. */
  async #fill(production: number) {
    try {
      const known = this.undoable.map((one) => JSON.stringify(one.which));
      const earlier = await ownSteps(production, { shot: this.shot }, this.#keys);
      const fresh = earlier.filter((one) => !known.includes(JSON.stringify(one.which)));
      const unseen = { back: noChanges(), forward: noChanges() };
      this.undoable = [...fresh.map((one) => ({ ...one, ...unseen })), ...this.undoable];
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
    }
  }

  get writes() {
    return this.bench?.role === "supervisor";
  }

  get #reading() {
    return {
      school: session.person?.school ?? "measured",
      units: session.person?.units ?? "metric",
      basis: this.basis,
      selected: this.selected,
      frame: Math.round(this.frame),
      after_finish: this.afterFinish,
    } as const;
  }

  async load() {
    const turn = ++this.#turn;
    try {
      const query = { ...this.#reading };
      const found = await answered(
        client.GET("/api/shots/{shot_id}/bench", { params: { path: { shot_id: this.shot }, query } }),
      );
      if (turn === this.#turn) this.#show(found);
    } catch (error) {
      this.#failed(error);
    }
  }

  #show(found: Bench) {
    const first = !this.bench;
    this.bench = found;
    if (first && this.writes) void this.#fill(found.production_id);
    this.offline = false;
    this.selected ??= found.selected?.layer_id ?? null;
    void this.look();
  }

  /** The view through the lens: coarse at once, fine when the hand rests. */
  async look() {
    window.clearTimeout(this.#settling);
    if (!this.bench?.hero_layer_id) return;
    await this.#look(COARSE_PX);
    this.#settling = window.setTimeout(() => void this.#look(FINE_PX), SETTLE_MS);
  }

  async #look(width_px: number) {
    if (this.#looking) {
      this.#lookAgain = width_px;
      return;
    }
    this.#looking = true;
    try {
      const body = {
        ...$state.snapshot(this.#unsaved),
        ...this.#reading,
        width_px,
        only: this.asFilmed ? this.selected : null,
      } as Schemas["PictureIn"];
      const seen = await answered(
        client.POST("/api/shots/{shot_id}/picture", {
          params: { path: { shot_id: this.shot } },
          body,
          parseAs: "blob",
        }) as Promise<{ data?: Blob; error?: unknown; response: Response }>,
      );
      if (this.picture) URL.revokeObjectURL(this.picture);
      this.picture = URL.createObjectURL(seen);
    } catch (error) {
      if (!(error instanceof Refused) && !(error instanceof Offline)) throw error;
    } finally {
      this.#looking = false;
      if (this.#lookAgain) {
        const next = this.#lookAgain;
        this.#lookAgain = 0;
        void this.#look(next);
      }
    }
  }

  /** What somebody else saved appears by itself, unless a hand is on something: then the save says so. */
  async #watch() {
    if (!this.bench || document.hidden || this.#asking || this.#sending || this.conflict) return;
    if (!isEmpty(this.#unsaved) || this.problems.length) return;
    try {
      const now = await answered(
        client.GET("/api/shots/{shot_id}/version", { params: { path: { shot_id: this.shot } } }),
      );
      const seen = this.bench;
      const changed = now.revision !== seen.revision || now.production_revision !== seen.production_revision;
      if (changed || this.offline) this.reread();
    } catch (error) {
      this.#failed(error);
    }
  }

  close() {
    window.clearInterval(this.#watching);
    window.clearTimeout(this.#settling);
    if (this.picture) URL.revokeObjectURL(this.picture);
    this.picture = null;
  }

  #failed(error: unknown) {
    if (error instanceof Offline) this.offline = true;
    else if (error instanceof Refused && error.status === 404) this.missing = error.message;
    else if (error instanceof Refused) this.problems = error.problems;
    else throw error;
  }

  select(layer: number) {
    if (this.selected === layer) return;
    this.selected = layer;
    void this.#ask();
  }

  reread() {
    void this.#ask();
  }

  /** Try values without saving: the server is asked at most as often as it answers. */
  try(what: Kind, id: number, fields: Fields) {
    this.draft[what][id] = { ...this.draft[what][id], ...fields };
    this.problems = [];
    void this.#ask();
  }

  async #ask() {
    if (this.#asking) {
      this.#again = true;
      return;
    }
    this.#asking = true;
    const turn = ++this.#turn;
    try {
      if (isEmpty(this.#unsaved)) {
        await this.load();
      } else {
        const body = { ...$state.snapshot(this.#unsaved), ...this.#reading } as Schemas["Trial"];
        const found = await answered(
          client.POST("/api/shots/{shot_id}/trial", { params: { path: { shot_id: this.shot } }, body }),
        );
        if (turn === this.#turn) this.#show(found);
      }
    } catch (error) {
      // What refuses something that the hand has left since is no news: what stands now is asked next, or was answered.
      if (!(error instanceof Refused) || (turn === this.#turn && !this.#again)) this.#failed(error);
    } finally {
      this.#asking = false;
      if (this.#again) {
        this.#again = false;
        void this.#ask();
      }
    }
  }

  /** What is tried, over what waits to be sent. */
  get #unsaved(): Changes {
    const all = noChanges();
    for (const changes of [...this.waiting.map((one) => one.changes), this.draft]) lay(changes, all);
    return all;
  }

  /** A field as it stands under the hand: what is tried or on its way, else what the server answered last. */
  now<T>(what: Kind, id: number, field: string, answered: T): T {
    const tried = this.#unsaved[what][id];
    return tried && field in tried ? (tried[field] as T) : answered;
  }

  /** Rows with their values as they stand under the hand, without those that are being removed. */
  held<T extends { id: number; values: Fields }>(what: Kind, rows: T[]): T[] {
    const tried = this.#unsaved[what];
    return rows
      .filter((one) => !tried[one.id]?.removed)
      .map((one) => (tried[one.id] ? { ...one, values: { ...one.values, ...tried[one.id] } } : one));
  }

  get unsaved(): Changes {
    return $state.snapshot(this.#unsaved) as Changes;
  }

  /** Drop what is being tried. */
  forget() {
    this.draft = noChanges();
    this.#saved = null;
    this.problems = [];
    void this.#ask();
  }

  /** The values that the shot has for the fields in `changes` once what is on its way has been saved. */
  #before(changes: Changes): Changes {
    const back = noChanges();
    const known = saved(this.#saved ?? this.bench);
    const coming = noChanges();
    for (const one of this.waiting) lay(one.changes, coming);
    for (const what of KINDS)
      for (const [id, fields] of Object.entries(changes[what])) {
        const values = { ...known[what][+id]?.values, ...coming[what][+id] };
        back[what][+id] = Object.fromEntries(Object.keys(fields).map((name) => [name, values[name] ?? null]));
      }
    return $state.snapshot(back) as Changes;
  }

  #saved: Bench | null = null;

  /** Remember the saved state before something is tried, so that it can be undone. */
  remember() {
    if (!isEmpty(this.draft) || !this.bench || this.#saved) return;
    this.#saved = this.bench;
  }

  /** Save what is being tried. */
  async commit(label: string) {
    const changes = $state.snapshot(this.draft) as Changes;
    if (isEmpty(changes)) return;
    this.draft = noChanges();
    await this.#write(label, changes);
  }

  async #write(label: string, changes: Changes) {
    const step = { which: { key: writeKey() }, at: nextStep(), label, back: this.#before(changes), forward: changes };
    const seen = this.#seen(this.#saved ?? this.bench);
    this.#saved = null;
    await this.#enqueue(step.which.key, changes, step, undefined, seen);
  }

  /** Change and save in one go. What is being tried is saved before it; what was refused stays in its field, unless this mends it. */
  async apply(label: string, changes: Partial<Changes>) {
    const all = { ...noChanges(), ...changes };
    if (!this.problems.length && !this.conflict) void this.commit("What was being tried");
    const mended: string[] = [];
    const left = $state.snapshot(this.draft) as Changes;
    for (const what of KINDS)
      for (const [id, fields] of Object.entries(all[what]))
        for (const name of Object.keys(fields)) {
          mended.push(name);
          delete left[what][+id]?.[name];
          if (!Object.keys(left[what][+id] ?? {}).length) delete left[what][+id];
        }
    this.draft = left;
    this.problems = isEmpty(left) ? [] : this.problems.filter((one) => !mended.includes(one.field));
    await this.#write(label, all);
  }

  /** Set one row's fields and save. */
  async set(label: string, what: Kind, id: number, fields: Fields) {
    await this.apply(label, { [what]: { [id]: fields } });
  }

  /** Something new: it is made at once, and undoing takes it away again. */
  add(label: string, what: Added): Promise<number | null> {
    const made = this.#adding.then(() => this.#add(label, what));
    this.#adding = made.catch(() => null);
    return made;
  }

  async #add(label: string, what: Added): Promise<number | null> {
    this.problems = [];
    try {
      const key = writeKey();
      const made = await answered(
        client.POST("/api/shots/{shot_id}/add", {
          params: { path: { shot_id: this.shot } },
          headers: { "Idempotency-Key": key },
          body: { ...this.#reading, ...what, version: this.#own } as Schemas["AddIn"],
        }),
      );
      const kind = ({ layer: "layers", lamp: "lamps", backing: "backings", line: "lines" } as const)[what.what];
      const gone = (removed: boolean) => ({ ...noChanges(), [kind]: { [made.id]: { removed } } });
      this.#did({ which: { key }, at: nextStep(), label, back: gone(true), forward: gone(false) });
      if (what.what === "layer") this.selected = made.id;
      this.#turn++;
      this.#show(made.bench);
      return made.id;
    } catch (error) {
      this.#failed(error);
      return null;
    }
  }

  /** Accept a verdict with a reason, or judge it again. */
  async accept(layer_id: number, item: string, reason: string, withdraw = false): Promise<string> {
    try {
      const key = writeKey();
      const version = this.#seen(this.bench).layers[layer_id] ?? 0;
      const found = await answered(
        client.POST("/api/shots/{shot_id}/accept", {
          params: { path: { shot_id: this.shot } },
          headers: { "Idempotency-Key": key },
          body: { ...this.#reading, version, layer_id, item, reason, withdraw },
        }),
      );
      const label = withdraw ? "Judge again" : "Accept";
      this.#did({ which: { key }, at: nextStep(), label, back: noChanges(), forward: noChanges() });
      this.#turn++;
      this.#show(found);
      return "";
    } catch (error) {
      if (error instanceof Refused || error instanceof Offline) return error.message;
      throw error;
    }
  }

  get can() {
    return this.undoable.length > 0;
  }
  get label() {
    return this.undoable.at(-1)?.label;
  }
  get newest() {
    return this.undoable.at(-1)?.at ?? NEVER;
  }

  #did(step: Step) {
    this.undoable = [...this.undoable, step];
    this.redoable = [];
  }

  /** Take back what was done last, saved already or still on its way; what is only being tried goes first. */
  async undo() {
    if (!isEmpty(this.draft)) return this.forget();
    await this.#adding;
    const step = this.undoable.at(-1);
    if (!step) return;
    this.undoable = this.undoable.slice(0, -1);
    const key = writeKey();
    this.redoable = [...this.redoable, { ...step, which: { key } }];
    await this.#enqueue(key, step.back, null, step.which);
  }

  async redo() {
    await this.#adding;
    const step = this.redoable.at(-1);
    if (!step) return;
    this.redoable = this.redoable.slice(0, -1);
    const key = writeKey();
    this.undoable = [...this.undoable, { ...step, which: { key }, at: nextStep() }];
    await this.#enqueue(key, step.forward, null, step.which);
  }

  /** What the hand has seen: the versions on screen, and what came of its own writes, shown yet or not. */
  #seen(bench: Bench | null): Versions {
    return this.#raise(versions(bench));
  }
  #raise(seen: Versions): Versions {
    for (const what of KINDS)
      for (const [id, version] of Object.entries(this.#mine[what]))
        seen[what][+id] = Math.max(version, seen[what][+id] ?? 0);
    return seen;
  }

  /** The version of the shot's own row that was seen. */
  get #own() {
    return this.#seen(this.bench).shot[this.shot] ?? 0;
  }

  async #enqueue(key: string, changes: Changes, step: Step | null, takesBack?: Which, seen = this.#seen(this.bench)) {
    this.waiting.push({ key, changes, seen, step, takesBack });
    this.#keep();
    if (step) this.#did(step);
    await this.#flush();
  }

  #keep() {
    if (this.waiting.length) localStorage.setItem(this.#stored, JSON.stringify(this.waiting));
    else localStorage.removeItem(this.#stored);
  }

  async #flush() {
    if (this.#sending) return;
    this.#sending = true;
    try {
      while (this.waiting.length) {
        const next = $state.snapshot(this.waiting[0]!) as Waiting;
        if (!this.bench) await this.load();
        try {
          await this.#send(next);
          this.waiting.shift();
          this.#keep();
        } catch (error) {
          if (error instanceof Offline) {
            this.offline = true;
            window.setTimeout(() => void this.#flush(), RETRY_MS);
            return;
          }
          this.waiting.shift();
          this.#keep();
          this.#refused(error, next);
          if (this.conflict) return;
        }
      }
    } finally {
      this.#sending = false;
    }
  }

  async #send(next: Waiting) {
    if (next.takesBack) {
      await takeBack(this.bench!.production_id, next.takesBack, next.key);
      this.#turn++;
      await this.load();
      this.#wrote(next, this.bench!);
      return;
    }
    const edits = Object.fromEntries(
      KINDS.map((what) => [
        what,
        Object.fromEntries(
          Object.entries(next.changes[what]).map(([id, changes]) => [
            id,
            { version: next.seen[what][+id] ?? 0, changes },
          ]),
        ),
      ]),
    );
    const body = { ...edits, ...this.#reading } as Schemas["ChangesIn"];
    const found = await answered(
      client.POST("/api/shots/{shot_id}/changes", {
        params: { path: { shot_id: this.shot } },
        headers: { "Idempotency-Key": next.key },
        body,
      }),
    );
    this.#wrote(next, found);
    // A trial that was asked before this write answers with what stood before it: drop it.
    this.#turn++;
    this.#show(found);
    if (!isEmpty(this.draft)) void this.#ask();
  }

  /** What was written has been seen, by what waits behind it and by what comes next. A row that is gone counts on. */
  #wrote(next: Waiting, found: Bench) {
    const written = versions(found);
    for (const what of KINDS)
      for (const id of Object.keys(next.changes[what]))
        this.#mine[what][+id] = written[what][+id] ?? (next.seen[what][+id] ?? 0) + 1;
    for (const later of this.waiting.slice(1)) this.#raise(later.seen);
  }

  /** Nothing is lost: what was refused stays as the draft, under what is tried since, with the reason. */
  #refused(error: unknown, next: Waiting) {
    if (!(error instanceof Refused)) throw error;
    if (next.takesBack) {
      // Somebody has changed it since: it stays as it is now, and the reason is said.
      this.undoable = this.undoable.filter((one) => !("key" in one.which) || one.which.key !== next.key);
      this.redoable = this.redoable.filter((one) => !("key" in one.which) || one.which.key !== next.key);
      this.problems = error.problems.map((one) => ({ ...one, field: "" }));
      void this.load();
      return;
    }
    const back = $state.snapshot(next.changes) as Changes;
    lay($state.snapshot(this.draft) as Changes, back);
    this.draft = back;
    this.undoable = this.undoable.filter((one) => !("key" in one.which) || one.which.key !== next.key);
    if (error.status === 409) this.conflict = error.message;
    else this.problems = error.problems;
    if (error.status !== 409) void this.load();
  }

  /** After a conflict: look at theirs (mine is dropped) or save mine over it. */
  async resolve(mine: boolean) {
    this.conflict = null;
    const changes = $state.snapshot(this.draft) as Changes;
    this.draft = noChanges();
    await this.load();
    if (mine) await this.apply("Save mine", changes);
    else await this.#flush();
  }
}
