import { scaleLinear } from "d3-scale";
import { type Schemas } from "../../api/client";

type Point = Schemas["BudgetPoint"];

const w = 560;
const h = 250;
const left = 40;
const right = 12;
const top = 12;
const bottom = 34;

/** What is gained against hours or money, step by step; those in hand, and what is best next. */
export function GainCurve({ curve, by, unit, spent, gain, next, most }: { curve: Point[]; by: "hours" | "money"; unit: string; spent: number; gain: number; next: Point | undefined; most: number }) {
  const x = scaleLinear([0, most], [left, w - right]);
  const y = scaleLinear([0, 1], [h - bottom, top]);
  const line = curve.reduce((d, p) => `${d}H${x(p[by]).toFixed(1)}V${y(p.gain).toFixed(1)}`, `M${x(0)} ${y(0)}`);
  return (
    <svg viewBox={`0 0 ${w} ${h}`} role="img" aria-label={`${(100 * gain).toFixed(0)} of 100 of the gain for ${spent} ${unit}${next ? `; next ${next.text}` : ""}`}>
      <rect x={left} y={top} width={w - left - right} height={h - top - bottom} fill="var(--sheet)" />
      {[0.25, 0.5, 0.75, 1].map((v) => (
        <g key={v}>
          <path d={`M${left} ${y(v)}H${w - right}`} stroke="var(--line)" />
          <text className="n" x={left - 6} y={y(v) + 4} fontSize="12" textAnchor="end">
            {100 * v}
          </text>
        </g>
      ))}
      {x.ticks(7).map((v) => (
        <text key={v} className="n" x={x(v)} y={h - bottom + 17} fontSize="12" textAnchor="middle">
          {v}
        </text>
      ))}
      <text x={w - right} y={h - 3} fontSize="12" textAnchor="end" style={{ fill: "var(--ink2)" }}>
        {unit}
      </text>
      <path d={`${line}H${x(most)}V${y(0)}Z`} fill="var(--open)" opacity="0.55" />
      <path d={`${line}H${x(most)}`} fill="none" stroke="var(--ink)" strokeWidth="2" />
      <path d={`M${left} ${top}V${h - bottom}H${w - right}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`M${x(spent)} ${top}V${h - bottom}`} stroke="var(--ink)" strokeWidth="2.5" />
      <circle cx={x(spent)} cy={y(gain)} r="7" fill="var(--tape)" stroke="var(--ink)" strokeWidth="1.5" />
      {next ? <circle cx={x(next[by])} cy={y(next.gain)} r="5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.5" /> : null}
    </svg>
  );
}
