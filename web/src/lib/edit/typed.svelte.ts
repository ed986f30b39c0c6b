// A field that somebody is typing in keeps what is typed when its value changes under the hand: the new value
// is said beside it, and what is typed is saved over it or dropped with Escape.
import type { Attachment } from "svelte/attachments";
import { on } from "svelte/events";

type Typed = HTMLInputElement | HTMLTextAreaElement;

/** In place of `value={…}`; `stands` is what is saved. */
export function typed(stands: () => string): Attachment<Typed> {
  return (node) => {
    const field = node as HTMLInputElement;
    let typing = false;
    let now = "";

    function agree() {
      delete field.dataset.theirs;
      field.removeAttribute("aria-description");
    }
    function show() {
      if (field.value !== now) {
        // what was all selected is replaced by the next key, also when it has changed in between
        const all =
          document.activeElement === field &&
          field.selectionStart === 0 &&
          field.selectionEnd === field.value.length;
        field.value = now;
        if (all) field.select();
      }
      agree();
    }
    function rest() {
      typing = false;
      agree();
    }
    const heard = [
      on(field, "input", () => {
        typing = true;
        if (field.value === now) agree();
      }),
      on(field, "change", rest),
      on(field, "keydown", (event) => {
        if (event.key !== "Escape" || !typing) return;
        rest();
        show();
      }),
    ];
    $effect(() => {
      now = stands();
      if (!typing || document.activeElement !== field) {
        typing = false;
        show();
      } else if (field.value === now) agree();
      else {
        field.dataset.theirs = now;
        field.setAttribute("aria-description", `Somebody changed it to “${now}” meanwhile.`);
      }
    });
    return () => heard.forEach((off) => off());
  };
}
