import { scaleLinear } from "d3-scale";
import type { Schemas } from "../api/client";
import type { Units } from "../app/units";
import { through } from "./geometry";

interface ClearShapeProps {
  u: Units;
  clear: Schemas["ClearRange"];
  /** What goes, µm. */
  spend: number;
  floor: number;
  height: number;
}

/** µm of the steps of the shape. */
const step = 2;
const wide = 54;

/** The clear up from the colour: what goes, what stays, and how likely each clear is once it is gone. */
export function ClearShape({ u, clear, spend, floor, height }: ClearShapeProps) {
  const top = Math.max(clear.high + 8, floor + 20);
  const y = scaleLinear([0, top], [height - 34, 8]);
  const x = scaleLinear([0, 1], [wide + 14, wide + 86]);
  const points = clear.shape.map((p, i) => ({ p, c: i * step }));
  const line = (less: number) => points.filter(({ c }) => c >= less && c - less <= top).map(({ p, c }) => `${x(p)} ${y(c - less)}`);
  const after = `M${x(0)} ${y(0)}L${line(spend).join("L")}`;
  const now = line(0);
  const left = Math.max(clear.mean - spend, 0);
  return (
    <svg width="100%" viewBox={`0 0 190 ${height}`} style={{ maxHeight: height }} role="img" aria-label={`Clear ${u.um(clear.mean)} ${u.name}, most likely; ${u.um(spend)} goes, ${u.um(left)} stays; floor ${u.um(floor)}`}>
      <clipPath id="underFloor">
        <path d={`M0 ${y(floor)}H190V${height}H0Z`} />
      </clipPath>
      <rect x="1" y={y(clear.mean)} width={wide} height={y(0) - y(clear.mean)} fill="var(--open)" />
      <rect x="1" y={y(clear.mean)} width={wide} height={y(left) - y(clear.mean)} fill="url(#pSpend)" stroke="var(--ink)" />
      <rect x="1" y={y(floor)} width={wide} height={y(0) - y(floor)} fill="var(--ink)" />
      <path d={`M1 8V${y(0)}M${wide + 1} 8V${y(0)}`} stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`M1 ${y(0)}H${wide + 1}V${y(0) + 26}l-9 -7l-9 7l-9 -7l-9 7l-9 -7l-9 7Z`} fill="var(--line)" stroke="var(--ink)" />
      <text x={wide / 2 + 1} y={y(0) + 15} fontSize="12" fontWeight="600" textAnchor="middle">
        colour
      </text>
      {now.length > 1 ? <path d={`M${now.join("L")}`} fill="none" stroke="var(--ink2)" strokeDasharray="3 3" /> : null}
      <path d={`${after}Z`} fill="var(--open)" stroke="var(--ink)" strokeWidth="1.5" />
      <path d={`${after}Z`} fill="url(#pShut)" clipPath="url(#underFloor)" />
      <path d={`M1 ${y(floor)}H188`} stroke="var(--ink)" strokeWidth="2" />
      <text x="188" y={y(floor) - 5} fontSize="12.5" fontWeight="600" textAnchor="end">
        floor {u.um(floor)}
      </text>
      <path d={`M1 ${y(through)}H188`} stroke="var(--sheet)" strokeWidth="3" />
      <path d={`M1 ${y(through)}H188`} stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="4 3" />
      <text x="188" y={y(through) - 5} fontSize="12.5" fontWeight="600" textAnchor="end">
        through {u.um(through)}
      </text>
    </svg>
  );
}
