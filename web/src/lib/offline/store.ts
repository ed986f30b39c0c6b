// What this device keeps: writes that wait to be sent, and apart from them what was read last. In IndexedDB,
// because it holds more than localStorage, says when it is full, and keeps what was said to be kept.
import { openDB, type DBSchema, type IDBPDatabase } from "idb";

const NAME = "jungoptic";
const VERSION = 1;

/** A write of one person that waits: `box` is what it belongs to (takes, or one shot's changes). */
export type Row = { seq?: number; key: string; person: string; box: string; body: unknown };
type Seen = { person: string; name: string; at: number; body: unknown };

interface Shape extends DBSchema {
  outbox: { key: number; value: Row; indexes: { box: [string, string]; key: string } };
  cache: { key: [string, string]; value: Seen; indexes: { at: number } };
}

let opening: Promise<IDBPDatabase<Shape> | null> | null = null;

/** The database; null where the browser keeps nothing (a private window, or it was forbidden). */
function database(): Promise<IDBPDatabase<Shape> | null> {
  opening ??= open();
  return opening;
}
async function open(): Promise<IDBPDatabase<Shape> | null> {
  try {
    return await openDB<Shape>(NAME, VERSION, {
      upgrade(db) {
        const outbox = db.createObjectStore("outbox", { keyPath: "seq", autoIncrement: true });
        outbox.createIndex("box", ["person", "box"]);
        outbox.createIndex("key", "key");
        db.createObjectStore("cache", { keyPath: ["person", "name"] }).createIndex("at", "at");
      },
      blocking: (_now, _next, event) => {
        (event.target as IDBDatabase).close();
        opening = null;
      },
      terminated: () => (opening = null),
    });
  } catch {
    return null;
  }
}

/** Ask the browser not to clear this away when the device is short of room. */
export async function persist(): Promise<boolean> {
  try {
    return (await navigator.storage?.persist?.()) ?? false;
  } catch {
    return false;
  }
}

/**
 * Keep a write until the server has said yes. False where it could not be kept: it lives in the page only.
 */
export async function keep(row: Row, durability: "strict" | "relaxed" = "strict"): Promise<boolean> {
  const put = async () => {
    const db = await database();
    if (!db) return false;
    const tx = db.transaction("outbox", "readwrite", { durability });
    const seq = await tx.store.index("key").getKey(row.key);
    await tx.store.put(seq === undefined ? row : { ...row, seq });
    await tx.done;
    return true;
  };
  try {
    return await put();
  } catch {
    // Full: what was only read makes room for what was written.
    try {
      await (await database())?.clear("cache");
      return await put();
    } catch {
      return false;
    }
  }
}

export async function drop(key: string): Promise<void> {
  try {
    const db = await database();
    const seq = await db?.getKeyFromIndex("outbox", "key", key);
    if (db && seq !== undefined) await db.delete("outbox", seq);
  } catch {
    // It is sent again under its key when the page is opened next, and the server does it once.
  }
}

/** What waits of one person in one box, oldest first. */
export async function waiting(person: string, box: string): Promise<Row[]> {
  try {
    const rows = (await (await database())?.getAllFromIndex("outbox", "box", [person, box])) ?? [];
    return rows.sort((a, b) => a.seq! - b.seq!);
  } catch {
    return [];
  }
}

/** Whose writes wait on this device, and how many. */
export async function people(): Promise<Map<string, number>> {
  const counts = new Map<string, number>();
  try {
    for (const row of (await (await database())?.getAll("outbox")) ?? [])
      counts.set(row.person, (counts.get(row.person) ?? 0) + 1);
  } catch {
    // nothing can be read: nothing waits here
  }
  return counts;
}

/** Remember what was read, for when there is no connection; it may be cleared away at any time. */
export async function remember(person: string, name: string, body: unknown): Promise<void> {
  try {
    await (await database())?.put("cache", { person, name, at: Date.now(), body });
  } catch {
    // no room: it is read again when there is a connection
  }
}
/** What was remembered, and when it was read. */
export async function recall(person: string, name: string): Promise<{ at: number; body: unknown } | null> {
  try {
    return (await (await database())?.get("cache", [person, name])) ?? null;
  } catch {
    return null;
  }
}
/** What one person read is not for the next. */
export async function forget(person: string): Promise<void> {
  try {
    const db = await database();
    await db?.delete("cache", IDBKeyRange.bound([person, ""], [person, "\uffff"]));
  } catch {
    // nothing was kept
  }
}
