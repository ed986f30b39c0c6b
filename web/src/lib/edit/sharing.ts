// An answer that shares with the one before it all that has not changed: what a screen drew of that stays as
// it is, and only what changed is drawn anew.

const isObject = (value: unknown): value is Record<string, unknown> =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/** `fresh`, with every part that equals the one of `known` being that part; `known` itself where all does. */
export function sharing<T>(fresh: T, known: unknown): T {
  if (Array.isArray(fresh) && Array.isArray(known)) {
    let same = fresh.length === known.length;
    for (let i = 0; i < fresh.length; i++) {
      fresh[i] = sharing(fresh[i], known[i]);
      same &&= Object.is(fresh[i], known[i]);
    }
    return same ? (known as T) : fresh;
  }
  if (isObject(fresh) && isObject(known)) {
    const names = Object.keys(fresh);
    let same = names.length === Object.keys(known).length;
    for (const name of names) {
      (fresh as Record<string, unknown>)[name] = sharing(fresh[name], known[name]);
      same &&= Object.is(fresh[name], known[name]);
    }
    return same ? (known as T) : fresh;
  }
  return fresh;
}
