import { useId, useRef, type KeyboardEvent, type ReactNode } from "react";
import type { Schemas } from "../api/client";
import { neighbourTowards, panelPath, pathOf, placementOf, type Shape } from "./geometry";
import { holeFill } from "./holes";

type Scenery = Schemas["Scenery"];

const margin = 60;

/** Wheels and ghosts lie under the panels. */
function Ground({ scenery }: { scenery: Scenery[] }) {
  const order = (kind: string) => (kind === "ghost" ? 0 : 1);
  return [...scenery]
    .sort((a, b) => order(a.kind) - order(b.kind))
    .map((s, i) => {
      if (s.centre && s.radius) {
        return (
          <g key={i} stroke="var(--line)" strokeWidth="1">
            <circle cx={s.centre.x} cy={s.centre.y} r={s.radius} fill="var(--sunk)" vectorEffect="non-scaling-stroke" />
            <circle cx={s.centre.x} cy={s.centre.y} r={s.radius * 0.66} fill="var(--paper)" vectorEffect="non-scaling-stroke" />
          </g>
        );
      }
      if (s.kind === "ghost") return <path key={i} d={pathOf(s.points)} fill="var(--ghost)" fillOpacity=".55" />;
      return null;
    });
}

/** Glass, lamps and mirrors lie over them. */
function Trim({ scenery }: { scenery: Scenery[] }) {
  return scenery
    .filter((s) => !s.centre && s.kind !== "ghost")
    .map((s, i) => (
      <path
        key={i}
        d={pathOf(s.points)}
        fill={["handle", "flap"].includes(s.kind) ? "none" : s.kind === "mirror" ? "var(--sheet)" : s.kind === "grille" ? "var(--rubber)" : "var(--glass)"}
        stroke="var(--lineStrong)"
        strokeWidth=".75"
        vectorEffect="non-scaling-stroke"
        pointerEvents="none"
      />
    ));
}

export interface FlatLayProps<P extends Shape> {
  label: string;
  box: Schemas["Box"];
  scenery: Scenery[];
  panels: P[];
  height: number;
  /** Left out where panels cannot be chosen: then it is one picture. */
  choose?: ((panel: P) => void) | undefined;
  spoken?: (panel: P) => string;
  chosen?: (panel: P) => boolean;
  fill?: (panel: P) => string;
  /** Drawn over the paint of a panel and cut by its outline. */
  inside?: (panel: P) => ReactNode;
  /** Drawn over a panel, in its own mm. */
  over?: (panel: P) => ReactNode;
  /** Small pictures leave creases and trim lines out. */
  small?: boolean;
}

/** The car unfolded: one stop for the keyboard, arrows go to neighbours. */
export function FlatLay<P extends Shape>({ label, box, scenery, panels, height, choose, spoken, chosen, fill, inside, over, small }: FlatLayProps<P>) {
  const scope = useId();
  const frame = useRef<SVGSVGElement>(null);
  const { x, y, w, h } = box;
  const pad = small ? 30 : margin;
  const stop = panels.find((p) => chosen?.(p)) ?? panels[0];
  const steer = (event: KeyboardEvent, panel: P) => {
    if (event.key === "Enter" || event.key === " ") {
      event.preventDefault();
      event.stopPropagation();
      choose?.(panel);
      return;
    }
    const way = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, -1], ArrowDown: [0, 1] }[event.key];
    const to = way ? neighbourTowards(panel, panels, way[0] ?? 0, way[1] ?? 0) : undefined;
    if (!to) return;
    event.preventDefault();
    event.stopPropagation();
    frame.current?.querySelector<SVGGElement>(`[data-panel="${CSS.escape(to.key)}"]`)?.focus();
  };
  return (
    <svg ref={frame} viewBox={`${x - pad} ${y - pad} ${w + 2 * pad} ${h + 2 * pad}`} width="100%" height={height} role={choose ? "group" : "img"} aria-label={label}>
      <Ground scenery={scenery} />
      {panels.map((p) => {
        const clip = `${scope}${p.key}`;
        const on = chosen?.(p) ?? false;
        return (
          <g
            key={p.key}
            data-panel={p.key}
            transform={placementOf(p)}
            {...(choose
              ? {
                  role: "button",
                  tabIndex: p === stop ? 0 : -1,
                  "aria-label": spoken?.(p) ?? p.name,
                  "aria-pressed": on,
                  onClick: () => choose(p),
                  onKeyDown: (event: KeyboardEvent) => steer(event, p),
                  style: { cursor: "pointer" },
                }
              : {})}
          >
            <path d={panelPath(p)} fill={fill?.(p) ?? "var(--sheet)"} fillRule="evenodd" />
            {inside ? (
              <>
                <clipPath id={clip}>
                  <path d={panelPath(p)} clipRule="evenodd" />
                </clipPath>
                <g clipPath={`url(#${clip})`}>{inside(p)}</g>
              </>
            ) : null}
            {p.holes.map((hole, i) =>
              small && hole.kind !== "glass" ? null : (
                <path key={i} d={pathOf(hole.points)} fill={holeFill(hole.kind)} stroke={hole.kind === "handle" || hole.kind === "flap" ? "var(--lineStrong)" : "var(--ink)"} strokeWidth=".75" vectorEffect="non-scaling-stroke" />
              ),
            )}
            {small
              ? null
              : p.creases.map((c) => (
                  <path key={c.name} d={pathOf(c.points, false)} fill="none" stroke="var(--lineStrong)" strokeWidth="1" strokeDasharray={c.hard ? undefined : "5 4"} vectorEffect="non-scaling-stroke" />
                ))}
            <path className="edge" d={pathOf(p.outline)} fill="none" stroke="var(--ink)" strokeWidth={on ? 2.5 : small ? 0.75 : 1.25} vectorEffect="non-scaling-stroke" />
            {over?.(p)}
          </g>
        );
      })}
      <Trim scenery={scenery} />
    </svg>
  );
}
