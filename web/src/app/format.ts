import type { Estimate } from "../api/client";

/** A number as far as it is known: one decimal below ten, none above. */
export function short(v: number): string {
  return Math.abs(v) < 9.95 ? v.toFixed(1) : v.toFixed(0);
}

/** What films are shown in; the shop says which, and how much of it a µm is. */
let unit = { name: "µm", per: 1 };

export function showIn(name: "um" | "mil", per: number): void {
  unit = { name: name === "mil" ? "mil" : "µm", per };
}

export function unitName(): string {
  return unit.name;
}

export function shopUnit(): "um" | "mil" {
  return unit.name === "mil" ? "mil" : "um";
}

/** What somebody typed in the shop's unit, in µm. */
export function typedFilm(v: number): number {
  return v / unit.per;
}

/** A film of v µm in the shop's unit, as far as it is known. */
export function um(v: number): string {
  if (unit.per === 1) return short(v);
  const shown = v * unit.per;
  return shown.toFixed(Math.abs(shown) < 0.0995 ? 3 : 2);
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
