import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useMutation } from "@tanstack/react-query";
import { api, newId, type Schemas } from "../../api/client";
import { useNews } from "../../api/news";
import { useCar, useChanged, useTouched, useWent } from "../../api/queries";
import { Page } from "../../app/Page";
import { useKeys } from "../../app/keys";
import { carNotes, handOverOf } from "../../app/stageNotes";
import { useUnits } from "../../app/units";
import { much } from "../../ui/much";
import { Notice } from "../../ui/Notice";
import { Scroll } from "../../ui/Scroll";
import { HoursBar } from "./HoursBar";
import { SayAsk } from "./SayAsk";
import { WentFrame } from "./WentFrame";

type Figure = Schemas["WentFigure"];

const heads: Record<Figure["name"], string> = { hours: "Hours", film: "Film", ready: "Ready", price: "Price" };
const words: Record<Figure["against"], string> = { within: "kept", more: "likely over", more_sure: "over", less: "likely under", less_sure: "under", open: "" };

/** An arrow up for more than promised, down for less, a tick for kept. */
function Against({ of }: { of: Figure["against"] }) {
  if (of === "open") return null;
  const path = of === "within" ? "M3 9L7 13L14 4" : of.startsWith("more") ? "M8 14V3M3 8L8 3L13 8" : "M8 2V13M3 8L8 13L13 8";
  return (
    <span className="against">
      <svg width="16" height="16" viewBox="0 0 16 16" aria-hidden>
        <path d={path} fill="none" stroke="var(--ink)" strokeWidth={of.endsWith("sure") ? 3.4 : 2} />
      </svg>
      {words[of]}
    </span>
  );
}

/** What was promised of a car against what happened: hours, film, day and price, step by step. */
export default function WentPage() {
  const u = useUnits();
  const { carId = "" } = useParams();
  const go = useNavigate();
  const query = useWent(carId);
  const d = query.data;
  const car = useCar(carId).data;
  const touched = useTouched();
  useNews(car ? `/cars/${encodeURIComponent(carId)}/events` : null, (news) => {
    if (car && (news.house || news.version !== car.version)) void touched({ car: carId });
  });
  const [mine, choose] = useState("");
  const [saying, setSaying] = useState(false);
  const may = d?.lines.filter((l) => l.may_say) ?? [];
  const chosen = may.find((l) => l.what === mine) ?? may.find((l) => l.done > 0 && l.said_min === undefined) ?? may[0];
  const move = (by: number) => {
    const i = may.findIndex((l) => l === chosen);
    const to = may[Math.max(0, Math.min(may.length - 1, i + by))];
    if (to) choose(to.what);
  };
  const changed = useChanged();
  const take = useMutation({ mutationFn: () => api.takeUsed(carId, { id: newId(), person: d?.car.painter ?? "" }), onSettled: () => changed("used") });
  const back = `/cars/${encodeURIComponent(carId)}`;
  const offers = `${back}/offers`;
  useKeys(
    {
      ArrowDown: () => move(1),
      ArrowUp: () => move(-1),
      Enter: () => chosen && setSaying(true),
      u: () => d?.to_take && take.mutate(),
      o: () => void go(offers),
      h: () => void go(handOverOf(carId)),
      Escape: () => void go(back),
    },
    Boolean(d),
  );
  return (
    <Page
      title={d?.car.name ?? "How it went"}
      sub="what was promised, and what happened"
      home={back}
      who={d?.car.painter ?? ""}
      stage={{ current: null, notes: car ? carNotes(car) : {} }}
      query={query}
      keys={[
        { keys: "↑ ↓", does: "choose a line" },
        { keys: "Enter", does: "say how long it took" },
        { keys: "U", does: "take what was used up off the shelf" },
        { keys: "O", does: "the offers" },
        { keys: "H", does: "hand the car over" },
        { keys: "Esc", does: "back to the car" },
      ]}
    >
      {d ? (
        <WentFrame>
          {d.closed ? <Notice text="Handed over: what stands here stays as it was." /> : null}
          <Box component="p" className="b" sx={{ m: 0 }}>
            {d.text}
          </Box>
          <div className="figures">
            {d.figures.map((f) => (
              <section key={f.name} aria-label={heads[f.name]}>
                <h2>
                  {heads[f.name]} <Against of={f.against} />
                </h2>
                <div>
                  <span className="n">{f.now}</span>{" "}
                  <span className="s">{f.promised ? `promised ${f.promised}` : "nothing promised"}</span>
                </div>
                {f.range ? <HoursBar of={f.range} /> : null}
                <p className="s">{f.text}</p>
              </section>
            ))}
          </div>
          <Scroll label="Line by line">
            <Table>
              <TableHead>
                <TableRow>
                  <TableCell>work</TableCell>
                  <TableCell align="right">planned, min</TableCell>
                  <TableCell align="right">done</TableCell>
                  <TableCell align="right">took</TableCell>
                  <TableCell align="right" title="as long as planned, of what was timed">
                    times
                  </TableCell>
                  <TableCell align="right" title="over the area of the panels">
                    passes
                  </TableCell>
                  <TableCell align="right" title="crest film over the area of the panels">
                    film, {u.name}
                  </TableCell>
                  <TableCell align="right">used up</TableCell>
                  <TableCell className="how">from</TableCell>
                </TableRow>
              </TableHead>
              <TableBody>
                {d.lines.map((l) => (
                  <TableRow key={l.what} selected={l === chosen} sx={{ cursor: l.may_say ? "pointer" : "default" }} onClick={() => l.may_say && choose(l.what)}>
                    <TableCell className="name">
                      {l.may_say ? (
                        <Button variant="link" sx={{ textDecoration: "none", textAlign: "left" }} aria-pressed={l === chosen} onClick={() => choose(l.what)}>
                          {l.name}
                        </Button>
                      ) : (
                        l.name
                      )}
                    </TableCell>
                    <TableCell align="right" className="n">{l.planned_min.toFixed(0)}</TableCell>
                    <TableCell align="right" className="n">{(100 * l.done).toFixed(0)} %</TableCell>
                    <TableCell align="right" className={l.done > 0 ? "n" : "s"}>{l.took_text}</TableCell>
                    <TableCell align="right" className="n">{l.times === undefined ? "" : l.times.toFixed(2)}</TableCell>
                    <TableCell align="right" className="n">{l.step ? `${plain(l.step.passes_made)} of ${plain(l.step.passes_planned)}` : ""}</TableCell>
                    <TableCell align="right" className="n" title={l.step ? `± ${u.um(l.step.film_um.sd)}` : undefined}>{l.step ? `${u.um(l.step.film_um.mean)} of ${u.um(l.step.film_planned_um)}` : ""}</TableCell>
                    <TableCell align="right" className="n">{l.step ? used(l.step) : ""}</TableCell>
                    <TableCell className="s how">{l.how}</TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Scroll>
          {take.error ? <Notice text={take.error.message} /> : null}
          <div className="foot">
            <div className="keys">
              <Button variant="hint" onClick={() => void go("/hands")}>
                the pace of the shop
              </Button>
              {d.to_take ? (
                <Button variant="hint" disabled={take.isPending} onClick={() => take.mutate()}>
                  <span className="kc">U</span> take off the shelf: {d.to_take}
                </Button>
              ) : null}
              <Button variant="hint" onClick={() => void go(offers)}>
                <span className="kc">O</span> the offers
              </Button>
            </div>
            <div className="acts">
              <Button sx={{ minHeight: 56 }} onClick={() => void go(handOverOf(carId))}>
                Hand it over <span className="kc">H</span>
              </Button>
              {chosen ? (
                <Button variant="tape" sx={{ minHeight: 56 }} onClick={() => setSaying(true)}>
                  Say how long it took: {chosen.name} <span className="kc">Enter</span>
                </Button>
              ) : null}
            </div>
          </div>
          {saying && chosen ? <SayAsk key={chosen.what} car={d.car} line={chosen} close={() => setSaying(false)} /> : null}
        </WentFrame>
      ) : null}
    </Page>
  );
}

/** A count without the digits that say nothing. */
function plain(v: number): string {
  return v.toFixed(1).replace(/\.0$/, "");
}

function used(s: Schemas["WentStep"]): string {
  if (s.unit === "ml") return `${s.used.toFixed(0)} of ${much(s.used_planned, s.unit)}`;
  return `${plain(s.used)} of ${much(s.used_planned, s.unit)}`;
}
