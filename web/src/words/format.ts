import type { Estimate } from "../api/client";

/** µm as far as they are known: one decimal below ten, none above. */
export function um(v: number): string {
  return Math.abs(v) < 9.95 ? v.toFixed(1) : v.toFixed(0);
}

export function plusMinus(e: Estimate): string {
  return `${um(e.mean)} ± ${um(e.sd)}`;
}

/** Headroom, or the word for having none. */
export function room(v: number | undefined): string {
  if (v === undefined) return "";
  return v > 0 ? um(v) : "none";
}

export function capital(s: string): string {
  return s.charAt(0).toUpperCase() + s.slice(1);
}

export function count(n: number, what: string): string {
  if (n === 1) return `1 ${what}`;
  if (/(s|ch)$/.test(what)) return `${n} ${what}es`;
  return what.includes(",") || what.endsWith("y") ? `${n} ${what}` : `${n} ${what}s`;
}

export function clock(at: Date): string {
  return at.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
}

/** A body type as it is said. */
export function bodyName(type: string): string {
  const said: Record<string, string> = { coupe: "coupé", loose: "loose panel", own: "own outline" };
  return said[type] ?? type.replaceAll("-", " ");
}
