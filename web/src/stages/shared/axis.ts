import type { Schemas } from "../../api/client";

type Day = Schemas["WeekDay"];

/** A day of the axis: where it lies, and the minutes from midnight that it shows. */
export interface AxisDay {
  day: string;
  x: number;
  w: number;
  from: number;
  to: number;
  open: boolean;
}

/** The day and the minute of a moment as the shop's clock shows them: the server writes it in the shop's zone. */
export const dayOf = (at: string) => at.slice(0, 10);
export const minuteOf = (at: string) => Number(at.slice(11, 13)) * 60 + Number(at.slice(14, 16));

/** How wide days are drawn beside each other: today, the next one, others, and those on which the shop is closed. */
const wide = { today: 3.2, next: 2.4, other: 1.6, closed: 0.35 };
/** Minutes that are shown before the shop opens and after it closes. */
const around = 20;

/** Days side by side on so many px, from one on. */
export function axisOf(days: Day[], first: number, shown: number, width: number): AxisDay[] {
  const some = days.slice(first, first + shown);
  const share = some.map((d, i) => (d.spans.length === 0 ? wide.closed : first + i === 0 ? wide.today : first + i === 1 ? wide.next : wide.other));
  const all = share.reduce((a, b) => a + b, 0) || 1;
  let x = 0;
  return some.map((d, i) => {
    const w = ((share[i] ?? 0) / all) * width;
    const at = { day: d.day, x, w, from: (d.spans[0]?.from ?? 480) - around, to: (d.spans.at(-1)?.to ?? 1020) + around, open: d.spans.length > 0 };
    x += w;
    return at;
  });
}

/** Where a moment lies on the axis; before it 0, after it all of its width. */
export function xOf(axis: AxisDay[], at: string): number {
  const day = dayOf(at);
  const minute = minuteOf(at);
  for (const d of axis) {
    if (d.day === day) return d.x + d.w * Math.min(1, Math.max(0, (minute - d.from) / (d.to - d.from)));
    if (d.day > day) return d.x;
  }
  const last = axis.at(-1);
  return last ? last.x + last.w : 0;
}

/** The pieces of a stretch of time on the days of the axis that are open. */
export function pieces(axis: AxisDay[], start: string, end: string): { x: number; w: number }[] {
  return axis
    .filter((d) => d.open && d.day >= dayOf(start) && d.day <= dayOf(end))
    .map((d) => {
      const from = Math.max(d.x, xOf(axis, start));
      return { x: from, w: Math.min(d.x + d.w, xOf(axis, end)) - from };
    })
    .filter((p) => p.w > 0.5);
}

/** The moment at a place of the axis, on whole five minutes, as day and minute. */
export function momentAt(axis: AxisDay[], x: number): { day: string; minute: number } | null {
  const d = axis.find((a) => x >= a.x && x < a.x + a.w);
  if (!d) return null;
  return { day: d.day, minute: Math.round((d.from + ((x - d.x) / d.w) * (d.to - d.from)) / 5) * 5 };
}

/** A moment of the shop's clock as it is sent, with the zone of another one. */
export function momentText(day: string, minute: number, like: string): string {
  const two = (v: number) => String(v).padStart(2, "0");
  const zone = /(Z|[+-]\d\d:\d\d)$/.exec(like)?.[0] ?? "Z";
  return `${day}T${two(Math.floor(minute / 60))}:${two(minute % 60)}:00${zone}`;
}
