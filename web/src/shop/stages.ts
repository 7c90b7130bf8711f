import type { CarSummary, Panel } from "../api/client";
import type { StageNote } from "../shell/StageLine";
import { count } from "../words/format";

/** What the stage line says of a panel, and where each stage is. */
export function stageNotes(panel: Panel, car: CarSummary, own: Partial<Record<number, string>>): Partial<Record<number, StageNote>> {
  const at = `/panels/${encodeURIComponent(panel.id)}`;
  const notes: Partial<Record<number, StageNote>> = {
    0: { to: `/cars/${encodeURIComponent(car.id)}`, note: "the car" },
    2: { to: `${at}/read`, note: count(panel.readings, "reading") },
    3: { to: `${at}/plan`, note: car.next.stage === "read" ? "waits for Read" : car.next.stage === "level" ? "accepted" : "to accept" },
    4: { to: `${at}/level`, note: car.next.stage === "level" ? "open" : "waits for Plan" },
  };
  for (const [i, note] of Object.entries(own)) {
    const key = Number(i);
    notes[key] = { ...notes[key], ...(note === undefined ? {} : { note }) };
  }
  return notes;
}
