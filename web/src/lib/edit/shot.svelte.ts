// One shot on the bench: what the server judged, what is being tried, what waits to be saved, and the way
// back.
import { Offline, Refused, writeKey, type Bench, type Schemas } from "../api/client";
import { accept, add, readBench, readVersion, save, tryOut } from "../api/shot";
import { nextStep, takeBack, type Which } from "./back.svelte";
import {
  before,
  edits,
  isEmpty,
  lay,
  noChanges,
  without,
  type Added,
  type Changes,
  type Fields,
  type Kind,
  type Step,
  type Waiting,
} from "./changes";
import { LensPicture } from "./lens.svelte";
import { place } from "../place.svelte";
import { Queue } from "./queue.svelte";
import { Seen } from "./seen";
import { session } from "../session.svelte";
import { Steps } from "./steps.svelte";
import { Watch } from "../events/watch";

export class BenchState {
  bench = $state.raw<Bench | null>(null);
  draft = $state<Changes>(noChanges());
  selected = $state<number | null>(null);
  basis = $state<"planned" | "shot">("shot");
  frame = $state(0);
  afterFinish = $state(true);
  asFilmed = $state(false);
  problems = $state<Schemas["ProblemOut"][]>([]);
  conflict = $state<string | null>(null);
  offline = $state(false);
  missing = $state<string | null>(null);
  readonly steps = new Steps();
  readonly #queue: Queue;
  readonly #lens: LensPicture;

  readonly #opened: Promise<void>;
  #asking = false;
  #again = false;
  #turn = 0;
  readonly #hand = new Seen();
  readonly #watch: Watch | null;
  #adding: Promise<unknown> = Promise.resolve();

  constructor(readonly shot: number) {
    this.#watch = shot
      ? new Watch(
          shot,
          () => this.#look(),
          () => this.offline,
        )
      : null;
    this.#lens = new LensPicture(shot, () => ({
      ...this.unsaved,
      ...this.#reading,
      only: this.asFilmed ? this.selected : null,
    }));
    this.#queue = new Queue(`shot ${shot}`, {
      send: (next) => this.#send(next),
      offline: () => (this.offline = true),
      refused: (error, next) => {
        this.#refused(error, next);
        return Boolean(this.conflict);
      },
    });
    this.#opened = shot ? this.#open() : Promise.resolve();
  }

  async #open() {
    await this.#queue.open(session.person?.username ?? "");
    const left = this.waiting.flatMap((one) => ($state.snapshot(one.step) as Step | null) ?? []);
    this.steps.undoable = [...left, ...this.steps.undoable];
  }

  get waiting(): Waiting[] {
    return this.#queue.waiting;
  }
  get picture() {
    return this.#lens.url;
  }
  get writes() {
    return this.bench?.role === "supervisor";
  }

  get #reading() {
    return {
      school: session.school,
      units: session.units,
      basis: this.basis,
      selected: this.selected,
      frame: Math.round(this.frame),
      after_finish: this.afterFinish,
    } as const;
  }

  async load() {
    await this.#opened;
    const turn = ++this.#turn;
    try {
      const found = await readBench(this.shot, this.#reading);
      if (turn === this.#turn) this.#show(found);
    } catch (error) {
      this.#failed(error);
    }
  }

  #show(found: Bench) {
    const first = !this.bench;
    this.bench = found;
    place.opened(found.production_id);
    if (first && this.writes) void this.steps.fill(found.production_id, this.shot);
    this.offline = false;
    this.selected ??= found.selected?.layer_id ?? null;
    void this.look();
  }

  async look() {
    if (this.bench?.hero_layer_id) await this.#lens.look();
    else this.#lens.rest();
  }

  /** What somebody else saved appears by itself, unless a hand is on something: then the save says so. */
  #look(): boolean {
    if (!this.bench || document.hidden || this.#asking || this.#queue.sending || this.conflict) return false;
    if (!isEmpty(this.#unsaved) || this.problems.length) return false;
    void this.#compare(this.bench);
    return true;
  }
  async #compare(seen: Bench) {
    try {
      const now = await readVersion(this.shot);
      const changed = now.revision !== seen.revision || now.production_revision !== seen.production_revision;
      if (changed || this.offline) this.reread();
    } catch (error) {
      this.#failed(error);
    }
  }

  close() {
    this.#watch?.close();
    this.#lens.close();
  }

  /** What was said of a field. */
  problemAt(field: string): string {
    return this.problems.find((one) => one.field === field)?.message ?? "";
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
        const found = await tryOut(this.shot, body);
        if (turn === this.#turn) this.#show(found);
      }
    } catch (error) {
      // What refuses something that the hand has left since is no news: what stands now is asked next, or was
      // answered.
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
    const coming = noChanges();
    for (const one of this.waiting) lay(one.changes, coming);
    return $state.snapshot(before(changes, this.#saved ?? this.bench, coming)) as Changes;
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
    const step = {
      which: { key: writeKey() },
      at: nextStep(),
      label,
      back: this.#before(changes),
      forward: changes,
    };
    const seen = this.#hand.of(this.#saved ?? this.bench);
    this.#saved = null;
    await this.#enqueue(step.which.key, changes, step, undefined, seen);
  }

  /**
   * Change and save in one go. What is being tried is saved before it; what was refused stays in its field,
   * unless this mends it.
   */
  async apply(label: string, changes: Partial<Changes>) {
    const all = { ...noChanges(), ...changes };
    if (!this.problems.length && !this.conflict) void this.commit("What was being tried");
    const { left, mended } = without($state.snapshot(this.draft) as Changes, all);
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
      const made = await add(this.shot, key, {
        ...this.#reading,
        ...what,
        version: this.#own,
      } as Schemas["AddIn"]);
      const kind = ({ layer: "layers", lamp: "lamps", backing: "backings", line: "lines" } as const)[
        what.what
      ];
      const gone = (removed: boolean) => ({ ...noChanges(), [kind]: { [made.id]: { removed } } });
      this.steps.did({ which: { key }, at: nextStep(), label, back: gone(true), forward: gone(false) });
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
      const version = this.#hand.of(this.bench).layers[layer_id] ?? 0;
      const found = await accept(this.shot, key, {
        ...this.#reading,
        version,
        layer_id,
        item,
        reason,
        withdraw,
      });
      const label = withdraw ? "Judge again" : "Accept";
      this.steps.did({ which: { key }, at: nextStep(), label, back: noChanges(), forward: noChanges() });
      this.#turn++;
      this.#show(found);
      return "";
    } catch (error) {
      if (error instanceof Refused || error instanceof Offline) return error.message;
      throw error;
    }
  }

  /** Take back what was done last, saved already or still on its way; what is only being tried goes first. */
  async undo() {
    if (!isEmpty(this.draft)) return this.forget();
    await this.#adding;
    const key = writeKey();
    const step = this.steps.back(key);
    if (step) await this.#enqueue(key, step.back, null, step.which);
  }

  async redo() {
    await this.#adding;
    const key = writeKey();
    const step = this.steps.forward(key, nextStep());
    if (step) await this.#enqueue(key, step.forward, null, step.which);
  }

  /** The version of the shot's own row that was seen. */
  get #own() {
    return this.#hand.of(this.bench).shot[this.shot] ?? 0;
  }

  async #enqueue(
    key: string,
    changes: Changes,
    step: Step | null,
    takesBack?: Which,
    seen = this.#hand.of(this.bench),
  ) {
    const kept = this.#queue.add({ key, changes, seen, step, takesBack });
    if (step) this.steps.did(step);
    await kept;
    await this.#queue.flush();
  }

  async #send(next: Waiting) {
    if (!this.bench) await this.load();
    if (next.takesBack) {
      await takeBack(this.bench!.production_id, next.takesBack, next.key);
      this.#turn++;
      await this.load();
      this.#hand.wrote(next.changes, next.seen, this.bench!, this.waiting.slice(1));
      return;
    }
    const body = { ...edits(next.changes, next.seen), ...this.#reading } as Schemas["ChangesIn"];
    const found = await save(this.shot, next.key, body);
    this.#hand.wrote(next.changes, next.seen, found, this.waiting.slice(1));
    // A trial that was asked before this write answers with what stood before it: drop it.
    this.#turn++;
    this.#show(found);
    if (!isEmpty(this.draft)) void this.#ask();
  }

  /** Nothing is lost: what was refused stays as the draft, under what is tried since, with the reason. */
  #refused(error: unknown, next: Waiting) {
    if (!(error instanceof Refused)) throw error;
    if (next.takesBack) {
      // Somebody has changed it since: it stays as it is now, and the reason is said.
      this.steps.drop(next.key);
      this.problems = error.problems.map((one) => ({ ...one, field: "" }));
      void this.load();
      return;
    }
    const back = $state.snapshot(next.changes) as Changes;
    lay($state.snapshot(this.draft) as Changes, back);
    this.draft = back;
    this.steps.drop(next.key);
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
    else await this.#queue.flush();
  }
}
