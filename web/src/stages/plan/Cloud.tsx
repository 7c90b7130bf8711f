import { scaleLinear } from "d3-scale";
import type { Plan } from "../../api/client";
import { useUnits } from "../../app/units";
import { Axes } from "./Axes";
import { distinct, type Ways } from "./ladder";

const w = 400;
const left = 34;
const right = 6;
const top = 22;

/** What an axis has to show: all values with some air, from nothing where that is near. */
function range(values: number[]): { least: number; most: number } {
  const lo = Math.min(...values);
  const hi = Math.max(...values);
  const air = Math.max(hi - lo, hi * 0.1, 0.05);
  const least = lo - 0.35 * air;
  return { least: least < 0.25 * hi ? 0 : least, most: hi + 0.12 * air };
}

const signs: Record<string, string> = {
  least_film: "M0 -8L8 0L0 8L-8 0Z",
  balanced: "M0 -10L10 0L0 10L-10 0Z",
  least_time: "M0 -8L8 0L0 8L-8 0Z",
  partial: "M0 -8L8 0L0 8L-8 0Z",
  yours: "M0 -8L8 7H-8Z",
};

/** Film against hours: every sequence that fits as a dot, the ways by name. */
export function Cloud({ plan, height, pick }: { plan: Plan; height: number; pick: (ladder: string) => void }) {
  const u = useUnits();
  const bottom = 34;
  const room = Math.max(plan.room_um.mean, 0);
  const offers = plan.offers;
  const hours = range([...plan.points.map((p) => p.hours), ...offers.map((o) => o.hours.mean)]);
  const films = [...plan.points.map((p) => p.film_um), ...offers.map((o) => o.film_um.mean)];
  const film = range([...films, Math.min(room * 1.06, 1.6 * Math.max(...films))]);
  const filmMost = film.most;
  const x = scaleLinear([hours.least, hours.most], [left, w - right]);
  const y = scaleLinear([film.least, film.most], [top, height - bottom]).clamp(true);
  const front = plan.points.filter((p) => p.front);
  const chosen = plan.offer?.ladder;
  const tight = Math.max(plan.tight_from_um, 0);
  return (
    <svg className="cloud" viewBox={`0 0 ${w} ${height}`} role="group" aria-label={`Film against hours: ${plan.points.length} sequences that fit ${u.um(room)} ${u.name}`}>
      <text x={left} y="12" fontSize="12.5" style={{ fill: "var(--ink2)" }}>
        film spent, {u.name} · {plan.points.length} shown of {plan.looked} looked at
      </text>
      <rect x={left} y={top} width={w - left - right} height={height - top - bottom} fill="var(--sheet)" />
      {tight < filmMost ? <rect x={left} y={y(tight)} width={w - left - right} height={Math.max(y(Math.min(room, filmMost)) - y(tight), 0)} fill="url(#pTight)" opacity="0.75" /> : null}
      {room < filmMost ? <rect x={left} y={y(room)} width={w - left - right} height={height - bottom - y(room)} fill="url(#pShut)" /> : null}
      <Axes x={x} y={y} hours={6} />
      <text x={w - right} y={height - 3} fontSize="12.5" textAnchor="end" style={{ fill: "var(--ink2)" }}>
        hours at the panel
      </text>
      <path d={`M${left + 26} ${top + 32}L${left + 10} ${top + 16}M${left + 10} ${top + 24}V${top + 16}H${left + 18}`} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      <text className="halo" x={left + 32} y={top + 30} fontSize="12" style={{ fill: "var(--ink2)", stroke: "var(--sheet)" }}>
        less of both
      </text>
      <path d={front.map((p, i) => `${i === 0 ? "M" : "L"}${x(p.hours).toFixed(1)} ${y(p.film_um).toFixed(1)}`).join("")} fill="none" stroke="var(--ink)" strokeWidth="1.25" />
      {plan.points.map((p) => (
        <g key={p.ladder} onClick={() => pick(p.ladder)} style={{ cursor: "pointer" }}>
          <title>{`${u.um(p.film_um)} ${u.name}, ${p.hours.toFixed(2)} h, clarity ${p.clarity.toFixed(0)}: ${p.text}`}</title>
          <circle cx={x(p.hours)} cy={y(p.film_um)} r="9" fill="transparent" />
          <circle cx={x(p.hours)} cy={y(p.film_um)} r={p.front ? 3.2 : 2.4} fill={p.front ? "var(--ink)" : "var(--ink3)"} />
        </g>
      ))}
      {room < filmMost ? (
        <g>
          <rect x={left + 4} y={y(room) - 19} width="142" height="17" fill="var(--sheet)" />
          <text x={left + 9} y={y(room) - 6} fontSize="12.5" fontWeight="650">
            can go {u.um(room)}, clear ± {u.um(plan.room_um.sd)}
          </text>
        </g>
      ) : null}
      {offers.map((o) => {
        const at = { x: x(o.hours.mean), y: y(Math.min(o.film_um.mean, filmMost)) };
        const on = o.ladder === chosen;
        return (
          <g key={o.name} transform={`translate(${at.x.toFixed(1)} ${at.y.toFixed(1)})`} onClick={() => pick(o.name === "yours" ? o.ladder : o.name)} style={{ cursor: "pointer" }}>
            <path d={signs[o.name]} fill={on ? "var(--tape)" : o.name === "yours" ? "var(--sheet)" : "var(--ink)"} stroke="var(--ink)" strokeWidth="1.75" />
          </g>
        );
      })}
      <Names ways={distinct(offers).map((o) => ({ ...o, x: x(o.line.hours.mean), y: y(o.line.film_um.mean) }))} />
    </svg>
  );
}

/** The names beside the ways, none over another. */
function Names({ ways }: { ways: (Ways & { x: number; y: number })[] }) {
  const groups = ways;
  const boxes: { x: number; y: number; w: number }[] = [{ x: left + 32, y: top + 26, w: 74 }, ...groups.map((g) => ({ x: g.x - 9, y: g.y - 5, w: 18 }))]; // "less of both" first
  const free = (b: { x: number; y: number; w: number }) =>
    b.x >= left && b.x + b.w <= w - right && b.y >= top && boxes.every((o) => b.x > o.x + o.w || o.x > b.x + b.w || Math.abs(b.y - o.y) > 15);
  return (
    <>
      {groups.map((g) => {
        const text = g.words;
        const long = text.length * 6.9;
        const places = [
          { x: g.x + 12, y: g.y - 12 },
          { x: g.x - 12 - long, y: g.y - 12 },
          { x: g.x + 13, y: g.y + 14 },
          { x: g.x - 13 - long, y: g.y + 14 },
          { x: g.x - long / 2, y: g.y - 26 },
          { x: g.x - long / 2, y: g.y + 28 },
          { x: g.x + 13, y: g.y + 30 },
          { x: g.x + 13, y: g.y + 46 },
        ].map((p) => ({ ...p, w: long }));
        const at = places.find(free) ?? { x: Math.min(Math.max(g.x + 12, left), w - right - long), y: Math.max(g.y - 12, top + 8), w: long };
        boxes.push(at);
        return (
          <text key={text} className="halo" x={at.x} y={at.y + 4} fontSize="12.5" fontWeight="650" style={{ stroke: "var(--sheet)" }}>
            {text}
          </text>
        );
      })}
    </>
  );
}
