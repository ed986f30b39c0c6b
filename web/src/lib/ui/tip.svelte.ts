// What more there is to say of a thing: shown while the pointer rests on it or the keyboard is there. One
// tooltip serves the whole page, so that two hundred lines cost no more than one.
import type { Attachment } from "svelte/attachments";
import { on } from "svelte/events";

const REST_MS = 500;
export const TIP_ID = "tip";

class Tip {
  anchor = $state.raw<HTMLElement | null>(null);
  text = $state("");
  open = $state(false);
  #coming = 0;

  show(anchor: HTMLElement, text: string, after = 0) {
    window.clearTimeout(this.#coming);
    this.#coming = window.setTimeout(() => {
      this.anchor = anchor;
      this.text = text;
      this.open = true;
      anchor.setAttribute("aria-describedby", TIP_ID);
    }, after);
  }
  hide(anchor: HTMLElement) {
    window.clearTimeout(this.#coming);
    if (this.anchor !== anchor) return;
    this.open = false;
    anchor.removeAttribute("aria-describedby");
  }
}
export const shownTip = new Tip();

/** In place of `title={…}`; nothing where there is nothing to say. */
export function tip(say: () => string | null | undefined): Attachment<HTMLElement> {
  return (element) => {
    const show = (after: number) => {
      const text = say();
      if (text) shownTip.show(element, text, after);
    };
    const hide = () => shownTip.hide(element);
    const heard = [
      on(element, "pointerenter", (event) => event.pointerType === "mouse" && show(REST_MS)),
      on(element, "pointerleave", hide),
      on(element, "pointerdown", hide),
      on(element, "focusin", () => element.matches(":focus-visible") && show(0)),
      on(element, "focusout", hide),
      on(element, "keydown", (event) => event.key === "Escape" && hide()),
    ];
    return () => {
      hide();
      heard.forEach((off) => off());
    };
  };
}
