// A foot pedal sends a key, and any key can be the one that takes: this device remembers which.
import { prefer, preferred } from "../../lib/offline/preferences";

export class Pedal {
  code = $state(preferred("pedal") ?? "");
  /** The next key that is pressed is the pedal's. */
  asks = $state(false);

  heard(code: string | null) {
    this.asks = false;
    if (code !== null) this.set(code);
  }
  set(code: string) {
    this.code = code;
    prefer("pedal", code || null);
  }
}
