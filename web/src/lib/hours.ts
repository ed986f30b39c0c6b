// Hours, money and sizes as a crew reads them.
import { dayOfYear } from "./ui/when";

export const hours = (value: number) => `${value < 9.95 ? Number(value.toFixed(1)) : Math.round(value)} h`;
export const whole = (value: number) => Math.round(value).toLocaleString("en").replaceAll(",", " ");
export const day = (date: string | null) => (date ? dayOfYear(new Date(`${date}T12:00:00`)) : "");
export const plural = (count: number, one: string, many = `${one}s`) =>
  `${count} ${count === 1 ? one : many}`;
