/** What a cut-out is filled with. */
export function holeFill(kind: string): string {
  if (kind === "glass" || kind === "handle") return "var(--glass)";
  if (kind === "flap") return "none";
  return kind === "hole" ? "var(--primer)" : "var(--rubber)";
}
