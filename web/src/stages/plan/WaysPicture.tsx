import { scaleLinear } from "d3-scale";
import type { Schemas } from "../../api/client";
import { useUnits } from "../../app/units";
import { Axes } from "./Axes";

const w = 400;
const height = 262;
const left = 34;
const top = 20;
const bottom = 34;
const barWide = 24;

/** Film against hours of all that leads to the aim; the way through locks from its line down, the bars say what each floor makes of it. */
export function WaysPicture({ refusal, aim, at }: { refusal: Schemas["Refusal"]; aim: string; at: Schemas["WayOn"] | undefined }) {
  const u = useUnits();
  const bars = refusal.bars ?? [];
  const right = w - 14 - bars.length * (barWide + 10);
  const locks = Math.max(refusal.through_um ?? 0, 0);
  const ways = refusal.ways.filter((v) => v.code === "aim" && v.aim === "match");
  const films = [...refusal.points.map((p) => p.film_um), ...ways.map((v) => v.film_um ?? 0), refusal.need_um, 1];
  const most = Math.min(Math.max(...films), Math.max(locks * 1.5, refusal.need_um * 1.3)) * 1.05;
  const times = [...refusal.points.map((p) => p.hours), ...ways.map((v) => v.hours ?? 0)].filter((h) => h > 0);
  const x = scaleLinear([Math.min(...times, 0.5) * 0.85, Math.max(...times, 0.6) * 1.04], [left, right]).clamp(true);
  const y = scaleLinear([0, most], [top, height - bottom]).clamp(true);
  const first = refusal.points[0];
  const shown = at?.film_um && at.hours && (at.code === "aim" || at.code === "softer_aim") ? { film: at.film_um, hours: at.hours, name: at.aim ?? "this" } : undefined;
  return (
    <svg className="cloud" viewBox={`0 0 ${w} ${height}`} role="img" aria-label={`Film against hours: ${refusal.points.length} sequences to ${aim}; from ${u.um(locks)} ${u.name} it is too likely to go through`}>
      <text x={left} y="12" fontSize="12.5" style={{ fill: "var(--ink2)" }}>
        film spent, {u.name} · dots: {aim}
      </text>
      <rect x={left} y={top} width={right - left} height={height - top - bottom} fill="var(--sheet)" />
      {locks < most ? <rect x={left} y={y(locks)} width={right - left} height={height - bottom - y(locks)} fill="url(#pShut)" /> : null}
      <Axes x={x} y={y} hours={5} />
      <text x={left} y={height - 3} fontSize="12.5" style={{ fill: "var(--ink2)" }}>
        hours at the panel
      </text>
      {refusal.points.map((p) => (
        <circle key={p.ladder} cx={x(p.hours)} cy={y(p.film_um)} r="2.4" fill="var(--ink3)" stroke="var(--sheet)" strokeWidth="0.6" />
      ))}
      {locks < most ? (
        <g>
          <path d={`M${left} ${y(locks)}H${w - 6}`} stroke="var(--ink)" strokeWidth="1.75" strokeDasharray="5 3" />
          <rect x={left + 6} y={y(locks) + 6} width="126" height="18" fill="var(--sheet)" />
          <text x={left + 11} y={y(locks) + 19} fontSize="12.5" fontWeight="650">
            through: locks at {u.um(locks)}
          </text>
        </g>
      ) : null}
      {first ? <Sign x={x(first.hours)} y={y(first.film_um)} text={`${aim} ${u.um(first.film_um)}`} on={!shown} end={right} /> : null}
      {shown ? <Sign x={x(shown.hours)} y={y(shown.film)} text={`${shown.name} ${u.um(shown.film)}`} on end={right} /> : null}
      {bars.map((b, i) => {
        const bx = right + 14 + i * (barWide + 10);
        const open = y(Math.max(b.open_um, 0));
        const tight = Math.max(y(Math.max(b.tight_um, 0)), open);
        return (
          <g key={b.floor_um}>
            <rect x={bx} y={top} width={barWide} height={height - top - bottom} fill="url(#pShut)" />
            <rect x={bx} y={top} width={barWide} height={tight - top} fill="url(#pTight)" />
            <rect x={bx} y={top} width={barWide} height={open - top} fill="var(--open)" />
            <rect x={bx} y={top} width={barWide} height={height - top - bottom} fill="none" stroke="var(--ink)" />
            <text className="n" x={bx + barWide / 2} y={height - bottom + 16} fontSize="12" textAnchor="middle">
              {u.um(b.floor_um)}
            </text>
          </g>
        );
      })}
      <text x={w - 4} y={height - 3} fontSize="12.5" textAnchor="end" style={{ fill: "var(--ink2)" }}>
        if this stays
      </text>
    </svg>
  );
}

/** A way by its sign and name. */
function Sign({ x, y, text, on, end }: { x: number; y: number; text: string; on: boolean; end: number }) {
  const before = x + 14 + text.length * 7 > end;
  return (
    <g transform={`translate(${x} ${y})`}>
      <path d="M0 -9L9 0L0 9L-9 0Z" fill={on ? "var(--tape)" : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1.75" />
      <text className="halo" x={before ? -14 : 14} y="-7" fontSize="12.5" fontWeight="650" textAnchor={before ? "end" : "start"} style={{ stroke: "var(--sheet)" }}>
        {text}
      </text>
    </g>
  );
}
