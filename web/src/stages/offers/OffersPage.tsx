import { Box, Button } from "@mui/material";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { useNews } from "../../api/news";
import { useCar, useOffers, useTouched } from "../../api/queries";
import { Page } from "../../app/Page";
import { useKeys, type Keys } from "../../app/keys";
import { carNotes } from "../../app/stageNotes";
import { useUnits } from "../../app/units";
import { StateTab } from "../../drawing/StateTab";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { ClearBar } from "./ClearBar";
import { OffersFrame } from "./OffersFrame";
import { TakeAsk } from "./TakeAsk";

/** What an owner chooses between for a car: how it will look, price, when it is ready, what stays. */
export default function OffersPage() {
  const u = useUnits();
  const { carId = "" } = useParams();
  const go = useNavigate();
  const query = useOffers(carId);
  const d = query.data;
  const car = useCar(carId).data;
  const touched = useTouched();
  useNews(car ? `/cars/${encodeURIComponent(carId)}/events` : null, (news) => {
    if (car && (news.house || news.version !== car.version)) void touched({ car: carId });
  });
  const [mine, choose] = useState<string | null>(null);
  const [hours, setHours] = useState(true);
  const [own, setOwn] = useState("");
  const [taking, setTaking] = useState(false);
  const chosen = d?.offers.find((o) => o.name === (mine ?? d.advice)) ?? d?.offers[0];
  const shut = chosen?.state === "shut";
  const to = `/api/cars/${encodeURIComponent(carId)}`;
  const plans = `/cars/${encodeURIComponent(carId)}/plans`;
  const budget = `/cars/${encodeURIComponent(carId)}/budget`;
  const print = () => window.open(`${to}/offersheet/offers.pdf?hours=${hours}${own.trim() ? `&words=${encodeURIComponent(own.trim())}` : ""}`, "_blank", "noopener");
  const keys: Keys = {
    Enter: () => (chosen && !shut ? setTaking(true) : void go(plans)),
    p: () => d && d.offers.length > 0 && print(),
    h: () => setHours((v) => !v),
    e: () => document.getElementById("own-words")?.focus(),
    m: () => void go(budget),
    Escape: () => void go(`/cars/${encodeURIComponent(carId)}`),
  };
  d?.offers.forEach((o, i) => (keys[String(i + 1)] = () => choose(o.name)));
  useKeys(keys, Boolean(d) && !taking);
  return (
    <Page
      title={d?.car.name ?? "Offers"}
      sub={d?.title ?? ""}
      home={`/cars/${encodeURIComponent(carId)}`}
      who={d?.car.painter ?? ""}
      stage={{ current: 3, notes: car ? carNotes(car) : {} }}
      query={query}
      keys={[
        { keys: "1–4", does: "choose an offer" },
        { keys: "Enter", does: "the owner takes it" },
        { keys: "P", does: "print one sheet" },
        { keys: "H", does: "show or hide the hours" },
        { keys: "E", does: "a line of your own on the sheet" },
        { keys: "M", does: "the most seen for so many hours" },
        { keys: "Esc", does: "back to the car" },
      ]}
    >
      {d ? (
        <OffersFrame>
          {d.taken ? <p className="b" style={{ margin: 0 }}>{d.taken.text}</p> : null}
          {d.offers.length === 0 ? (
            <>
              <Notice text={d.text} />
              <Box>
                <Button variant="tape" onClick={() => void go(plans)}>
                  See its plans <span className="kc">Enter</span>
                </Button>
              </Box>
            </>
          ) : (
            <div className="columns">
              {d.offers.map((o, i) => (
                <section key={o.name} className={`column${o.name === chosen?.name ? " chosen" : ""}`} aria-label={o.head} onClick={() => choose(o.name)}>
                  <Box component="button" type="button" aria-pressed={o.name === chosen?.name}>
                    <span className="kc">{i + 1}</span>
                    <h2 className="t">{o.head}</h2>
                  </Box>
                  <img src={`${to}/offers/${o.name}/picture`} alt={`The lamps mirrored in the ${d.shows} after that, computed`} />
                  <p className="looks">{o.looks}</p>
                  <div className="price">
                    <div>
                      <div className="lab">{o.price.tax > 0 ? "price with tax" : "price"}</div>
                      <span className="n" title={o.price_why}>
                        {o.price.total.toFixed(0)}
                        <span className="u">{u.money}</span>
                      </span>
                    </div>
                    <div style={{ textAlign: "right" }}>
                      <div className="lab">ready</div>
                      <span className="n ready">{o.ready_text}</span>
                    </div>
                  </div>
                  <dl>
                    {hours ? <Row name="hours of work" value={o.hours_text} why={`most likely ${o.hours.likely.toFixed(1)} h; 8 of 10 such jobs lie between`} /> : null}
                    <Row name={`paint taken, ${u.name}`} value={u.um(o.film_um)} why="of the panel that gives most" />
                    {o.gone === undefined ? null : <Row name="swirls gone" value={`${(100 * o.gone).toFixed(0)} %`} why="by the area" />}
                    <Row name={`clarity of 100, now ${d.now_clarity.toFixed(0)}`} value={o.clarity.toFixed(0)} why={`of the ${d.shows}`} />
                  </dl>
                  {o.clear ? (
                    <ClearBar clear={o.clear} state={o.state} />
                  ) : (
                    <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "center" }}>
                      <span className="s">film not read yet</span>
                      <StateTab state={o.state} />
                    </Box>
                  )}
                  {o.state === "open" ? null : <p className="s" style={{ margin: 0 }}>{o.reason}</p>}
                  <div className="stays">
                    <span className="b">Will not come out:</span> {o.stays.length === 0 ? "nothing that we know of." : o.stays.length > 2 ? `${o.stays.slice(0, 2).join(" ")} And ${o.stays.length - 2} more, on the sheet.` : o.stays.join(" ")}
                  </div>
                </section>
              ))}
            </div>
          )}
          {d.offers.length > 0 && chosen ? (
            <>
              <div className="more">
                <div>
                  {d.agreed.map((text) => (
                    <p key={text}>{text}</p>
                  ))}
                  {d.untold > 0 ? (
                    <p>
                      {d.untold === 1 ? "One thing" : `${d.untold} things`} the owner has still to be told: <Link to={`/cars/${encodeURIComponent(carId)}/take-in`}>tell it</Link>.
                    </p>
                  ) : null}
                  <p className="s">
                    {chosen.head}: {chosen.price_why} {d.valid_text}
                  </p>
                </div>
                <Field id="own-words" label="a line of your own on the sheet" value={own} most={300} onChange={(e) => setOwn(e.target.value)} />
              </div>
              <div className="foot">
                <div>
                  {d.advice_text ? <p>{d.advice_text}</p> : null}
                  <Box className="keys">
                    <Button variant="hint" onClick={() => setHours(!hours)}>
                      <span className="kc">H</span> {hours ? "hide hours" : "show hours"}
                    </Button>
                    <Button variant="hint" onClick={() => void go(budget)}>
                      <span className="kc">M</span> the most for so many hours
                    </Button>
                    <Button variant="hint" onClick={() => void go(plans)}>
                      its plans
                    </Button>
                  </Box>
                </div>
                <div>
                  <div className="acts">
                    <Button sx={{ minHeight: 56 }} onClick={print}>
                      Print one sheet <span className="kc">P</span>
                    </Button>
                    <Button variant="tape" sx={{ minHeight: 56, fontSize: 18 }} disabled={shut} onClick={() => setTaking(true)}>
                      Owner takes {d.offers.indexOf(chosen) + 1} <span className="kc">Enter</span>
                    </Button>
                  </div>
                  <Box component="p" className="s" sx={{ textAlign: "right", pt: 6 }}>
                    {shut ? chosen.reason : d.begins_text}
                  </Box>
                </div>
              </div>
            </>
          ) : null}
          {taking && d && chosen ? <TakeAsk of={d} offer={chosen} close={() => setTaking(false)} /> : null}
        </OffersFrame>
      ) : null}
    </Page>
  );
}

function Row({ name, value, why }: { name: string; value: string; why: string }) {
  return (
    <div title={why}>
      <dt>{name}</dt>
      <dd className="n">{value}</dd>
    </div>
  );
}
