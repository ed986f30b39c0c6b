// One shot opened for the supervisor, and a hand on its set-up.
import { BenchState } from "../../web/src/lib/edit/shot.svelte";
import { speakFor } from "../../web/src/lib/api/client";
import { session } from "../../web/src/lib/session.svelte";

export const SET_UP = 7;

export function supervises() {
  session.person = { username: "supervisor" } as never;
  speakFor("supervisor");
}
export async function opened() {
  const bench = new BenchState(1);
  await bench.load();
  return bench;
}
export function turn(bench: BenchState, fields: Record<string, unknown>) {
  bench.trial.remember();
  bench.try("set_ups", SET_UP, fields);
}
