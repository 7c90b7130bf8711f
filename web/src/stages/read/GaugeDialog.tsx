import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useChanged, useGauges } from "../../api/queries";
import { Ask } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { api, type Gauge } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { count } from "../../app/format";
import { useUnits } from "../../app/units";

const number = (s: string) => Number(s.replace(",", "."));

/** Zero and foil of the day, and how well the gauge repeats. */
export function GaugeDialog({ gauge, close }: { gauge: string; close: () => void }) {
  const gauges = useGauges();
  const [id, setId] = useState(gauge);
  const g = gauges.data?.find((x) => x.id === id) ?? gauges.data?.[0];
  return (
    <Ask title={g ? `Is ${g.name} fit to read?` : "Gauges"} wide={760} leave close={close}>
        {(gauges.data?.length ?? 0) > 1 ? (
          <Choice label="Gauge" silent value={g?.id ?? ""} options={(gauges.data ?? []).map((x) => [x.id, x.id === "shop" ? x.name : `${x.name} ${x.id}`] as const)} set={setId} />
        ) : null}
        {gauges.error ? <Notice text={gauges.error.message} /> : null}
        {g ? <OneGauge key={g.id} gauge={g} /> : null}
    </Ask>
  );
}

function OneGauge({ gauge }: { gauge: Gauge }) {
  const u = useUnits();
  const changed = useChanged();
  const refresh = () => changed("gauge");
  const [zero, setZero] = useState("");
  const [foil, setFoil] = useState("");
  const [read, setRead] = useState("");
  const [shots, setShots] = useState("");
  const unit = u.code;
  const check = useMutation({ mutationFn: () => api.checkGauge(gauge.id, { zero: number(zero || "0"), foil: number(foil || "0"), read: number(read || "0"), unit }), onSuccess: refresh });
  const list = shots.split(/[\s;]+/).filter(Boolean).map(number);
  const study = useMutation({ mutationFn: () => api.studyGauge(gauge.id, { shots: list, unit }), onSuccess: refresh });
  const field = (label: string, value: string, set: (v: string) => void) => (
    <Field label={label} number unit={u.name} value={value} onChange={(e) => set(e.target.value)} placeholder="–" />
  );
  return (
    <>
      <p className={gauge.fine ? "s" : "b"} role="status">
        {gauge.check}
      </p>
      <Box component="form"
        onSubmit={(event) => {
          event.preventDefault();
          check.mutate();
        }}
        sx={{ display: "grid", gridTemplateColumns: "repeat(auto-fit,minmax(150px,1fr))", gap: 14, alignItems: "end", borderTop: "1.5px solid var(--ink)", paddingTop: 12 }}
      >
        {field("shows on bare metal", zero, setZero)}
        {field("foil is", foil, setFoil)}
        {field("shows on the foil", read, setRead)}
        <Button type="submit" variant="tape" sx={{ padding: "0 8px" }} disabled={zero.trim() === "" || check.isPending}>
          Keep the check <span className="kc">Enter</span>
        </Button>
      </Box>
      {check.error ? <Notice text={check.error.message} /> : null}
      <Box sx={{ borderTop: "1px solid var(--line)", paddingTop: 12, display: "grid", gap: 8 }}>
        <p className="s">
          It repeats within <span className="n">{u.plusMinus(gauge.repeat_um)}</span> {u.name}, {gauge.shots ? `from ${count(gauge.shots, "shot")} of one place` : "as such gauges usually do; it was not studied"}. Put the probe down on one spot eight times, lift it between, and type what it shows: the map uses the gauge’s own figure from then on.
        </p>
        <Box component="form"
          onSubmit={(event) => {
            event.preventDefault();
            study.mutate();
          }}
          sx={{ display: "flex", gap: 14, alignItems: "flex-end" }}
        >
          <Field label={`shots of one spot, ${u.name}, with spaces between`} inputProps={{ inputMode: "decimal" }} value={shots} onChange={(e) => setShots(e.target.value)} placeholder="151 152.5 151 150.5 152" />
          <Button type="submit" disabled={list.length < 5 || list.some(Number.isNaN) || study.isPending}>
            Study {list.length > 0 ? count(list.length, "shot") : "it"}
          </Button>
        </Box>
        {study.error ? <Notice text={study.error.message} /> : null}
      </Box>
    </>
  );
}
