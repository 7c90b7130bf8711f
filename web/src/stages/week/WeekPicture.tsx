import { useState, type PointerEvent } from "react";
import type { Schemas } from "../../api/client";
import { patternOf } from "../../drawing/Patterns";
import { dayOf, minuteOf, momentAt, momentText, pieces, xOf, type AxisDay } from "../shared/axis";

export type Week = Schemas["Week"];
export type Task = Schemas["WeekTask"];

/** Where a task was let go: to whom, and from when on. */
export interface Drop {
  task: Task;
  person: string;
  at: string;
}

const names = 150;
const person = 48;
const car = 54;
const head = 34;

interface Props {
  week: Week;
  axis: AxisDay[];
  width: number;
  picked: string | null;
  /** The car whose chain is filled with ink. */
  chain: string | null;
  pick: (task: Task) => void;
  follow: (car: string) => void;
  drop: (d: Drop) => void;
}

/** The names of rows take so much of the width. */
export const weekNames = names;

function weekday(day: string): string {
  return new Date(`${day}T12:00:00Z`).toLocaleDateString("en-GB", { weekday: "short", timeZone: "UTC" });
}

/** Tasks of one kind on one car by one person, one right after the other: one block, with all of them in it. */
interface Run {
  first: Task;
  all: Task[];
  end: string;
}

/** How far apart tasks of one block are, in minutes. */
const apart = 15;

function runsOf(tasks: Task[]): Run[] {
  const out: Run[] = [];
  const open = new Map<string, Run>();
  for (const t of tasks) {
    const key = `${t.car_id} ${t.person} ${t.kind} ${t.begun} ${t.put}`;
    const run = open.get(key);
    if (run && dayOf(run.end) === dayOf(t.start) && minuteOf(t.start) - minuteOf(run.end) <= apart && !tasks.some((o) => o.person === t.person && o.car_id !== t.car_id && o.start >= run.end && o.start < t.start)) {
      run.all.push(t);
      run.end = t.end;
      continue;
    }
    const made = { first: t, all: [t], end: t.end };
    open.set(key, made);
    out.push(made);
  }
  return out;
}

/** Who does what when, by person and by car, on one axis of days. */
export function WeekPicture({ week, axis, width, picked, chain, pick, follow, drop }: Props) {
  const [drag, setDrag] = useState<{ key: string; dx: number; dy: number; x: number; y: number } | null>(null);
  const chained = new Set(week.cars.find((c) => c.id === chain)?.chain ?? []);
  const peopleTop = head;
  const carsHead = peopleTop + person * week.people.length + 26;
  const carsTop = carsHead + 12;
  const height = carsTop + car * week.cars.length + 6;
  const now = xOf(axis, week.now);
  const end = width - names;

  const grab = (task: Task) => (e: PointerEvent<SVGGElement>) => {
    if (e.button !== 0) return;
    e.currentTarget.setPointerCapture(e.pointerId);
    setDrag({ key: task.key, dx: 0, dy: 0, x: e.clientX, y: e.clientY });
  };
  const moved = (e: PointerEvent) => {
    if (drag) setDrag({ ...drag, dx: e.clientX - drag.x, dy: e.clientY - drag.y });
  };
  const letGo = (task: Task, row: number, x: number) => () => {
    const d = drag;
    setDrag(null);
    if (!d) return;
    if (Math.abs(d.dx) < 6 && Math.abs(d.dy) < 6) {
      pick(task);
      return;
    }
    const to = row < 0 ? task.person : week.people[Math.min(week.people.length - 1, Math.max(0, row + Math.round(d.dy / person)))]?.name;
    const at = Math.abs(d.dx) < 6 ? null : momentAt(axis, x + d.dx);
    if (to) drop({ task, person: to, at: at ? momentText(at.day, at.minute, week.now) : task.start });
  };

  const runs = runsOf(week.tasks);
  const block = (run: Run, y: number, h: number, row: number) => {
    const task = run.all.find((t) => t.key === picked) ?? run.first;
    const parts = pieces(axis, run.first.start, run.end);
    const first = parts[0];
    if (!first) return null;
    const ink = run.all.some((t) => chained.has(t.key));
    const shift = drag !== null && run.all.some((t) => t.key === drag.key) ? `translate(${drag.dx} ${row < 0 ? 0 : drag.dy})` : undefined;
    const label = row < 0 ? task.title : task.car;
    const mine = run.all.some((t) => t.key === picked);
    const room = Math.floor((first.w - 8) / 6.6);
    return (
      <g
        key={`${task.key}${row < 0 ? "c" : "p"}`}
        role="button"
        tabIndex={-1}
        aria-label={`${run.all.length > 1 ? `${task.title}, ${run.all.length} tasks` : task.text}, ${task.car}, ${task.person}`}
        data-task={task.key}
        transform={shift}
        style={{ cursor: "grab", touchAction: "none" }}
        onPointerDown={grab(task)}
        onPointerMove={moved}
        onPointerUp={letGo(task, row, first.x)}
        onPointerCancel={() => setDrag(null)}
      >
        {parts.map((p, i) => (
          <rect key={i} x={p.x} y={y} width={Math.max(p.w, 3)} height={h} fill={mine ? "var(--tape)" : ink ? "var(--ink)" : "var(--sheet)"} stroke="var(--ink)" strokeWidth={task.begun ? 2.5 : task.put ? 2 : 1} />
        ))}
        {room >= 3 && (row >= 0 || !runs.some((o) => o !== run && o.first.car_id === task.car_id && o.first.start < run.end && o.end > run.first.start)) ? (
          <text x={first.x + 5} y={y + h / 2 + 4.5} className="xs" fill={mine ? "var(--onTape)" : ink ? "var(--paper)" : "var(--ink)"} style={{ pointerEvents: "none", fontSize: 12 }}>
            {label.length > room ? `${label.slice(0, room - 1)}…` : label}
          </text>
        ) : null}
      </g>
    );
  };

  return (
    <svg width={width} height={height} role="group" aria-label="the week, by person and by car" style={{ display: "block" }}>
      {/* The names lie beside the axis. */}
      {week.people.map((p, i) => (
        <g key={p.name}>
          <text x="0" y={peopleTop + i * person + 20} className="t" style={{ fontSize: 15 }} fill="var(--ink)">
            {p.name}
          </text>
          <text x="0" y={peopleTop + i * person + 37} className="xs" style={{ fontSize: 12 }} fill="var(--ink2)">
            {p.machine_limit_min > 0 ? `machine, at most ${p.machine_limit_min.toFixed(0)} min` : "machine, no limit"}
          </text>
        </g>
      ))}
      <text x="0" y={head - 10} className="xs" style={{ fontSize: 12, fontWeight: 600 }} fill="var(--ink)">
        by person
      </text>
      <text x="0" y={carsHead} className="xs" style={{ fontSize: 12, fontWeight: 600 }} fill="var(--ink)">
        by car, and promised for
      </text>
      {week.cars.map((c, i) => (
        <g key={c.id} role="button" tabIndex={0} aria-label={`${c.name}: ${c.text}. Show what sets its date`} aria-pressed={c.id === chain} style={{ cursor: "pointer" }} onClick={() => follow(c.id)} onKeyDown={(e) => (e.key === "Enter" || e.key === " " ? (e.preventDefault(), follow(c.id)) : undefined)}>
          <rect x="-4" y={carsTop + i * car + 3} width={names - 6} height={car - 6} fill={c.id === chain ? "var(--sheet)" : "transparent"} />
          <text x="0" y={carsTop + i * car + 21} className="t" style={{ fontSize: 15 }} fill="var(--ink)">
            {c.name.length > 17 ? `${c.name.slice(0, 16)}…` : c.name}
          </text>
          <text x="0" y={carsTop + i * car + 38} className="xs" style={{ fontSize: 12 }} fill={c.late ? "var(--shut)" : "var(--ink2)"}>
            {c.due_at ? `${weekday(dayOf(c.due_at))} ${c.due_at.slice(11, 16)}${c.late ? ", late" : ""}` : "no date"}
          </text>
        </g>
      ))}
      <g transform={`translate(${names} 0)`}>
        {axis.map((d, i) => (
          <g key={d.day}>
            {i === 0 && d.open ? <rect x={d.x} y={head} width={d.w} height={height - head - 4} fill="var(--sheet)" opacity="0.6" /> : null}
            <path d={`M${d.x} 4V${height - 4}`} stroke="var(--line)" />
            {d.w > 26 ? (
              <text x={d.x + 6} y="14" className="t" style={{ fontSize: 14 }} fill={d.open ? "var(--ink)" : "var(--ink3)"}>
                {weekday(d.day)}
                {d.w > 70 ? ` ${Number(d.day.slice(8))}` : ""}
              </text>
            ) : null}
            {d.open
              ? [8, 10, 12, 14, 16].map((h) => {
                  const x = d.x + (d.w * (h * 60 - d.from)) / (d.to - d.from);
                  return h * 60 > d.from && h * 60 < d.to && (d.w > 150 || h === 12) && d.w > 60 ? (
                    <g key={h}>
                      <path d={`M${x} ${head - 5}V${head}`} stroke="var(--lineStrong)" />
                      <text x={x} y={head - 8} textAnchor="middle" className="xs" style={{ fontSize: 11 }} fill="var(--ink2)">
                        {h}
                      </text>
                    </g>
                  ) : null;
                })
              : null}
          </g>
        ))}
        <path d={`M0 ${head}H${end}M0 ${carsHead + 8}H${end}`} stroke="var(--ink)" strokeWidth="1.5" />
        {week.people.map((p, i) => {
          const y = peopleTop + i * person;
          return (
            <g key={p.name}>
              <path d={`M0 ${y + person}H${end}`} stroke="var(--line)" />
              {axis.map((d) => {
                const load = p.days.find((l) => l.day === d.day);
                if (!d.open || d.w < 20 || p.machine_limit_min === 0) return null;
                return (
                  <g key={d.day}>
                    <rect x={d.x + 4} y={y + 39} width={d.w - 8} height="4" fill="var(--line)" />
                    <rect x={d.x + 4} y={y + 39} width={(d.w - 8) * Math.min(1, (load?.machine_min ?? 0) / p.machine_limit_min)} height="4" fill="var(--ink2)">
                      <title>{`${p.name}, ${weekday(d.day)}: machine time ${(load?.machine_min ?? 0).toFixed(0)} of ${p.machine_limit_min.toFixed(0)} min`}</title>
                    </rect>
                  </g>
                );
              })}
              {runs.filter((r) => r.first.person === p.name).map((r) => block(r, y + 6, 28, i))}
            </g>
          );
        })}
        {week.cars.map((c, i) => {
          const y = carsTop + i * car;
          const own = runs.filter((r) => r.first.car_id === c.id);
          const due = c.due_at ? xOf(axis, c.due_at) : null;
          const soft = c.waits[0];
          return (
            <g key={c.id}>
              <path d={`M0 ${y + car}H${end}`} stroke="var(--line)" />
              {c.waits.map((w, k) => {
                const from = xOf(axis, w.from);
                const to = xOf(axis, w.until);
                return to - from > 1 ? (
                  <rect key={k} x={from} y={y + 39} width={to - from} height="11" fill={patternOf.shut}>
                    <title>{`${w.text}. ${w.why}`}</title>
                  </rect>
                ) : null;
              })}
              {soft ? (
                <text x={Math.min(xOf(axis, soft.until) + 6, Math.max(0, end - soft.text.length * 6.3))} y={y + 49} className="xs" style={{ fontSize: 12, fontWeight: 600, paintOrder: "stroke" }} stroke="var(--paper)" strokeWidth="3" fill="var(--shut)">
                  {soft.text}
                </text>
              ) : null}
              {own.map((r) => block(r, y + 6, 28, -1))}
              {due !== null && due > 0 && due < end ? (
                <g aria-hidden="true">
                  <path d={`M${due} ${y + 3}V${y + 38}`} stroke="var(--ink)" strokeWidth="2" />
                  <path d={`M${due} ${y + 3}h14l-4 5 4 5h-14z`} fill={c.id === chain ? "var(--tape)" : "var(--sheet)"} stroke="var(--ink)" />
                </g>
              ) : null}
            </g>
          );
        })}
        {now > 0 && now < end ? <path d={`M${now} ${head}V${height - 4}`} stroke="var(--ink)" strokeWidth="2" style={{ pointerEvents: "none" }} /> : null}
      </g>
    </svg>
  );
}
