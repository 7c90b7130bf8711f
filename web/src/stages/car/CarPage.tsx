import { Box, Button, Table, TableBody, TableCell, TableRow } from "@mui/material";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import { useNews } from "../../api/news";
import { useCar, useTouched } from "../../api/queries";
import { type Panel } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { CarView, type Layer } from "../../drawing/CarView";
import { Legend } from "../../drawing/Legend";
import { useKeys } from "../../app/keys";
import { FilmCell, FilmHead } from "../../ui/Num";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { carNotes, handOverOf, nextOf } from "../../app/stageNotes";
import { ImportDialog } from "../shared/ImportDialog";
import { bodyName, capital, count } from "../../app/format";
import { useUnits } from "../../app/units";

function read(panel: Panel): string {
  return `/panels/${encodeURIComponent(panel.id)}/read`;
}

export default function CarPage() {
  const u = useUnits();
  const { carId = "" } = useParams();
  const go = useNavigate();
  const query = useCar(carId);
  const car = query.data;
  const touched = useTouched();
  useNews(car ? `/cars/${encodeURIComponent(carId)}/events` : null, (news) => {
    if (car && (news.house || news.version !== car.version)) void touched({ car: carId });
  });
  const gone = Boolean(car?.handed_over_at);
  const next = car?.next;
  const to = car && next ? (gone ? handOverOf(car.id) : nextOf(car)) : "/";
  const [layer, setLayer] = useState<Layer>("film");
  const [importing, setImporting] = useState(false);
  const turn = () => setLayer(layer === "film" ? "marks" : "film");
  const open = car?.marks.reduce((n, m) => n + m.open, 0) ?? 0;
  const goTo = (p: Panel) => void go(layer === "film" ? read(p) : `/panels/${encodeURIComponent(p.id)}/look`);
  const takeIn = () => void go(`/cars/${encodeURIComponent(carId)}/take-in`);
  const offers = () => void go(`/cars/${encodeURIComponent(carId)}/offers`);
  const went = `/cars/${encodeURIComponent(carId)}/went`;
  const lookOver = () => void go(`/panels/${encodeURIComponent(next?.panel_id ?? "")}/look`);
  useKeys({ l: turn, o: lookOver, t: takeIn, p: offers, w: () => void go(went), i: () => setImporting(true), h: () => void go(handOverOf(carId)), Enter: () => void go(to), Escape: () => void go("/") }, Boolean(car));
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
        { keys: "P", does: "offers for the owner: hours, price, what stays" },
        { keys: "W", does: "what was promised, and what happened" },
        { keys: "T", does: "what was said when it was taken in" },
        { keys: "H", does: "hand it over: its papers" },
        { keys: "Esc", does: "back to Today" },
      ]}
    >
      {car && next ? (
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: "0 36px", paddingTop: 14 }}>
          <Box component="section" sx={{ flex: "1 1 620px", minWidth: 0 }} aria-label="The car unfolded">
            <CarView u={u} car={car} selected={next.panel_id} layer={layer} choose={goTo} height={500} />
            <Box sx={{ display: "flex", alignItems: "flex-end", gap: 40, flexWrap: "wrap", paddingTop: 8 }}>
              {layer === "film" ? <Legend u={u} /> : null}
              <Box sx={{ maxWidth: 360, flex: 1 }}>
                <div className="keys">
                  <Button variant="hint" onClick={turn}>
                    <span className="kc">L</span> {layer === "film" ? `show the ${count(open, "mark")}` : "show the film"}
                  </Button>
                </div>
                <p className="s">
                  {layer === "film"
                    ? `Touch a panel to read it. ${car.factory_um ? `Factory panels of this car read ${u.um(car.factory_um)} ${u.name}.` : "No factory panel has been read yet."} Dots on bare paper: not read, so nothing is drawn.`
                    : "Touch a panel to look it over. Each dot is an open mark."}
                </p>
              </Box>
            </Box>
          </Box>
          <Box component="section" sx={{ flex: "0 1 480px", minWidth: 300 }} aria-label="Panels">
            <Button variant="tape" sx={{ width: "100%", justifyContent: "space-between", minHeight: 62, marginBottom: 14 }} onClick={() => void go(to)}>
              <Box component="span" sx={{ textAlign: "left" }}>
                {gone ? "Its papers" : next.action}
                <Box component="span" className="s sub" sx={{ display: "block", fontWeight: 450 }}>
                  {gone ? "report, film record, open it again" : next.panel_name}
                </Box>
              </Box>
              <span className="kc">Enter</span>
            </Button>
            <Box sx={{ display: "flex", gap: 10, marginBottom: 12 }}>
              <Button sx={{ flex: 1 }} onClick={takeIn}>
                What was said <span className="kc">T</span>
              </Button>
              <Button sx={{ flex: 1 }} onClick={lookOver}>
                Look it over <span className="kc">O</span>
              </Button>
            </Box>
            {gone ? null : (
              <Box sx={{ display: "flex", gap: 10, marginBottom: 12 }}>
                <Button sx={{ flex: 1 }} onClick={offers}>
                  Offers for the owner <span className="kc">P</span>
                </Button>
                <Button sx={{ flex: 1 }} onClick={() => void go(handOverOf(car.id))}>
                  Hand it over <span className="kc">H</span>
                </Button>
              </Box>
            )}
            <Box className="keys" sx={{ marginBottom: 12 }}>
              <Button variant="hint" onClick={() => void go(went)}>
                <span className="kc">W</span> promised, and happened
              </Button>
              <Button variant="hint" onClick={() => setImporting(true)}>
                <span className="kc">I</span> readings from a file
              </Button>
              <a className="linkish" href={`/api/cars/${encodeURIComponent(car.id)}/readings.csv`} download={`${car.name} readings.csv`}>
                all readings as CSV
              </a>
              <a className="linkish" href={`/api/cars/${encodeURIComponent(car.id)}/week.ics`}>
                its days as a calendar
              </a>
              <a className="linkish" href={`/api/cars/${encodeURIComponent(car.id)}/marks.csv`} download={`${car.name} marks.csv`}>
                all marks as CSV
              </a>
            </Box>
            {gone ? <Notice text={`Handed over on ${u.date(new Date(car.handed_over_at ?? ""))}: its film record is sealed, and nothing is written to it before it is opened again.`} /> : null}
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
            {car.floors.length > 0 ? (
              <Box component="ul" aria-label="Agreed with the owner" sx={{ listStyle: "none", m: "0 0 10px", p: 0, display: "grid", gap: 2 }}>
                {car.floors.map((f) => (
                  <Box component="li" key={f.id} sx={f.struck_at ? { textDecoration: "line-through", color: "var(--ink2)" } : {}}>
                    {f.panel ? `${capital(car.panels.find((p) => p.id === f.panel)?.name ?? "")}: ` : ""}
                    {f.text}
                    {f.struck_reason ? ` ${capital(f.struck_reason)}.` : ""}
                  </Box>
                ))}
              </Box>
            ) : null}
            <Table>
              <FilmHead first="panel" />
              <TableBody>
                {car.panels.map((p) => (
                  <TableRow key={p.id} selected={p.id === next.panel_id}>
                    <TableCell>
                      <Button variant="link" sx={{ textDecoration: "none", fontWeight: 500 }} onClick={() => void go(read(p))}>
                        {capital(p.name.replace(" and roof rail", ""))}
                      </Button>
                    </TableCell>
                    <FilmCell e={p.film_um} none={p.substrate === "plastic" ? "plastic" : "not read"} />
                    <TableCell align="right" className="n">{u.room(p.headroom_um)}</TableCell>
                    <TableCell>{p.state ? <StateTab state={p.state} /> : null}</TableCell>
                  </TableRow>
                ))}
              </TableBody>
            </Table>
          </Box>
        </Box>
      ) : null}
      {importing && car ? <ImportDialog car={car} close={() => setImporting(false)} /> : null}
    </Page>
  );
}
