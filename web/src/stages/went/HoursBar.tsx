import { scaleLinear } from "d3-scale";
import type { Schemas } from "../../api/client";

const w = 460;
const h = 62;

/** What was promised as a band, what is done filled, and where it will end with its doubt. */
export function HoursBar({ of }: { of: Schemas["WentRange"] }) {
  const most = 1.06 * Math.max(of.end.high, of.promised?.high ?? 0, of.planned, 0.5);
  const x = scaleLinear([0, most], [1, w - 1]);
  const ticks = x.ticks(6);
  return (
    <svg className="bar" viewBox={`0 0 ${w} ${h}`} role="img" aria-label={`${of.took.likely.toFixed(1)} h done, ends at ${of.end.low.toFixed(1)} to ${of.end.high.toFixed(1)} h${of.promised ? `, promised ${of.promised.low.toFixed(1)} to ${of.promised.high.toFixed(1)} h` : ""}`}>
      {of.promised ? (
        <>
          <rect x={x(of.promised.low)} y="2" width={x(of.promised.high) - x(of.promised.low)} height="38" fill="var(--tape)" opacity="0.55" />
          <path d={`M${x(of.promised.low)} 2V40M${x(of.promised.high)} 2V40`} stroke="var(--ink)" strokeWidth="1.25" />
        </>
      ) : null}
      <rect x={x(0)} y="12" width={Math.max(0, x(of.took.likely) - x(0))} height="18" fill="var(--ink)" />
      <rect x={x(of.took.likely)} y="12" width={Math.max(0, x(of.end.likely) - x(of.took.likely))} height="18" fill="none" stroke="var(--ink)" strokeDasharray="3 3" />
      <path d={`M${x(of.end.low)} 21H${x(of.end.high)}M${x(of.end.low)} 15V27M${x(of.end.high)} 15V27`} stroke="var(--ink)" strokeWidth="2" />
      <path d={`M1 41H${w - 1}`} stroke="var(--lineStrong)" />
      {ticks.map((t) => (
        <g key={t}>
          <path d={`M${x(t)} 41V45`} stroke="var(--lineStrong)" />
          <text x={Math.min(x(t), w - 14)} y="58" fontSize="14" textAnchor={t === 0 ? "start" : "middle"} fill="var(--ink2)">
            {t}
            {t === ticks.at(-1) ? " h" : ""}
          </text>
        </g>
      ))}
    </svg>
  );
}
