import type { BodyPanel, PanelFacts } from "../../api/client";
import type { Shape } from "../../drawing/geometry";
import type { Keys } from "../../app/keys";
import type { Facts } from "./draft";

/** A panel as it is drawn, and the side it is on. */
export type SidePanel = Shape & Pick<BodyPanel, "side">;

/** Keys that take panels in hand. */
export function handKeys(panels: SidePanel[], facts: Facts, hand: string[], setHand: (keys: string[]) => void): Keys {
  return {
    s: () => {
      const last = panels.find((p) => p.key === hand.at(-1)) ?? panels.find((p) => p.side === "left");
      if (last) setHand(panels.filter((p) => p.side === last.side).map((p) => p.key));
    },
    a: () => setHand(panels.filter((p) => Object.keys(facts[p.key] ?? {}).length === 0).map((p) => p.key)),
  };
}

/** What is said alike of all the panels in hand. */
export function alike(facts: Facts, hand: string[]): PanelFacts {
  const [first = {}, ...rest] = hand.map((k) => facts[k] ?? {});
  const same = ([field, value]: [string, unknown]) => rest.every((f) => JSON.stringify(f[field as keyof PanelFacts]) === JSON.stringify(value));
  return Object.fromEntries(Object.entries(first).filter(same)) as PanelFacts;
}

export const helpKeys = [
  { keys: "1–9, 0", does: "body" },
  { keys: "arrows, Space", does: "go to panels, take them in hand" },
  { keys: "S", does: "the whole side" },
  { keys: "A", does: "all left over" },
  { keys: "Y", does: "said to the owner" },
  { keys: "Enter", does: "take in, or keep" },
];
