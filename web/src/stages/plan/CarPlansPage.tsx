import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useNavigate, useParams } from "react-router";
import { useCar, useCarPlans } from "../../api/queries";
import { type Car, type Schemas } from "../../api/client";
import { CarView } from "../../drawing/CarView";
import { Scroll } from "../../ui/Scroll";
import { Notice } from "../../ui/Notice";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { useKeys, type Keys } from "../../app/keys";
import { carNotes } from "../../app/stageNotes";
import { capital, count, short } from "../../app/format";
import { useUnits } from "../../app/units";
import { offerWords } from "./ladder";
import { CarPlansFrame } from "./CarFrame";

const aims = { flat: "flat", match: "match", nibs: "nibs only", polish: "polish only" };

/** Every panel of a car that is worked, with its plan or what is offered. */
export default function CarPlansPage() {
  const u = useUnits();
  const { carId = "" } = useParams();
  const go = useNavigate();
  const plans = useCarPlans(carId);
  const car = useCar(carId);
  const d = plans.data;
  const open = (id: string) => void go(`/panels/${encodeURIComponent(id)}/plan`);
  const toPlan = d?.panels.filter((p) => p.reached && (!p.record || p.record.stale)) ?? [];
  const first = toPlan.find((p) => p.panel.aim !== "polish") ?? toPlan[0];
  const most = Math.max(0, ...(d?.panels.map((p) => p.gain_m2_per_hour ?? 0) ?? []));
  const offers = () => void go(`/cars/${encodeURIComponent(carId)}/offers`);
  const keys: Keys = {
    Enter: () => {
      if (first) open(first.panel.id);
    },
    o: offers,
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
        { keys: "O", does: "offers for the owner" },
        { keys: "H", does: "compare schools" },
      ]}
    >
      {d ? (
        <CarPlansFrame>
          <section aria-label="The car">
            {car.data ? <CarView u={u} car={asPlanned(car.data, d.panels)} layer="state" choose={(p) => open(p.id)} height={430} {...(first ? { selected: first.panel.id } : {})} /> : null}
            <Box sx={{ display: "flex", gap: 20, padding: "8px 0" }}>
              <StateTab state="open" />
              <StateTab state="tight" />
              <StateTab state="shut" />
            </Box>
            {d.best ? (
              <Box component="p" sx={{ padding: "4px 0 8px" }}>
                {d.best.text}{" "}
                <Button variant="link" onClick={() => open(d.best?.panel_id ?? "")}>
                  Plan it
                </Button>
              </Box>
            ) : null}
            {d.film ? (
              <Box component="p" className="s" sx={{ paddingBottom: 8 }}>
                {d.film}
              </Box>
            ) : null}
            {d.limits.map((text) => (
              <Notice key={text} text={text} />
            ))}
            <Box component="p" className="s" sx={{ paddingTop: 8 }}>
              <Button variant="link" onClick={() => void go(`/rules?car=${encodeURIComponent(carId)}`)}>
                Compare schools on this car
              </Button>{" "}
              <span className="kc">H</span>{" "}
              <Button variant="link" onClick={offers}>
                Offers for the owner
              </Button>{" "}
              <span className="kc">O</span>
            </Box>
          </section>
          <section aria-label="Panels">
            {d.panels.length === 0 ? <p className="s">No panel of this car is worked yet. Say in Take in what is wanted of each, or read one.</p> : null}
            <Scroll label="Plans">
            <Table>
              <TableHead>
                <TableRow>
                  <TableCell>panel</TableCell>
                  <TableCell>aim</TableCell>
                  <TableCell align="right">film, {u.name}</TableCell>
                  <TableCell align="right">hours</TableCell>
                  <TableCell align="right">{most > 0 ? "peel, swirls" : "peel left"}</TableCell>
                  <TableCell align="right">clarity</TableCell>
                  <TableCell align="right">{u.money}</TableCell>
                  {most > 0 ? <TableCell title="swirls gone, m² an hour">m² an hour</TableCell> : null}
                  <TableCell>fits</TableCell>
                  <TableCell>plan</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {d.panels.map((p) => (
                  <TableRow key={p.panel.id} selected={p.panel.id === first?.panel.id} sx={{ cursor: "pointer" }} onClick={() => open(p.panel.id)} title={p.text}>
                    <TableCell>
                      <Button variant="link" sx={{ textDecoration: "none" }} onClick={() => open(p.panel.id)}>
                        {capital(p.panel.name)}
                      </Button>
                    </TableCell>
                    <TableCell className="s">{aims[p.panel.aim]}</TableCell>
                    <TableCell align="right" className="n">{p.line ? u.um(p.line.film_um.mean) : ""}</TableCell>
                    <TableCell align="right" className="n">{p.line ? p.line.hours.mean.toFixed(1) : ""}</TableCell>
                    <TableCell align="right" className="n">{p.line ? (p.line.gone === undefined ? short(p.line.peel_left) : `${(100 * p.line.gone).toFixed(0)} % gone`) : ""}</TableCell>
                    <TableCell align="right" className="n">{p.line ? p.line.clarity.toFixed(0) : ""}</TableCell>
                    <TableCell align="right" className="n">{p.line ? p.line.money.toFixed(0) : ""}</TableCell>
                    {most > 0 ? (
                      <TableCell>
                        {p.gain_m2_per_hour ? (
                          <Box sx={{ display: "flex", alignItems: "center", gap: 8 }}>
                            <Box aria-hidden sx={{ height: 12, flex: "none", width: Math.max(3, (32 * p.gain_m2_per_hour) / most), background: "var(--ink)" }} />
                            <span className="n">{p.gain_m2_per_hour.toFixed(1)}</span>
                          </Box>
                        ) : null}
                      </TableCell>
                    ) : null}
                    <TableCell>{p.line ? <StateTab state={p.line.state} /> : <span className="s">nothing fits</span>}</TableCell>
                    <TableCell className="s">{p.record ? (p.record.stale ? `version ${p.record.version}, out of date` : `version ${p.record.version}, ${offerWords[p.record.offer]}`) : p.line ? offerWords[p.line.name] : ""}</TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
            </Scroll>
            {d.panels
              .filter((p) => !p.reached || p.record?.stale)
              .map((p) => (
                <Box component="p" key={p.panel.id} className="s" sx={{ paddingTop: 6 }}>
                  <span className="b">{capital(p.panel.name)}:</span> {p.record?.stale || p.text}
                </Box>
              ))}
            <Box className="totals" sx={{ marginTop: 18 }}>
              <Total name="film, mean over the area" value={u.um(d.totals.film_um)} unit={u.name} />
              <Total name="hours" value={d.totals.hours.toFixed(1)} unit="h" />
              <Total name="paper" value={`${short(d.totals.sheets).replace(/\.0$/, "")} + ${short(d.totals.discs).replace(/\.0$/, "")}`} unit="sheets, discs" />
              <Total name="cost" value={d.totals.money.toFixed(0)} unit={u.money} />
              <Total name="end as asked" value={`${d.totals.reached}`} unit={`of ${count(d.totals.panels, "panel")}`} />
              {first ? (
                <Button variant="tape" sx={{ marginLeft: "auto", minHeight: 52 }} onClick={() => open(first.panel.id)}>
                  Plan the {first.panel.name} <span className="kc">Enter</span>
                </Button>
              ) : null}
            </Box>
          </section>
        </CarPlansFrame>
      ) : null}
    </Page>
  );
}

function Total({ name, value, unit }: { name: string; value: string; unit: string }) {
  return (
    <div>
      <div className="lab">{name}</div>
      <Box component="span" className="n" sx={{ fontSize: 22 }}>
        {value}
        <span className="u">{unit}</span>
      </Box>
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
