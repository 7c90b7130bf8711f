/** So much of a thing of the shelf: pieces, or ml. */
export function much(v: number, unit: "sheet" | "disc" | "ml"): string {
  return unit === "ml" ? `${v.toFixed(0)} ml` : Number(v.toFixed(1)).toString();
}
