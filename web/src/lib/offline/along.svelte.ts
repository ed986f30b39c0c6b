// What is taken along to a place without a server: the days, the shots with their cards, cautions and likely
// verdicts, the calculators. It is asked for one after the other; what is kept already and has not changed is
// not asked for again.
import { answered, client, Offline, Refused, type Schemas } from "../api/client";
import { byAnother, stream } from "../events/told.svelte";
import { place } from "../place.svelte";
import { today } from "../ui/when";
import { pictureOf } from "./pictures";
import { plannedOf } from "./planned";
import { reach } from "./reach.svelte";
import { recall, remember } from "./store";

type Reader = Schemas["PersonOut"];
/** Which shots: those of the day that is next and the one that is open, or all of the production. */
export type Which = "next" | "all";

/** Shots by number, each with the version that it was taken along in, and what of it was planned. */
type Shots = Partial<Record<string, { version: string; planned: string }>>;

/** Under which name a card's answers for a place without a server are remembered. */
export const answersOf = (card: string) => `beforehand ${card}`;
const SHOTS = "shots taken along";
/** Photographs of a shot, the newest. */
const MOST_STILLS = 12;
/** What leaves the desk. */
const GOES_ALONG = ["(pointer: coarse)", "(display-mode: standalone)"];
const SOON_MS = 3000; // the page that was opened comes first
const SETTLED_MS = 30_000;
/** Rules may be newer than the answers that were worked out by them. */
const WORKED_OUT_ANEW_MS = 24 * 3_600_000;

/** The shooting day that is today, or the next one. */
export const nextDay = <T extends { date: string }>(days: T[]): T | undefined =>
  days.find((day) => day.date >= today());

class Along {
  done = $state(0);
  total = $state(0);
  busy = $state(false);
  problem = $state("");
  /** What this device has. */
  shots = $state.raw<Shots>({});
  cards = $state(0);
  /** When it was last found up to date. */
  at = $state(0);
  #stopped = false;

  /** What was taken along before. */
  async open(person: string) {
    const found = (await recall(person, SHOTS))?.body as
      { shots: Shots; cards: number; at: number } | undefined;
    this.shots = found?.shots ?? {};
    this.cards = found?.cards ?? 0;
    this.at = found?.at ?? 0;
  }
  stop() {
    this.#stopped = true;
  }
  /**
   * A telephone, or what stands on a home screen, takes the next day along by itself: soon, when the
   * connection is back, and a while after somebody has written. Returns how to stop that.
   */
  keepUp(reader: Reader): () => void {
    let soon = 0;
    const later = (ms: number) => {
      window.clearTimeout(soon);
      soon = window.setTimeout(() => void this.take(reader, "next"), ms);
    };
    void this.open(reader.username);
    if (!GOES_ALONG.some((one) => window.matchMedia(one).matches)) return () => undefined;
    later(SOON_MS);
    const deaf = stream.listen((told) => {
      if (byAnother(told)) later(told.missed ? SOON_MS : SETTLED_MS);
    });
    const back = reach.onback(() => later(SOON_MS));
    return () => {
      deaf();
      back();
      window.clearTimeout(soon);
    };
  }

  async take(reader: Reader, which: Which) {
    if (this.busy || reach.away) return;
    this.busy = true;
    this.#stopped = false;
    this.problem = "";
    this.done = this.total = 0;
    try {
      await this.open(reader.username); // it may have been cleared away to make room
      await this.#take(reader, which);
      if (!this.#stopped) this.at = Date.now();
    } catch (error) {
      if (error instanceof Offline) this.problem = "The connection was lost. What came stays here.";
      else if (error instanceof Refused) this.problem = error.message;
      else throw error;
    } finally {
      this.busy = false;
      await remember(reader.username, SHOTS, {
        shots: this.shots,
        cards: this.cards,
        at: this.at,
      });
    }
  }

  async #take(reader: Reader, which: Which) {
    await place.readShots(reader);
    const production = place.production;
    if (!production) return;
    const path = { production_id: production };
    const days = await answered(client.GET("/api/productions/{production_id}/days", { params: { path } }));
    const next = nextDay(days.days);
    const of = place.shot ? [place.shot] : [];
    if (next) {
      const day = await answered(
        client.GET("/api/productions/{production_id}/shooting-days/{day}", {
          params: { path: { ...path, day: next.date } },
        }),
      );
      const booked = next.slots.map((slot) => slot.job);
      for (const job of day.jobs) if (booked.includes(job.key)) of.push(job.shot_id);
    }
    const shots = (place.shots ?? []).map((one) => one.id).filter((id) => which === "all" || of.includes(id));
    const cards = await answered(client.GET("/api/calculations"));
    this.total = shots.length + cards.length;
    for (const shot of shots) {
      if (this.#stopped) return;
      await this.#shot(shot, reader);
      this.done++;
    }
    for (const card of cards) {
      if (this.#stopped) return;
      await this.#card(card.name, reader.username);
      this.done++;
    }
    this.cards = cards.length;
  }

  async #shot(shot: number, { units, school, username }: Reader) {
    const path = { shot_id: shot };
    const { stills } = await answered(client.GET("/api/shots/{shot_id}/stills", { params: { path } }));
    for (const still of stills.slice(0, MOST_STILLS)) await pictureOf(username, still.id);
    const found = await answered(client.GET("/api/shots/{shot_id}/version", { params: { path } }));
    const version = [found.revision, found.production_revision, units, school].join(" ");
    if (this.shots[shot]?.version === version) return;
    const query = { units, school } as const;
    const log = await answered(client.GET("/api/shots/{shot_id}/log", { params: { path, query } }));
    await answered(client.GET("/api/shots/{shot_id}/plan", { params: { path } }));
    const planned = plannedOf(log, { units, school });
    for (const layer of planned === this.shots[shot]?.planned ? [] : log.layers) {
      if (this.#stopped) return;
      await answered(
        client.GET("/api/layers/{layer_id}/foretold", { params: { path: { layer_id: layer.id }, query } }),
      );
    }
    this.shots = { ...this.shots, [shot]: { version, planned } };
  }
  async #card(name: string, person: string) {
    const found = await recall(person, answersOf(name));
    if (found && Date.now() - found.at < WORKED_OUT_ANEW_MS) return;
    const path = { name };
    const card = await answered(client.GET("/api/calculations/{name}", { params: { path } }));
    const stood = (found?.body as { values: Record<string, unknown> } | undefined)?.values;
    try {
      await answersAt(person, name, stood ?? card.example);
    } catch (error) {
      if (!stood || !(error instanceof Refused)) throw error;
      await answersAt(person, name, card.example); // it cannot stand there any more
    }
  }
}

/** Have a card's answers worked out around where it stands, and remember them. */
export async function answersAt(person: string, name: string, values: Record<string, unknown>) {
  const path = { name };
  const crossings = await answered(
    client.POST("/api/calculations/{name}/beforehand", { params: { path }, body: values }),
  );
  await remember(person, answersOf(name), { values, crossings });
}

export const along = new Along();
