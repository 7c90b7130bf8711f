import type { ScaleLinear } from "d3-scale";
import { useUnits } from "../../app/units";

interface AxesProps {
  x: ScaleLinear<number, number>;
  y: ScaleLinear<number, number>;
  /** How many hours are named. */
  hours: number;
}

/** The axes of film against hours, around where both scales range. */
export function Axes({ x, y, hours }: AxesProps) {
  const u = useUnits();
  const [left = 0, right = 0] = x.range();
  const [top = 0, bottom = 0] = y.range();
  return (
    <>
      {y.ticks(5).map((v) => (
        <g key={v}>
          <path d={`M${left - 5} ${y(v)}H${left}`} stroke="var(--ink)" />
          <text className="n" x={left - 8} y={y(v) + 4} fontSize="12" textAnchor="end">
            {u.um(v).replace(/\.0+$/, "")}
          </text>
        </g>
      ))}
      {x.ticks(hours).map((v) => (
        <text key={v} className="n" x={x(v)} y={bottom + 16} fontSize="12" textAnchor="middle">
          {Number(v.toFixed(2))}
        </text>
      ))}
      <path d={`M${left} ${top}V${bottom}H${right}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
    </>
  );
}
