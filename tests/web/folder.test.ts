// A folder that another program writes into: each picture is handed over once, whole, and in order.
import { inOrder, watch, type Folder } from "../../web/src/features/frames/folder";

type Written = { size: number; at: number };
let files: Record<string, Written> = {};
const folder = {
  name: "tether",
  async *values() {
    for (const [name, { size, at }] of Object.entries(files)) {
      const getFile = async () => new File(["x".repeat(size)], name, { lastModified: at });
      yield { kind: "file", name, getFile };
    }
  },
} as unknown as Folder;

beforeEach(() => vi.useFakeTimers());
afterEach(() => vi.useRealTimers());
const looks = async (count: number) => {
  for (let i = 0; i < count; i++) await vi.advanceTimersByTimeAsync(400);
};

test("what lay there is told, and what is written is handed over when it has stopped growing", async () => {
  files = { "f_2.jpg": { size: 4, at: 1 }, "f_10.jpg": { size: 4, at: 1 }, "notes.txt": { size: 4, at: 1 } };
  const there: string[] = [];
  const came: [string, number][] = [];
  const going = new AbortController();
  const ends = watch(
    folder,
    going.signal,
    (found) => there.push(...found.map((one) => one.name)),
    async (file) => void came.push([file.name, file.size]),
  );
  await looks(3);
  expect([there, came]).toEqual([["f_2.jpg", "f_10.jpg"], []]);
  files["f_12.jpg"] = { size: 3, at: 5 };
  await looks(1);
  files["f_12.jpg"] = { size: 9, at: 6 }; // still being written
  files["f_11.jpg"] = { size: 7, at: 6 };
  await looks(1);
  expect(came).toEqual([]);
  await looks(2);
  expect(came).toEqual([
    ["f_11.jpg", 7],
    ["f_12.jpg", 9],
  ]);
  files["f_11.jpg"] = { size: 8, at: 9 }; // written over: another picture
  await looks(4);
  expect(came.slice(2)).toEqual([["f_11.jpg", 8]]);
  going.abort();
  await looks(1);
  await ends;
});

test("names are put in order by their numbers", () => {
  const names = ["b_1.exr", "a_10.tif", "a_9.tif", "a_9.xmp"].map((name) => new File([], name));
  expect(inOrder(names).map((one) => one.name)).toEqual(["a_9.tif", "a_10.tif", "b_1.exr"]);
});
