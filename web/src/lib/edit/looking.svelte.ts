// How a shot is looked at: which layer, planned or shot, at which frame, before or after the finish.
import { session } from "../session.svelte";

export class Looking {
  selected = $state<number | null>(null);
  basis = $state<"planned" | "shot">("shot");
  frame = $state(0);
  afterFinish = $state(true);
  asFilmed = $state(false);

  /** What a reading of the shot is asked with. */
  get reading() {
    return {
      school: session.school,
      units: session.units,
      basis: this.basis,
      selected: this.selected,
      frame: Math.round(this.frame),
      after_finish: this.afterFinish,
    } as const;
  }
}
