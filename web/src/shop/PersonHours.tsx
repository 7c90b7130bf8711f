import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { useChanged } from "../api/queries";
import { useUnits } from "../app/units";
import { Ask, Foot } from "../ui/Ask";
import { Field, Tick } from "../ui/Field";
import { Notice } from "../ui/Notice";
import { hoursFault, hoursText, WeekHours, weekTyped } from "./Hours";

/** When somebody works, what they do, for how long a day with machines, and what that costs. */
export function PersonHours({ person, tasks, close }: { person: Schemas["Person"]; tasks: Schemas["TaskKindName"][]; close: () => void }) {
  const u = useUnits();
  const changed = useChanged();
  const [own, setOwn] = useState(person.own_hours);
  const [texts, setTexts] = useState(() => person.week.map(hoursText));
  const [machine, setMachine] = useState(String(person.machine_min));
  const [rate, setRate] = useState(person.rate > 0 ? String(person.rate) : "");
  const [every, setEvery] = useState(person.kinds.length === 0);
  const [kinds, setKinds] = useState<string[]>(person.kinds.length === 0 ? tasks.map((t) => t.kind) : person.kinds);
  const [off, setOff] = useState(person.off.map((d) => `${d.from} to ${d.to}`).join(", "));
  const save = useMutation({ mutationFn: api.setHours, onSuccess: close, onSettled: () => changed("house") });
  const [fault, setFault] = useState("");
  const keep = () => {
    const week = own ? weekTyped(texts) : [];
    const days = off
      .split(",")
      .map((p) => p.trim())
      .filter(Boolean)
      .map((p) => p.split(/\s+to\s+/));
    const wrong = days.find((d) => !d.every((x) => /^\d{4}-\d{2}-\d{2}$/.test(x ?? "")));
    if (!week) return setFault(hoursFault(texts));
    if (wrong) return setFault(`Days off are written as 2026-12-24, or 2026-12-24 to 2026-12-31; “${wrong.join(" to ")}” is neither.`);
    if (!/^\d+([.,]\d+)?$/.test(machine.trim())) return setFault("The machine time of a day is a number of minutes, such as 120; 0 for no limit.");
    if (!/^(\d+([.,]\d+)?)?$/.test(rate.trim())) return setFault(`What an hour costs is a number, such as 48; empty for what the shop asks for usually.`);
    if (!every && kinds.length === 0) return setFault("Somebody who does nothing is not planned: leave at least one kind of task.");
    setFault("");
    save.mutate({ name: person.name, week, off: days.map((d) => ({ from: d[0] ?? "", to: d[1] ?? d[0] ?? "" })), machine_min: Number(machine.replace(",", ".")), rate: Number(rate.replace(",", ".") || 0), kinds: every ? [] : kinds });
  };
  return (
    <Ask title={`When ${person.name} works, and at what`} close={close} leave submit={keep}>
      <Tick checked={own} set={setOwn}>
        hours of their own, not those of the shop
      </Tick>
      {own ? <WeekHours texts={texts} set={setTexts} /> : null}
      <Field label="days off" value={off} most={400} placeholder="2026-12-24 to 2026-12-31, 2027-05-01" onChange={(e) => setOff(e.target.value)} />
      <Field label="machines in a day, at most" unit="min" number value={machine} onChange={(e) => setMachine(e.target.value)} />
      <Field label="an hour costs the shop" unit={u.money} number value={rate} placeholder="as usual" onChange={(e) => setRate(e.target.value)} />
      <Tick checked={every} set={setEvery}>
        does all kinds of tasks
      </Tick>
      {every ? null : (
        <Box sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fill,minmax(130px,1fr))", gap: "0 10px" }} role="group" aria-label="Tasks that they do">
          {tasks.map((t) => (
            <Tick key={t.kind} checked={kinds.includes(t.kind)} set={(on) => setKinds(on ? [...kinds, t.kind] : kinds.filter((k) => k !== t.kind))}>
              {t.name.toLowerCase()}
            </Tick>
          ))}
        </Box>
      )}
      <p className="s">Vibration: a limit keeps hands well. What an employer or the law says comes first.</p>
      {fault || save.error ? <Notice text={fault || save.error?.message || ""} /> : null}
      <Foot>
        <Button type="submit" variant="tape" disabled={save.isPending}>
          Keep <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}
