import type { KeyboardEvent, PointerEvent } from "react";
import type { Mark } from "../api/client";
import { SignPath } from "./Sign";
import type { Units } from "../app/units";

/** A wavy dashed edge around an area, so that it is not taken for a section. */
function wavy(a: number, b: number): string {
  const steps = 28;
  const points: string[] = [];
  for (let i = 0; i < steps; i += 1) {
    const t = (i / steps) * 2 * Math.PI;
    const k = 1 + 0.05 * Math.sin(5 * t);
    points.push(`${(a * k * Math.cos(t)).toFixed(1)} ${(b * k * Math.sin(t)).toFixed(1)}`);
  }
  return `M${points.join("L")}Z`;
}

/** The mark itself to scale, in mm about its own place. */
function Extent({ mark, k }: { mark: Mark; k: number }) {
  const a = mark.length_mm / 2;
  const b = mark.width_mm / 2;
  if (mark.kind === "run" || mark.kind === "sag") {
    return (
      <g fill="var(--tight)" fillOpacity=".85" stroke="currentColor" strokeWidth={1.75 * k}>
        <path d={`M${-a} 0C${-a * 0.3} ${-b * 0.5} ${a * 0.3} ${-b} ${a * 0.75} ${-b}A${a * 0.25} ${b} 0 0 1 ${a * 0.75} ${b}C${a * 0.3} ${b} ${-a * 0.3} ${b * 0.5} ${-a} 0Z`} />
        <path d={`M${-a * 0.7} 0H${a * 0.7}`} fill="none" />
      </g>
    );
  }
  if (mark.shape === "line") {
    const tick = 7 * k;
    return <path d={`M${-a} 0H${a}M${-a} ${-tick}V${tick}M${a} ${-tick}V${tick}`} fill="none" stroke="currentColor" strokeWidth={1.75 * k} />;
  }
  if (mark.shape === "area" || mark.density_dm2 > 0) {
    return <path d={wavy(a, b)} fill="currentColor" fillOpacity=".07" stroke="currentColor" strokeWidth={1.75 * k} strokeDasharray={`${7 * k} ${5 * k}`} />;
  }
  return null;
}

/** Whether a kind is drawn by its sign rather than its size. */
function bySign(mark: Mark): boolean {
  return mark.shape === "point" || mark.kind === "overspray" || mark.kind === "dull" || mark.kind === "curl";
}

interface OnPanelProps {
  u: Units;
  mark: Mark;
  /** mm a pixel. */
  k: number;
  chosen: boolean;
  /** Not on the shop server yet. */
  waiting: boolean;
  choose: (() => void) | undefined;
  grab?: ((event: PointerEvent, part: Grip) => void) | undefined;
}

/** What of a mark is dragged: the whole of it or an end. */
export type Grip = "move" | "end" | "side";

export function spokenMark(m: Mark, u: Units): string {
  const size = m.kind === "peel" ? `, grade ${m.grade}` : m.relief_um.mean > 0 ? `, ${u.um(m.relief_um.mean)} ${u.name}` : "";
  return `${m.name} ${m.no}${size}: ${m.text}`;
}

function act(event: KeyboardEvent, choose: () => void) {
  if (event.key !== "Enter" && event.key !== " ") return;
  event.preventDefault();
  event.stopPropagation();
  choose();
}

/** A mark on its panel: to scale where that can be seen, by its sign where not. */
export function OnPanel({ u, mark, k, chosen, waiting, choose, grab }: OnPanelProps) {
  const size = 22 * k;
  const closed = mark.outcome !== "open";
  const label = mark.kind === "nib" || mark.shape === "point" ? "" : mark.kind === "peel" ? `peel ${mark.grade}` : mark.kind === "run" ? `run ${u.um(mark.relief_um.mean)} ${u.name}` : mark.name;
  const reach = Math.max(mark.length_mm, mark.width_mm) / 2;
  return (
    <g
      data-mark={mark.id}
      transform={`translate(${mark.x_mm} ${mark.y_mm})`}
      {...(choose ? { role: "button", tabIndex: chosen ? 0 : -1, "aria-label": spokenMark(mark, u), "aria-pressed": chosen, onClick: choose, onKeyDown: (event: KeyboardEvent) => act(event, choose) } : { "aria-hidden": true })}
      style={{ cursor: "pointer", color: "var(--ink)" }}
      opacity={closed ? 0.45 : waiting ? 0.6 : 1}
      onPointerDown={grab ? (event) => grab(event, "move") : undefined}
    >
      {choose ? <circle r={Math.max(13 * k, Math.min(reach, 24 * k))} fill="transparent" /> : null}
      <g transform={`rotate(${mark.angle_deg})`}>
        <Extent mark={mark} k={k} />
        {chosen && grab ? (
          <>
            <circle cx={mark.length_mm / 2} r={7 * k} fill="var(--tape)" stroke="var(--onTape)" strokeWidth={1.5 * k} style={{ cursor: "grab" }} onPointerDown={(event) => grab(event, "end")} />
            {mark.shape === "area" ? <circle cy={mark.width_mm / 2} r={7 * k} fill="var(--tape)" stroke="var(--onTape)" strokeWidth={1.5 * k} style={{ cursor: "grab" }} onPointerDown={(event) => grab(event, "side")} /> : null}
          </>
        ) : null}
      </g>
      {bySign(mark) ? (
        <g transform={`translate(${-size / 2} ${-size / 2}) scale(${size / 24})`}>
          <SignPath kind={mark.kind} />
        </g>
      ) : null}
      <circle className="ring" r={25 * k} fill="none" stroke="var(--focus)" strokeWidth={3 * k} />
      {chosen ? <circle r={20 * k} fill="none" stroke="var(--tape)" strokeWidth={3.5 * k} /> : null}
      {label ? (
        <text x={Math.min(reach, 60 * k) + 12 * k} y={5 * k} fontSize={15 * k} style={{ fontWeight: 600, paintOrder: "stroke", stroke: "var(--sheet)", strokeWidth: 4 * k }} pointerEvents="none">
          {label}
        </text>
      ) : null}
    </g>
  );
}
