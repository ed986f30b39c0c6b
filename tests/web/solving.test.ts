// Settings that are searched for: nobody waits for what was stopped, and a late answer opens nothing again.
import { Solving } from "../../web/src/features/bench/solving.svelte";
import { opened, supervises } from "./hand";
import { here, quiet } from "./server";

beforeEach(supervises);

test("what is stopped is not waited for, on either side", async () => {
  const bench = await opened();
  bench.bench = { ...bench.bench!, layers: [{ id: 3 }] } as never;
  bench.looking.selected = 3;
  const solving = new Solving(bench);
  const seen = () => [solving.found?.busy, solving.found?.problem, solving.scales];
  here.server.hold("/solve");
  for (const end of [() => solving.stop(), () => solving.close()]) {
    void solving.solve();
    await quiet();
    expect(seen()).toEqual([true, "", null]);
    end();
    await quiet();
    expect(seen()).toEqual([undefined, undefined, null]);
  }
  expect(here.server.left).toHaveLength(2);
  here.server.letGo();
  await quiet();
  expect(seen()).toEqual([undefined, undefined, null]);
  bench.close();
});
