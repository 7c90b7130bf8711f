import { Box, Button } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState, type ComponentProps } from "react";
import { Link, useNavigate } from "react-router";
import { api, type Schemas } from "../../api/client";
import { useNews } from "../../api/news";
import { keys as names, useTouched, useWeek } from "../../api/queries";
import { useKeys } from "../../app/keys";
import { Page } from "../../app/Page";
import { useUnits } from "../../app/units";
import { useSize } from "../../drawing/useSize";
import { Notice } from "../../ui/Notice";
import { axisOf } from "../shared/axis";
import { MoveTask } from "./MoveTask";
import { PromiseCar } from "./PromiseCar";
import { weekNames, WeekPicture, type Task } from "./WeekPicture";

/** Days that are seen at once. */
const shown = 7;

/** The picture as wide as the page. */
function SizedWeek({ first, ...rest }: Omit<ComponentProps<typeof WeekPicture>, "axis" | "width"> & { first: number }) {
  const { ref, width } = useSize<HTMLDivElement>();
  return (
    <div ref={ref}>
      <WeekPicture {...rest} width={width} axis={axisOf(rest.week.days, first, shown, Math.max(200, width - weekNames))} />
    </div>
  );
}

export default function WeekPage() {
  const query = useWeek();
  const client = useQueryClient();
  const touched = useTouched();
  const u = useUnits();
  const go = useNavigate();
  useNews("/events", (news) => {
    if (news.house || news.cars.length > 0) void touched({ list: true });
  });
  const [first, setFirst] = useState(0);
  const [key, setKey] = useState<string | null>(null);
  const [follow, setFollow] = useState<string | null>(null);
  const [asked, setAsked] = useState(false);
  const [promising, setPromising] = useState(false);
  const [refused, setRefused] = useState("");
  const week = query.data;
  const keep = {
    onSuccess: (w: Schemas["Week"]) => {
      client.setQueryData(names.week(), w);
      setRefused("");
      setAsked(false);
    },
    onError: (e: Error) => setRefused(e.message),
  };
  const move = useMutation({ mutationFn: (m: Omit<Schemas["TaskMove"], "by">) => api.moveTask({ ...m, by: m.person }), ...keep });
  const letGo = useMutation({ mutationFn: api.letTask, ...keep });
  const anew = useMutation({ mutationFn: () => api.week(true), ...keep });

  const task = week?.tasks.find((t) => t.key === key);
  // The car that is followed: the one chosen, that of the task in hand, or the last to be done of those promised.
  const chain = follow ?? task?.car_id ?? week?.cars.find((c) => c.late)?.id ?? week?.cars.find((c) => c.due_at)?.id ?? null;
  const car = week?.cars.find((c) => c.id === chain);
  const along = (step: number) => {
    if (!week || week.tasks.length === 0) return;
    const list = car && car.chain.length > 0 ? car.chain : week.tasks.map((t) => t.key);
    const at = key ? list.indexOf(key) : -1;
    const next = list[Math.min(list.length - 1, Math.max(0, at < 0 ? 0 : at + step))];
    if (!next) return;
    setKey(next);
    const day = week.tasks.find((t) => t.key === next)?.start.slice(0, 10);
    setFirst(week.days.findIndex((d) => d.day === day) >= shown ? shown : 0);
  };
  useKeys({
    t: () => setFirst(0),
    "[": () => setFirst(Math.max(0, first - shown)),
    "]": () => setFirst(first === 0 ? shown : first),
    ArrowRight: () => along(1),
    ArrowLeft: () => along(-1),
    m: () => task && (setRefused(""), setAsked(true)),
    n: () => anew.mutate(),
    d: () => car && setPromising(true),
    Escape: () => (setKey(null), setFollow(null), setRefused("")),
    Enter: () => car && void go(`/cars/${encodeURIComponent(car.id)}`),
  });
  const pick = (t: Task) => {
    setKey(t.key);
    setFollow(null);
    setRefused("");
  };
  return (
    <Page
      title="Week"
      sub="the plan"
      home="/"
      who="the shop"
      middle={
        <Box sx={{ paddingTop: 15 }}>
          <Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>
            {first === 0 ? "This week" : "Next week"}
          </Box>
          <div className="s">{week?.text ?? "looking"}</div>
        </Box>
      }
      query={query}
      working={Boolean(week?.renewing)}
      keys={[
        { keys: "T", does: "today" },
        { keys: "[ ]", does: "this week and the next" },
        { keys: "← →", does: "along the chain that sets the date" },
        { keys: "M", does: "move the task in hand: to whom, from when on" },
        { keys: "D", does: "for when the car in hand was promised" },
        { keys: "N", does: "plan all of it anew" },
        { keys: "Enter", does: "the car in hand" },
        { keys: "Esc", does: "let go" },
      ]}
    >
      {week ? (
        <Box sx={{ paddingTop: 8 }}>
          <div>
            {week.people.length === 0 || week.tasks.length === 0 ? (
              <Box sx={{ padding: "26px 0", display: "grid", gap: 14, justifyItems: "start" }}>
                <p>{week.people.length === 0 ? "Nobody works here yet: take somebody in under Hands, and the week plans itself." : "Nothing is left to do. Take in a car, and its work appears here."}</p>
                <Button variant="tape" component={Link} to={week.people.length === 0 ? "/hands" : "/take-in"}>
                  {week.people.length === 0 ? "Hands" : "Take in a car"}
                </Button>
              </Box>
            ) : (
              <SizedWeek week={week} first={first} picked={key} chain={chain} pick={pick} follow={(id) => (setFollow(id), setKey(null))} drop={(d) => (setKey(d.task.key), setRefused(""), move.mutate({ task: d.task.key, person: d.person, at: d.at }))} />
            )}
          </div>
          {refused && !asked ? <Notice text={refused} /> : null}
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: "10px 24px", alignItems: "center", borderTop: "1.5px solid var(--ink)", padding: "10px 0" }}>
            <Box sx={{ flex: "1 1 320px", minWidth: 0 }}>
              {task ? (
                <>
                  <b className="t">{task.text}</b>
                  <div className="s">
                    {task.car} · {task.person} · {u.clock(new Date(task.start))} to {u.clock(new Date(task.end))} · {task.minutes.toFixed(0)} min{task.machine_min > 0 ? `, ${task.machine_min.toFixed(0)} of them with a machine` : ""} · {task.why}
                  </div>
                </>
              ) : car ? (
                <>
                  <b className="t">{car.name}</b>
                  <div className="s">
                    {car.text}; filled with ink is what sets its date
                  </div>
                </>
              ) : (
                <span className="s">Touch a task or a car. Pull a task to another time or person; others give way.</span>
              )}
            </Box>
            {task ? (
              <Button variant="tape" onClick={() => (setRefused(""), setAsked(true))}>
                Move it <span className="kc">M</span>
              </Button>
            ) : null}
            {car ? (
              <Button onClick={() => setPromising(true)}>
                {car.due_at ? "Its date" : "Give it a date"} <span className="kc">D</span>
              </Button>
            ) : null}
            {task ?? car ? (
              <Button component={Link} to={`/cars/${encodeURIComponent(task?.car_id ?? car?.id ?? "")}`}>
                The car
              </Button>
            ) : null}
            <Button onClick={() => anew.mutate()} disabled={anew.isPending}>
              Plan all anew <span className="kc">N</span>
            </Button>
          </Box>
          <Box sx={{ display: "grid", gap: "4px 28px", gridTemplateColumns: { xs: "1fr", md: "1fr 1fr" } }}>
            <p className="s">{week.gap_text}</p>
            {week.faults.map((f) => (
              <Notice key={f} text={f} />
            ))}
            {week.moved.length > 0 ? (
              <details>
                <summary className="s">{week.moved.length === 1 ? "1 task is not where it was planned before" : `${week.moved.length} tasks are not where they were planned before`}</summary>
                <ul className="s">
                  {week.moved.map((m) => (
                    <li key={m}>{m}</li>
                  ))}
                </ul>
              </details>
            ) : null}
          </Box>
          <Box className="keys" sx={{ padding: "14px 0" }}>
            <Button variant="hint" onClick={() => setFirst(0)}>
              <span className="kc">T</span> today
            </Button>
            <Button variant="hint" onClick={() => setFirst(first === 0 ? shown : 0)}>
              <span className="kc">[</span> <span className="kc">]</span> {first === 0 ? "next week" : "this week"}
            </Button>
            <Button variant="hint" component={Link} to="/hands">
              hours of people
            </Button>
            <Button variant="hint" component={Link} to="/shop">
              hours of the shop
            </Button>
            {week.people.map((p) => (
              <Button key={p.name} variant="hint" component="a" href={`/api/people/${encodeURIComponent(p.name)}/week.ics`}>
                calendar of {p.name}
              </Button>
            ))}
          </Box>
          {car && promising ? <PromiseCar key={car.id} car={car} close={() => setPromising(false)} /> : null}
          {task && asked ? <MoveTask key={task.key} week={week} task={task} error={refused} busy={move.isPending || letGo.isPending} close={() => setAsked(false)} put={(m) => move.mutate(m)} letIt={() => letGo.mutate(task.key)} /> : null}
        </Box>
      ) : null}
    </Page>
  );
}
