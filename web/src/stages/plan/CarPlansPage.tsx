import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { api, type Car, type Schemas } from "../../api/client";
import { CarView } from "../../drawing/CarView";
import { Notice } from "../../ui/Notice";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { useKeys, type Keys } from "../../app/keys";
import { carNotes } from "../../app/stageNotes";
import { capital, count, short, um, unitName } from "../../app/format";
import { offerWords } from "./ladder";

const aims = { flat: "flat", match: "match", nibs: "nibs only", polish: "polish only" };

/** Every panel of a car that is worked, with its plan or what is offered. */
export default function CarPlansPage() {
  const { carId = "" } = useParams();
  const go = useNavigate();
  const plans = useQuery({ queryKey: ["plans", carId], queryFn: () => api.carPlans(carId) });
  const car = useQuery({ queryKey: ["car", carId], queryFn: () => api.car(carId) });
  const d = plans.data;
  const open = (id: string) => void go(`/panels/${encodeURIComponent(id)}/plan`);
  const toPlan = d?.panels.filter((p) => p.reached && (!p.record || p.record.stale)) ?? [];
  const first = toPlan.find((p) => p.panel.aim !== "polish") ?? toPlan[0];
  const keys: Keys = {
    Enter: () => {
      if (first) open(first.panel.id);
    },
    h: () => void go(`/rules?car=${encodeURIComponent(carId)}`),
  };
  useKeys(keys);
  return (
    <Page
      title={d?.car.name ?? "Plan"}
      sub="every panel that is worked"
      home={`/cars/${encodeURIComponent(carId)}`}
      who={d?.car.painter ?? ""}
      stage={{ current: 3, notes: car.data ? carNotes(car.data) : {} }}
      query={plans}
      keys={[
        { keys: "Enter", does: "plan the marked panel" },
        { keys: "H", does: "compare schools" },
      ]}
    >
      {d ? (
        <div className="carplans">
          <section aria-label="The car">
            {car.data ? <CarView car={asPlanned(car.data, d.panels)} layer="state" choose={(p) => open(p.id)} height={430} {...(first ? { selected: first.panel.id } : {})} /> : null}
            <div style={{ display: "flex", gap: 20, padding: "8px 0" }}>
              <StateTab state="open" />
              <StateTab state="tight" />
              <StateTab state="shut" />
            </div>
            {d.limits.map((text) => (
              <Notice key={text} text={text} />
            ))}
            <p className="s" style={{ paddingTop: 8 }}>
              <button type="button" className="linkish" onClick={() => void go(`/rules?car=${encodeURIComponent(carId)}`)}>
                Compare schools on this car
              </button>{" "}
              <span className="kc">H</span>
            </p>
          </section>
          <section aria-label="Panels">
            {d.panels.length === 0 ? <p className="s">No panel of this car is worked yet. Say in Take in what is wanted of each, or read one.</p> : null}
            <div style={{ overflow: "auto" }} tabIndex={0} role="region" aria-label="Plans">
            <table className="tb">
              <thead>
                <tr>
                  <th>panel</th>
                  <th>aim</th>
                  <th className="r">film, {unitName()}</th>
                  <th className="r">hours</th>
                  <th className="r">peel left</th>
                  <th className="r">clarity</th>
                  <th className="r">€</th>
                  <th>fits</th>
                  <th>plan</th>
                </tr>
              </thead>
              <tbody>
                {d.panels.map((p) => (
                  <tr key={p.panel.id} className={p.panel.id === first?.panel.id ? "on" : undefined} style={{ cursor: "pointer" }} onClick={() => open(p.panel.id)} title={p.text}>
                    <td>
                      <button type="button" className="linkish" style={{ borderBottom: 0 }} onClick={() => open(p.panel.id)}>
                        {capital(p.panel.name)}
                      </button>
                    </td>
                    <td className="s">{aims[p.panel.aim]}</td>
                    <td className="n r">{p.line ? um(p.line.film_um.mean) : ""}</td>
                    <td className="n r">{p.line ? p.line.hours.mean.toFixed(1) : ""}</td>
                    <td className="n r">{p.line ? short(p.line.peel_left) : ""}</td>
                    <td className="n r">{p.line ? p.line.clarity.toFixed(0) : ""}</td>
                    <td className="n r">{p.line ? p.line.money.toFixed(0) : ""}</td>
                    <td>{p.line ? <StateTab state={p.line.state} /> : <span className="s">nothing fits</span>}</td>
                    <td className="s">{p.record ? (p.record.stale ? `version ${p.record.version}, out of date` : `version ${p.record.version}, ${offerWords[p.record.offer]}`) : p.line ? offerWords[p.line.name] : ""}</td>
                  </tr>
                ))}
              </tbody>
            </table>
            </div>
            {d.panels
              .filter((p) => !p.reached || p.record?.stale)
              .map((p) => (
                <p key={p.panel.id} className="s" style={{ paddingTop: 6 }}>
                  <span className="b">{capital(p.panel.name)}:</span> {p.record?.stale || p.text}
                </p>
              ))}
            <div className="totals" style={{ marginTop: 18 }}>
              <Total name="film, mean over the area" value={um(d.totals.film_um)} unit={unitName()} />
              <Total name="hours" value={d.totals.hours.toFixed(1)} unit="h" />
              <Total name="paper" value={`${short(d.totals.sheets).replace(/\.0$/, "")} + ${short(d.totals.discs).replace(/\.0$/, "")}`} unit="sheets, discs" />
              <Total name="cost" value={d.totals.money.toFixed(0)} unit="€" />
              <Total name="end as asked" value={`${d.totals.reached}`} unit={`of ${count(d.totals.panels, "panel")}`} />
              {first ? (
                <button type="button" className="key tape" style={{ marginLeft: "auto", minHeight: 52 }} onClick={() => open(first.panel.id)}>
                  Plan the {first.panel.name} <span className="kc">Enter</span>
                </button>
              ) : null}
            </div>
          </section>
        </div>
      ) : null}
    </Page>
  );
}

function Total({ name, value, unit }: { name: string; value: string; unit: string }) {
  return (
    <div>
      <div className="lab">{name}</div>
      <span className="n" style={{ fontSize: 22 }}>
        {value}
        <span className="u">{unit}</span>
      </span>
    </div>
  );
}

/** The car with each panel in the state of its plan; what is not planned has none. */
function asPlanned(car: Car, plans: Schemas["PanelPlan"][]): Car {
  return {
    ...car,
    panels: car.panels.map((panel) => {
      const plan = plans.find((p) => p.panel.id === panel.id);
      const shown = { ...panel };
      if (plan) shown.state = plan.line?.state ?? "shut";
      else delete shown.state;
      return shown;
    }),
  };
}
