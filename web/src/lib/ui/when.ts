// Times as a crew reads them, by the clock on the wall where the page is open.
export const clock = (at: string) =>
  new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
export const date = (at: string) =>
  new Date(at).toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
/** The time today, the day else. */
export const when = (at: string) =>
  new Date(at).toDateString() === new Date().toDateString() ? clock(at) : date(at);
