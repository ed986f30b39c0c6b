// A field that somebody types in while its value changes under the hand.
import { flushSync } from "svelte";
import { typed } from "../../web/src/lib/edit/typed.svelte";
import { Asking } from "../../web/src/lib/edit/asking.svelte";

/** A field whose value stands in something that is followed: the first problem of an asking. */
function field() {
  const stands = new Asking();
  const say = (message: string) => {
    stands.problems = [{ field: "", message }];
    flushSync();
  };
  say("Quay");
  const input = document.createElement("input");
  document.body.append(input);
  const stop = $effect.root(() => {
    typed(() => stands.said)(input);
  });
  flushSync();
  return { input, say, stop };
}

afterEach(() => document.body.replaceChildren());

test("a value is shown, and changes while nobody types", () => {
  const { input, say } = field();
  expect(input.value).toBe("Quay");
  say("Harbour");
  expect(input.value).toBe("Harbour");
});

test("what is typed stays when somebody else changes it, and theirs is said beside it", () => {
  const { input, say } = field();
  input.focus();
  input.value = "Qua";
  input.dispatchEvent(new Event("input"));
  say("Harbour");
  expect([input.value, input.dataset.theirs]).toEqual(["Qua", "Harbour"]);
  expect(input.getAttribute("aria-description")).toContain("Harbour");
  input.dispatchEvent(new Event("change"));
  expect(input.dataset.theirs).toBeUndefined();
});

test("once both say the same nothing is said beside it any more", () => {
  const { input, say } = field();
  const type = (text: string) => {
    input.value = text;
    input.dispatchEvent(new Event("input"));
  };
  input.focus();
  type("Harb");
  say("Harbour");
  type("Harbour");
  expect(input.dataset.theirs).toBeUndefined();
  type("Harbour wall");
  say("Quay");
  expect(input.dataset.theirs).toBe("Quay");
  say("Harbour wall");
  expect(input.hasAttribute("aria-description")).toBe(false);
});

test("Escape drops what is typed and shows what stands now", () => {
  const { input, say } = field();
  input.focus();
  input.value = "Qua";
  input.dispatchEvent(new Event("input"));
  say("Harbour");
  input.dispatchEvent(new KeyboardEvent("keydown", { key: "Escape" }));
  expect([input.value, input.dataset.theirs]).toEqual(["Harbour", undefined]);
});

test("what is all selected stays so when its value changes, and is replaced by what is typed next", () => {
  const { input, say } = field();
  input.focus();
  input.select();
  say("Harbour");
  expect([input.selectionStart, input.selectionEnd]).toEqual([0, "Harbour".length]);
  input.setSelectionRange(2, 2);
  say("Harbour");
  expect(input.selectionStart).toBe(2);
});
