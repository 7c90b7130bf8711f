import { useQuery } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { api, type Panel } from "../../api/client";
import { CarView } from "../../flatlay/CarView";
import { Legend } from "../../flatlay/Legend";
import { useKeys } from "../../shell/keys";
import { FilmCell, FilmHead } from "../../shell/Num";
import { Page } from "../../shell/Page";
import { StateTab } from "../../shell/StateTab";
import { capital, count, room, um } from "../../words/format";

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
  useKeys({ Enter: () => void go(to), Escape: () => void go("/") }, Boolean(car));
  return (
    <Page
      title={car?.name ?? "Car"}
      sub={car ? `${car.body === "loose" ? "loose panel" : car.body}, ${car.colour} · ${count(car.panels.length, "panel")}` : ""}
      home="/"
      who={car?.painter ?? ""}
      stage={{
        current: 0,
        notes: next ? { [{ read: 2, plan: 3, level: 4 }[next.stage]]: { to, note: next.action.toLowerCase().slice(0, 18) } } : {},
      }}
      query={query}
      keys={[
        { keys: "Enter", does: "do the marked action" },
        { keys: "Esc", does: "back to Today" },
      ]}
    >
      {car && next ? (
        <div style={{ display: "flex", flexWrap: "wrap", gap: "0 36px", paddingTop: 14 }}>
          <section style={{ flex: "1 1 620px", minWidth: 0 }} aria-label="The car unfolded">
            <CarView car={car} selected={next.panel_id} choose={(p) => void go(read(p))} height={540} />
            <div style={{ display: "flex", alignItems: "flex-end", gap: 40, flexWrap: "wrap", paddingTop: 8 }}>
              <Legend />
              <p className="s" style={{ maxWidth: 250, flex: 1 }}>
                Touch a panel to read it. {car.factory_um ? `Factory panels of this car read ${um(car.factory_um)} µm.` : "No factory panel has been read yet."} White is not read.
              </p>
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
    </Page>
  );
}
