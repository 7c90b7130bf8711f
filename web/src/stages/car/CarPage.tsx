import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, type Panel } from "../../api/client";
import { CarView, type Layer } from "../../drawing/CarView";
import { Legend } from "../../drawing/Legend";
import { useKeys } from "../../app/keys";
import { FilmCell, FilmHead } from "../../ui/Num";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { carNotes } from "../../app/stageNotes";
import { ImportDialog } from "../shared/ImportDialog";
import { bodyName, capital, count, room, um, unitName } from "../../app/format";

function read(panel: Panel): string {
  return `/panels/${encodeURIComponent(panel.id)}/read`;
}

export default function CarPage() {
  const { carId = "" } = useParams();
  const go = useNavigate();
  const query = useQuery({ queryKey: ["car", carId], queryFn: () => api.car(carId) });
  const car = query.data;
  const next = car?.next;
  const to = next ? `/panels/${encodeURIComponent(next.panel_id)}/${next.stage}` : "/";
  const [layer, setLayer] = useState<Layer>("film");
  const [importing, setImporting] = useState(false);
  const turn = () => setLayer(layer === "film" ? "marks" : "film");
  const open = car?.marks.reduce((n, m) => n + m.open, 0) ?? 0;
  const goTo = (p: Panel) => void go(layer === "film" ? read(p) : `/panels/${encodeURIComponent(p.id)}/look`);
  const takeIn = () => void go(`/cars/${encodeURIComponent(carId)}/take-in`);
  const lookOver = () => void go(`/panels/${encodeURIComponent(next?.panel_id ?? "")}/look`);
  useKeys({ l: turn, o: lookOver, t: takeIn, i: () => setImporting(true), Enter: () => void go(to), Escape: () => void go("/") }, Boolean(car));
  return (
    <Page
      title={car?.name ?? "Car"}
      sub={car ? `${bodyName(car.body)}, ${car.colour} · ${count(car.panels.length, "panel")}` : ""}
      home="/"
      who={car?.painter ?? ""}
      stage={{
        current: null,
        notes: car ? carNotes(car) : {},
      }}
      query={query}
      keys={[
        { keys: "Enter", does: "do the marked action" },
        { keys: "L", does: "film or marks" },
        { keys: "O", does: "look the next panel over" },
        { keys: "I", does: "import readings of the whole car" },
        { keys: "T", does: "what was said when it was taken in" },
        { keys: "Esc", does: "back to Today" },
      ]}
    >
      {car && next ? (
        <div style={{ display: "flex", flexWrap: "wrap", gap: "0 36px", paddingTop: 14 }}>
          <section style={{ flex: "1 1 620px", minWidth: 0 }} aria-label="The car unfolded">
            <CarView car={car} selected={next.panel_id} layer={layer} choose={goTo} height={500} />
            <div style={{ display: "flex", alignItems: "flex-end", gap: 40, flexWrap: "wrap", paddingTop: 8 }}>
              {layer === "film" ? <Legend /> : null}
              <div style={{ maxWidth: 360, flex: 1 }}>
                <div className="keys">
                  <button type="button" onClick={turn}>
                    <span className="kc">L</span> {layer === "film" ? `show the ${count(open, "mark")}` : "show the film"}
                  </button>
                </div>
                <p className="s">
                  {layer === "film"
                    ? `Touch a panel to read it. ${car.factory_um ? `Factory panels of this car read ${um(car.factory_um)} ${unitName()}.` : "No factory panel has been read yet."} Dots on bare paper: not read, so nothing is drawn.`
                    : "Touch a panel to look it over. Each dot is an open mark."}
                </p>
              </div>
            </div>
          </section>
          <section style={{ flex: "0 1 480px", minWidth: 300 }} aria-label="Panels">
            <button type="button" className="key tape" style={{ width: "100%", justifyContent: "space-between", minHeight: 62, marginBottom: 14 }} onClick={() => void go(to)}>
              <span style={{ textAlign: "left" }}>
                {next.action}
                <span className="s sub" style={{ display: "block", fontWeight: 450 }}>
                  {next.panel_name}
                </span>
              </span>
              <span className="kc">Enter</span>
            </button>
            <div style={{ display: "flex", gap: 10, marginBottom: 12 }}>
              <button type="button" className="key" style={{ flex: 1 }} onClick={takeIn}>
                What was said <span className="kc">T</span>
              </button>
              <button type="button" className="key" style={{ flex: 1 }} onClick={lookOver}>
                Look it over <span className="kc">O</span>
              </button>
            </div>
            <div className="keys" style={{ marginBottom: 12 }}>
              <button type="button" onClick={() => setImporting(true)}>
                <span className="kc">I</span> readings from a file
              </button>
              <a className="linkish" href={`/api/cars/${encodeURIComponent(car.id)}/readings.csv`} download={`${car.name} readings.csv`}>
                all readings as CSV
              </a>
            </div>
            {car.marks.length > 0 ? (
              <ul className="counts" aria-label="Marks of this car">
                {car.marks.map((m) => (
                  <li key={m.kind}>
                    <span className="n">{m.open}</span>
                    <span>
                      <span className="b">{m.name}</span> <span className="s">{m.text}</span>
                    </span>
                  </li>
                ))}
              </ul>
            ) : null}
            <table className="tb">
              <FilmHead first="panel" />
              <tbody>
                {car.panels.map((p) => (
                  <tr key={p.id} className={p.id === next.panel_id ? "on" : undefined}>
                    <td>
                      <button type="button" className="linkish" style={{ borderBottomColor: "transparent", fontWeight: 500 }} onClick={() => void go(read(p))}>
                        {capital(p.name.replace(" and roof rail", ""))}
                      </button>
                    </td>
                    <FilmCell e={p.film_um} none={p.substrate === "plastic" ? "plastic" : "not read"} />
                    <td className="n r">{room(p.headroom_um)}</td>
                    <td>{p.state ? <StateTab state={p.state} /> : null}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          </section>
        </div>
      ) : null}
      {importing && car ? <ImportDialog car={car} close={() => setImporting(false)} /> : null}
    </Page>
  );
}
