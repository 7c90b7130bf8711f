import type { Hand } from "../api/client";
import type { KeptEntry } from "./useOutbox";

/** Taps that change neither sheet nor step. */
const unaltering = ["pass", "paper", "shave", "block"];

/** The figure while taps wait: by the table that the server sent ahead; null where it does not tell. */
export function ahead(hand: Hand, waiting: KeptEntry[]): { left: number; read: number; done: number } | null {
  const passes = waiting.filter((t) => t.body.kind === "pass").length;
  if (waiting.some((t) => t.body.step !== hand.step || !unaltering.includes(t.body.kind))) return null;
  if (passes === 0) return { left: hand.passes_left, read: hand.read_after, done: hand.passes_done };
  const at = hand.ahead[passes - 1];
  return at ? { left: at.passes_left, read: at.read_after, done: hand.passes_done + passes } : null;
}
