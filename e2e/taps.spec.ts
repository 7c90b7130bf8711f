import { expect, test } from "@playwright/test";
import type { Entry, Hand } from "../web/src/api/client";
import type { KeptEntry, KeptUndo } from "../web/src/outbox/useOutbox";
import { ahead, ends, waiting } from "../web/src/outbox/level";

const entry = (id: string, kind = "pass", more: Partial<Entry> = {}) => ({ id, kind, section: "a", step: 1, ...more }) as Entry;
const kept = (id: string, kind = "pass", section = "a") => ({ what: "entry", id, panel: "p", made: 0, no: 1, body: { id, kind, section, step: 1, plan: "", person: "Tove" } }) as KeptEntry;
const undo = (of: string) => ({ what: "undo", id: `undo-${of}`, entry: of, panel: "p", made: 0, no: 2 }) as KeptUndo;
const hand = { step: 1, passes_left: 5, read_after: 3, passes_done: 2, ahead: [4, 3, 2].map((left) => ({ passes_left: left, read_after: Math.max(left - 2, 0) })) } as unknown as Hand;
const log = [entry("one"), entry("two"), entry("beside", "pass", { section: "b" })];

test("taps that wait count at once, each once, and on their own section", () => {
  const w = waiting(log, "a", [kept("two"), kept("three"), kept("other", "pass", "b")], []);
  expect(w.taps.map((t) => t.id)).toEqual(["three"]); // "two" has arrived
  expect(w.last?.id).toBe("three");
  expect(ahead(hand, w)).toEqual({ left: 4, read: 2, done: 3 });
});

test("undo takes back what was tapped last, arrived or not, and gives nothing before it has arrived", () => {
  const waits = waiting(log, "a", [kept("three")], [undo("three")]);
  expect(waits.last?.id).toBe("two");
  expect(ahead(hand, waits)).toEqual({ left: 5, read: 3, done: 2 });
  const arrived = waiting(log, "a", [], [undo("two")]);
  expect(arrived.last?.id).toBe("one");
  expect(ahead(hand, arrived)).toEqual({ left: 5, read: 3, done: 1 });
  expect(ahead(hand, waiting(log, "a", [kept("three")], [undo("two")]))).toEqual({ left: 5, read: 3, done: 2 });
  expect(waiting(log, "a", [], [undo("two"), undo("one")]).last).toBeUndefined();
});

test("no figure is told that the server has not sent ahead", () => {
  const many = ["3", "4", "5", "6"].map((id) => kept(id));
  expect(ahead(hand, waiting(log, "a", many, []))).toBeNull();
  expect(ahead(hand, waiting(log, "a", [kept("3", "shiny")], []))).toBeNull();
  expect(ahead({ ...hand, step: 2 }, waiting(log, "a", [kept("3")], []))).toBeNull();
});

test("after a tap that ends the step nothing more is counted on it", () => {
  for (const kind of ["done", "rest", "back", "through", "colour"]) expect(ends(waiting(log, "a", [kept("3", kind)], []))).toBe(true);
  for (const kind of ["pass", "paper", "shiny", "scrape"]) expect(ends(waiting(log, "a", [kept("3", kind)], []))).toBe(false);
  expect(ends(waiting(log, "a", [kept("3", "done")], [undo("3")]))).toBe(false);
});
