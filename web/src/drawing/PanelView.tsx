import { Box } from "@mui/material";
import { useGesture } from "@use-gesture/react";
import { useId, useRef, type MouseEvent, type ReactNode } from "react";
import type { FilmMap, Panel, Point, Schemas } from "../api/client";
import type { Units } from "../app/units";
import { Bands } from "./Bands";
import { holeFill } from "./holes";
import { panelPath, pathOf, type FilmLayer } from "./geometry";
import { useSize } from "./useSize";

type Box = Schemas["Box"];

/** A finger that moves less than this, in px, taps. */
const still = 9;

interface At {
  clientX: number;
  clientY: number;
}

export interface PanelViewProps {
  u: Units;
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
  /** Two fingers bring the picture so many times closer, about a place. */
  pinch?: ((times: number, about: Point) => void) | undefined;
  drag?: { move: (at: Point) => void; end: () => void } | undefined;
}

/** One panel to scale, as large as its place allows. */
export function PanelView({ u, panel, map, label, layer, hover, inside, over, pick, focus, pull, pinch, drag }: PanelViewProps) {
  const { ref, width, height } = useSize<HTMLDivElement>();
  const clip = useId();
  const pad = 26;
  const seen = focus ?? { x: 0, y: 0, w: panel.width_mm, h: panel.height_mm };
  const k = Math.max(seen.w / Math.max(width - 2 * pad, 60), seen.h / Math.max(height - 2 * pad, 60));
  const w = width * k;
  const h = height * k;
  const x0 = seen.x + (seen.w - w) / 2;
  const y0 = seen.y + (seen.h - h) / 2;
  const svg = useRef<SVGSVGElement>(null);
  const at = ({ clientX, clientY }: At): Point => {
    const box = svg.current?.getBoundingClientRect() ?? { left: 0, top: 0 };
    return { x: x0 + (clientX - box.left) * k, y: y0 + (clientY - box.top) * k };
  };
  const skip = useRef(false);
  const moves = Boolean(drag ?? pull);
  const gestures = useGesture(
    {
      onPointerDown: () => {
        skip.current = false;
      },
      onDrag: ({ event, delta: [dx, dy], tap, last, pinching, cancel }) => {
        if (pinching) cancel();
        else if (drag) drag.move(at(event as unknown as At));
        else if (pull && !tap) pull(-dx * k, -dy * k);
        if (last && !tap && moves) skip.current = true;
      },
      onPinch: ({ delta: [times], offset: [now], origin: [clientX, clientY] }) => {
        skip.current = true;
        pinch?.(now / Math.max(now - times, 0.01), at({ clientX, clientY }));
      },
      onMove: ({ event }) => hover?.(at(event)),
      onPointerLeave: () => {
        hover?.(null);
        drag?.end();
      },
      onPointerUp: () => {
        if (drag) skip.current = true;
        drag?.end();
      },
    },
    { drag: { threshold: drag ? 0 : still, filterTaps: true, pointer: { capture: false } }, pinch: { enabled: pinch !== undefined } },
  );
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
        ref={svg}
        {...gestures()}
        viewBox={`${x0} ${y0} ${w} ${h}`}
        style={{ position: "absolute", inset: 0, width: "100%", height: "100%", touchAction: moves ? "none" : pinch ? "pan-x pan-y" : "manipulation", cursor: pick ? "crosshair" : "default", overflow: "visible" }}
        onClick={click}
        role="group"
        aria-label={label}
      >
        <clipPath id={clip}>
          <path d={panelPath(panel)} clipRule="evenodd" />
        </clipPath>
        <path d={panelPath(panel)} fill="var(--sheet)" fillRule="evenodd" />
        <g clipPath={`url(#${clip})`}>
          {map ? <Bands u={u} map={map} {...(layer ? { layer } : {})} readings={panel.readings} mean={panel.film_um?.mean ?? 0} dotScale={k} width={panel.width_mm} height={panel.height_mm} /> : null}
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
