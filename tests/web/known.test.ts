// What a moving hand does not wait for stays as it was known.
import type { Bench } from "../../web/src/lib/api/client";
import { stillKnown } from "../../web/src/lib/edit/known";

const fix = (label: string) => ({ label, changes: {}, new_layer: null });
const bench = (...layers: [number, Record<string, string[] | null>][]) =>
  ({
    selected: { layer_id: 1, placings: [] },
    layers: layers.map(([id, items]) => ({
      id,
      items: Object.entries(items).map(([item, fixes]) => ({ item, fixes: fixes?.map(fix) ?? null })),
    })),
  }) as unknown as Bench;
const fixes = (found: Bench, at: number) =>
  Object.fromEntries(
    found.layers[at]!.items.map((one) => [one.item, one.fixes?.map(({ label }) => label) ?? null]),
  );

it("keeps the fixes of the layer that is looked at while they are searched for, and no others", () => {
  const before = bench(
    [1, { spill: ["Sheet 3 m behind"], focus: ["f/11"], time: null }],
    [2, { spill: ["Sheet 4 m behind"] }],
  );
  const found = stillKnown(
    bench([1, { spill: null, focus: ["f/16"], time: null, edge: null }], [2, { spill: null }]),
    before,
  );
  expect(fixes(found, 0)).toEqual({
    spill: ["Sheet 3 m behind"],
    focus: ["f/16"],
    time: null,
    edge: null,
  });
  expect(fixes(found, 1)).toEqual({ spill: null });
});
