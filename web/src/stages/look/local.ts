import type { Look, Mark, Point, Schemas } from "../../api/client";
import type { Grip } from "../../drawing/OnPanel";
import type { MarkAct } from "../../outbox/device";

/** A mark as it is shown until the shop server has answered. */
function provisional(look: Look, act: MarkAct & { do: "add" }, no: number): Mark {
  const usual = look.usual.find((u) => u.kind === act.body.kind);
  return {
    id: act.id,
    panel_id: look.panel.id,
    no,
    kind: act.body.kind,
    name: usual?.name ?? act.body.kind,
    shape: usual?.shape ?? "point",
    x_mm: act.body.x_mm,
    y_mm: act.body.y_mm,
    length_mm: usual?.length_mm ?? 0,
    width_mm: usual?.width_mm ?? 0,
    angle_deg: usual?.angle_deg ?? 0,
    class: usual?.class ?? "",
    size_um: 0,
    crest_um: 0,
    beside_um: 0,
    grade: look.panel.peel_grade,
    density_dm2: 0,
    note: "",
    found: act.body.found ?? "workshop",
    person: "",
    at: new Date().toISOString(),
    outcome: "open",
    do: "read",
    text: "on its way to the shop server",
    relief_um: { mean: 0, sd: 0 },
    film_um: 0,
    tell: false,
    photo: false,
  } satisfies Mark;
}

/** Marks as they are here and now: what the server knows, and what waits. */
export function changed(marks: Mark[], act: MarkAct, look: Look): Mark[] {
  switch (act.do) {
    case "add": {
      if (marks.some((m) => m.id === act.id)) return marks;
      const no = marks.filter((m) => m.kind === act.body.kind).length + 1;
      return [...marks, provisional(look, act, no)];
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
