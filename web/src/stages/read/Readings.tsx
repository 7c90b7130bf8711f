import { scaleLinear } from "d3-scale";
import type { Place, Reading, Schemas } from "../../api/client";
import { useUnits } from "../../app/units";

const arm = 26;

/** A cross for the probe with its number; the marked one wears tape. */
export function Cross({ at, no, k, marked }: { at: { x: number; y: number }; no: number | string; k: number; marked: boolean }) {
  const s = marked ? 1.28 : 0.9;
  return (
    <g transform={`translate(${at.x} ${at.y}) scale(${k})`} pointerEvents="none">
      {marked ? (
        <path d={`M0 ${-arm}V${arm}M${-arm} 0H${arm}`} stroke="var(--ink)" strokeWidth="8" />
      ) : null}
      <path d={`M0 ${-arm * (marked ? 0.97 : 0.55)}V${arm * (marked ? 0.97 : 0.55)}M${-arm * (marked ? 0.97 : 0.55)} 0H${arm * (marked ? 0.97 : 0.55)}`} stroke={marked ? "var(--tape)" : "var(--ink)"} strokeWidth={marked ? 5 : 1.5} />
      <circle r={10 * s} fill={marked ? "var(--tape)" : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1.75" />
      <text className="n" textAnchor="middle" y={4.5} fontSize={marked ? 14 : 12.5} style={marked ? { fill: "var(--onTape)" } : undefined}>
        {no}
      </text>
    </g>
  );
}

/** Readings where they were taken; one can be chosen to be struck out. */
export function Dots({ readings, chosen, choose, k }: { readings: Reading[]; chosen: string | null; choose: (id: string) => void; k: number }) {
  const u = useUnits();
  return readings.map((r) => {
    const struck = Boolean(r.struck_at);
    const what = `reading ${r.no}: ${u.read(r.film_um)} ${u.name}${r.phase === "before_clear" ? " before clear" : r.phase === "clear" ? " of clear alone" : r.phase === "bare" ? " at a place without clear" : ""}${struck ? `, struck out: ${r.struck_reason ?? ""}` : ""}${r.passes ? `, after ${r.passes} passes` : ""}${r.odd ? `. ${r.odd}` : ""}`;
    return (
      <g
        key={r.id}
        transform={`translate(${r.x_mm} ${r.y_mm}) scale(${k})`}
        role="button"
        tabIndex={struck ? -1 : 0}
        aria-label={what}
        aria-pressed={chosen === r.id}
        onClick={() => (struck ? undefined : choose(r.id))}
        onKeyDown={(event) => {
          if (event.key === "Enter" || event.key === " ") {
            event.preventDefault();
            event.stopPropagation();
            choose(r.id);
          }
        }}
        style={{ cursor: struck ? "default" : "pointer" }}
      >
        <circle r="17" fill="transparent" />
        {r.phase !== "total" ? (
          <rect x="-4" y="-4" width="8" height="8" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.75" transform="rotate(45)" />
        ) : (
          <circle r={chosen === r.id ? 6 : 4} fill="var(--sheet)" stroke="var(--ink)" strokeWidth={chosen === r.id ? 3 : 1.75} strokeOpacity={struck ? 0.5 : 1} />
        )}
        {struck ? <path d="M-6 6L6 -6" stroke="var(--ink)" strokeWidth="1.75" /> : null}
        {struck || r.phase !== "total" ? null : (
          <text className="n halo" textAnchor="middle" y="-9" fontSize="14.5">
            {u.read(r.film_um)}
            {r.odd ? "?" : ""}
          </text>
        )}
      </g>
    );
  });
}

/** The levels of the car that lie on the axis. */
function marksOf(bands: Schemas["FilmBands"] | undefined, lo: number, hi: number): [string, number][] {
  if (!bands) return [];
  const all: [string, number][] = [
    ["factory", bands.factory_um],
    ["refinished from", bands.refinished_um],
    ["filler from", bands.filler_um],
  ];
  return all.filter(([, v]) => v >= lo && v <= hi);
}

/** All readings of the panel on one axis, with what the next is expected to be. */
export function Strip({ readings, next, bands }: { readings: Reading[]; next: Place | undefined; bands?: Schemas["FilmBands"] | undefined }) {
  const u = useUnits();
  const total = readings.filter((r) => r.phase === "total");
  const mean = next?.total_um?.mean;
  const low = next?.low_um ?? 0;
  const high = next?.high_um ?? 0;
  const all = [...total.map((r) => r.film_um), ...(mean === undefined ? [] : [low, high])];
  if (all.length === 0) return null;
  const least = Math.min(...all) - 4;
  const x = scaleLinear([least, Math.max(Math.max(...all) + 4, least + 40)], [20, 466]).nice(4);
  const [lo = 0, hi = 0] = x.domain();
  const struck = total.filter((r) => r.struck_at).length;
  return (
    <div>
      <div className="lab">
        <span className="b">readings on this panel, {u.name}</span>
        {struck > 0 ? `; ${struck === 1 ? "one" : struck} struck out` : ""}
      </div>
      <svg viewBox="0 -18 486 80" width="100%" style={{ maxHeight: 82 }} role="img" aria-label={total.length ? `Readings from ${u.um(Math.min(...total.map((r) => r.film_um)))} to ${u.um(Math.max(...total.map((r) => r.film_um)))} ${u.name}` : "No readings of the total"}>
        {mean === undefined ? null : <rect x={x(low)} y="4" width={x(high) - x(low)} height="24" fill="var(--tape)" />}
        <path d="M20 16H466" stroke="var(--ink)" strokeWidth="1.5" />
        {marksOf(bands, lo, hi).map(([name, v]) => (
          <g key={name}>
            <path d={`M${x(v)} -12V30`} stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="3 2" />
            <text x={x(v) + 5} y="-3" fontSize="11.5">
              {name}
            </text>
          </g>
        ))}
        {x.ticks(5).map((v) => (
          <g key={v}>
            <path d={`M${x(v)} 10V22`} stroke="var(--ink)" strokeWidth="1" />
            <text className="n" x={x(v)} y="42" textAnchor="middle" fontSize="12.5">
              {u.um(v)}
            </text>
          </g>
        ))}
        {mean === undefined ? null : <path d={`M${x(mean)} 1V44`} stroke="var(--ink)" strokeWidth="2" />}
        {total.map((r) => (
          <g key={r.id}>
            <circle cx={x(r.film_um)} cy="16" r="5" fill="var(--sheet)" stroke="var(--ink)" strokeWidth="1.75" />
            {r.struck_at ? <path d={`M${x(r.film_um) - 7} 24L${x(r.film_um) + 7} 8`} stroke="var(--ink)" strokeWidth="1.75" /> : null}
          </g>
        ))}
        {mean === undefined ? null : (
          <text x={Math.min(Math.max(x(mean), 80), 400)} y="59" textAnchor="middle" fontSize="12" fontWeight="600">
            the next is expected here, at 1 in 20
          </text>
        )}
      </svg>
    </div>
  );
}
