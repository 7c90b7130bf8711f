import type { MarkKind } from "../api/client";

export type Field = "class" | "size" | "crest" | "grade" | "density" | "length" | "width" | "diameter" | "angle";

export interface KindInfo {
  kind: MarkKind;
  key: string;
  label: string;
  /** In the first row of keys. */
  main: boolean;
  fields: Field[];
}

/** The kinds with their keys, in the order in which they are offered. */
export const kinds: KindInfo[] = [
  { kind: "nib", key: "n", label: "nib", main: true, fields: ["class", "diameter"] },
  { kind: "run", key: "r", label: "run", main: true, fields: ["crest", "class", "length", "width", "angle"] },
  { kind: "peel", key: "p", label: "peel", main: true, fields: ["grade", "length", "width"] },
  { kind: "pit", key: "i", label: "pit", main: true, fields: ["class", "size", "density", "length", "width"] },
  { kind: "scratch", key: "s", label: "scratch", main: true, fields: ["class", "size", "length", "angle"] },
  { kind: "etch", key: "e", label: "etch", main: true, fields: ["class", "size", "diameter"] },
  { kind: "overspray", key: "d", label: "dust", main: true, fields: ["length", "width"] },
  { kind: "dull", key: "h", label: "dull", main: true, fields: ["length", "width"] },
  { kind: "sag", key: "g", label: "sag", main: false, fields: ["crest", "class", "length", "width", "angle"] },
  { kind: "crater", key: "c", label: "crater", main: false, fields: ["class", "size", "diameter"] },
  { kind: "curl", key: "o", label: "curl", main: false, fields: ["class", "length", "width"] },
  { kind: "thin_edge", key: "t", label: "thin edge", main: false, fields: ["length", "angle"] },
  { kind: "through", key: "x", label: "through", main: false, fields: ["diameter"] },
];

export function infoOf(kind: MarkKind): KindInfo {
  const found = kinds.find((k) => k.kind === kind);
  if (!found) throw new Error(`no kind ${kind}`);
  return found;
}

/** The classes of height or depth, and what they are called at the panel. */
export const classes = {
  seen: "seen only",
  felt: "felt",
  catches: "catches",
  colour: "to the colour",
} as const;

/** Kinds that may go down to the colour. */
export const below: MarkKind[] = ["pit", "crater", "scratch", "etch", "curl"];

export const founds = { booth: "booth", workshop: "workshop", sun: "sun", hand: "by hand" } as const;
