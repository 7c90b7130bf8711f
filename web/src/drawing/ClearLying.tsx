import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import type { Units } from "../app/units";
import { through } from "./geometry";

interface ClearLyingProps {
  u: Units;
  clear: Schemas["ClearRange"];
  /** What goes, µm. */
  spend: number;
  floor: number;
  /** The floor that may be agreed, µm. */
  offered?: number | undefined;
}

/** µm of the steps of the shape. */
const step = 2;
const w = 400;
const h = 112;

/** The clear that stays, lying: how likely each is once the spend is gone, with the lines that must not be crossed. */
export function ClearLying({ u, clear, spend, floor, offered }: ClearLyingProps) {
  const top = Math.max(clear.high - spend + 10, floor + 24);
  const x = scaleLinear([0, top], [6, w - 6]);
  const base = h - 22;
  const y = scaleLinear([0, 1], [base, 22]);
  const points = clear.shape.map((p, i) => ({ p, at: i * step - spend })).filter(({ at }) => at >= 0 && at <= top);
  const line = points.map(({ p, at }) => `${x(at).toFixed(1)} ${y(p).toFixed(1)}`).join("L");
  const hump = `M${x(points[0]?.at ?? 0)} ${base}L${line}L${x(points.at(-1)?.at ?? 0)} ${base}Z`;
  return (
    <svg width="100%" viewBox={`0 0 ${w} ${h}`} style={{ maxHeight: h }} role="img" aria-label={`Clear that stays: most likely ${u.um(Math.max(clear.mean - spend, 0))} ${u.name}; floor ${u.um(floor)}`}>
      <clipPath id="lyingUnder">
        <path d={`M0 0H${x(floor)}V${h}H0Z`} />
      </clipPath>
      <path d={hump} fill="var(--open)" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={hump} fill="url(#pShut)" clipPath="url(#lyingUnder)" />
      <path d={`M0 ${base}H${w}`} stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`M${x(through)} ${base + 4}V26`} stroke="var(--ink)" strokeWidth="1.75" strokeDasharray="4 3" />
      <text className="halo" x={x(through) + 5} y="34" fontSize="12" fontWeight="600">
        through
      </text>
      {offered === undefined || offered >= floor ? null : <path d={`M${x(offered)} ${base + 4}V26`} stroke="var(--ink)" strokeDasharray="2 3" />}
      <path d={`M${x(floor)} ${base + 4}V6`} stroke="var(--ink)" strokeWidth="3" />
      <text className="halo" x={x(floor) + 7} y="15" fontSize="12.5" fontWeight="650">
        floor {u.um(floor)}
      </text>
      {[0, through, offered ?? -1, floor].filter((v, i, all) => v >= 0 && all.indexOf(v) === i).map((v) => (
        <text key={v} className="n" x={x(v)} y={h - 5} fontSize="12" textAnchor={v === 0 ? "start" : "middle"}>
          {u.um(v).replace(/\.0+$/, "")}
        </text>
      ))}
      <text x={w} y={h - 5} fontSize="12" textAnchor="end" style={{ fill: "var(--ink2)" }}>
        {u.name} stay
      </text>
    </svg>
  );
}
