import type { Car, CarSummary, Panel } from "../api/client";
import type { StageNote } from "./StageLine";
import { count } from "./format";

/** Where a car is handed over. */
export const handOverOf = (car: string): string => `/cars/${encodeURIComponent(car)}/hand-over`;

/** Where the next action of a car is done. */
export const nextOf = (car: Pick<CarSummary, "id" | "next">): string => (car.next.stage === "hand-over" ? handOverOf(car.id) : `/panels/${encodeURIComponent(car.next.panel_id)}/${car.next.stage}`);

/** What the stage line says of a panel, and where each stage is. */
export function stageNotes(panel: Panel, car: CarSummary, own: Partial<Record<number, string>>): Partial<Record<number, StageNote>> {
  const at = `/panels/${encodeURIComponent(panel.id)}`;
  const worked = car.next.stage === "prove" || car.next.stage === "hand-over";
  const notes: Partial<Record<number, StageNote>> = {
    0: { to: `/cars/${encodeURIComponent(car.id)}/take-in`, note: panel.origin === "unknown" ? "origin not known" : "" },
    1: { to: `${at}/look`, note: panel.marks.length > 0 ? count(panel.marks.length, "mark") : "no marks" },
    2: { to: `${at}/read`, note: count(panel.readings, "reading") },
    3: { to: `${at}/plan`, note: car.next.stage === "read" ? "waits for Read" : car.next.stage === "level" || worked ? "accepted" : "to accept" },
    4: { to: `${at}/level`, note: car.next.stage === "level" ? "open" : worked ? "done" : "waits for Plan" },
    5: { to: `${at}/prove` },
    6: { to: handOverOf(car.id) },
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
    6: { to: handOverOf(car.id), note: car.handed_over_at ? "handed over" : "" },
  };
}
