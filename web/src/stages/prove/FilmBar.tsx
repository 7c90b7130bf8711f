import { patternOf } from "../../drawing/Patterns";
import type { Schemas } from "../../api/client";

const width = 122;

/** The clear of a panel, floor to top: what stays below and above the floor, and what went, hatched. */
export function FilmBar({ line, most }: { line: Schemas["ProofLine"]; most: number }) {
  if (!line.clear_um || line.opening_um === undefined || line.floor_um === undefined) return <span className="s">not read</span>;
  const px = (um: number) => (Math.max(um, 0) / most) * width;
  const left = px(line.clear_um.mean);
  const floor = px(line.floor_um);
  const top = px(line.opening_um);
  const short = left < floor;
  return (
    <svg width={width + 4} height="22" viewBox={`0 0 ${width + 4} 22`} role="img" aria-label={short ? "less than the floor stays" : "more than the floor stays"}>
      {short ? <rect x="1" y="5" width={left} height="12" fill={patternOf.shut} stroke="var(--ink)" /> : (
        <>
          <rect x="1" y="5" width={floor} height="12" fill="var(--ink)" stroke="var(--ink)" />
          <rect x={1 + floor} y="5" width={left - floor} height="12" fill="var(--open)" stroke="var(--ink)" />
        </>
      )}
      {top > left ? <rect x={1 + left} y="5" width={top - left} height="12" fill="url(#pSpend)" stroke="var(--ink)" /> : null}
      <path d={`M${1 + floor} 1V21`} stroke="var(--ink)" strokeWidth="2" />
    </svg>
  );
}
