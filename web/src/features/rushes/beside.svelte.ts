// Another take laid over the one on the table: which, how, as it came or by the transform that was measured.
import { answered, client, type Schemas } from "../../lib/api/client";
import { Asking } from "../../lib/edit/asking.svelte";
import { session } from "../../lib/session.svelte";

export type Mode = "wipe" | "blink" | "mix" | "difference";
export const MODES: readonly (readonly [Mode, string])[] = [
  ["wipe", "Wipe"],
  ["blink", "Blink"],
  ["mix", "Mix"],
  ["difference", "Difference"],
];
type Rush = Schemas["RushOut"];

/** Of a picture that moved so against the other: how the other is laid onto it, in shares of its own size. */
export function laidBy(rush: Rush, other: number): string {
  const row = rush.measured.find((one) => one.what === "still" && one.against_id === other);
  if (!row) return "";
  const amount = (name: string) => row.amounts.find((one) => one.name === name)?.value ?? 0;
  const right = (100 * amount("right")) / rush.delivered_px;
  const down = (100 * amount("down") * rush.width_px) / (rush.delivered_px * rush.height_px);
  const size = 1 + amount("size") / 100;
  return `translate(${right}%, ${down}%) rotate(${amount("turn")}deg) scale(${size})`;
}

export class Beside {
  other = $state.raw<Rush | null>(null);
  mode = $state<Mode>("wipe");
  /** Whether it is laid on by what was measured between the two. */
  laid = $state(false);
  /** Where the wipe stands, share of the width. */
  at = $state(0.5);
  /** By how much a difference is amplified. */
  times = $state(8);
  #turn = 0;

  async choose(recording: number) {
    const turn = ++this.#turn;
    if (!recording) {
      this.other = null;
      return;
    }
    const found = await new Asking().read(() =>
      answered(
        client.GET("/api/recordings/{recording_id}/rush", {
          params: {
            path: { recording_id: recording },
            query: { units: session.units, school: session.school },
          },
        }),
      ),
    );
    if (turn === this.#turn) this.other = found ?? null;
  }
}
