import { Box } from "@mui/material";
import { told } from "./entries";
import type { Level, Point } from "../../api/client";
import { PanelView } from "../../drawing/PanelView";
import { areasPath } from "../../drawing/geometry";
import { MarksHere } from "../shared/MarksHere";
import { OnPanel } from "../../drawing/OnPanel";
import { useUnits } from "../../app/units";
import { ScaledPatterns, scaledFill } from "../../drawing/ScaledPatterns";

function box(points: Point[]) {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  return { x0: Math.min(...xs), x1: Math.max(...xs), y0: Math.min(...ys), y1: Math.max(...ys) };
}

/** Strokes of the step across the section in hand. */
function Strokes({ outline, degrees, k }: { outline: Point[]; degrees: number; k: number }) {
  const { x0, x1, y0, y1 } = box(outline);
  const cx = (x0 + x1) / 2;
  const cy = (y0 + y1) / 2;
  const half = Math.min((y1 - y0) * 0.36, (x1 - x0) * 0.3, 150);
  const count = Math.max(2, Math.min(5, Math.round((x1 - x0) / (half * 1.5))));
  const turns = degrees < 0 ? [0, 90] : [degrees];
  const head = 13 * k;
  const arrows = (turn: number) =>
    Array.from({ length: turns.length > 1 ? 3 : count }, (_, i) => {
      const n = turns.length > 1 ? 3 : count;
      const shift = (i - (n - 1) / 2) * (turns.length > 1 ? half * 0.62 : (x1 - x0) / (count + 0.4));
      const at = turn === 0 ? `translate(${cx} ${cy + shift})` : `translate(${cx + shift} ${cy})`;
      const long = turns.length > 1 ? half * 1.15 : half * 1.25;
      return (
        <g key={`${turn}-${i}`} transform={`${at} rotate(${-turn})`}>
          <path d={`M${-long} 0H${long}M${long - head} ${-head * 0.8}L${long} 0L${long - head} ${head * 0.8}M${-long + head} ${-head * 0.8}L${-long} 0L${-long + head} ${head * 0.8}`} />
        </g>
      );
    });
  return (
    <g fill="none" stroke="var(--onOpen)" strokeWidth={5 * k}>
      {turns.map(arrows)}
    </g>
  );
}

/** What was done on the section in hand, the last first; struck entries stay. */
function Log({ level }: { level: Level }) {
  const u = useUnits();
  const own = level.log.filter((e) => e.section === level.section);
  if (own.length === 0) return null;
  return (
    <Box component="ol" aria-label="Log of this section" tabIndex={0} sx={{ margin: "6px 0 0", padding: 0, listStyle: "none", overflow: "auto", flex: "none", maxHeight: 42, fontSize: 14, lineHeight: "20px", color: "var(--ink2)" }}>
      {[...own].reverse().map((e) => (
        <Box component="li" key={e.id} sx={e.struck_at ? { textDecoration: "line-through" } : undefined}>
          {u.clock(new Date(e.at))} {e.person}: {told(e, level.steps[e.step - 1])}, {level.steps[e.step - 1]?.title}
          {e.late ? `, ${e.late}` : ""}
          {e.struck_at ? `, ${e.struck_reason ?? ""}` : ""}
        </Box>
      ))}
    </Box>
  );
}

/** The panel with the section in hand, the stroke's direction and spots to read. */
export function SectionPicture({ level, who, choose, work }: { level: Level; who: string; choose: (key: string) => void; work: () => void }) {
  const u = useUnits();
  const hand = level.hand;
  const step = hand ? level.steps[hand.step - 1] : undefined;
  const shut = hand?.passes_granted === 0;
  return (
    <Box component="section" aria-label="Section in hand" sx={{ display: "flex", flexDirection: "column", minHeight: 0 }}>
      <PanelView
        u={u}
        panel={level.panel}
        label={`${level.panel.name}: sections`}
        inside={(k) => (
          <>
            <ScaledPatterns id="sec" scale={k} />
            {level.sections.map((s) => {
              const on = s.key === level.section;
              return (
                <path
                  key={s.key}
                  d={areasPath(s.outlines)}
                  role="button"
                  tabIndex={0}
                  aria-label={`${s.name}: ${s.done ? "all steps done" : `step ${s.step}`}${s.state ? `, ${s.state}` : ""}`}
                  aria-pressed={on}
                  onClick={() => choose(s.key)}
                  onKeyDown={(event) => {
                    if (event.key === "Enter" || event.key === " ") {
                      event.preventDefault();
                      event.stopPropagation();
                      choose(s.key);
                    }
                  }}
                  fill={on ? (shut ? "url(#secshut)" : s.done ? "var(--sunk)" : scaledFill("sec", "open")) : s.done ? "var(--sunk)" : "var(--sheet)"}
                  stroke="var(--ink)"
                  strokeWidth={on ? 2 : 1}
                  strokeDasharray="6 4"
                  vectorEffect="non-scaling-stroke"
                  style={{ cursor: "pointer" }}
                />
              );
            })}
            {level.sections
              .filter((s) => s.key === level.section && step && !shut)
              .map((s) => (
                <g key={s.key} pointerEvents="none">
                  <Strokes outline={s.outlines.flat()} degrees={step?.stroke ?? 45} k={k} />
                </g>
              ))}
          </>
        )}
        over={(k) => (
          <>
          {level.marks.map((m) => (
            <OnPanel u={u} key={m.id} mark={m} k={k} chosen={false} waiting={false} choose={undefined} />
          ))}
          {level.spots.map((p, i) => (
            <g key={i} transform={`translate(${p.x_mm} ${p.y_mm}) scale(${k})`} pointerEvents="none">
              <circle r="14" fill={i === 0 && shut ? "var(--tape)" : "var(--sheet)"} stroke="var(--ink)" strokeWidth="2" />
              <text className="n" textAnchor="middle" y="5" fontSize="14" style={i === 0 && shut ? { fill: "var(--onTape)" } : undefined}>
                {i + 1}
              </text>
            </g>
          ))}
          </>
        )}
      />
      <MarksHere here={level.marks_here} panelId={level.panel.id} person={who} work={level.guides.length > 0 ? work : undefined} />
      <Box component="p" className="s" sx={{ fontSize: 15, lineHeight: "20px", padding: "6px 0 0" }}>
        Numbers: spots to read, those read before first; they teach the cut. Stay {u.mm(25)} off edges and {u.mm(20)} off creases.
      </Box>
      <Log level={level} />
    </Box>
  );
}
