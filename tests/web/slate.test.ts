// A take's id stays with it until it is logged, and its code holds what the house says.
import { close, drawn, open, openedOf, textOf } from "../../web/src/features/log/slate";

const SAYS = "JO:{code}:{shot}:{layer}:{take}";

test("showing the slate opens the take once, and it is another one when that is logged", () => {
  localStorage.clear();
  const first = open(4, 3);
  expect(first.code).toMatch(/^[2-9A-HJ-NP-Z]{8}$/);
  expect([open(4, 7), openedOf(4)]).toEqual([first, first]);
  expect(open(5, 1).code).not.toBe(first.code);
  close(4);
  expect(openedOf(4)).toBeNull();
  expect(open(4, 4).code).not.toBe(first.code);
});

test("what the code says fits into it, whatever the shot is called", () => {
  const of = { code: "7F3K9Q2W", number: 12 };
  expect(textOf(SAYS, of, "TM010", 3)).toBe("JO:7F3K9Q2W:TM010:3:12");
  for (const shot of ["TM010", "tm 010-b", "Zwölf", "a:b", "x".repeat(16), ""]) {
    const text = textOf(SAYS, of, shot, 123456789);
    expect(drawn(text).length).toBeGreaterThan(1000);
    expect(text.split(":")).toHaveLength(5);
  }
});

test("what was remembered badly is as if nothing was", () => {
  localStorage.setItem("jungoptic.slate.9", "{");
  expect(openedOf(9)).toBeNull();
});
