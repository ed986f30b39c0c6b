// One shot on the bench: what the server judged, and how what is tried gets there and back.
import { Offline, Refused, writeKey, type Bench, type Problem, type Schemas } from "../api/client";
import { accept, add, givePicture, readBench, readVersion, save, tryOut } from "../api/shot";
import { room } from "../draw/pace";
import { Watch } from "../events/watch";
import { place } from "../place.svelte";
import { session } from "../session.svelte";
import { nextStep, takeBack, type Which } from "./back.svelte";
import {
  edits,
  isEmpty,
  noChanges,
  type Added,
  type Changes,
  type Fields,
  type Kind,
  type Step,
  type Waiting,
} from "./changes";
import { stillKnown } from "./known";
import { LensPicture } from "./lens.svelte";
import { Looking } from "./looking.svelte";
import { Moving } from "./moving";
import { Queue } from "./queue.svelte";
import { Seen } from "./seen";
import { sharing } from "./sharing";
import { Steps } from "./steps.svelte";
import { Trial } from "./trial.svelte";

const ADDED = { layer: "layers", lamp: "lamps", backing: "backings", line: "lines" } as const;

export class BenchState {
  bench = $state.raw<Bench | null>(null);
  problems = $state<Problem[]>([]);
  conflict = $state<string | null>(null);
  offline = $state(false);
  missing = $state<string | null>(null);
  readonly looking = new Looking();
  readonly steps = new Steps();
  readonly trial = new Trial(
    () => this.waiting.map((one) => one.changes),
    () => this.bench,
  );
  readonly #queue: Queue;
  readonly #lens: LensPicture;
  readonly #latest = new Moving(
    (moving) => this.#answer(moving),
    room,
    () => !this.trial.isEmpty && !this.problems.length,
  );
  readonly #opened: Promise<void>;
  readonly #hand = new Seen();
  readonly #watch: Watch | null;
  #turn = 0;
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
      ...this.looking.reading,
      only: this.looking.asFilmed ? this.looking.selected : null,
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

  async load() {
    await this.#opened;
    const turn = ++this.#turn;
    try {
      const found = await readBench(this.shot, this.looking.reading);
      if (turn === this.#turn) this.#show(found);
    } catch (error) {
      this.#failed(error);
    }
  }

  #show(found: Bench) {
    const first = !this.bench;
    this.bench = sharing(found, this.bench);
    place.opened(found.production_id);
    if (first && this.writes) void this.steps.fill(found.production_id, this.shot);
    this.offline = false;
    this.looking.selected ??= found.selected?.layer_id ?? null;
    void this.look();
  }

  async look() {
    if (this.bench?.hero_layer_id) await this.#lens.look();
    else this.#lens.rest();
  }

  /** What somebody else saved appears by itself, unless a hand is on something: then the save says so. */
  #look(): boolean {
    if (!this.bench || document.hidden || this.#latest.busy || this.#queue.sending || this.conflict)
      return false;
    if (!isEmpty(this.trial.unsaved) || this.problems.length) return false;
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
    this.#latest.close();
    this.#watch?.close();
    this.#lens.close();
  }

  /** What was said of a field. */
  problemAt(field: string): string {
    return this.problems.find((one) => one.field === field)?.message ?? "";
  }

  #failed(error: unknown) {
    if (error instanceof Offline) this.offline = true;
    else if (error instanceof Refused && (error.status === 404 || !this.bench)) this.missing = error.message;
    else if (error instanceof Refused) this.problems = error.problems;
    else throw error;
  }

  select(layer: number) {
    if (this.looking.selected === layer) return;
    this.looking.selected = layer;
    void this.#latest.ask();
  }

  reread() {
    void this.#latest.ask();
  }

  /** Try values without saving: the server is asked at most as often as it answers. */
  try(what: Kind, id: number, fields: Fields) {
    this.trial.put(what, id, fields);
    this.problems = [];
    void this.#latest.ask(true);
  }

  async #answer(moving: boolean) {
    const turn = ++this.#turn;
    try {
      if (isEmpty(this.trial.unsaved)) {
        await this.load();
      } else {
        const body = { ...this.unsaved, ...this.looking.reading, moving } as Schemas["Trial"];
        const found = await tryOut(this.shot, body);
        if (turn === this.#turn) this.#show(stillKnown(found, this.bench));
      }
    } catch (error) {
      // What refuses something that the hand has left since is no news: what stands now is asked next, or was
      // answered.
      const old = turn !== this.#turn || this.#latest.overtaken;
      if (!(error instanceof Refused && old)) this.#failed(error);
    }
  }

  /** What is tried and what waits, as it is sent. */
  get unsaved(): Changes {
    return $state.snapshot(this.trial.unsaved) as Changes;
  }

  /** Drop what is being tried. */
  forget() {
    this.trial.take();
    this.trial.done();
    this.problems = [];
    void this.#latest.ask();
  }

  /** Save what is being tried. */
  async commit(label: string) {
    if (this.trial.isEmpty) return;
    await this.#write(label, this.trial.take());
  }

  async #write(label: string, changes: Changes) {
    const step = {
      which: { key: writeKey() },
      at: nextStep(),
      label,
      back: this.trial.before(changes),
      forward: changes,
    };
    const seen = this.#hand.of(this.trial.from);
    this.trial.done();
    await this.#enqueue(step.which.key, changes, step, undefined, seen);
  }

  /**
   * Change and save in one go. What is being tried is saved before it; what was refused stays in its field,
   * unless this mends it.
   */
  async apply(label: string, changes: Partial<Changes>) {
    const all = { ...noChanges(), ...changes };
    if (!this.problems.length && !this.conflict) void this.commit("What was being tried");
    const mended = this.trial.leave(all);
    this.problems = this.trial.isEmpty ? [] : this.problems.filter((one) => !mended.includes(one.field));
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
        ...this.looking.reading,
        ...what,
        version: this.#own,
      } as Schemas["AddIn"]);
      const kind = ADDED[what.what];
      const gone = (removed: boolean) => ({ ...noChanges(), [kind]: { [made.id]: { removed } } });
      this.steps.did({ which: { key }, at: nextStep(), label, back: gone(true), forward: gone(false) });
      if (what.what === "layer") this.looking.selected = made.id;
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
        ...this.looking.reading,
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

  /** The picture of a layer; `shown`: it is seen as it from now on. Says why it was refused. */
  async givePicture(layer: number, file: File, shown = false): Promise<string> {
    try {
      const key = writeKey();
      const version = this.#hand.of(this.bench).layers[layer] ?? 0;
      await givePicture(layer, key, version, file, shown);
      const label = `Picture: ${file.name}`;
      this.steps.did({ which: { key }, at: nextStep(), label, back: noChanges(), forward: noChanges() });
      this.reread();
      return "";
    } catch (error) {
      if (error instanceof Refused || error instanceof Offline) return error.message;
      throw error;
    }
  }

  /** Take back what was done last, saved already or still on its way; what is only being tried goes first. */
  async undo() {
    if (!this.trial.isEmpty) return this.forget();
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
      const done = await takeBack(this.bench!.production_id, next.takesBack, next.key);
      this.#hand.tookBack(done.versions);
      await this.#queue.see((seen) => this.#hand.since(seen));
      this.#turn++;
      await this.load();
      return;
    }
    const body = { ...edits(next.changes, next.seen), ...this.looking.reading } as Schemas["ChangesIn"];
    const found = await save(this.shot, next.key, body);
    this.#hand.wrote(next.changes, next.seen);
    await this.#queue.see((seen) => this.#hand.since(seen));
    // A trial that was asked before this write answers with what stood before it: drop it.
    this.#turn++;
    this.#show(found);
    if (!this.trial.isEmpty) void this.#latest.ask();
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
    this.trial.putBack(next.changes);
    this.steps.drop(next.key);
    if (error.status === 409) this.conflict = error.message;
    else this.problems = error.problems;
    if (error.status !== 409) void this.load();
  }

  /** After a conflict: look at theirs (mine is dropped) or save mine over it. */
  async resolve(mine: boolean) {
    const changes = this.trial.take();
    // What stands is shown whatever else was asked meanwhile: mine is saved over that and no older one.
    try {
      const found = await readBench(this.shot, this.looking.reading);
      this.#turn++;
      this.#show(found);
    } catch (error) {
      this.#failed(error);
    }
    this.conflict = null;
    if (mine) await this.apply("Save mine", changes);
    else await this.#queue.flush();
  }
}
