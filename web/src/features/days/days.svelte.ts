// The board of days: what was read, what is in the hand, what it would cost, and the way back.
import { answered, client, Offline, Refused, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { WayBack } from "../../lib/edit/back.svelte";
import { Latest } from "../../lib/edit/latest";
import { Followed, isGoing } from "../../lib/events/job.svelte";
import { place } from "../../lib/place.svelte";

export type Days = Schemas["DaysOut"];
export type Job = Schemas["JobOfDayOut"];
export type Slot = Schemas["SlotOut"];
export type BoardDay = Schemas["BoardDayOut"];
export type ShootingDay = Schemas["ShootingDayOut"];
/** A job in the hand: on which day, from which minute. */
export type Held = { job: string; date: string; start_min: number };

/** What of the history is of the days. */
export const KINDS =
  "booking,day figures,shooting day,person called,site,condition,travel,job of a day,order";
const MINUTE_MS = 60_000;
/** How wide the sun's course is drawn beside the jobs of a day, px. */
export const SUN = 34;
const pad = (number: number) => String(number).padStart(2, "0");
/** A minute of a shooting day as a crew says it; hours run past 24 in the night that follows. */
export const clockOf = (minutes: number) => `${pad(Math.floor(minutes / 60))}:${pad(minutes % 60)}`;
/** A length of time: 25 min, 1 h 40. */
export function lasting(minutes: number) {
  const hours = Math.floor(minutes / 60);
  const rest = minutes % 60;
  return hours ? `${hours} h${rest ? ` ${pad(rest)}` : ""}` : `${rest} min`;
}

/** What is as it was stays the same, so that it is not drawn again. */
const asBefore = (day: BoardDay, before?: BoardDay) =>
  before && JSON.stringify(day) === JSON.stringify(before) ? before : day;

/** How much later or earlier, as it is said. */
export const lateness = (minutes: number) =>
  minutes === 0 ? "on time" : `${lasting(Math.abs(minutes))} ${minutes > 0 ? "late" : "early"}`;

export class DaysBoard {
  data = $state.raw<Days | null>(null);
  /** The one day that is looked at, where one is. */
  date = $state<string | null>(null);
  day = $state.raw<ShootingDay | null>(null);
  held = $state.raw<Held | null>(null);
  tried = $state.raw<Schemas["DaysTriedOut"] | null>(null);
  selected = $state<string | null>(null);
  /** The job of which something is said otherwise. */
  saying = $state<string | null>(null);
  /** Which day and minute is at a place of the screen; null beside the days. */
  spot: ((x: number, y: number) => Omit<Held, "job"> | null) | null = null;
  readonly asking = new Asking();
  readonly planning = new Followed(new Asking());
  readonly back = new WayBack(
    this.asking,
    () => place.production,
    () => this.read(),
  );
  readonly #trial = new Latest<Held>((held) => this.#try(held));

  get params() {
    return { path: { production_id: place.production! } };
  }
  get writes() {
    return this.data?.role === "supervisor";
  }
  get going() {
    return isGoing(this.planning.job);
  }
  readonly #jobs = $derived(Object.fromEntries((this.data?.jobs ?? []).map((job) => [job.key, job])));
  job(key: string): Job | undefined {
    return this.#jobs[key];
  }
  /**
   * The days as they are, as they would be with what is in the hand, or as the best plan so far has them
   * while one is made.
   */
  get days(): BoardDay[] {
    const best = this.going && this.data?.under_way.length ? this.data.under_way : null;
    const days = best ?? (this.tried ?? this.data)?.days ?? [];
    const { held } = this;
    const job = held && this.job(held.job);
    if (!held || !job) return days;
    return days.map((day) => {
      const slots = day.slots.filter((slot) => slot.job !== held.job);
      const was = day.slots.find((slot) => slot.job === held.job);
      if (day.date !== held.date) return slots.length === day.slots.length ? day : { ...day, slots };
      return { ...day, slots: [...slots, this.#slotOf(job, held.start_min, was)] };
    });
  }
  #slotOf(job: Job, start: number, was?: Slot): Slot {
    const from = start + job.before_min;
    return {
      job: job.key,
      start_min: start,
      takes_from_min: from,
      takes_to_min: from + job.takes_min,
      end_min: from + job.takes_min + job.after_min,
      locked: was?.locked ?? false,
      change: was?.change ?? [],
      change_min: was?.change_min ?? 0,
      idle_min: was?.idle_min ?? 0,
      state: was?.state ?? "next",
      late_min: was?.late_min ?? 0,
      windows: was?.windows ?? [],
    };
  }
  /** What the plan breaks: as it is, or as it would be with what is in the hand. */
  get breaks() {
    return (this.tried ?? this.data)?.breaks ?? [];
  }
  breaksOf(key: string) {
    return this.breaks.filter((one) => one.jobs.includes(key));
  }

  async read() {
    await this.asking.read(async () => {
      await place.choose();
      if (!place.production) return;
      await this.#read();
      await this.#followPlanning();
    });
  }
  async #read() {
    const { params } = this;
    const [data] = await Promise.all([
      answered(client.GET("/api/productions/{production_id}/days", { params })),
      this.#readDay(),
    ]);
    this.data = data;
  }
  async #readDay() {
    const { date } = this;
    if (!date) return;
    const path = { ...this.params.path, day: date };
    const day = await answered(
      client.GET("/api/productions/{production_id}/shooting-days/{day}", { params: { path } }),
    );
    if (this.date === date) this.day = day;
  }
  /** Within a component: each better plan on the way is shown, and the last, which can be taken back. */
  keepUp() {
    let seen = "";
    $effect(() => {
      const { job } = this.planning;
      const state = job ? `${job.id} ${job.state} ${job.progress}` : "";
      if (state !== seen && (job?.state === "ready" || job?.state === "working")) {
        const read = this.read();
        if (job.state === "ready") void read.then(() => this.back.pick({ kinds: KINDS }));
      }
      seen = state;
    });
    $effect(() => {
      const timer = window.setInterval(() => void this.#tick(), MINUTE_MS);
      return () => window.clearInterval(timer);
    });
  }
  /** A day that is under way goes on; nothing is said where it cannot be read just now. */
  async #tick() {
    const days = this.date ? [this.day?.day] : (this.data?.days ?? []);
    const goes = days.some((day) => day && day.now_min !== null);
    if (!goes || this.held || this.going || document.hidden) return;
    try {
      await this.#read();
    } catch (error) {
      if (!(error instanceof Offline) && !(error instanceof Refused)) throw error;
    }
  }
  /** Look at another day. */
  async look(date: string) {
    if (this.date !== date) this.day = null;
    this.date = date;
    await this.asking.read(async () => {
      await place.choose();
      if (place.production) await this.#readDay();
    });
  }
  async #followPlanning() {
    if (this.planning.job) return;
    const query = { kind: "days" };
    const jobs = await answered(
      client.GET("/api/productions/{production_id}/jobs", { params: { ...this.params, query } }),
    );
    if (jobs[0] && isGoing(jobs[0])) this.planning.follow(jobs[0]);
  }

  // --- a hand

  hold(held: Held) {
    this.held = held;
    void this.#trial.ask(held);
  }
  async #try(held: Held) {
    const row = this.#row(held);
    const tried = await this.asking.read(() =>
      answered(
        client.POST("/api/productions/{production_id}/days-tried", {
          params: this.params,
          body: { bookings: [row] },
        }),
      ),
    );
    if (this.held?.job !== held.job || !tried) return;
    const before = (this.tried ?? this.data)?.days ?? [];
    this.tried = { ...tried, days: tried.days.map((day, number) => asBefore(day, before[number])) };
  }
  letGo() {
    this.held = this.tried = null;
  }
  #row(held: Held, more: { locked?: boolean } = {}) {
    const job = this.job(held.job)!;
    const booking = this.data!.bookings.find((one) => one.job === held.job);
    return {
      set_up_id: job.set_up_id,
      block: job.block,
      version: booking?.version ?? 0,
      date: held.date || null,
      start_min: held.start_min,
      locked: more.locked ?? booking?.locked ?? false,
    };
  }

  // --- writes

  /** Put several jobs elsewhere in one go. */
  bookAll(label: string, every: Held[]) {
    return this.back.do(label, async (key) => {
      const body = { bookings: every.map((held) => this.#row(held, { locked: false })) };
      const headers = { "Idempotency-Key": key };
      const { params } = this;
      const done = await answered(
        client.PUT("/api/productions/{production_id}/bookings", { params, headers, body }),
      );
      await this.read();
      return done;
    });
  }
  /** Put what is in the hand where it is; or another booking. */
  async book(label: string, held: Held, more: { locked?: boolean } = {}) {
    await this.back.do(label, async (key) => {
      const params = this.params;
      const body = { bookings: [this.#row(held, more)] };
      const headers = { "Idempotency-Key": key };
      this.data = await answered(
        client.PUT("/api/productions/{production_id}/bookings", { params, headers, body }),
      );
      await this.#readDay();
      return this.data;
    });
    this.letGo();
  }
  plan(how: { again?: boolean; rains_on?: string; rains_from_min?: number } = {}) {
    const params = this.params;
    const body = { version: place.version, again: false, rains_from_min: 0, ...how };
    return this.planning.ask((key) =>
      answered(
        client.POST("/api/productions/{production_id}/days-plan", {
          params,
          headers: { "Idempotency-Key": key },
          body,
        }),
      ),
    );
  }
  /** Some more days, in one go. */
  addDays(label: string, dates: string[]) {
    return this.back.do(label, async (key) => {
      const { params } = this;
      const headers = { "Idempotency-Key": key };
      const body = { version: place.version, dates };
      this.data = await answered(
        client.POST("/api/productions/{production_id}/shooting-days", { params, headers, body }),
      );
      return this.data;
    });
  }
  /** A row of who, where and when: a new one, or what is said otherwise of one. */
  say(label: string, kind: string, known: number | null, fields: Record<string, unknown>) {
    return this.back.do(label, async (key) => {
      // as it is when its turn comes: what was said just before made it, or counted it up
      const row = this.data?.rows.find(
        (one) =>
          one.kind === kind &&
          (known === null
            ? this.data?.said_of[kind]?.every((name) => one.fields[name] === fields[name])
            : one.id === known),
      );
      const id = row?.id ?? known;
      const version = row?.version ?? 0;
      const headers = { "Idempotency-Key": key };
      const production_id = place.production!;
      const done =
        id === null
          ? await answered(
              client.POST("/api/productions/{production_id}/days/{kind}", {
                params: { path: { production_id, kind } },
                headers,
                body: { version: place.version, fields },
              }),
            )
          : await answered(
              client.PATCH("/api/productions/{production_id}/days/{kind}/{row_id}", {
                params: { path: { production_id, kind, row_id: id } },
                headers,
                body: { version, changes: fields },
              }),
            );
      await this.read();
      return done;
    });
  }
}
