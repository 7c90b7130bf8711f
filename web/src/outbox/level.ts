import type { Entry, Hand, Schemas } from "../api/client";
import type { KeptEntry, KeptUndo } from "./useOutbox";

type Tap = Schemas["NewEntry"];

/** Taps that change neither sheet nor step. */
const unaltering: Tap["kind"][] = ["pass", "paper", "shave", "block"];

/** Taps after which another step is in hand, or none. */
const ending: Tap["kind"][] = ["done", "rest", "back", "through", "colour"];

/** What of a section has not arrived: its taps that stand, and entries of the server's log that are taken back. */
export interface Waiting {
  taps: Tap[];
  back: Entry[];
  /** The last thing done here that is not taken back. */
  last: Entry | Tap | undefined;
}

export function waiting(log: Entry[], section: string, entries: KeptEntry[], undone: KeptUndo[]): Waiting {
  const gone = new Set(undone.map((u) => u.entry));
  const arrived = log.filter((e) => e.section === section && !e.struck_at);
  const taps = entries.map((t) => t.body).filter((t) => t.section === section && !gone.has(t.id) && !log.some((e) => e.id === t.id));
  return { taps, back: arrived.filter((e) => gone.has(e.id)), last: taps.at(-1) ?? arrived.filter((e) => !gone.has(e.id)).at(-1) };
}

/** Whether a step ends with what waits: what is tapped now would be of another. */
export const ends = (w: Waiting): boolean => w.taps.some((t) => ending.includes(t.kind));

/**
 * The figure while taps wait: by the table that the server sent ahead; null where it does
 * not tell. A pass that is taken back gives nothing before the server has heard of it.
 */
export function ahead(hand: Hand, w: Waiting): { left: number; read: number; done: number } | null {
  if ([...w.taps, ...w.back].some((t) => t.step !== hand.step || !unaltering.includes(t.kind))) return null;
  const passes = [w.taps, w.back].map((all) => all.filter((t) => t.kind === "pass").length);
  const net = (passes[0] ?? 0) - (passes[1] ?? 0);
  if (net <= 0) return { left: hand.passes_left, read: hand.read_after, done: hand.passes_done + net };
  const at = hand.ahead[net - 1];
  return at ? { left: at.passes_left, read: at.read_after, done: hand.passes_done + net } : null;
}
