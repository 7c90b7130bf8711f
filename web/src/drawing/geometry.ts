import { contours } from "d3-contour";
import type { BodyPanel, FilmMap, Point } from "../api/client";

/** What a drawing needs to know of a panel. */
export type Shape = Pick<BodyPanel, "key" | "name" | "outline" | "holes" | "creases" | "placement" | "width_mm" | "height_mm" | "neighbours">;

export function pathOf(points: Point[], closed = true): string {
  return `M${points.map((p) => `${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("L")}${closed ? "Z" : ""}`;
}

/** Outline with its cut-outs, for the even-odd rule; a flap is painted too. */
export function panelPath(panel: Pick<Shape, "outline" | "holes">): string {
  return pathOf(panel.outline) + panel.holes.map((h) => (h.kind === "flap" ? "" : pathOf(h.points))).join("");
}

/** Areas that lie side by side as one path. */
export function areasPath(areas: Point[][]): string {
  return areas.map((a) => pathOf(a)).join("");
}

/** Where a panel lies on the unfolded sheet. */
export function placementOf(panel: Pick<Shape, "placement" | "width_mm" | "height_mm">): string {
  const { x, y, turned } = panel.placement;
  return turned ? `translate(${x + panel.width_mm} ${y + panel.height_mm}) rotate(180)` : `translate(${x} ${y})`;
}

/** The middle of a panel on the unfolded sheet. */
export function centreOf(panel: Pick<Shape, "placement" | "width_mm" | "height_mm">): Point {
  return { x: panel.placement.x + panel.width_mm / 2, y: panel.placement.y + panel.height_mm / 2 };
}

/** The panel to go to in a direction: a neighbour before one that is only near. */
export function neighbourTowards<P extends Shape>(from: P, panels: P[], dx: number, dy: number): P | undefined {
  const a = centreOf(from);
  const beside = new Set(from.neighbours.map((n) => n.key));
  let best: P | undefined;
  let least = Infinity;
  for (const p of panels) {
    if (p === from) continue;
    const b = centreOf(p);
    const along = (b.x - a.x) * dx + (b.y - a.y) * dy;
    const across = Math.abs((b.x - a.x) * dy) + Math.abs((b.y - a.y) * dx);
    if (along < 20 || across > 2 * along) continue;
    const cost = (along + across) * (beside.has(p.key) ? 0.4 : 1);
    if (cost < least) [best, least] = [p, cost];
  }
  return best;
}

/** What a panel's map can show. */
export type FilmLayer = "film" | "doubt" | "headroom";
export const filmLayers: FilmLayer[] = ["film", "doubt", "headroom"];
export const layerNames: Record<FilmLayer, string> = { film: "film, total", doubt: "doubt of the film", headroom: "headroom of the clear" };

export function layerValues(map: FilmMap, layer: FilmLayer): number[] {
  if (layer === "film") return map.mean_um;
  return layer === "doubt" ? map.sd_um : (map.room_um ?? []);
}

/** The value of a layer at the node nearest to a place. */
export function valueAt(map: FilmMap, layer: FilmLayer, at: { x: number; y: number }): number | undefined {
  const i = Math.round((at.x - map.origin_mm.x) / map.step_mm);
  const j = Math.round((at.y - map.origin_mm.y) / map.step_mm);
  return i < 0 || j < 0 || i >= map.nx || j >= map.ny ? undefined : layerValues(map, layer)[j * map.nx + i];
}

/** The band that a film of that many µm lies in. */
export function bandOf(edges: readonly number[], film: number): number {
  return Math.max(0, edges.filter((edge) => film >= edge).length - 1);
}

function lines(map: FilmMap, values: number[], levels: readonly number[]) {
  const at = (q: number[]) => `${(map.origin_mm.x + ((q[0] ?? 0) - 0.5) * map.step_mm).toFixed(1)} ${(map.origin_mm.y + ((q[1] ?? 0) - 0.5) * map.step_mm).toFixed(1)}`;
  return contours()
    .size([map.nx, map.ny])
    .thresholds([...levels])(values)
    .map((level) => ({
      value: level.value,
      path: level.coordinates
        .map((polygon) =>
          polygon
            .map((ring) => `M${ring.map(at).join("L")}Z`)
            .join(""),
        )
        .join(""),
    }));
}

/** Bands of a layer between edges, as filled paths, each over the one before. */
export function layerBands(map: FilmMap, layer: FilmLayer, edges: readonly number[]) {
  return lines(map, layerValues(map, layer), edges.slice(1)).map((l, i) => ({ ...l, band: i + 1 }));
}

/** Where the map guesses: so many µm of doubt and more. */
export function guessPath(map: FilmMap, from: number): string {
  return lines(map, map.sd_um, [from])[0]?.path ?? "";
}

/** The clear under which paint counts as gone through, µm, as the core has it. */
export const through = 10;
