import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Schemas } from "../api/client";
import { useChanged, useShop, useWorkshop } from "../api/queries";
import { Field } from "../ui/Field";
import { Notice } from "../ui/Notice";
import { hoursFault, hoursText, WeekHours, weekTyped } from "./Hours";

type Workshop = Schemas["Workshop"];

/** Warmth as the shop writes it: typed and shown in its own degrees, kept in °C. */
const shownC = (c: number, f: boolean) => String(Math.round((f ? c * 1.8 + 32 : c) * 10) / 10);
const typedC = (v: number, f: boolean) => (f ? (v - 32) / 1.8 : v);

const listed = (text: string) =>
  text
    .split(",")
    .map((p) => p.trim())
    .filter(Boolean);

function Fields({ of, fahrenheit }: { of: Workshop; fahrenheit: boolean }) {
  const changed = useChanged();
  const [texts, setTexts] = useState(() => of.week.map(hoursText));
  const [off, setOff] = useState(of.holidays.map((d) => (d.from === d.to ? d.from : `${d.from} to ${d.to}`)).join(", "));
  const count = (tool: string) => String(of.machines.find((m) => m.tool === tool)?.count ?? "");
  const [bays, setBays] = useState(of.bays > 0 ? String(of.bays) : "");
  const [orbital, setOrbital] = useState(count("orbital"));
  const [rotary, setRotary] = useState(count("rotary"));
  const [warm, setWarm] = useState(shownC(of.climate.usual_c, fahrenheit));
  const [days, setDays] = useState(of.climate.days.map((d) => `${d.day}: ${shownC(d.celsius, fahrenheit)}`).join(", "));
  const [fault, setFault] = useState("");
  const save = useMutation({ mutationFn: api.setWorkshop, onSettled: () => changed("house") });
  const keep = () => {
    const week = weekTyped(texts);
    const numbers = [bays, orbital, rotary, warm].map((v) => Number(v.trim().replace(",", ".")));
    if (!week) return setFault(hoursFault(texts));
    if (numbers.some((n) => Number.isNaN(n))) return setFault("Bays, machines and warmth are numbers; leave bays or machines empty for as many as are needed.");
    const warmths = listed(days).map((p) => /^(\d{4}-\d{2}-\d{2})\s*:\s*(-?\d+(?:\.\d+)?)$/.exec(p));
    const odd = warmths.findIndex((d) => !d);
    if (odd >= 0) return setFault(`The warmth of a day is written as 2026-12-01: ${fahrenheit ? 55 : 12}; “${listed(days)[odd] ?? ""}” is not.`);
    const free = listed(off).map((p) => p.split(/\s+to\s+/));
    const wrong = free.find((d) => !d.every((x) => /^\d{4}-\d{2}-\d{2}$/.test(x ?? "")));
    if (wrong) return setFault(`Holidays are written as 2026-12-24, or 2026-12-24 to 2026-12-31; “${wrong.join(" to ")}” is neither.`);
    setFault("");
    const [b = 0, o = 0, r = 0, w = 20] = numbers;
    const machines: Workshop["machines"] = [];
    if (orbital.trim()) machines.push({ tool: "orbital", count: o });
    if (rotary.trim()) machines.push({ tool: "rotary", count: r });
    save.mutate({ ...of, week, bays: b, machines, holidays: free.map((d) => ({ from: d[0] ?? "", to: d[1] ?? d[0] ?? "" })), climate: { usual_c: typedC(w, fahrenheit), days: warmths.map((d) => ({ day: d?.[1] ?? "", celsius: typedC(Number(d?.[2]), fahrenheit) })) } });
  };
  return (
    <Box component="form" noValidate onSubmit={(e) => (e.preventDefault(), keep())} sx={{ display: "grid", gap: 14, maxWidth: 560 }}>
      <WeekHours texts={texts} set={setTexts} />
      <Field label="holidays" value={off} most={600} placeholder="2026-12-24 to 2027-01-02, 2027-05-01" onChange={(e) => setOff(e.target.value)} />
      <Box sx={{ display: "grid", gap: 12, gridTemplateColumns: "repeat(auto-fit, minmax(120px, 1fr))" }}>
        <Field label="bays" number value={bays} placeholder="any" onChange={(e) => setBays(e.target.value)} />
        <Field label="orbitals" number value={orbital} placeholder="any" onChange={(e) => setOrbital(e.target.value)} />
        <Field label="rotaries" number value={rotary} placeholder="any" onChange={(e) => setRotary(e.target.value)} />
        <Field label="usually as warm as" number unit={fahrenheit ? "°F" : "°C"} value={warm} onChange={(e) => setWarm(e.target.value)} />
      </Box>
      <Field label={`days that were or will be warmer or colder, ${fahrenheit ? "°F" : "°C"}`} value={days} most={2000} placeholder={`2026-12-01: ${fahrenheit ? 55 : 12}, 2026-12-02: ${fahrenheit ? 48 : 9}`} onChange={(e) => setDays(e.target.value)} />
      <p className="s">Fresh paint hardens twice as fast by every 10 °C more: what is soft, and until when, follows from it. The maker’s sheet comes first.</p>
      {fault || save.error ? <Notice text={fault || save.error?.message || ""} /> : null}
      <Box>
        <Button type="submit" disabled={save.isPending}>
          {save.isSuccess && !fault ? "Kept. Keep again" : "Keep the hours"}
        </Button>
      </Box>
    </Box>
  );
}

/** When the shop is open, with what, and how warm it is: the week is planned by it. */
export function WorkshopPanel() {
  const query = useWorkshop();
  const shop = useShop().data;
  if (!query.data || !shop) return null;
  return (
    <section aria-label="Hours of the shop">
      <h2 className="heading t">
        Hours and warmth <span className="s">the week is planned by them</span>
      </h2>
      <Fields key={JSON.stringify(query.data)} of={query.data} fahrenheit={shop.face.temperature === "f"} />
    </section>
  );
}
