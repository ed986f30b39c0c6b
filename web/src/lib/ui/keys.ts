// Single letters act only where nothing is being typed, and not at all when the person has switched them off.
import { session } from "../session.svelte";

const TYPING =
  "input:not([type=button]):not([type=checkbox]), textarea, [contenteditable=true], " +
  "[role=listbox], [aria-haspopup=listbox]"; // letters find in a list

/**
 * Whether a letter pressed now belongs to a field. A field of a dialog that is closing takes no more letters.
 */
export function typing(event: KeyboardEvent): boolean {
  const target = event.target;
  if (!(target instanceof Element) || target.closest("[role=dialog][data-state=closed]")) return false;
  return target.closest(TYPING) !== null;
}

// Fields that somebody has typed in and not left yet.
const halfTyped = new WeakSet<EventTarget>();
document.addEventListener("input", (event) => event.target && halfTyped.add(event.target), true);
for (const kind of ["change", "focusout"])
  document.addEventListener(kind, (event) => event.target && halfTyped.delete(event.target), true);

/** Whether this press takes the last change back: Ctrl Z, but in a half-typed field it is the field's own. */
export function undoes(event: KeyboardEvent): boolean {
  if (!(event.ctrlKey || event.metaKey) || event.shiftKey || event.key.toLowerCase() !== "z") return false;
  if (event.target && halfTyped.has(event.target)) return false;
  event.preventDefault();
  return true;
}

/** The single letter that this press means, or "" when letters must not act. */
export function letter(event: KeyboardEvent): string {
  if (event.ctrlKey || event.metaKey || event.altKey || typing(event) || !session.person?.single_keys)
    return "";
  if (document.querySelector("[role=dialog]:not([data-state=closed])")) return "";
  return event.key.length === 1 ? event.key : "";
}
