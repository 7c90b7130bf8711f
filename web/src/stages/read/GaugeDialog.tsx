import { Dialog } from "@mui/material";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Gauge } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { count, plusMinus, shopUnit, unitName } from "../../app/format";

const number = (s: string) => Number(s.replace(",", "."));

/** Zero and foil of the day, and how well the gauge repeats. */
export function GaugeDialog({ gauge, close }: { gauge: string; close: () => void }) {
  const gauges = useQuery({ queryKey: ["gauges"], queryFn: api.gauges });
  const [id, setId] = useState(gauge);
  const g = gauges.data?.find((x) => x.id === id) ?? gauges.data?.[0];
  return (
    <Dialog open onClose={close} aria-labelledby="gauge" maxWidth={false}>
      <div style={{ padding: "26px 32px", width: 760, maxWidth: "100%", display: "grid", gap: 14 }}>
        <div style={{ display: "flex", justifyContent: "space-between", gap: 16 }}>
          <h2 id="gauge" className="t" style={{ fontSize: 27, lineHeight: "32px" }}>
            {g ? `Is ${g.name} fit to read?` : "Gauges"}
          </h2>
          <button type="button" className="linkish" style={{ borderBottom: 0 }} onClick={close}>
            <span className="kc">Esc</span> leave
          </button>
        </div>
        {(gauges.data?.length ?? 0) > 1 ? (
          <div className="one" role="group" aria-label="Gauge">
            {gauges.data?.map((x) => (
              <button key={x.id} type="button" aria-pressed={x.id === g?.id} onClick={() => setId(x.id)}>
                {x.name} {x.id === "shop" ? "" : x.id}
              </button>
            ))}
          </div>
        ) : null}
        {gauges.error ? <Notice text={gauges.error.message} /> : null}
        {g ? <OneGauge key={g.id} gauge={g} /> : null}
      </div>
    </Dialog>
  );
}

function OneGauge({ gauge }: { gauge: Gauge }) {
  const queries = useQueryClient();
  const refresh = () => queries.invalidateQueries();
  const [zero, setZero] = useState("");
  const [foil, setFoil] = useState("");
  const [read, setRead] = useState("");
  const [shots, setShots] = useState("");
  const unit = shopUnit();
  const check = useMutation({ mutationFn: () => api.checkGauge(gauge.id, { zero: number(zero || "0"), foil: number(foil || "0"), read: number(read || "0"), unit }), onSuccess: refresh });
  const list = shots.split(/[\s;]+/).filter(Boolean).map(number);
  const study = useMutation({ mutationFn: () => api.studyGauge(gauge.id, { shots: list, unit }), onSuccess: refresh });
  const field = (label: string, value: string, set: (v: string) => void) => (
    <label className="num">
      <span className="lab">{label}</span>
      <span className="numbox">
        <input inputMode="decimal" value={value} onChange={(e) => set(e.target.value)} placeholder="–" />
        <span className="s">{unitName()}</span>
      </span>
    </label>
  );
  return (
    <>
      <p className={gauge.fine ? "s" : "b"} role="status">
        {gauge.check}
      </p>
      <form
        onSubmit={(event) => {
          event.preventDefault();
          check.mutate();
        }}
        style={{ display: "grid", gridTemplateColumns: "repeat(auto-fit,minmax(150px,1fr))", gap: 14, alignItems: "end", borderTop: "1.5px solid var(--ink)", paddingTop: 12 }}
      >
        {field("shows on bare metal", zero, setZero)}
        {field("foil is", foil, setFoil)}
        {field("shows on the foil", read, setRead)}
        <button type="submit" className="key tape" style={{ padding: "0 8px" }} disabled={zero.trim() === "" || check.isPending}>
          Keep the check <span className="kc">Enter</span>
        </button>
      </form>
      {check.error ? <Notice text={check.error.message} /> : null}
      <div style={{ borderTop: "1px solid var(--line)", paddingTop: 12, display: "grid", gap: 8 }}>
        <p className="s">
          It repeats within <span className="n">{plusMinus(gauge.repeat_um)}</span> {unitName()}, {gauge.shots ? `from ${count(gauge.shots, "shot")} of one place` : "as such gauges usually do; it was not studied"}. Put the probe down on one spot eight times, lift it between, and type what it shows: the map uses the gauge’s own figure from then on.
        </p>
        <form
          onSubmit={(event) => {
            event.preventDefault();
            study.mutate();
          }}
          style={{ display: "flex", gap: 14, alignItems: "flex-end" }}
        >
          <label style={{ flex: 1 }}>
            <span className="lab">shots of one spot, {unitName()}, with spaces between</span>
            <input className="textline" value={shots} onChange={(e) => setShots(e.target.value)} inputMode="decimal" placeholder="151 152.5 151 150.5 152" />
          </label>
          <button type="submit" className="key" disabled={list.length < 5 || list.some(Number.isNaN) || study.isPending}>
            Study {list.length > 0 ? count(list.length, "shot") : "it"}
          </button>
        </form>
        {study.error ? <Notice text={study.error.message} /> : null}
      </div>
    </>
  );
}
