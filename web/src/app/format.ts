/** A number as far as it is known: one decimal below ten, none above. */
export function short(v: number): string {
  return Math.abs(v) < 9.95 ? v.toFixed(1) : v.toFixed(0);
}

export function capital(s: string): string {
  return s.charAt(0).toUpperCase() + s.slice(1);
}

export function count(n: number, what: string): string {
  if (n === 1) return `1 ${what}`;
  if (/(s|ch)$/.test(what)) return `${n} ${what}es`;
  return what.includes(",") || what.endsWith("y") ? `${n} ${what}` : `${n} ${what}s`;
}

/** A body type as it is said. */
export function bodyName(type: string): string {
  const said: Record<string, string> = { coupe: "coupé", loose: "loose panel", own: "own outline" };
  return said[type] ?? type.replaceAll("-", " ");
}
