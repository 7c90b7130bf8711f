import type { Schemas } from "../api/client";
import type { Units } from "../app/units";

const wide = 78;
const stays = 120;

interface Part {
  key: string;
  um: number;
  fill: string;
  word: string;
  dashed?: boolean;
}

/** The film ledger of a section as a column: gone, next, free, doubt, to refine, floor. */
export function LevelCore({ u, ledger, next, height }: { u: Units; ledger: Schemas["Ledger"]; next: string; height: number }) {
  const short = ledger.free_um < 0;
  const parts: Part[] = [
    { key: "gone", um: ledger.gone_um.mean, fill: "var(--paper)", word: "gone", dashed: true },
    { key: "next", um: ledger.next_um, fill: "url(#pSpend)", word: next },
    { key: "free", um: Math.max(ledger.free_um, 0), fill: "var(--open)", word: "free" },
    { key: "doubt", um: ledger.doubt_um, fill: "var(--open)", word: `doubt, ${ledger.doubt_chance}` },
    { key: "reserve", um: ledger.reserve_um, fill: "url(#pSpend)", word: "to refine" },
  ];
  const shown = parts.filter((p) => p.um > 0.04);
  const sum = shown.reduce((s, p) => s + p.um, 0);
  const scale = (height - stays - 20) / Math.max(sum, 1);
  const tops = shown.map((_, i) => 6 + shown.slice(0, i).reduce((s, p) => s + p.um * scale, 0));
  const floorAt = 6 + sum * scale;
  const labels = shown.reduce<number[]>((at, p, i) => [...at, Math.max((tops[i] ?? 0) + (p.um * scale) / 2 - 4, (at.at(-1) ?? -30) + 42)], []);
  const floorLabel = Math.max(floorAt + 6, (labels.at(-1) ?? 0) + 46);
  return (
    <svg viewBox={`0 0 190 ${height}`} width="100%" height={height} preserveAspectRatio="xMinYMin meet" role="img" aria-label={`Film ledger: opening clear ${u.um(ledger.opening_um.mean)} ± ${u.um(ledger.opening_um.sd)} ${u.name}, gone ${u.um(ledger.gone_um.mean)} ± ${u.um(ledger.gone_um.sd)}, next ${u.um(ledger.next_um)}, free ${u.um(ledger.free_um)}, doubt ${u.um(ledger.doubt_um)}, to refine ${u.um(ledger.reserve_um)}, floor ${u.um(ledger.floor_um)}`}>
      {shown.map((p, i) => (
        <g key={p.key}>
          <rect x="1" y={tops[i]} width={wide} height={p.um * scale} fill={p.fill} stroke="var(--ink)" strokeWidth="1.25" strokeDasharray={p.dashed ? "3 3" : undefined} />
          {p.key === "doubt" ? <rect x="1" y={tops[i]} width={wide} height={p.um * scale} fill="url(#pDoubt)" /> : null}
          <path d={`M${wide + 1} ${(tops[i] ?? 0) + (p.um * scale) / 2}L${wide + 10} ${(labels[i] ?? 0) + 4}`} stroke="var(--ink)" strokeWidth="1" />
          <text className="n" x={wide + 14} y={(labels[i] ?? 0) + 6} fontSize="19">
            {u.um(p.um)}
          </text>
          <text x={wide + 14} y={(labels[i] ?? 0) + 23} fontSize="14" style={{ fill: "var(--ink2)" }}>
            {p.word}
          </text>
        </g>
      ))}
      <path d={`M1 ${floorAt}H${wide + 1}V${height - 8}l-13 -8l-13 8l-13 -8l-13 8l-13 -8l-13 8Z`} fill="var(--ink)" />
      <path d={`M0 ${floorAt}H${wide + 10}`} stroke="var(--ink)" strokeWidth="4" />
      <text x={1 + wide / 2} y={(floorAt + height) / 2 + 6} textAnchor="middle" fontSize="17" fontWeight="650" style={{ fill: "var(--paper)" }}>
        stays
      </text>
      <text className="n" x={wide + 14} y={floorLabel} fontSize="19">
        {u.um(ledger.floor_um)}
      </text>
      <text x={wide + 14} y={floorLabel + 17} fontSize="14" style={{ fill: "var(--ink2)" }}>
        floor
      </text>
      {short ? (
        <text x={wide + 14} y={floorLabel + 40} fontSize="14" fontWeight="650">
          {u.um(-ledger.free_um)} missing
        </text>
      ) : null}
    </svg>
  );
}
