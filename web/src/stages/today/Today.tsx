import { Box, Button } from "@mui/material";
import { Link, useNavigate } from "react-router";
import { useEffect, useRef, useState } from "react";
import { useNews } from "../../api/news";
import { useCars, useShop, useTouched, useWeek } from "../../api/queries";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { type CarSummary, type Schemas } from "../../api/client";
import { useKeys } from "../../app/keys";
import { Page } from "../../app/Page";
import { ScaledPatterns, scaledFill } from "../../drawing/ScaledPatterns";
import { StateTab } from "../../drawing/StateTab";
import { fading, wavePath } from "../../drawing/wave";
import { capital, count } from "../../app/format";
import { handOverOf, nextOf } from "../../app/stageNotes";
import { useUnits } from "../../app/units";
import { CarDay, DayAside, dayShown } from "./Day";

function Small({ car }: { car: CarSummary }) {
  const box = car.box;
  if (!box || box.w === 0 || !car.panels) return <Box component="span" sx={{ width: 140, flex: "none" }} />;
  return (
    <svg viewBox={`${box.x - 60} ${box.y - 60} ${box.w + 120} ${box.h + 120}`} width="140" height="92" aria-hidden="true" style={{ flex: "none" }}>
      <ScaledPatterns id={`${car.id}-`} scale={(box.w + 120) / 190} />
      {car.panels.map((p, i) => (
        <path key={i} d={p.path} fill={p.state ? scaledFill(`${car.id}-`, p.state) : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
      ))}
    </svg>
  );
}

/** Where the next action of a car is done; the car itself while that is not known. */
function next(car: CarSummary): string {
  if (car.handed_over_at) return handOverOf(car.id);
  return car.next.panel_id && !car.fault ? nextOf(car) : `/cars/${encodeURIComponent(car.id)}`;
}

/** The tasks of the week that the next action of a stage is one of. */
const tasksOf: Record<string, string[]> = { look: ["look", "nibs", "runs"], read: ["read"], plan: ["plan"], level: ["block", "refine", "compound", "polish", "nibs", "runs"], prove: ["check"], "hand-over": ["hand_over"] };

function Line({ car, no, first, week }: { car: CarSummary; no: number; first: boolean; week: Schemas["Week"] | undefined }) {
  const u = useUnits();
  const task = car.handed_over_at ? undefined : week?.tasks.find((t) => t.car_id === car.id && tasksOf[car.next.stage]?.includes(t.kind));
  return (
    <Box component="li" className="carline" sx={{ borderBottom: "1px solid var(--line)", padding: "5px 0", minHeight: 104 }}>
      <Link to={`/cars/${encodeURIComponent(car.id)}`} aria-label={`${car.name}, the whole car`}>
        <Small car={car} />
      </Link>
      <Box sx={{ width: 330, maxWidth: "100%" }}>
        <Box component="h2" className="t" sx={{ fontSize: 20, lineHeight: "26px" }}>
          <Box component={Link} to={`/cars/${encodeURIComponent(car.id)}`} sx={{ color: "inherit", textDecoration: "none" }}>
            {car.name}
          </Box>{" "}
          <Box component="span" className="s" sx={{ fontFamily: "Hanken Grotesk Variable" }}>
            {car.handed_over_at ? `handed over ${u.date(new Date(car.handed_over_at))}` : car.next.panel_id ? capital(car.next.stage.replace("-", " ")) : ""}
          </Box>
        </Box>
        <Button component={Link} to={next(car)} variant={first ? "tape" : "key"} sx={{ justifyContent: "space-between", marginTop: 6, minHeight: 56 }}>
          <span>
            {car.handed_over_at ? "Its papers" : car.next.action}
            <Box component="span" className="s sub" sx={{ display: "block", fontWeight: 450 }}>
              {car.handed_over_at ? "report and film record" : car.next.panel_name}
            </Box>
          </span>
          <span>
            {task?.person ?? car.painter} {first || no <= 9 ? <span className="kc">{first ? "Enter" : no}</span> : null}
          </span>
        </Button>
      </Box>
      <Box sx={{ flex: "1 1 240px", minWidth: 0 }}>
        {week && !car.handed_over_at ? <CarDay week={week} car={car.id} hours={no === 1} /> : null}
        {car.fault ? <Notice>{car.fault}</Notice> : car.next.state ? <StateTab state={car.next.state} /> : <span className="s">{car.renewing ? "being worked out" : "not read yet"}</span>}
        {car.next.reason ? <Box component="p" className="s" sx={{ maxWidth: 520 }}>{car.next.reason}</Box> : null}
      </Box>
    </Box>
  );
}

/** The wave that lies down, across the empty bench. */
function LyingWave() {
  return (
    <svg viewBox="0 0 1232 32" width="100%" fill="none" aria-hidden="true">
      <path d={wavePath(0, 1232, 2, 16, 64, fading(13, 1100, 0.9))} stroke="var(--ink)" strokeWidth="2.5" />
    </svg>
  );
}

/** Words typed are asked for once the hands rest, ms. */
const rest = 250;

export default function Today() {
  const u = useUnits();
  const [typed, setTyped] = useState("");
  const [search, setSearch] = useState("");
  const [gone, setGone] = useState(false);
  useEffect(() => {
    const timer = window.setTimeout(() => setSearch(typed.trim()), rest);
    return () => window.clearTimeout(timer);
  }, [typed]);
  const cars = useCars(search, gone);
  const touched = useTouched();
  useNews("/events", (news) => {
    if (news.house || news.cars.length > 0) void touched({ list: true });
  });
  const shop = useShop().data;
  const week = useWeek().data;
  const go = useNavigate();
  const field = useRef<HTMLInputElement>(null);
  const list = cars.data?.cars ?? [];
  const total = cars.data?.total ?? 0;
  const bare = !gone && total === 0;
  const open = (car: CarSummary | undefined) => {
    if (car) void go(next(car));
  };
  const keys: Record<string, () => void> = { "/": () => field.current?.focus(), a: () => setGone(!gone), c: () => void go("/take-in"), q: () => void go("/check"), s: () => void go("/shelf"), h: () => void go("/rules"), p: () => void go("/hands"), g: () => void go("/shop"), f: () => void go("/find"), w: () => void go("/week"), Enter: () => open(list[0]) };
  list.slice(0, 9).forEach((car, i) => (keys[String(i + 1)] = () => void go(`/cars/${encodeURIComponent(car.id)}`)));
  useKeys(keys);
  const day = u.day(new Date());
  return (
    <Page
      title="Wax Planus"
      sub=""
      home="/"
      who="the shop"
      middle={
        <Box sx={{ paddingTop: 15 }}>
          <Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>
            Today, {day}
          </Box>
          <div className="s">{cars.data ? (gone ? `${count(total, "car")} handed over` : total === 0 ? "no cars in" : `${count(total, "car")} in, ${count(total, "next action")}${week && dayShown(week) > 0 ? `; the hours are ${new Date(`${week.days[dayShown(week)]?.day}T12:00:00Z`).toLocaleDateString("en-GB", { weekday: "long", timeZone: "UTC" })}'s` : ""}`) : "looking"}</div>
        </Box>
      }
      query={cars}
      working={list.some((c) => c.renewing)}
      keys={[
        { keys: "1–9", does: "open a car" },
        { keys: "Enter", does: "do the marked action" },
        { keys: "/", does: "find a car by its name" },
        { keys: "A", does: "the cars that were handed over, or those in the shop" },
        { keys: "C", does: "take in a car" },
        { keys: "Q", does: "quick check: may I sand this?" },
        { keys: "W", does: "the week: who does what when" },
        { keys: "S", does: "the shelf" },
        { keys: "H", does: "house rules" },
        { keys: "P", does: "hands" },
        { keys: "G", does: "the shop: its face, backups, a car from a file" },
        { keys: "F", does: "find by all that was said, marked and read" },
      ]}
    >
      {cars.data && bare ? (
        <Box sx={{ padding: "26px 0", display: "grid", gap: 26, justifyItems: "start" }}>
          <Box component="h2" className="t" sx={{ fontSize: 44, lineHeight: "50px" }}>
            No cars in.
            <br />
            Take the first one in.
          </Box>
          <Box component="p" sx={{ fontSize: 17, lineHeight: "24px", color: "var(--ink2)" }}>
            Name it and choose its body. Then put the probe on the panel you want to level.
          </Box>
          <LyingWave />
          <Box sx={{ display: "flex", gap: 12, flexWrap: "wrap" }}>
            <Button variant="tape" sx={{ minHeight: 56, minWidth: 190, fontSize: 17 }} onClick={() => void go("/take-in")}>
              Take in <span className="kc">C</span>
            </Button>
            <Button sx={{ minHeight: 56, fontSize: 17 }} onClick={() => void go("/check")}>
              Quick check: may I sand this? <span className="kc">Q</span>
            </Button>
            <Button sx={{ minHeight: 56, fontSize: 17 }} onClick={() => void go("/shop")}>
              The shop, a car from a file <span className="kc">G</span>
            </Button>
            {cars.data.others > 0 ? (
              <Button sx={{ minHeight: 56, fontSize: 17 }} onClick={() => setGone(true)}>
                {`${count(cars.data.others, "car")} handed over`} <span className="kc">A</span>
              </Button>
            ) : null}
          </Box>
          <p className="s">
            {shop?.rules_text}
            <br />
            Everything stays on this machine. It asks nobody on the internet for anything.
          </p>
        </Box>
      ) : null}
      {cars.data && !bare ? (
        <>
          <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: "8px 24px", padding: "14px 0 10px" }}>
            <Box sx={{ width: 260, maxWidth: "100%" }}>
              <Field label="Find a car by its name" silent placeholder="Find a car" most={60} value={typed} inputRef={field} onChange={(e) => setTyped(e.target.value)} onKeyDown={(e) => e.key === "Escape" && (setTyped(""), field.current?.blur())} />
            </Box>
            <Choice label="Which cars" silent value={gone ? "gone" : "here"} options={[["here", "in the shop"], ["gone", "handed over"]]} set={(v) => setGone(v === "gone")} />
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: "4px 24px", alignItems: "center" }}>
              <StateTab state="open" />
              <StateTab state="tight" />
              <StateTab state="shut" />
              <span className="s">the worst section of each panel; white is not read</span>
            </Box>
          </Box>
          {list.length === 0 ? (
            <p>
              {search ? `No car ${gone ? "that was handed over" : "in the shop"} has a name whose words begin with “${search}”. ` : "No car was handed over yet: its own page does that. "}
              <Button variant="link" onClick={() => (setTyped(""), setSearch(""), setGone(false))}>
                Show all cars in the shop
              </Button>
            </p>
          ) : null}
          <Box sx={{ display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", lg: !gone && week && week.people.length > 0 ? "minmax(0,1fr) 326px" : "minmax(0,1fr)" }, gap: "24px 36px" }}>
          <div>
          <Box component="ul" sx={{ listStyle: "none", margin: 0, padding: 0, borderTop: "1.5px solid var(--ink)" }}>
            {list.map((car, i) => (
              <Line key={car.id} car={car} no={i + 1} first={i === 0} week={week} />
            ))}
          </Box>
          {cars.hasNextPage ? (
            <Button sx={{ marginTop: 14, minHeight: 48 }} disabled={cars.isFetchingNextPage} onClick={() => void cars.fetchNextPage()}>
              {cars.isFetchingNextPage ? "Looking" : `Show more: ${list.length}${search ? "" : ` of ${total}`} are shown`}
            </Button>
          ) : null}
          </div>
          {!gone && week && week.people.length > 0 ? <DayAside week={week} /> : null}
          </Box>
          <Box className="keys" sx={{ padding: "22px 0" }}>
            <Button variant="hint" onClick={() => void go("/week")}>
              <span className="kc">W</span> the week
            </Button>
            <Button variant="hint" onClick={() => void go("/take-in")}>
              <span className="kc">C</span> take in a car
            </Button>
            <Button variant="hint" onClick={() => void go("/check")}>
              <span className="kc">Q</span> quick check: may I sand this?
            </Button>
            <Button variant="hint" onClick={() => void go("/shelf")}>
              <span className="kc">S</span> shelf
            </Button>
            <Button variant="hint" onClick={() => void go("/rules")}>
              <span className="kc">H</span> house rules
            </Button>
            <Button variant="hint" onClick={() => void go("/hands")}>
              <span className="kc">P</span> hands
            </Button>
            <Button variant="hint" onClick={() => void go("/find")}>
              <span className="kc">F</span> find by words, marks, readings
            </Button>
            <Button variant="hint" onClick={() => void go("/shop")}>
              <span className="kc">G</span> the shop, backups
            </Button>
          </Box>
        </>
      ) : null}
    </Page>
  );
}
