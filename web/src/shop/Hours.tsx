import { Box } from "@mui/material";
import type { Schemas } from "../api/client";
import { Field } from "../ui/Field";

export type Spans = Schemas["Span"][];

const days = ["Sunday", "Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday"];
const two = (v: number) => String(v).padStart(2, "0");
const clock = (m: number) => `${two(Math.floor(m / 60))}:${two(m % 60)}`;

/** The hours of a day as they are typed: 08:00-12:00, 12:30-17:00; empty for closed. */
export const hoursText = (spans: Spans) => spans.map((s) => `${clock(s.from)}-${clock(s.to)}`).join(", ");

/** What somebody typed as the hours of a day; null where it cannot be read. */
export function hoursTyped(text: string): Spans | null {
  const parts = text
    .split(/[,;]/)
    .map((p) => p.trim())
    .filter(Boolean);
  const out: Spans = [];
  for (const p of parts) {
    const m = /^(\d{1,2})[:.]?(\d{2})?\s*(?:-|–|to)\s*(\d{1,2})[:.]?(\d{2})?$/.exec(p);
    if (!m) return null;
    const at = (h: string | undefined, min: string | undefined) => Number(h) * 60 + Number(min ?? 0);
    const span = { from: at(m[1], m[2]), to: at(m[3], m[4]) };
    if (span.from > 1440 || span.to > 1440) return null;
    out.push(span);
  }
  return out;
}

/** The hours of a week, a line a day from Monday on. */
export function WeekHours({ texts, set }: { texts: string[]; set: (texts: string[]) => void }) {
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "104px minmax(0,1fr)", gap: "6px 10px", alignItems: "center" }}>
      {[1, 2, 3, 4, 5, 6, 0].map((d) => (
        <Box key={d} sx={{ display: "contents" }}>
          <span>{days[d]}</span>
          <Field label={`Hours on ${days[d] ?? ""}`} silent value={texts[d] ?? ""} most={60} placeholder="closed" error={hoursTyped(texts[d] ?? "") === null} onChange={(e) => set(texts.map((t, i) => (i === d ? e.target.value : t)))} />
        </Box>
      ))}
    </Box>
  );
}

/** The hours of a week that were typed; null where a day cannot be read. */
export function weekTyped(texts: string[]): Spans[] | null {
  const out = texts.map(hoursTyped);
  return out.every((d) => d !== null) ? out : null;
}

/** The day whose hours cannot be read, and how they would be right. */
export function hoursFault(texts: string[]): string {
  const bad = texts.findIndex((t) => hoursTyped(t) === null);
  return bad < 0 ? "" : `The hours of ${days[bad] ?? ""} cannot be read: write them as 08:00-12:00, 12:30-17:00, or leave the line empty for a day off.`;
}
