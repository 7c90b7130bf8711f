import type { Car, CarSummary, Panel } from "../api/client";
import type { StageNote } from "./StageLine";
import { count } from "./format";

/** What the stage line says of a panel, and where each stage is. */
export function stageNotes(panel: Panel, car: CarSummary, own: Partial<Record<number, string>>): Partial<Record<number, StageNote>> {
  const at = `/panels/${encodeURIComponent(panel.id)}`;
  const notes: Partial<Record<number, StageNote>> = {
    0: { to: `/cars/${encodeURIComponent(car.id)}/take-in`, note: panel.origin === "unknown" ? "origin not known" : "" },
    1: { to: `${at}/look`, note: panel.marks.length > 0 ? count(panel.marks.length, "mark") : "no marks" },
    2: { to: `${at}/read`, note: count(panel.readings, "reading") },
    3: { to: `${at}/plan`, note: car.next.stage === "read" ? "waits for Read" : car.next.stage === "level" || car.next.stage === "prove" ? "accepted" : "to accept" },
    4: { to: `${at}/level`, note: car.next.stage === "level" ? "open" : car.next.stage === "prove" ? "done" : "waits for Plan" },
    5: { to: `${at}/prove` },
  };
  for (const [i, note] of Object.entries(own)) {
    const key = Number(i);
    notes[key] = { ...notes[key], ...(note === undefined ? {} : { note }) };
  }
  return notes;
}

/** What the stage line says of a whole car. */
export function carNotes(car: Car): Partial<Record<number, StageNote>> {
  const at = `/panels/${encodeURIComponent(car.next.panel_id)}`;
  const open = car.tellings.filter((t) => !t.said_at).length;
  const marks = car.marks.reduce((n, m) => n + m.open, 0);
  const unread = car.panels.filter((p) => p.substrate !== "plastic" && p.readings === 0).length;
  return {
    0: { to: `/cars/${encodeURIComponent(car.id)}/take-in`, note: open > 0 ? `${open} to tell` : "" },
    1: { to: `${at}/look`, note: count(marks, "mark") },
    2: { to: `${at}/read`, note: unread > 0 ? `${unread} not read` : "all read" },
    3: { to: `/cars/${encodeURIComponent(car.id)}/plans` },
    4: { to: `${at}/level` },
    5: { to: `${at}/prove` },
  };
}
