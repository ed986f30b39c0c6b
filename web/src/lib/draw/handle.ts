// One handle for everything that is dragged: a pointer takes it, moves it and lets it go; arrow keys step it.
import type { Attachment } from "svelte/attachments";
import { on } from "svelte/events";
import { begin, end } from "./pace";

const SETTLE_MS = 350;
const STEPS: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  PageUp: [0, 1],
  PageDown: [0, -1],
};

/** A way on the screen in px, x to the right and y upwards. */
export type Way = { x: number; y: number };

export type Hand = {
  /** Whether it can be held now; it can where this is not said. */
  able?: () => boolean;
  /** How far the pointer must go before it counts as moved, px. */
  slack?: number;
  /** It is in the hand: by pointer, or before each step of a key. */
  take?: (event: PointerEvent | KeyboardEvent) => void;
  /** How far it is from where it was taken. */
  move: (way: Way, event: PointerEvent) => void;
  /** It was let go. */
  drop: (moved: boolean) => void;
  /** An arrow key: one to a side, or up; `big` with Shift or a page key. */
  step?: (way: Way, big: boolean) => void;
  /** Home or End. */
  end?: (last: boolean) => void;
  /** Keys have rested after a step. */
  settle?: () => void;
  /** Escape, or the pointer was taken away: as it was before. */
  cancel?: () => void;
};

/** Makes an element one that a hand can hold. */
export function handle(hand: Hand): Attachment<HTMLElement | SVGElement> {
  return (node) => {
    const element = node as HTMLElement; // both hear the same events
    let grip: { x: number; y: number; moved: boolean } | null = null;
    let settling = 0;
    // Where the pointer has gone since the last picture: a picture shows one place, however many it passed.
    let gone: PointerEvent | null = null;
    let drawing = 0;

    function down(event: PointerEvent) {
      if (event.button || (hand.able && !hand.able())) return;
      // Before the pointer is caught, the browser would begin to mark text or to scroll.
      event.preventDefault();
      element.setPointerCapture(event.pointerId);
      element.focus();
      grip = { x: event.clientX, y: event.clientY, moved: false };
      gone = null; // of a hand that was taken away
      begin();
      hand.take?.(event);
    }
    function moving(event: PointerEvent) {
      if (!grip) return;
      gone = event;
      drawing ||= requestAnimationFrame(move);
    }
    function move() {
      cancelAnimationFrame(drawing);
      drawing = 0;
      const event = gone;
      gone = null;
      if (!grip || !event) return;
      const way = { x: event.clientX - grip.x, y: grip.y - event.clientY };
      if (!grip.moved && Math.hypot(way.x, way.y) < (hand.slack ?? 0)) return;
      grip.moved = true;
      hand.move(way, event);
    }
    function up() {
      move();
      if (!grip) return;
      const { moved } = grip;
      grip = null;
      end();
      hand.drop(moved);
    }
    function lost() {
      if (!grip) return;
      grip = null;
      end();
      (hand.cancel ?? (() => hand.drop(false)))();
    }
    function key(event: KeyboardEvent) {
      if (event.key === "Escape" && hand.cancel) {
        if (grip) end();
        grip = null;
        window.clearTimeout(settling);
        hand.cancel();
        return;
      }
      const way = STEPS[event.key];
      const ends = hand.end && (event.key === "Home" || event.key === "End");
      if (!(way && hand.step) && !ends) return;
      if (hand.able && !hand.able()) return;
      event.preventDefault();
      hand.take?.(event);
      if (ends) hand.end!(event.key === "End");
      else hand.step!({ x: way![0], y: way![1] }, event.shiftKey || event.key.startsWith("Page"));
      window.clearTimeout(settling);
      if (hand.settle) settling = window.setTimeout(hand.settle, SETTLE_MS);
    }

    const heard = [
      on(element, "pointerdown", down),
      on(element, "pointermove", moving),
      on(element, "pointerup", up),
      on(element, "pointercancel", lost),
      on(element, "keydown", key),
    ];
    return () => {
      cancelAnimationFrame(drawing);
      if (grip) end();
      heard.forEach((off) => off());
    };
  };
}

/** Handles of many things alike, one for each key: the same one however often the drawing is drawn. */
export function handles<K>(hand: (key: K) => Hand): (key: K) => ReturnType<typeof handle> {
  const made = new Map<K, ReturnType<typeof handle>>();
  return (key) => {
    if (!made.has(key)) made.set(key, handle(hand(key)));
    return made.get(key)!;
  };
}
