// Pictures that another program writes into a folder, each handed over when it is whole, in the order in
// which they came.
const LOOKS_MS = 400;
const KIND = /\.(jpe?g|png|webp|tiff?|exr)$/i;
const NUMBER = new Intl.Collator("en", { numeric: true });

type Entry = { name: string; getFile(): Promise<File> };
export type Folder = { name: string; values(): AsyncIterable<{ kind: string; name: string }> };
type Asks = { showDirectoryPicker?: (how: object) => Promise<Folder> };

/** Whether this browser can look into a folder at all. */
export const looksIntoFolders = () => !!(window as Asks).showDirectoryPicker;
/** A folder that somebody chooses; null where nobody did. */
export async function chosen(): Promise<Folder | null> {
  try {
    return await (window as Asks).showDirectoryPicker!({ id: "frames", mode: "read" });
  } catch (error) {
    if ((error as DOMException).name === "AbortError") return null;
    throw error;
  }
}
export const inOrder = (files: readonly File[]) =>
  files.filter((one) => KIND.test(one.name)).sort((a, b) => NUMBER.compare(a.name, b.name));

async function filesIn(folder: Folder): Promise<File[]> {
  const found: File[] = [];
  for await (const entry of folder.values())
    if (entry.kind === "file" && KIND.test(entry.name)) {
      try {
        found.push(await (entry as unknown as Entry).getFile());
      } catch {
        // being written, or gone again: the next look tells
      }
    }
  return inOrder(found);
}

/** What a file was the last time somebody looked: it is whole when it is the same twice. */
const mark = (file: File) => `${file.size} ${file.lastModified}`;

/**
 * Look into a folder until `signal`: `there` is told what was in it at first, `came` is given every picture
 * that is written from then on, one after the other.
 */
export async function watch(
  folder: Folder,
  signal: AbortSignal,
  there: (files: File[]) => void,
  came: (file: File) => Promise<void>,
) {
  const known: Record<string, string> = {};
  const growing: Record<string, string> = {};
  const first = await filesIn(folder);
  for (const file of first) known[file.name] = mark(file);
  there(first);
  while (!signal.aborted) {
    await new Promise<void>((done) => window.setTimeout(done, LOOKS_MS));
    for (const file of await filesIn(folder)) {
      if (signal.aborted) return;
      const now = mark(file);
      if (known[file.name] === now) continue;
      if (file.size && growing[file.name] === now) {
        known[file.name] = now;
        delete growing[file.name];
        await came(file);
      } else growing[file.name] = now;
    }
  }
}
