import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Link } from "react-router";
import type { Schemas } from "../../api/client";
import { patternOf } from "../../drawing/Patterns";
import { StateTab } from "../../drawing/StateTab";
import { useSize } from "../../drawing/useSize";
import { useLeft } from "../shared/useLeft";
import { axisOf, dayOf, minuteOf, pieces, xOf } from "../shared/axis";

type Week = Schemas["Week"];
type Alert = Schemas["Alert"];

/** The day that is shown: today, or the next one on which the shop is open. */
export function dayShown(week: Week): number {
  return Math.max(0, week.days.findIndex((d, i) => d.spans.length > 0 && (i > 0 || minuteOf(week.now) < (d.spans.at(-1)?.to ?? 0))));
}

/** What must not be touched until when, counted down. */
function Waiting({ wait }: { wait: Schemas["WeekWait"] }) {
  const left = useLeft(wait.until);
  return <>{left ? `${wait.text}, ${left} left` : wait.text}</>;
}

/** A car's day: what is done to it when, and what must not be touched. */
export function CarDay({ week, car, hours }: { week: Week; car: string; hours: boolean }) {
  const { ref, width } = useSize<HTMLDivElement>();
  const no = dayShown(week);
  const axis = axisOf(week.days, no, 1, width);
  const day = axis[0];
  const of = week.cars.find((c) => c.id === car);
  if (!day || !of) return <div ref={ref} />;
  const tasks = week.tasks.filter((t) => t.car_id === car);
  const first = day.x;
  const now = no === 0 ? xOf(axis, week.now) : null;
  const top = hours ? 16 : 0;
  const soft = of.waits.find((w) => xOf(axis, w.until) > first);
  return (
    <div ref={ref}>
      <svg width={width} height={top + 52} role="img" aria-label={`${of.name}: ${of.text}${soft ? `; ${soft.text}` : ""}`} style={{ display: "block" }}>
        {Array.from({ length: 24 }, (_, h) => h)
          .filter((h) => h * 60 >= day.from && h * 60 <= day.to)
          .map((h) => {
            const x = day.x + (day.w * (h * 60 - day.from)) / (day.to - day.from);
            return (
              <g key={h}>
                <path d={`M${x} ${top}V${top + 52}`} stroke="var(--line)" />
                {hours ? (
                  <text x={x} y="11" textAnchor="middle" className="xs" style={{ fontSize: 11 }} fill="var(--ink2)">
                    {h}
                  </text>
                ) : null}
              </g>
            );
          })}
        {tasks.map((t) => {
          const p = pieces(axis, t.start, t.end)[0];
          if (!p) return null;
          const room = Math.floor((p.w - 6) / 6.6);
          const named = room >= t.title.length && !tasks.some((o) => o !== t && o.start < t.start && o.end > t.start);
          return (
            <g key={t.key}>
              <rect x={p.x} y={top + 2} width={Math.max(3, p.w)} height="22" fill="var(--sheet)" stroke="var(--ink)" strokeWidth={t.begun ? 2.5 : 1}>
                <title>{`${t.text}, ${t.person}`}</title>
              </rect>
              {named ? (
                <text x={p.x + 4} y={top + 17} className="xs" style={{ fontSize: 12 }} fill="var(--ink)">
                  {t.title}
                </text>
              ) : null}
            </g>
          );
        })}
        {soft ? (
          <>
            <rect x={first} y={top + 41} width={Math.max(0, xOf(axis, soft.until) - first)} height="10" fill={patternOf.shut} />
            <text x={first} y={top + 37} className="xs" style={{ fontSize: 12, fontWeight: 600, paintOrder: "stroke" }} stroke="var(--paper)" strokeWidth="4" fill="var(--shut)">
              <Waiting wait={soft} />
            </text>
          </>
        ) : null}
        {now !== null ? <path d={`M${now} ${top}V${top + 52}`} stroke="var(--ink)" strokeWidth="2" /> : null}
      </svg>
    </div>
  );
}

const words: Record<Alert["kind"], string> = { film: "film", read: "gauge", date: "date", tell: "owner", shelf: "shelf" };

/** Where what an alert is about is mended. */
function placeOf(a: Alert): string {
  const car = `/cars/${encodeURIComponent(a.car_id ?? "")}`;
  switch (a.kind) {
    case "shelf":
      return "/shelf";
    case "read":
      return `/panels/${encodeURIComponent(a.panel_id ?? "")}/level`;
    case "tell":
      return `${car}/take-in`;
    default:
      return car;
  }
}

/** What to look at first, and each person's day with their machine time. */
export function DayAside({ week }: { week: Week }) {
  const day = week.days[dayShown(week)];
  const [all, setAll] = useState(false);
  const most = all ? week.alerts.length : 5;
  return (
    <Box component="aside" aria-label="The day" sx={{ display: "grid", gap: 18, alignContent: "start", minWidth: 0 }}>
      {week.alerts.length > 0 || week.faults.length > 0 ? (
        <section>
          <Box component="h2" className="t" sx={{ fontSize: 16, borderBottom: "1px solid var(--line)", paddingBottom: "6px" }}>
            Look at these first
          </Box>
          {week.alerts.slice(0, most).map((a) => (
            <Box key={`${a.kind}${a.head}${a.state}`} sx={{ display: "grid", gridTemplateColumns: "76px minmax(0,1fr)", gap: "0 8px", borderBottom: "1px solid var(--line)", padding: "8px 0" }}>
              <span>{a.state ? <StateTab state={a.state} /> : <span className="b">{words[a.kind]}</span>}</span>
              <span className="s">
                <Link to={placeOf(a)} style={{ color: "var(--ink)", fontWeight: 600, textDecoration: "none" }}>
                  {a.head}.
                </Link>{" "}
                {a.text}
              </span>
            </Box>
          ))}
          {week.alerts.length > most ? (
            <Button variant="hint" onClick={() => setAll(true)}>
              {week.alerts.length - most} more
            </Button>
          ) : null}
          {week.faults.map((f) => (
            <p key={f} className="s">
              {f}
            </p>
          ))}
        </section>
      ) : null}
      {week.people.map((p) => {
        const tasks = week.tasks.filter((t) => t.person === p.name && day && dayOf(t.start) <= day.day && dayOf(t.end) >= day.day);
        const load = p.days.find((l) => l.day === day?.day);
        return (
          <section key={p.name}>
            <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "baseline" }}>
              <Box component="h2" className="t" sx={{ fontSize: 16 }}>
                {p.name}
              </Box>
              <span className="s">
                machine time <b className="n">{(load?.machine_min ?? 0).toFixed(0)}</b>
                {p.machine_limit_min > 0 ? ` of ${p.machine_limit_min.toFixed(0)} min` : " min"}
              </span>
            </Box>
            <Box sx={{ height: 5, background: "var(--line)", borderTop: "1px solid var(--ink)" }}>
              <Box sx={{ height: 4, width: `${p.machine_limit_min > 0 ? Math.min(100, (100 * (load?.machine_min ?? 0)) / p.machine_limit_min) : 0}%`, background: "var(--ink2)" }} />
            </Box>
            {tasks.length === 0 ? <p className="s">nothing planned</p> : null}
            {tasks.slice(0, most).map((t) => (
              <Box key={t.key} sx={{ display: "grid", gridTemplateColumns: "52px minmax(0,1fr)", gap: 8, borderBottom: "1px solid var(--line)", padding: "4px 0", fontSize: 14, lineHeight: "19px" }}>
                <b className="n">{t.start.slice(11, 16)}</b>
                <Link to={`/cars/${encodeURIComponent(t.car_id)}`} style={{ color: "inherit", textDecoration: "none" }}>
                  {t.car}: {t.text.charAt(0).toLowerCase() + t.text.slice(1)}
                </Link>
              </Box>
            ))}
            {tasks.length > most ? (
              <p className="s">
                <Link to="/week" style={{ color: "var(--ink)" }}>
                  {tasks.length - most} more
                </Link>
              </p>
            ) : null}
          </section>
        );
      })}
    </Box>
  );
}
