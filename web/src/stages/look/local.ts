import type { Mark, Panel, Point, Schemas } from "../../api/client";
import { infoOf } from "../../drawing/kinds";
import type { Grip } from "../../drawing/OnPanel";
import { provisional, type Act } from "../../outbox/marks";

/** Marks as they are here and now: what the server knows, and what waits. */
export function changed(marks: Mark[], act: Act, panel: Panel): Mark[] {
  switch (act.do) {
    case "add": {
      if (marks.some((m) => m.id === act.id)) return marks;
      const no = marks.filter((m) => m.kind === act.body.kind).length + 1;
      return [...marks, provisional(panel.id, act.id, act.body.kind, { x: act.body.x_mm, y: act.body.y_mm }, no, infoOf(act.body.kind).label, panel.peel_grade)];
    }
    case "strike":
      return marks.filter((m) => m.id !== act.id);
    case "change":
      return marks.map((m) => (m.id === act.id ? { ...m, ...(act.body.x_mm === undefined ? {} : { x_mm: act.body.x_mm }), ...(act.body.y_mm === undefined ? {} : { y_mm: act.body.y_mm }), ...sized(act.body.sizes) } : m));
    case "close":
      return marks.map((m) => (m.id === act.id ? { ...m, outcome: act.body.outcome } : m));
    default:
      return marks;
  }
}

function sized(sizes: Schemas["MarkSizes"] | undefined): Partial<Mark> {
  return Object.fromEntries(Object.entries(sizes ?? {}).filter(([, v]) => v !== undefined)) as Partial<Mark>;
}

export interface Drag {
  mark: Mark;
  grip: Grip;
  from: Point;
  now: Point | null;
}

/** Where a drag has got a mark to. */
export function dragged(d: Drag): Pick<Mark, "x_mm" | "y_mm" | "length_mm" | "width_mm" | "angle_deg"> {
  const { mark: m, now } = d;
  if (!now) return m;
  if (d.grip === "move") return { ...m, x_mm: m.x_mm + now.x - d.from.x, y_mm: m.y_mm + now.y - d.from.y };
  const dx = now.x - m.x_mm;
  const dy = now.y - m.y_mm;
  const reach = Math.max(2, Math.round(2 * Math.hypot(dx, dy)));
  if (d.grip === "side") return { ...m, width_mm: reach };
  return { ...m, length_mm: reach, angle_deg: Math.round((Math.atan2(dy, dx) * 180) / Math.PI) };
}

/** How much closer the picture is, and about which place. */
export interface Near extends Point {
  times: number;
}

/** The part of a panel that is seen from closer, kept on the panel. */
export function closer(all: Schemas["Box"] | undefined, near: Near): Schemas["Box"] | undefined {
  if (!all) return undefined;
  const w = all.w / near.times;
  const h = all.h / near.times;
  const within = (v: number, from: number, size: number, part: number) => Math.min(Math.max(v - part / 2, from), from + size - part);
  return { x: within(near.x, all.x, all.w, w), y: within(near.y, all.y, all.h, h), w, h };
}
