import type { Entry, Hand, Level, Step } from "../../api/client";

/** How an entry of the log is told, and what its undo is called. */
export const entryWords: Record<Entry["kind"], { told: string; undo: string }> = {
  pass: { told: "a pass", undo: "pass" },
  paper: { told: "paper changed", undo: "paper" },
  done: { told: "step done", undo: "done" },
  shiny: { told: "looked", undo: "look" },
  override: { told: "a pass over the stop", undo: "override" },
  scrape: { told: "a scraping sound", undo: "scrape" },
  colour: { told: "colour in the slurry", undo: "colour" },
  through: { told: "through", undo: "through" },
  back: { told: "back to this grit", undo: "going back" },
  shave: { told: "a stroke of the blade", undo: "stroke" },
  block: { told: "a pass of the block", undo: "block" },
  rest: { told: "the rest planned anew", undo: "new rest" },
};

/** Whether a step is one of a pad. */
export const padded = (s: Step | undefined): boolean => s?.kind === "compound" || s?.kind === "polish";

/** An entry of a step in words, with what was seen or why. */
export function told(e: Entry, step?: Step): string {
  if (e.kind === "shiny" && padded(step)) return `${((e.share ?? 0) * 100).toFixed(0)} % of the swirls left`;
  if (e.kind === "shiny") return `${((e.share ?? 0) * 100).toFixed(0)} % still shiny`;
  if (e.kind === "rest") return entryWords.rest.told;
  return entryWords[e.kind].told + (e.reason ? ` (${e.reason})` : "");
}

/** Whether no pass may be made that the step still wants. */
export function stopped(hand: Hand): boolean {
  return hand.locked || (hand.passes_granted === 0 && hand.passes_needed > 0);
}

/** Whether all steps are done on all sections. */
export const allThrough = (level: Level): boolean => level.sections.every((s) => s.done);
