import { Box, Button, Table, TableBody, TableCell, TableRow } from "@mui/material";
import { Scroll } from "../../ui/Scroll";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, type Place, type Point, Refusal, type Reading as Kept, type Schemas, type Shot } from "../../api/client";
import { FilmCore } from "../../drawing/FilmCore";
import { CarView } from "../../drawing/CarView";
import { Legend } from "../../drawing/Legend";
import { PanelView } from "../../drawing/PanelView";
import { Unread } from "../../drawing/Unread";
import { areasPath, filmLayers, layerNames, pathOf, valueAt } from "../../drawing/geometry";
import { KeptReadings } from "../../outbox/KeptReadings";
import { useCar, useChanged, usePlace, useRead } from "../../api/queries";
import { queue } from "../../outbox/queue";
import { useOneId } from "../../outbox/useOneId";
import { useOutbox } from "../../outbox/useOutbox";
import { useKeys, type Keys } from "../../app/keys";
import { FilmCell, FilmHead } from "../../ui/Num";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { StrikeDialog } from "../../ui/StrikeDialog";
import { FactsDialog } from "../shared/FactsDialog";
import { stageNotes } from "../../app/stageNotes";
import { capital, count, short } from "../../app/format";
import { useUnits } from "../../app/units";
import { Entry, type Typed } from "./Entry";
import { GaugeDialog } from "./GaugeDialog";
import { ImportDialog } from "../shared/ImportDialog";
import { Cross, Dots, Strip } from "./Readings";
import { useProbe } from "./useProbe";
import { ZonesDialog } from "./ZonesDialog";
import { ReadFrame } from "./Frame";

type Open = "none" | "strike" | "facts" | "import" | "gauge" | "zones";

/** How long a reading can be taken back without a reason, ms. */
const takeBack = 10_000;

/** What the clear was read by, as the core says it. */
const readClear: Record<string, string> = { before_clear: "read before\nthe clear", direct: "read alone", bare: "by a place\nwithout clear" };

export default function ReadPage() {
  const { panelId = "" } = useParams();
  return <Reading key={panelId} panelId={panelId} />;
}

function Reading({ panelId }: { panelId: string }) {
  const u = useUnits();
  const go = useNavigate();
  const changed = useChanged();
  const query = useRead(panelId);
  const read = query.data;
  const carQuery = useCar(read?.panel.car_id);
  const [turn, setTurn] = useState(0);
  const [byHand, setByHand] = useState<Point | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [open, setOpen] = useState<Open>("none");
  const [said, setSaid] = useState("");
  const [layer, setLayer] = useState<(typeof filmLayers)[number]>("film");
  const [pointer, setPointer] = useState<Point | null>(null);
  const [last, setLast] = useState<Kept | null>(null);
  const { idFor, done } = useOneId();
  // Readings go through the outbox; those of the gauge's link wait in the gauge.
  const outbox = useOutbox(panelId, { taken: () => changed("panel"), refused: () => undefined });
  const keep = useMutation({
    mutationFn: async (body: Schemas["NewReading"]) => {
      if (body.gauge) {
        const kept = await api.addReading(panelId, body);
        await changed("panel");
        return kept;
      }
      const out = await queue.put({ what: "reading", id: body.id, panel: panelId, made: Date.now(), body });
      if ("refused" in out) throw new Refusal(out.refused);
      return "answer" in out ? (out.answer as Kept) : null;
    },
  });
  const hand = usePlace(panelId, byHand);
  const next = read?.next ?? [];
  const chosenPlace: Place | undefined = byHand ? (hand.data ?? { x_mm: byHand.x, y_mm: byHand.y }) : undefined;
  const place = chosenPlace ?? next[turn % Math.max(next.length, 1)];
  // Enough for a plan: the key in yellow goes on, and more may be read all the same.
  const enough = read !== undefined && read.car.next.stage === "plan" && read.car.next.panel_id === panelId;
  const toPlan = () => void go(`/panels/${encodeURIComponent(panelId)}/plan`);
  const live = read?.readings.filter((r) => !r.struck_at) ?? [];
  const no = Math.max(0, ...(read?.readings.map((r) => r.no) ?? [])) + 1;
  const move = (dx: number, dy: number) => {
    setByHand((at) => (at ? { x: at.x + dx, y: at.y + dy } : at));
  };
  const probe = useProbe();
  const [shotFault, setShotFault] = useState("");
  const [ultrasonic, setUltrasonic] = useState(false);
  const keepReading = async (typed: Typed, shot?: Shot): Promise<boolean> => {
    if (!place) return false;
    try {
      const id = shot?.id ?? idFor([place.x_mm, place.y_mm, typed]);
      const kept = await keep.mutateAsync({ id, x_mm: place.x_mm, y_mm: place.y_mm, ...typed, ...(shot && probe?.gauge ? { gauge: probe.gauge } : {}) });
      done(id);
      if (!kept) {
        setByHand(null);
        setTurn(turn + 1);
        setSaid("Kept on this device until the shop server answers.");
        return true;
      }
      setLast(kept);
      setShotFault("");
      setByHand(null);
      setTurn(0);
      setSaid(kept.held ?? "");
      return true;
    } catch {
      if (shot) setShotFault(shot.id);
      return false;
    }
  };
  // A shot of the gauge goes to the open spot of the page that is looked at.
  const waiting = probe?.shots.find((s) => s.film_um !== undefined);
  const taking = useRef("");
  useEffect(() => {
    if (!waiting || !place || keep.isPending || open !== "none" || !document.hasFocus() || taking.current === waiting.id) return;
    taking.current = waiting.id;
    void keepReading({ film: waiting.film_um ?? 0, unit: "um", phase: "total" }, waiting);
  });
  const at = place ? `${place.x_mm},${place.y_mm}` : "";
  const sending = probe?.state === "sending";
  useEffect(() => {
    if (!sending || !at || !document.hasFocus()) return;
    const [x = 0, y = 0] = at.split(",").map(Number);
    api.aimProbe({ panel_id: panelId, x_mm: x, y_mm: y }).catch(() => undefined); // the gauge goes without
  }, [sending, at, panelId]);
  useEffect(() => {
    if (!last) return undefined;
    const timer = window.setTimeout(() => setLast(null), takeBack);
    return () => window.clearTimeout(timer);
  }, [last]);
  const undo = () => {
    if (!last) return;
    const { id: slip, no: slipNo } = last;
    setLast(null);
    void api.strikeReading(slip, "taken back at once").then(async () => {
      setSaid(`Reading ${slipNo} taken back; it stays on record, struck out.`);
      await changed("panel");
    });
  };
  const turnLayer = () => setLayer((l) => filmLayers[(filmLayers.indexOf(l) + 1) % filmLayers.length] ?? "film");
  const strike = () => {
    const last = live.at(-1);
    if (!chosen && last) setChosen(last.id);
    if (live.length > 0) setOpen("strike");
  };
  const panels = carQuery.data?.panels ?? [];
  const beside = (by: number) => {
    const i = panels.findIndex((p) => p.id === panelId);
    const to = panels[(i + by + panels.length) % Math.max(panels.length, 1)];
    if (to) void go(`/panels/${encodeURIComponent(to.id)}/read`);
  };
  const keys: Keys = {
    n: () => {
      setByHand(null);
      setTurn(turn + 1);
    },
    m: () => {
      if (place) setByHand({ x: place.x_mm, y: place.y_mm });
    },
    a: () => {
      const last = live.at(-1);
      if (last) setByHand({ x: last.x_mm, y: last.y_mm });
    },
    x: strike,
    u: undo,
    l: turnLayer,
    c: () => setOpen("gauge"),
    z: () => setOpen("zones"),
    f: () => setOpen("facts"),
    i: () => setOpen("import"),
    p: () => void go(`/panels/${encodeURIComponent(panelId)}/plan`),
    "[": () => beside(-1),
    "]": () => beside(1),
    ArrowLeft: () => move(-10, 0),
    ArrowRight: () => move(10, 0),
    ArrowUp: () => move(0, -10),
    ArrowDown: () => move(0, 10),
    ShiftArrowLeft: () => move(-1, 0),
    ShiftArrowRight: () => move(1, 0),
    ShiftArrowUp: () => move(0, -1),
    ShiftArrowDown: () => move(0, 1),
  };
  useKeys(keys, open === "none");
  const study = read?.study;
  const inHand = read?.sections.find((s) => s.key === place?.section);
  const under = study && pointer ? valueAt(study.map, layer, pointer) : undefined;
  const underDoubt = study && pointer ? valueAt(study.map, "doubt", pointer) : undefined;
  const struckOne = read?.readings.find((r) => r.id === chosen);
  const known = study?.clear.sources.find((s) => readClear[s.kind]);
  const guessed = (known && readClear[known.kind]) ?? "a guess";
  return (
    <Page
      title={read?.car.name ?? "Read"}
      sub={read ? `${read.panel.name} · ${count(read.panel.readings, "spot")} read` : ""}
      home={read ? `/cars/${encodeURIComponent(read.car.id)}` : "/"}
      who={read?.car.painter ?? ""}
      unsaved={Boolean(keep.error)}
      stage={{ current: 2, notes: read ? stageNotes(read.panel, read.car, { 2: count(read.panel.readings, "spot") }) : {} }}
      query={query}
      keys={[
        { keys: "0–9 Enter", does: "type and keep" },
        { keys: "N", does: "another spot" },
        { keys: "M, arrows", does: "place by hand, 10 mm; Shift 1 mm" },
        { keys: "A", does: "read again at the last spot" },
        { keys: "X", does: "strike out a reading" },
        { keys: "U", does: "take the latest reading back, for ten seconds" },
        { keys: "L", does: "film, doubt, headroom" },
        { keys: "C", does: "check the gauge: zero, foil, how it repeats" },
        { keys: "Z", does: "zones: a blend or a repair on this panel" },
        { keys: "F", does: "finish, coats, peel grade" },
        { keys: "I", does: "import a file of readings" },
        { keys: "P", does: "to Plan" },
        { keys: "[ ]", does: "previous, next panel" },
      ]}
    >
      {read ? (
        <ReadFrame>
          <section aria-label="Where">
            {carQuery.data ? <CarView u={u} car={carQuery.data} selected={panelId} choose={(p) => void go(`/panels/${encodeURIComponent(p.id)}/read`)} height={256} /> : <Box sx={{ height: 256 }} />}
            <Box component="h2" className="t" sx={{ fontSize: 17, lineHeight: "24px", display: "flex", justifyContent: "space-between", gap: 12, marginTop: 8 }}>
              {capital(read.panel.name.replace(" and roof rail", ""))}
              <Box component="span" className="s" sx={{ fontFamily: "Hanken Grotesk Variable", fontWeight: 400 }}>
                {read.panel.area_m2.toFixed(2)} m², {read.panel.substrate}, {count(read.panel.creases.length, "crease")}
              </Box>
            </Box>
            <Scroll label="Sections" sx={{ minHeight: 60 }}>
              <Table>
                <FilmHead first="part" />
                <TableBody>
                  {read.sections.map((s) => (
                    <TableRow key={s.key} selected={s.key === inHand?.key} title={s.reason}>
                      <TableCell>{s.name}</TableCell>
                      <FilmCell e={s.film_um} />
                      <TableCell align="right" className="n">{u.room(s.headroom_um)}</TableCell>
                      <TableCell>{s.state ? <StateTab state={s.state} /> : <span className="s">read first</span>}</TableCell>
                    </TableRow>
                  ))}
                  {read.strips?.map((s) => (
                    <TableRow key={s.key} title={s.reason}>
                      <TableCell className="s">{s.name}</TableCell>
                      <FilmCell e={s.film_um} />
                      <TableCell align="right" className="n">{u.room(s.headroom_um)}</TableCell>
                      <TableCell>
                        <StateTab state={s.state} />
                      </TableCell>
                    </TableRow>
                  ))}
                </TableBody>
              </Table>
            </Scroll>
            <Box component="p" className="s" sx={{ marginTop: 8 }}>
              {study ? (
                <>
                  {study.flags.map((f) => (
                    <span key={f} className="b">
                      {f}{" "}
                    </span>
                  ))}
                  Clear {u.plusMinus(study.clear)} {u.name}: {study.clear.sources.map((s) => s.text).join("; ")}.{study.clear.agree ? "" : " The sources disagree, so the doubt is wider."}{" "}
                </>
              ) : null}
              <Button variant="link" onClick={() => setOpen("facts")}>
                {read.panel.finish.replace("_", " ")}, {read.panel.coats > 0 ? `${count(read.panel.coats, "coat")}, ` : read.panel.finish === "factory" ? "" : "coats not known, "}peel {short(read.panel.peel_grade)}
              </Button>{" "}
              <span className="kc">F</span>{" "}
              <Button variant="link" onClick={() => setOpen("zones")}>
                {(read.zones?.length ?? 0) > 0 ? count(read.zones?.length ?? 0, "zone") : "no zones"}
              </Button>{" "}
              <span className="kc">Z</span>
            </Box>
            <Box sx={{ marginTop: "auto" }}>
              <Legend u={u} layer={layer} />
            </Box>
          </section>
          <section aria-label="The panel" className="thing">
            <PanelView
              u={u}
              panel={read.panel}
              map={study?.map}
              layer={layer}
              hover={setPointer}
              label={`${read.panel.name}, ${u.size(read.panel.width_mm, read.panel.height_mm, " by ")}`}
              pick={setByHand}
              inside={(k) => (
                <>
                  {study ? null : <Unread panel={read.panel} scale={1.4 * k} />}
                  {read.zones?.map((z) => (
                    <path key={z.name} d={pathOf(z.outline)} fill="none" stroke="var(--ink)" strokeWidth="2" strokeDasharray="2 5" vectorEffect="non-scaling-stroke" />
                  ))}
                  {inHand ? <path d={areasPath(inHand.outlines)} fill="none" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="6 4" vectorEffect="non-scaling-stroke" /> : null}
                </>
              )}
              over={(k, width) => (
                <>
                  <Dots readings={read.readings} chosen={chosen} choose={(r) => setChosen(r === chosen ? null : r)} k={k} />
                  {next.map((p, i) => (p === place ? null : <Cross key={i} at={{ x: p.x_mm, y: p.y_mm }} no={no + i} k={k} marked={false} />))}
                  {place?.total_um ? (
                    <g pointerEvents="none" className="leader">
                      <path d={`M${place.x_mm + 34 * k} ${place.y_mm}H${read.panel.width_mm / 2 + (width / 2 + 18) * k}`} stroke="var(--ink)" strokeWidth="1.25" vectorEffect="non-scaling-stroke" />
                      <circle cx={read.panel.width_mm / 2 + (width / 2 + 18) * k} cy={place.y_mm} r={4 * k} fill="var(--ink)" />
                    </g>
                  ) : null}
                  {place ? <Cross at={{ x: place.x_mm, y: place.y_mm }} no={no} k={k} marked /> : null}
                </>
              )}
            />
            <Scroll label="Why here" sx={{ marginTop: "8px", minHeight: 62, flex: "0 1 auto" }}>
              <Box component="p" className="b" sx={{ display: "flex", justifyContent: "space-between", gap: 12 }}>
                <span>{byHand ? "By hand" : study?.borrowed ? "Borrowed" : place ? `Why ${no}?` : "No place more"}</span>
                {under === undefined ? null : (
                  <Box component="span" className="s" sx={{ fontWeight: 450 }}>
                    {layerNames[layer]} under the pointer <span className="n">{u.um(under)}</span>
                    {layer === "film" && underDoubt !== undefined ? ` ± ${u.um(underDoubt)}` : ""} {u.name}
                  </Box>
                )}
              </Box>
              <Box component="p" className="s" sx={{ maxWidth: 500 }}>
                {hand.error && byHand ? hand.error.message : byHand ? `At ${u.size(byHand.x, byHand.y, ", ")}. Arrows move it 10 mm, Shift 1 mm.` : read.why}
                {inHand?.reason ? ` ${inHand.reason}` : ""}
                {inHand?.bound_um === undefined ? "" : ` No place of this section reads under ${u.um(inHand.bound_um)} ${u.name}, at 1 in 20.`}
                {study ? ` ${study.ahead.text} ${study.ahead.helps}` : ""}
              </Box>
            </Scroll>
            <Box className="keys" sx={{ padding: "6px 0" }}>
              <Button variant="hint" onClick={turnLayer} disabled={!study}>
                <span className="kc">L</span> layer: {layer}
              </Button>
              <Button variant="hint" onClick={keys["n"]}>
                <span className="kc">N</span> another spot
              </Button>
              <Button variant="hint" onClick={keys["m"]}>
                <span className="kc">M</span> place by hand
              </Button>
              <Button variant="hint" onClick={strike} disabled={live.length === 0}>
                <span className="kc">X</span> strike out
              </Button>
              <Button variant="hint" onClick={() => setOpen("import")}>
                <span className="kc">I</span> import a file
              </Button>
            </Box>
            <Strip readings={read.readings} next={place} bands={study?.bands} />
          </section>
          <section aria-label="Film core" className="core">
            <Box component="h2" className="lab b" sx={{ lineHeight: "24px" }}>
              {study?.borrowed || !place ? "Film core" : `Film core at ${no}`}
            </Box>
            {place?.total_um && place.clear_um ? (
              <>
                <Box sx={{ margin: "6px 0 4px" }}>
                  <Box component="span" className="n" sx={{ fontSize: 21 }}>
                    {u.um(place.total_um.mean)}
                  </Box>
                  <Box component="span" className="n" sx={{ fontWeight: 450, color: "var(--ink2)" }}>
                    {" "}
                    ± {u.um(place.total_um.sd)}
                  </Box>
                </Box>
                <FilmCore u={u} total={place.total_um} clear={place.clear_um} floor={read.floor_um} below={place.below_um ?? 0} spend={study?.spend_um.mean ?? 0} guess={guessed} substrate={read.panel.substrate} height={560} />
                <p className="xs">At an edge the film is {(read.edge_factor * 100).toFixed(0)} % of the middle's. Spend: {study?.spend_from}.</p>
              </>
            ) : (
              <p className="s">{study?.borrowed ? "No core: nothing is read on this panel." : !place ? "No place is asked for any more." : "The core appears with the first reading. The film is not drawn before it is known."}</p>
            )}
          </section>
          <div className="entrycol">
            {read.panel.substrate === "plastic" ? (
              <>
                <p className="s">{read.why}</p>
                {ultrasonic ? (
                  <Entry only="clear" no={no} place={place && place.clear_um ? { ...place, total_um: place.clear_um } : place} fault={keep.error} busy={keep.isPending || !place} keep={(typed) => keepReading(typed)} offer={(typed) => keepReading(typed)} said={said} probe={null} drop={() => undefined} undo={last ? undo : undefined} leave={() => keep.reset()} />
                ) : (
                  <Button variant="quiet" sx={{ width: "100%", marginTop: 8 }} onClick={() => setUltrasonic(true)}>
                    Type the clear by ultrasonic
                  </Button>
                )}
                <KeptReadings readings={outbox.readings} />
                <Button variant={ultrasonic ? "quiet" : "tape"} sx={{ width: "100%", marginTop: 8 }} onClick={() => void go(`/panels/${encodeURIComponent(panelId)}/plan`)}>
                  To Plan <span className="kc">P</span>
                </Button>
              </>
            ) : (
              <>
                <Entry no={no} place={place} fault={keep.error} busy={keep.isPending || !place} keep={(typed) => keepReading(typed)} offer={(typed) => keepReading(typed, probe?.shots.find((s) => s.id === shotFault))} said={said || (probe && probe.state !== "none" ? probe.text : "Zero the gauge on bare steel once a day.")} probe={probe} drop={(s) => void api.dropShot(s.id)} undo={last ? undo : undefined} leave={() => keep.reset()} onward={enough ? toPlan : undefined} />
                <KeptReadings readings={outbox.readings} />
                <Button variant="quiet" sx={{ width: "100%", marginTop: 8 }} onClick={keys["a"]} disabled={live.length === 0}>
                  Read again <span className="kc">A</span>
                </Button>
                <Button variant={enough || !place ? "tape" : "quiet"} sx={{ width: "100%", marginTop: 8 }} onClick={toPlan}>
                  To Plan <span className="kc">P</span>
                </Button>
                <Box component="p" className="xs" sx={{ marginTop: 8 }} role="status">
                  {read.gauge && !read.gauge.fine ? <span className="b">Zero and foil are not checked today: </span> : null}
                  <Button variant="link" onClick={() => setOpen("gauge")}>
                    check the gauge
                  </Button>{" "}
                  <span className="kc">C</span>
                </Box>
              </>
            )}
          </div>
        </ReadFrame>
      ) : null}
      {open === "strike" && struckOne ? (
        <StrikeDialog
          what={`reading ${struckOne.no}, ${u.read(struckOne.film_um)} ${u.name}`}
          close={() => {
            setOpen("none");
            setChosen(null);
          }}
          strike={async (reason) => {
            await api.strikeReading(struckOne.id, reason);
            await changed("panel");
          }}
        />
      ) : null}
      {open === "facts" && read ? <FactsDialog panel={read.panel} close={() => setOpen("none")} /> : null}
      {open === "gauge" && read ? <GaugeDialog gauge={read.gauge?.id ?? "shop"} close={() => setOpen("none")} /> : null}
      {open === "zones" && read ? <ZonesDialog panel={read.panel} zones={read.zones ?? []} close={() => setOpen("none")} /> : null}
      {open === "import" && read ? <ImportDialog panel={read.panel} car={read.car} close={() => setOpen("none")} /> : null}
    </Page>
  );
}
