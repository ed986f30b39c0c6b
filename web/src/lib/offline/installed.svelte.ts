// The program on this device: the service worker that serves it where there is no server, and a newer one
// that waits.
import { Workbox } from "workbox-window";

class Installed {
  /** Whether pages open here without a server. */
  ready = $state(false);
  /** A newer program is here, and waits until nobody has the older one open. */
  newer = $state(false);
  /** Why it cannot be; "" while it can. */
  why = $state("");
  #worker: Workbox | null = null;

  begin() {
    if (!import.meta.env.PROD) return;
    if (!("serviceWorker" in navigator)) {
      this.why = window.isSecureContext
        ? "This browser keeps no program for later."
        : "Only an address that begins with https is kept: see how a telephone comes here.";
      return;
    }
    const worker = new Workbox("/sw.js");
    this.#worker = worker;
    worker.addEventListener("waiting", () => (this.newer = true));
    worker.addEventListener("controlling", () => window.location.reload());
    void navigator.serviceWorker.ready.then(() => (this.ready = true));
    worker.register().catch(() => (this.why = "This device could not keep the program."));
  }
  /** Go on with the newer one. */
  renew() {
    this.#worker?.messageSkipWaiting();
  }
}

export const installed = new Installed();
