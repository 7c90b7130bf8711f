import type { Point } from "../../api/client";

const w = 220;
const h = 78;

interface Scale {
  top: number;
  bottom: number;
}

/** One scale for all cross-sections of a ladder, so that they compare. */
export function scaleOf(profiles: Point[][]): Scale {
  const all = profiles.flat().map((p) => p.y);
  const top = Math.max(...all);
  const bottom = Math.min(...all);
  return { top: top + (top - bottom) * 0.06, bottom: bottom - (top - bottom) * 0.45 };
}

/** The surface in cross-section after a step: what it was, what went, what is. */
export function Profile({ before, after, first, scale, label }: { before: Point[] | null; after: Point[]; first: Point[]; scale: Scale; label: string }) {
  const long = Math.max(...after.map((p) => p.x), 1);
  const at = (p: Point) => `${((p.x / long) * w).toFixed(1)} ${(((scale.top - p.y) / (scale.top - scale.bottom)) * h).toFixed(1)}`;
  const line = (points: Point[]) => `M${points.map(at).join("L")}`;
  const area = (points: Point[]) => `${line(points)}L${w} ${h}L0 ${h}Z`;
  return (
    <svg viewBox={`0 0 ${w} ${h}`} width="100%" height={h + 2} preserveAspectRatio="none" role="img" aria-label={label} style={{ border: "1px solid var(--ink)", display: "block", background: "var(--sheet)" }}>
      {before ? (
        <>
          <path d={line(first)} fill="none" stroke="var(--ink3)" strokeWidth="1" strokeDasharray="1.5 2.5" vectorEffect="non-scaling-stroke" />
          <path d={area(before)} fill="url(#pSpend)" />
        </>
      ) : null}
      <path d={area(after)} fill="var(--open)" />
      <path d={line(after)} fill="none" stroke="var(--ink)" strokeWidth="1.25" vectorEffect="non-scaling-stroke" />
    </svg>
  );
}

/** The direction of the stroke: two arrows along it, or a grid where it crosses. */
export function Stroke({ degrees }: { degrees: number }) {
  return degrees < 0 ? (
    <svg width="34" height="34" viewBox="0 0 34 34" stroke="var(--ink)" strokeWidth="1.75" role="img" aria-label="crossing passes">
      <path d="M12 3V31M22 3V31M3 12H31M3 22H31" />
    </svg>
  ) : (
    <svg width="36" height="36" viewBox="-18 -18 36 36" fill="none" stroke="var(--ink)" strokeWidth="1.75" role="img" aria-label={`strokes at ${degrees} degrees`}>
      <g transform={`rotate(${-degrees})`}>
        <path d="M-14 -4H14M9 -9L14 -4L9 1M14 5H-14M-9 10L-14 5L-9 0" />
      </g>
    </svg>
  );
}
