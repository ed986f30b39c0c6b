// Hours, money and sizes as a crew reads them.
export const hours = (value: number) => `${value < 9.95 ? Number(value.toFixed(1)) : Math.round(value)} h`;
export const whole = (value: number) => Math.round(value).toLocaleString("en").replaceAll(",", " ");
export function day(date: string | null): string {
  if (!date) return "";
  return new Date(`${date}T12:00:00`).toLocaleDateString("en-GB", { day: "numeric", month: "short" });
}
export const plural = (count: number, one: string, many = `${one}s`) =>
  `${count} ${count === 1 ? one : many}`;
