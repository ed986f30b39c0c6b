// Hours as somebody types them: "sat sun 08:00 to 18:00; 2027-10-24 10:00 to 14:00".
export type Hours = {
  weekdays: string[];
  date: string | null;
  start: number | string;
  end: number | string;
};

const WEEKDAYS = ["mon", "tue", "wed", "thu", "fri", "sat", "sun"];
const TIME = /^(\d{1,2}):?(\d{2})?$/;
const pad = (number: number) => String(number).padStart(2, "0");

const clockText = (value: number | string) =>
  typeof value === "number" ? `${pad(Math.floor(value / 60))}:${pad(value % 60)}` : value;

/** Each span with its weekdays or its date; null where something is no hours at all, nothing for nothing. */
export function hoursOf(typed: string): Hours[] | null {
  const told: Hours[] = [];
  for (const part of typed.split(/[;,]/).map((one) => one.trim().toLowerCase())) {
    if (!part) continue;
    const words = part.split(/\s+|(?<=\d)–(?=\d)/).filter((word) => word !== "to" && word !== "–");
    const times = words.filter((word) => TIME.test(word));
    const days = words.filter((word) => WEEKDAYS.includes(word.slice(0, 3)) && /^[a-z]+$/.test(word));
    const dates = words.filter((word) => /^\d{4}-\d{2}-\d{2}$/.test(word));
    if (times.length !== 2 || dates.length > 1 || times.length + days.length + dates.length !== words.length)
      return null;
    const [start, end] = times.map((word) => {
      const [, hour, minute] = TIME.exec(word)!;
      return `${pad(Number(hour))}:${minute ?? "00"}`;
    });
    told.push({
      weekdays: days.map((day) => day.slice(0, 3)),
      date: dates[0] ?? null,
      start: start!,
      end: end!,
    });
  }
  return told;
}

/** The same hours as they are typed. */
export const hoursText = (hours: readonly Hours[]) =>
  hours
    .map((one) =>
      [one.date ?? one.weekdays.join(" "), `${clockText(one.start)} to ${clockText(one.end)}`]
        .filter(Boolean)
        .join(" "),
    )
    .join("; ");

export type Span = { start_min: number; end_min: number };

/** Some spans of a day with an hour taken out of them, or put in where none of it was there. */
export function withHour(spans: readonly Span[], hour: number): Span[] {
  const own = { start_min: 60 * hour, end_min: 60 * hour + 60 };
  const left = spans
    .flatMap((span) => [
      { start_min: span.start_min, end_min: Math.min(span.end_min, own.start_min) },
      { start_min: Math.max(span.start_min, own.end_min), end_min: span.end_min },
    ])
    .filter((span) => span.end_min > span.start_min);
  if (spans.some((span) => span.start_min < own.end_min && span.end_min > own.start_min)) return left;
  return [...left, own]
    .sort((a, b) => a.start_min - b.start_min)
    .reduce<Span[]>((told, span) => {
      const last = told.at(-1);
      if (last && last.end_min >= span.start_min)
        return [...told.slice(0, -1), { ...last, end_min: span.end_min }];
      return [...told, span];
    }, []);
}
