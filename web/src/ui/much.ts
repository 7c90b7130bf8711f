import type { Schemas } from "../api/client";

type Unit = Schemas["StockUnit"];

/** So much of a thing of the shelf: pieces, ml or m. */
export function much(v: number, unit: Unit): string {
  return unit === "ml" || unit === "m" ? `${v.toFixed(0)} ${unit}` : Number(v.toFixed(1)).toString();
}

/** A unit as it stands beside a count of many. */
export const units: Record<Unit, string> = { sheet: "sheets", disc: "discs", pad: "pads", ml: "ml", m: "m" };
