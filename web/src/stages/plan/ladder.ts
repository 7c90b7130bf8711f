import type { Step, Schemas } from "../../api/client";

export type Offer = Schemas["Offer"];
export type OfferName = Schemas["OfferName"];

/** A step as it is chosen: what with, and how often. */
export interface Choice {
  item: string;
  backing: string;
  passes: number;
}

export const offerWords: Record<OfferName, string> = {
  least_film: "least film",
  balanced: "balanced",
  least_time: "least time",
  partial: "as far as it goes",
  yours: "yours",
};

/** A way and all names that it goes by. */
export interface Ways {
  line: Schemas["OfferLine"];
  words: string;
  wish: string;
}

/** The ways that differ, each with all names that it goes by. */
export function distinct(offers: Schemas["OfferLine"][]): Ways[] {
  const out: Ways[] = [];
  for (const o of offers) {
    const same = out.find((w) => w.line.ladder === o.ladder);
    if (same) same.words += `, ${offerWords[o.name]}`;
    else out.push({ line: o, words: offerWords[o.name], wish: o.name === "yours" ? o.ladder : o.name });
  }
  return out;
}

/** A sequence as the server reads it. */
export function codeOf(choices: Choice[]): string {
  return choices.map((c) => `${c.item}${c.backing ? `@${c.backing}` : ""}*${c.passes}`).join(",");
}

/** The panel's own steps of an offer, without those of single sections. */
export function choicesOf(steps: Step[]): Choice[] {
  return steps.filter((s) => s.area === "").map(({ item, backing, passes }) => ({ item, backing, passes }));
}

export function keyOf(c: { item: string; backing: string }): string {
  return c.backing ? `${c.item}@${c.backing}` : c.item;
}

const deep = 50;
const place = (panelId: string) => `waxplanus.plan.undo.${panelId}`;

/** What was shown before each change of a ladder; it survives a reload. */
export const undone = {
  push(panelId: string, ladder: string): void {
    const list = this.list(panelId);
    if (list.at(-1) !== ladder) sessionStorage.setItem(place(panelId), JSON.stringify([...list, ladder].slice(-deep)));
  },
  pop(panelId: string): string | undefined {
    const list = this.list(panelId);
    const last = list.pop();
    sessionStorage.setItem(place(panelId), JSON.stringify(list));
    return last;
  },
  list(panelId: string): string[] {
    const kept: unknown = JSON.parse(sessionStorage.getItem(place(panelId)) ?? "[]");
    return Array.isArray(kept) ? kept.filter((v): v is string => typeof v === "string") : [];
  },
};
