import type { State } from "../api/client";

/** The state fills for a drawing whose units are not px; scale is its units a px. */
export function ScaledPatterns({ id, scale }: { id: string; scale: number }) {
  return (
    <defs>
      <pattern id={`${id}tight`} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform={`scale(${scale}) rotate(45)`}>
        <rect width="7" height="7" fill="var(--tight)" />
        <rect width="2" height="7" fill="var(--onTight)" />
      </pattern>
      <pattern id={`${id}shut`} width="7" height="7" patternUnits="userSpaceOnUse" patternTransform={`scale(${scale}) rotate(45)`}>
        <rect width="7" height="7" fill="var(--shut)" />
        <rect width="1.8" height="7" fill="#fff" />
        <rect width="7" height="1.8" fill="#fff" />
      </pattern>
    </defs>
  );
}

export function scaledFill(id: string, state: State | undefined): string {
  if (!state) return "none";
  return state === "open" ? "var(--open)" : `url(#${id}${state})`;
}
