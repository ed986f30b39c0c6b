// The values of a card in its address, so that it can be shared.
type Values = Record<string, unknown>;

export function valuesOf(query: string): Values {
  const out: Values = {};
  for (const [key, text] of new URLSearchParams(query)) {
    try {
      out[key] = JSON.parse(text);
    } catch {
      out[key] = text;
    }
  }
  return out;
}
export const queryOf = (values: Values) =>
  Object.entries(values)
    .filter(([, value]) => value !== null && value !== undefined)
    .map(
      ([key, value]) =>
        `${key}=${encodeURIComponent(typeof value === "string" ? value : JSON.stringify(value))}`,
    )
    .join("&");
