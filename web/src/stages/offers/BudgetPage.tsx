import { Box, Button, Slider, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, type Schemas } from "../../api/client";
import { useBudget, useCar, useChanged } from "../../api/queries";
import { Page } from "../../app/Page";
import { useKeys } from "../../app/keys";
import { capital } from "../../app/format";
import { carNotes } from "../../app/stageNotes";
import { useUnits } from "../../app/units";
import { Choice } from "../../ui/Choice";
import { Notice } from "../../ui/Notice";
import { Scroll } from "../../ui/Scroll";
import { BudgetFrame } from "./BudgetFrame";
import { GainCurve } from "./GainCurve";
import { LitAsk } from "./LitAsk";

type Budget = Schemas["Budget"];

const steps = { hours: 0.5, money: 10 };

/** The most that is seen of a car for the hours that its owner pays for. */
export default function BudgetPage() {
  const u = useUnits();
  const { carId = "" } = useParams();
  const go = useNavigate();
  const [by, setBy] = useState<"hours" | "money">("hours");
  const [asked, setAsked] = useState<number | undefined>(undefined);
  const [lit, setLit] = useState<Schemas["BudgetPanel"] | null>(null);
  const query = useBudget(carId, asked === undefined ? {} : { [by]: asked });
  const d = query.data;
  const car = useCar(carId).data;
  const changed = useChanged();
  const offers = `/cars/${encodeURIComponent(carId)}/offers`;
  const plans = `/cars/${encodeURIComponent(carId)}/plans`;
  const take = useMutation({
    mutationFn: async (b: Budget) => {
      for (const p of b.panels) {
        if (p.aim) await api.changePanels(b.car.id, [p.key], { aim: p.aim, ...(p.gone === undefined ? {} : { gone: p.gone }) });
      }
    },
    onSettled: () => changed("panel"),
    onSuccess: () => void go(plans),
  });
  const step = steps[by];
  const upTo = (v: number, of = step) => of * Math.ceil(v / of - 1e-6);
  const most = upTo(d?.curve.at(-1)?.[by] ?? 0);
  const spent = asked ?? d?.[by] ?? 0;
  const set = (v: number) => setAsked(Math.max(0, Math.min(most, step * Math.round(v / step))));
  const next = () => d?.next && set(upTo(d.next[by]));
  const turn = (to: "hours" | "money") => {
    setAsked(d ? upTo(d[to], steps[to]) : undefined);
    setBy(to);
  };
  const usable = d?.panels.some((p) => p.aim) ?? false;
  useKeys(
    {
      ArrowRight: () => set(spent + step),
      ArrowLeft: () => set(spent - step),
      n: () => next(),
      m: () => turn(by === "hours" ? "money" : "hours"),
      Enter: () => {
        if (d && usable) take.mutate(d);
      },
      o: () => void go(offers),
      Escape: () => void go(`/cars/${encodeURIComponent(carId)}`),
    },
    Boolean(d) && !lit,
  );
  return (
    <Page
      title={d?.car.name ?? "Hours"}
      sub="the most seen for so many hours"
      home={`/cars/${encodeURIComponent(carId)}`}
      who={d?.car.painter ?? ""}
      stage={{ current: 3, notes: car ? carNotes(car) : {} }}
      query={query}
      keys={[
        { keys: "← →", does: "half an hour, or ten of the money, less or more" },
        { keys: "M", does: "ask for hours or for money" },
        { keys: "N", does: "add what is best next" },
        { keys: "Enter", does: "want the panels so" },
        { keys: "O", does: "the offers side by side" },
        { keys: "Esc", does: "back to the car" },
      ]}
    >
      {d ? (
        <BudgetFrame>
          <section aria-label="Gain against hours">
            <div className="figures">
              <div>
                <Choice
                  label="the owner pays for"
                  value={by}
                  set={turn}
                  options={[
                    ["hours", "hours"],
                    ["money", "a sum"],
                  ]}
                />
              </div>
              <div>
                <div className="lab">{by === "hours" ? "hours of work on the panels" : "sum for the work on the panels"}</div>
                <span className="n">
                  {by === "hours" ? spent.toFixed(1) : spent.toFixed(0)}
                  <span className="u">{by === "hours" ? "h" : u.money}</span>
                </span>
              </div>
              <div>
                <div className="lab">gained of all there is</div>
                <span className="n">
                  {(100 * d.gain).toFixed(0)}
                  <span className="u">%</span>
                </span>
              </div>
              <div>
                <div className="lab">likely, and price of that</div>
                <span className="n small">
                  {d.hours_text}, {d.price.total.toFixed(0)}
                  <span className="u">{u.money}</span>
                </span>
              </div>
            </div>
            <p>{d.text}</p>
            {most > 0 ? (
              <div>
                <GainCurve curve={d.curve} by={by} unit={by === "hours" ? "hours" : u.money} spent={spent} gain={d.gain} next={d.next} most={most} />
                <Slider aria-label={by === "hours" ? "hours that the owner pays for" : "sum that the owner pays"} min={0} max={most} step={step} value={spent} onChange={(_, v) => set(v as number)} valueLabelDisplay="auto" valueLabelFormat={(v) => `${v} ${by === "hours" ? "h" : u.money}`} />
              </div>
            ) : null}
            <div className="beside">
              <p className="s">Gain is how much clearer and straighter a panel mirrors, or what goes of its swirls, by its area and by how well the light shows it. Press how a panel is seen where a moulding covers it or it hangs in another light. Washing, reading and handing over come on top; see the offers for all of it.</p>
              {take.error ? <Notice text={take.error.message} /> : null}
              <div className="acts">
                {d.next ? (
                  <Button sx={{ minHeight: 56 }} onClick={next}>
                    Add the next best <span className="kc">N</span>
                  </Button>
                ) : (
                  <Button sx={{ minHeight: 56 }} onClick={() => void go(offers)}>
                    The offers <span className="kc">O</span>
                  </Button>
                )}
                <Button variant="tape" sx={{ minHeight: 56 }} disabled={take.isPending || !usable} onClick={() => take.mutate(d)}>
                  Want them so <span className="kc">Enter</span>
                </Button>
              </div>
            </div>
          </section>
          <section aria-label="Panels">
            <Scroll label="How each panel is worked">
              <Table>
                <TableHead>
                  <TableRow>
                    <TableCell>panel</TableCell>
                    <TableCell title="how well the light shows it">seen</TableCell>
                    <TableCell>worked</TableCell>
                    <TableCell align="right">hours</TableCell>
                    <TableCell align="right">film, {u.name}</TableCell>
                    <TableCell align="right">gain</TableCell>
                  </TableRow>
                </TableHead>
                <TableBody>
                  {[...d.panels]
                    .sort((a, b) => b.gain - a.gain)
                    .map((p) => (
                      <TableRow key={p.panel_id}>
                        <TableCell>
                          <Button variant="link" sx={{ textDecoration: "none" }} onClick={() => void go(`/panels/${encodeURIComponent(p.panel_id)}/plan`)}>
                            {capital(p.name)}
                          </Button>
                        </TableCell>
                        <TableCell>
                          <Button variant="link" sx={{ whiteSpace: "nowrap" }} title={`counts ${p.seen.toFixed(2)} of 1`} onClick={() => setLit(p)}>
                            {p.light_text}
                          </Button>
                        </TableCell>
                        <TableCell className={p.option ? "b" : "s"}>{p.head}</TableCell>
                        <TableCell align="right" className="n">{p.option ? p.hours.toFixed(1) : ""}</TableCell>
                        <TableCell align="right" className="n">{p.option ? u.um(p.film_um) : ""}</TableCell>
                        <TableCell align="right" className="n">
                          {p.option ? (
                            <Box component="span" sx={{ display: "inline-flex", alignItems: "center", gap: 8 }}>
                              <Box component="span" aria-hidden sx={{ height: 12, width: Math.max(2, 160 * p.gain), maxWidth: 40, background: "var(--ink)" }} />
                              {(100 * p.gain).toFixed(0)} %
                            </Box>
                          ) : (
                            ""
                          )}
                        </TableCell>
                      </TableRow>
                    ))}
                </TableBody>
              </Table>
            </Scroll>
          </section>
          {lit ? <LitAsk car={d.car.id} panel={lit} close={() => setLit(null)} /> : null}
        </BudgetFrame>
      ) : null}
    </Page>
  );
}
