import type { Estimate } from "../api/client";
import type { Units } from "../app/units";
import { through } from "./geometry";

export interface FilmCoreProps {
  u: Units;
  total: Estimate;
  clear: Estimate;
  floor: number;
  spend: number;
  /** Film under the clear, µm. */
  below: number;
  guess: string;
  substrate: string;
  height: number;
}

const left = 1;
const wide = 54;
const metal = 30;

/** A core of the film to scale: what goes, what may not, what is only a guess. */
export function FilmCore({ u, total, clear, floor, spend, below, guess, substrate, height }: FilmCoreProps) {
  const top = 6;
  const body = height - metal - top - 8;
  const perUm = body / Math.max(total.mean, 1);
  const y = (fromTop: number) => top + fromTop * perUm;
  const clearEnd = y(Math.min(clear.mean, total.mean));
  const floorAt = y(Math.max(clear.mean - floor, 0));
  const soft = Math.min(clear.sd * perUm, body / 3);
  const spendEnd = y(Math.min(spend, total.mean));
  const end = top + body;
  const label = (at: number, bold: string, rest: string) => (
    <g>
      <text x={wide + 12} y={at} fontSize="12.5" fontWeight="650">
        {bold}
      </text>
      {rest.split("\n").map((line, i) => (
        <text key={line} x={wide + 12} y={at + 15 * (i + 1)} fontSize="12" style={{ fill: "var(--ink2)" }}>
          {line}
        </text>
      ))}
    </g>
  );
  const throughAt = y(Math.max(clear.mean - through, 0));
  const spendLabel = Math.max(top + 9, (top + spendEnd) / 2 + 4);
  const floorLabel = Math.max(floorAt + 4, spendLabel + 26);
  const clearLabel = Math.max((floorAt + clearEnd) / 2 - 4, floorLabel + 34);
  const throughLabel = Math.max(throughAt + 4, clearLabel + 15 * (guess.split("\n").length + 1) + 18);
  return (
    <svg width="100%" height={height} viewBox={`0 0 146 ${height}`} preserveAspectRatio="xMinYMin meet" role="img" aria-label={`Film core: ${u.plusMinus(total)} ${u.name} in all, clear ${u.plusMinus(clear)}, floor ${u.um(floor)}, planned spend ${u.um(spend)}`}>
      <defs>
        <linearGradient id="soft" x1="0" y1="0" x2="0" y2="1">
          <stop offset="0" stopColor="var(--open)" />
          <stop offset="1" stopColor="var(--film2)" stopOpacity=".82" />
        </linearGradient>
      </defs>
      <rect x={left} y={top} width={wide} height={Math.max(clearEnd - top, 0)} fill="var(--open)" />
      <rect x={left} y={clearEnd} width={wide} height={Math.max(end - clearEnd, 0)} fill="var(--film2)" fillOpacity=".82" />
      <rect x={left} y={Math.max(clearEnd - soft, top)} width={wide} height={Math.min(2 * soft, end - clearEnd + soft)} fill="url(#soft)" />
      <rect x={left} y={top} width={wide} height={Math.max(spendEnd - top, 0)} fill="url(#pSpend)" stroke="var(--ink)" strokeWidth=".75" />
      <rect x={left} y={end} width={wide} height={metal} fill="url(#pSub)" />
      <rect x={left} y={top} width={wide} height={body + metal} fill="none" stroke="var(--ink)" strokeWidth="1.5" />
      {clear.mean > floor ? <path d={`M${left} ${floorAt}H${wide + 9}`} stroke="var(--ink)" strokeWidth="2.5" /> : null}
      {clear.mean > through ? <path d={`M${left} ${throughAt}H${wide + 9}`} stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="4 3" /> : null}
      {spend > 0 ? <path d={`M${wide} ${(top + spendEnd) / 2}H${wide + 9}`} stroke="var(--ink)" strokeWidth="1" /> : null}
      {spend > 0 ? label(spendLabel, `spend ${u.um(spend)}`, "") : null}
      {label(floorLabel, `floor ${u.um(floor)}`, clear.mean > floor ? "house rule" : "not reached")}
      {label(clearLabel, `clear ${u.um(clear.mean)}`, `± ${u.um(clear.sd)}\n${guess}`)}
      {clear.mean > through ? label(throughLabel, `through ${u.um(through)}`, "") : null}
      {label(Math.min(Math.max((clearEnd + end) / 2, throughLabel + 30), end - 46), `below ${u.um(below)}`, "colour, primer;\nno gauge tells\nthem apart")}
      {label(end + metal / 2 + 4, substrate, "")}
    </svg>
  );
}
