import type { PanelFacts, Schemas } from "../../api/client";

export type Facts = Record<string, PanelFacts>;

/** A car that is being taken in; kept on this device until it is in. */
export interface Draft {
  name: string;
  painter: string;
  colour: Schemas["Colour"];
  body: string;
  size: { length_mm?: number; width_mm?: number; height_mm?: number };
  outline: Schemas["OutlineFile"] | null;
  like: string;
  words: string;
  cost: number;
  hours: number;
  facts: Facts;
}

export const fresh: Draft = { name: "", painter: "", colour: "medium", body: "", size: {}, outline: null, like: "", words: "", cost: 0, hours: 0, facts: {} };

const stored = "waxplanus.takein";

export function loadDraft(): Draft {
  try {
    return { ...fresh, ...(JSON.parse(localStorage.getItem(stored) ?? "{}") as Partial<Draft>) };
  } catch {
    return fresh;
  }
}

export function keepDraft(draft: Draft): void {
  localStorage.setItem(stored, JSON.stringify(draft));
}

export function dropDraft(): void {
  localStorage.removeItem(stored);
}

/** Panels of which the same was said. */
export interface Group {
  facts: PanelFacts;
  keys: string[];
}

/** The groups, the largest first; what nobody said anything of comes last. */
export function groupsOf(facts: Facts, keys: string[]): Group[] {
  const groups = new Map<string, Group>();
  for (const key of keys) {
    const said = facts[key] ?? {};
    const name = JSON.stringify(Object.entries(said).sort(([a], [b]) => a.localeCompare(b)));
    const group = groups.get(name);
    if (group) group.keys.push(key);
    else groups.set(name, { facts: said, keys: [key] });
  }
  const silent = (g: Group) => (Object.keys(g.facts).length === 0 ? 1 : 0);
  return [...groups.values()].sort((a, b) => silent(a) - silent(b) || b.keys.length - a.keys.length);
}

export const origins = { factory: "factory", here: "here", elsewhere: "elsewhere", unknown: "not known" } as const;
export const layers = { clear: "clear over colour", single: "colour only" } as const;
export const aims = { nibs: "nibs only", match: "match", flat: "flat", polish: "polish only" } as const;
export const cures = { air: "air", baked: "baked", unknown: "not known" } as const;
export const substrates = { steel: "steel", aluminium: "aluminium", plastic: "plastic" } as const;
export const unders = { new: "new or bare part", over: "over the old finish", unknown: "not known" } as const;
export const pasts = { polished: "polished", repaired: "repaired", outside: "kept outside" } as const;

/** A group in a few words. */
export function inWords(facts: PanelFacts): string {
  if (Object.keys(facts).length === 0) return "nothing said yet";
  const out: string[] = [];
  if (facts.origin) out.push(facts.layers === "single" ? `${origins[facts.origin]}, colour only` : origins[facts.origin]);
  if (facts.substrate === "plastic") out.push("plastic");
  if (facts.coats) out.push(`${facts.coats} coats`);
  if (facts.aim) out.push(aims[facts.aim]);
  return out.join(", ") || "said";
}
