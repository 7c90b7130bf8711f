import { Box } from "@mui/material";
import { useId, useRef, type MouseEvent, type PointerEvent, type ReactNode } from "react";
import type { FilmMap, Panel, Point, Schemas } from "../api/client";
import { Bands } from "./Bands";
import { holeFill } from "./holes";
import { panelPath, pathOf, type FilmLayer } from "./geometry";
import { useSize } from "./useSize";

type Box = Schemas["Box"];

/** A finger that moves less than this, in px, taps. */
const still = 9;

export interface PanelViewProps {
  panel: Panel;
  map?: FilmMap | undefined;
  layer?: FilmLayer;
  /** Where the pointer is, mm; null off the panel. */
  hover?: (at: Point | null) => void;
  label: string;
  /** Drawn over the paint and cut by its outline; k is mm a pixel. */
  inside?: (k: number) => ReactNode;
  /** Drawn over everything; width is that of the place in px. */
  over?: (k: number, width: number) => ReactNode;
  pick?: ((at: Point) => void) | undefined;
  /** The part of the panel that is shown, mm; all of it where left out. */
  focus?: Box | undefined;
  /** The view is moved by this many mm while the picture is pulled. */
  pull?: ((dx: number, dy: number) => void) | undefined;
  drag?: { move: (at: Point) => void; end: () => void } | undefined;
}

/** One panel to scale, as large as its place allows. */
export function PanelView({ panel, map, label, layer, hover, inside, over, pick, focus, pull, drag }: PanelViewProps) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const clip = useId();
  const pad = 26;
  const seen = focus ?? { x: 0, y: 0, w: panel.width_mm, h: panel.height_mm };
  const k = Math.max(seen.w / Math.max(width - 2 * pad, 60), seen.h / Math.max(height - 2 * pad, 60));
  const w = width * k;
  const h = height * k;
  const x0 = seen.x + (seen.w - w) / 2;
  const y0 = seen.y + (seen.h - h) / 2;
  const at = (event: MouseEvent<SVGSVGElement>): Point => {
    const box = event.currentTarget.getBoundingClientRect();
    return { x: x0 + (event.clientX - box.left) * k, y: y0 + (event.clientY - box.top) * k };
  };
  const hold = useRef<{ x: number; y: number; pulled: boolean } | null>(null);
  const skip = useRef(false);
  const down = (event: PointerEvent<SVGSVGElement>) => {
    skip.current = false;
    hold.current = { x: event.clientX, y: event.clientY, pulled: false };
  };
  const move = (event: PointerEvent<SVGSVGElement>) => {
    hover?.(at(event));
    if (drag) {
      drag.move(at(event));
      return;
    }
    const from = hold.current;
    if (!pull || !from || (!from.pulled && Math.hypot(event.clientX - from.x, event.clientY - from.y) < still)) return;
    pull((from.x - event.clientX) * k, (from.y - event.clientY) * k);
    hold.current = { x: event.clientX, y: event.clientY, pulled: true };
  };
  const up = () => {
    if (hold.current?.pulled || drag) skip.current = true;
    hold.current = null;
    drag?.end();
  };
  // On the click, not before it: what a tap draws under a finger would else be
  // clicked by the same tap.
  const click = (event: MouseEvent<SVGSVGElement>) => {
    const over = skip.current;
    skip.current = false;
    if (over || !pick || (event.target instanceof Element && event.target.closest("[role=button]"))) return;
    pick(at(event));
  };
  return (
    <Box ref={ref} sx={{ flex: 1, minHeight: 260, position: "relative", overflow: focus ? "hidden" : "visible" }}>
      <svg
        viewBox={`${x0} ${y0} ${w} ${h}`}
        style={{ position: "absolute", inset: 0, width: "100%", height: "100%", touchAction: drag || pull ? "none" : "manipulation", cursor: pick ? "crosshair" : "default", overflow: "visible" }}
        onPointerUp={up}
        onClick={click}
        onPointerDown={down}
        onPointerMove={drag || pull || hover ? move : undefined}
        onPointerLeave={() => {
          hold.current = null;
          hover?.(null);
          drag?.end();
        }}
        role="group"
        aria-label={label}
      >
        <clipPath id={clip}>
          <path d={panelPath(panel)} clipRule="evenodd" />
        </clipPath>
        <path d={panelPath(panel)} fill="var(--sheet)" fillRule="evenodd" />
        <g clipPath={`url(#${clip})`}>
          {map ? <Bands map={map} {...(layer ? { layer } : {})} readings={panel.readings} mean={panel.film_um?.mean ?? 0} dotScale={k} width={panel.width_mm} height={panel.height_mm} /> : null}
          {inside?.(k)}
        </g>
        {panel.holes.map((hole, i) => (
          <path key={i} d={pathOf(hole.points)} fill={holeFill(hole.kind)} stroke={hole.kind === "handle" || hole.kind === "flap" ? "var(--lineStrong)" : "var(--ink)"} strokeWidth="1.25" vectorEffect="non-scaling-stroke" />
        ))}
        {panel.creases.map((c) => (
          <g key={c.name} fill="none">
            <path d={pathOf(c.points, false)} stroke="var(--paper)" strokeWidth="3.5" vectorEffect="non-scaling-stroke" />
            <path d={pathOf(c.points, false)} stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" strokeDasharray={c.hard ? undefined : "5 4"} />
          </g>
        ))}
        <path d={pathOf(panel.outline)} fill="none" stroke="var(--ink)" strokeWidth="2.25" vectorEffect="non-scaling-stroke" />
        {over?.(k, width)}
      </svg>
    </Box>
  );
}
