import { useNavigate } from "react-router";
import { fading, wavePath } from "../drawing/wave";

export const stages = ["Take in", "Look", "Read", "Plan", "Level", "Prove", "Hand over"] as const;

export interface StageNote {
  note?: string;
  to?: string;
  done?: boolean;
}

const width = 690;
const first = 34;
const gap = (width - 84) / 6;

/** The wave that dies out from Take in to Hand over: ornament and navigation. */
export function StageLine({ current, notes }: { current: number | null; notes: Partial<Record<number, StageNote>> }) {
  const go = useNavigate();
  const at = current === null ? first : first + gap * current;
  const swing = fading(11, first + gap * 5.6, 1.1);
  const y = (x: number) => 20 - swing(x) * Math.sin((x * 2 * Math.PI) / 38);
  const path = (from: number, to: number) => wavePath(from, to, 1, 20, 38, swing);
  return (
    <nav className="stage" aria-label="Stages of this car">
      <svg width="100%" viewBox={`0 0 ${width} 68`} style={{ maxWidth: width }} fill="none">
        <path d={path(Math.round(at), width)} stroke="var(--lineStrong)" strokeWidth="1.5" />
        <path d={path(0, Math.round(at))} stroke="var(--ink)" strokeWidth="2.5" />
        {stages.map((name, i) => {
          const x = first + gap * i;
          const on = i === current;
          const info = notes[i];
          const passed = current !== null && i < current;
          const mark = on ? (
            <>
              <path d={`M${x} ${y(x) - 15}V40`} stroke="var(--ink)" strokeWidth="2" />
              <path d={`M${x - 36} 35H${x + 34}L${x + 37} 39L${x + 33} 43L${x + 37} 47L${x + 34} 52H${x - 36}Z`} fill="var(--tape)" />
              <text x={x} y="48.5" textAnchor="middle" style={{ fill: "var(--onTape)", fontWeight: 700 }}>
                {name}
              </text>
            </>
          ) : (
            <>
              <circle cx={x} cy={y(x)} r="4" fill={passed ? "var(--ink)" : "var(--primer)"} stroke={passed ? "var(--ink)" : "var(--lineStrong)"} strokeWidth="1.5" />
              <text x={x} y="48" textAnchor="middle" style={{ fill: info?.to ? "var(--ink)" : "var(--ink2)" }}>
                {name}
              </text>
            </>
          );
          const note = info?.note ? (
            <text x={x} y="65" textAnchor="middle" style={{ fontSize: 12 }}>
              {info.note}
            </text>
          ) : null;
          const to = info?.to;
          return to && !on ? (
            <a
              key={name}
              href={to}
              aria-label={info.note ? `${name}: ${info.note}` : name}
              onClick={(event) => {
                event.preventDefault();
                void go(to);
              }}
            >
              <rect x={x - 44} y="0" width="88" height="68" fill="transparent" />
              {mark}
              {note}
            </a>
          ) : (
            <g key={name} aria-current={on ? "step" : undefined}>
              {mark}
              {note}
            </g>
          );
        })}
      </svg>
    </nav>
  );
}
