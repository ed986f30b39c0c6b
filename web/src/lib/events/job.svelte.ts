// One job of the workers: asked for, followed as it is told, stopped, asked for again.
import { answered, client, writeKey, type Schemas } from "../api/client";
import type { Asking } from "../edit/asking.svelte";
import { place } from "../place.svelte";
import { session } from "../session.svelte";
import { stream } from "./told.svelte";

type Job = Schemas["JobOut"];
const ASKED_EVERY_MS = 500; // where nothing is told
const LOOKED_AFTER_MS = 10_000; // where it is: in case a word was lost

export const isGoing = (job: Job | null) => job?.state === "waiting" || job?.state === "working";

export class Followed {
  job = $state.raw<Job | null>(null);
  #deaf: () => void;
  #timer = 0;

  constructor(
    readonly asking: Asking,
    job: Job | null = null,
  ) {
    this.#deaf = stream.listen((told) => {
      if (!this.job || told.job !== this.job.id) return;
      if (told.state === "waiting" || told.state === "working")
        this.job = { ...this.job, state: told.state, progress: told.progress ?? this.job.progress };
      else void this.#read(); // over: what it made, or why not
    });
    this.#show(job);
  }
  close() {
    this.#deaf();
    window.clearTimeout(this.#timer);
  }

  #show(job: Job | null) {
    this.job = job;
    window.clearTimeout(this.#timer);
    if (isGoing(job))
      this.#timer = window.setTimeout(
        () => void this.#read(),
        stream.heard ? LOOKED_AFTER_MS : ASKED_EVERY_MS,
      );
  }
  async #read() {
    const id = this.job!.id;
    const found = await this.asking.read(() =>
      answered(client.GET("/api/jobs/{job_id}", { params: { path: { job_id: id } } })),
    );
    this.#show(found ?? this.job);
  }

  /** Follow one that somebody asked for before. */
  follow(job: Job | null) {
    this.#show(job);
  }
  /** Ask for one in the place of what is followed so far. */
  async ask(send: (key: string) => Promise<Job>) {
    const key = writeKey();
    const asked = await this.asking.run(() => send(key));
    if (asked) this.#show(asked);
  }
  /** Whether who is here may stop it. */
  get stops() {
    return place.role === "supervisor" || this.job?.asked_by === session.person?.username;
  }
  async stop() {
    const { id, version } = this.job!;
    const stopped = await this.asking.run(() =>
      answered(client.DELETE("/api/jobs/{job_id}", { params: { path: { job_id: id }, query: { version } } })),
    );
    if (stopped) this.#show(stopped);
  }
  again() {
    const { id, version } = this.job!;
    return this.ask((key) =>
      answered(
        client.POST("/api/jobs/{job_id}/again", {
          params: { path: { job_id: id } },
          headers: { "Idempotency-Key": key },
          body: { version },
        }),
      ),
    );
  }
}
