import type { Estimate } from "../api/client";
import { through } from "./geometry";
import type { Units } from "../app/units";

const wide = 92;
const top = 8;

/** A core of the clear once the work is done: what went, what stays above the floor with its doubt, the floor, the line that locks. */
export function ProvedCore({ u, spent, clear, floor, height }: { u: Units; spent: Estimate; clear: Estimate; floor: number; height: number }) {
  const opening = Math.max(clear.mean, 0) + spent.mean;
  const scale = (height - top - 30) / Math.max(opening, floor, 1);
  const y = (left: number) => top + (Math.max(opening, floor) - Math.max(left, 0)) * scale;
  const now = y(clear.mean);
  const line = y(floor);
  const end = y(0);
  const short = clear.mean < floor;
  const soft = clear.sd * scale;
  // A label stands where it belongs, or below the one above it.
  const places = [(top + now) / 2, now + 14, line + (short ? -4 : 12), y(through) + 4].reduce<number[]>((all, at) => [...all, Math.max(at, (all.at(-1) ?? -40) + 40)], []);
  const label = (i: number, bold: string, rest: string) => (
    <g>
      <text className="n" x={wide + 16} y={(places[i] ?? 0) + 4} fontSize="19">
        {bold}
      </text>
      <text x={wide + 16} y={(places[i] ?? 0) + 21} fontSize="14" style={{ fill: "var(--ink2)" }}>
        {rest}
      </text>
    </g>
  );
  return (
    <svg viewBox={`0 0 240 ${height}`} height={height} style={{ maxWidth: "100%" }} role="img" aria-label={`Clear: ${u.plusMinus(spent)} ${u.name} went, ${u.plusMinus(clear)} stays, floor ${u.um(floor)}`}>
      {spent.mean > 0.04 ? <rect x="1" y={y(opening)} width={wide} height={now - y(opening)} fill="url(#pSpend)" stroke="var(--ink)" strokeWidth="1.25" strokeDasharray="3 3" /> : null}
      <rect x="1" y={now} width={wide} height={end - now} fill={short ? "url(#pShut)" : "var(--open)"} stroke="var(--ink)" strokeWidth="1.25" />
      {short ? null : <rect x="1" y={line} width={wide} height={end - line} fill="var(--ink)" />}
      <rect x="1" y={Math.max(now - soft, top)} width={wide} height={Math.min(2 * soft, end - now + soft)} fill="url(#pDoubt)" />
      <path d={`M0 ${line}H${wide + 10}`} stroke="var(--ink)" strokeWidth="4" />
      <path d={`M0 ${y(through)}H${wide + 10}`} stroke={short ? "var(--ink)" : "var(--paper)"} strokeWidth="1.5" strokeDasharray="4 3" />
      {label(0, u.um(spent.mean), "went")}
      {label(1, `${u.um(clear.mean)} ± ${u.um(clear.sd)}`, "stays at its thinnest")}
      {label(2, u.um(floor), "floor")}
      {label(3, u.um(through), "through")}
    </svg>
  );
}
