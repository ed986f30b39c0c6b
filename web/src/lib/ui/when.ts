// Times as a crew reads them, by the clock on the wall where the page is open; dates in the reader's own
// language.
import type { Schemas } from "../api/client";
import { session } from "../session.svelte";

type Dates = Schemas["PersonOut"]["dates"];
type Starts = Schemas["PersonOut"]["week_starts"];

const pad = (number: number) => String(number).padStart(2, "0");
const figures = (at: Date) => `${at.getFullYear()}-${pad(at.getMonth() + 1)}-${pad(at.getDate())}`;
const mine = () => session.person?.dates ?? "en-GB";

export const clock = (at: string) =>
  new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
/** The day that it is here, in figures. */
export const today = () => figures(new Date());
/** A day in a language, or in figures. */
export const dateIn = (dates: Dates, at: Date) =>
  dates === "iso"
    ? figures(at)
    : at.toLocaleDateString(dates, { day: "numeric", month: "short", year: "numeric" });
export const date = (at: string) => dateIn(mine(), new Date(at));
/** A day without its year: 21 Oct. */
export const dayOfYear = (at: Date) =>
  mine() === "iso" ? figures(at) : at.toLocaleDateString(mine(), { day: "numeric", month: "short" });
/** A day with its weekday, both written out. */
export const wholeDate = (at: Date) =>
  mine() === "iso"
    ? `${figures(at)}, ${at.toLocaleDateString("en-GB", { weekday: "long" })}`
    : at.toLocaleDateString(mine(), { weekday: "long", day: "numeric", month: "long", year: "numeric" });
/** The time today, the day else. */
export const when = (at: string) =>
  new Date(at).toDateString() === new Date().toDateString() ? clock(at) : date(at);

const FIRST: Record<Starts, number> = { sunday: 0, monday: 1, saturday: 6 };
/** The first day of the week that a day lies in, as the reader counts weeks. */
export function weekOf(at: Date, starts: Starts = session.person?.week_starts ?? "monday"): Date {
  const first = new Date(at.getFullYear(), at.getMonth(), at.getDate());
  first.setDate(first.getDate() - ((first.getDay() - FIRST[starts] + 7) % 7));
  return first;
}
/** This moment, as it goes over the wire. */
export const now = () => new Date().toISOString();
