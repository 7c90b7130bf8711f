import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, newId, type Place, type Point, type Reading as Kept, type Shot } from "../../api/client";
import { FilmCore } from "../../drawing/FilmCore";
import { CarView } from "../../drawing/CarView";
import { Legend } from "../../drawing/Legend";
import { PanelView } from "../../drawing/PanelView";
import { Unread } from "../../drawing/Unread";
import { areasPath, filmLayers, layerNames, pathOf, valueAt } from "../../drawing/geometry";
import { KeptReadings } from "../../outbox/KeptReadings";
import { unanswered, useTaps } from "../../outbox/taps";
import { useKeys, type Keys } from "../../app/keys";
import { FilmCell, FilmHead } from "../../ui/Num";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { StrikeDialog } from "../../ui/StrikeDialog";
import { FactsDialog } from "../shared/FactsDialog";
import { stageNotes } from "../../app/stageNotes";
import { capital, count, plusMinus, room, short, um, unitName } from "../../app/format";
import { Entry, type Typed } from "./Entry";
import { GaugeDialog } from "./GaugeDialog";
import { ImportDialog } from "../shared/ImportDialog";
import { Cross, Dots, Strip } from "./Readings";
import { useProbe } from "./useProbe";
import { ZonesDialog } from "./ZonesDialog";

type Open = "none" | "strike" | "facts" | "import" | "gauge" | "zones";

/** How long a reading can be taken back without a reason, ms. */
const takeBack = 10_000;

export default function ReadPage() {
  const { panelId = "" } = useParams();
  return <Reading key={panelId} panelId={panelId} />;
}

function Reading({ panelId }: { panelId: string }) {
  const go = useNavigate();
  const queries = useQueryClient();
  const query = useQuery({ queryKey: ["read", panelId], queryFn: () => api.read(panelId) });
  const read = query.data;
  const carQuery = useQuery({ queryKey: ["car", read?.panel.car_id], queryFn: () => api.car(read?.panel.car_id ?? ""), enabled: Boolean(read) });
  const [turn, setTurn] = useState(0);
  const [byHand, setByHand] = useState<Point | null>(null);
  const [chosen, setChosen] = useState<string | null>(null);
  const [open, setOpen] = useState<Open>("none");
  const [said, setSaid] = useState("");
  const [layer, setLayer] = useState<(typeof filmLayers)[number]>("film");
  const [pointer, setPointer] = useState<Point | null>(null);
  const [last, setLast] = useState<Kept | null>(null);
  // The id stays until the reading is kept, so that a second try counts once.
  const [id, setId] = useState(newId);
  // Without a network readings are kept on this device, and go when it is back; those
  // of the gauge's link wait there.
  const taps = useTaps(panelId, () => queries.invalidateQueries());
  const keep = useMutation({
    mutationFn: async (body: Parameters<typeof api.addReading>[1]) => {
      try {
        return await api.addReading(panelId, body);
      } catch (error) {
        if (body.gauge || !unanswered(error)) throw error;
        await taps.read(body);
        return null;
      }
    },
  });

  const hand = useQuery({
    queryKey: ["place", panelId, byHand?.x, byHand?.y],
    queryFn: () => api.place(panelId, byHand?.x ?? 0, byHand?.y ?? 0),
    enabled: byHand !== null,
    retry: false,
  });
  const next = read?.next ?? [];
  const chosenPlace: Place | undefined = byHand ? (hand.data ?? { x_mm: byHand.x, y_mm: byHand.y }) : undefined;
  const place = chosenPlace ?? next[turn % Math.max(next.length, 1)];
  const live = read?.readings.filter((r) => !r.struck_at) ?? [];
  const no = Math.max(0, ...(read?.readings.map((r) => r.no) ?? [])) + 1;
  const move = (dx: number, dy: number) => {
    setByHand((at) => (at ? { x: at.x + dx, y: at.y + dy } : at));
  };
  const probe = useProbe();
  const [shotFault, setShotFault] = useState("");
  const keepReading = async (typed: Typed, shot?: Shot): Promise<boolean> => {
    if (!place) return false;
    try {
      const kept = await keep.mutateAsync({ id: shot?.id ?? id, x_mm: place.x_mm, y_mm: place.y_mm, ...typed, ...(shot && probe?.gauge ? { gauge: probe.gauge } : {}) });
      const was = place.total_um;
      setId(newId());
      if (!kept) {
        setByHand(null);
        setTurn(turn + 1);
        setSaid("Kept on this device until the bench server answers.");
        return true;
      }
      setLast(kept);
      setShotFault("");
      setByHand(null);
      setTurn(0);
      await queries.invalidateQueries();
      const off = kept.film_um < (place.low_um ?? 0) || kept.film_um > (place.high_um ?? Infinity);
      const verdict = !was || typed.phase !== "total" ? "" : off ? `, far from the ${plusMinus(was)} expected: read again here` : ", as expected";
      setSaid(`Reading ${kept.no} kept: ${um(kept.film_um)} ${unitName()}${verdict}.`);
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
      await queries.invalidateQueries();
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
  const guessed = study?.clear.sources.some((s) => s.kind === "before_clear") ? "read before\nthe clear" : "a guess";
  return (
    <Page
      title={read?.car.name ?? "Read"}
      sub={read ? `${read.panel.name} · ${count(read.panel.readings, "spot")} read` : ""}
      home={read ? `/cars/${encodeURIComponent(read.car.id)}` : "/"}
      who={read?.car.painter ?? ""}
      unsaved={Boolean(keep.error) || taps.readings.length > 0}
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
        <div className="read">
          <section aria-label="Where">
            {carQuery.data ? <CarView car={carQuery.data} selected={panelId} choose={(p) => void go(`/panels/${encodeURIComponent(p.id)}/read`)} height={286} /> : <div style={{ height: 286 }} />}
            <h2 className="t" style={{ fontSize: 17, lineHeight: "24px", display: "flex", justifyContent: "space-between", gap: 12, marginTop: 8 }}>
              {capital(read.panel.name.replace(" and roof rail", ""))}
              <span className="s" style={{ fontFamily: "Hanken Grotesk Variable", fontWeight: 400 }}>
                {read.panel.area_m2.toFixed(2)} m², {read.panel.substrate}, {count(read.panel.creases.length, "crease")}
              </span>
            </h2>
            <div style={{ overflow: "auto", minHeight: 60 }} tabIndex={0} role="region" aria-label="Sections">
              <table className="tb">
                <FilmHead first="part" />
                <tbody>
                  {read.sections.map((s) => (
                    <tr key={s.key} className={s.key === inHand?.key ? "on" : undefined} title={s.reason}>
                      <td>{s.name}</td>
                      <FilmCell e={s.film_um} />
                      <td className="n r">{room(s.headroom_um)}</td>
                      <td>{s.state ? <StateTab state={s.state} /> : <span className="s">read first</span>}</td>
                    </tr>
                  ))}
                  {read.strips?.map((s) => (
                    <tr key={s.key} title={s.reason}>
                      <td className="s">{s.name}</td>
                      <FilmCell e={s.film_um} />
                      <td className="n r">{room(s.headroom_um)}</td>
                      <td>
                        <StateTab state={s.state} />
                      </td>
                    </tr>
                  ))}
                </tbody>
              </table>
            </div>
            <p className="s" style={{ marginTop: 8 }}>
              {study ? (
                <>
                  {study.flags.map((f) => (
                    <span key={f} className="b">
                      {f}{" "}
                    </span>
                  ))}
                  Clear {plusMinus(study.clear)} {unitName()}: {study.clear.sources.map((s) => s.text).join("; ")}.{study.clear.agree ? "" : " The sources disagree, so the doubt is wider."}{" "}
                </>
              ) : null}
              <button type="button" className="linkish" onClick={() => setOpen("facts")}>
                {read.panel.finish.replace("_", " ")}, {count(read.panel.coats, "coat")}, peel {short(read.panel.peel_grade)}
              </button>{" "}
              <span className="kc">F</span>{" "}
              <button type="button" className="linkish" onClick={() => setOpen("zones")}>
                {(read.zones?.length ?? 0) > 0 ? count(read.zones?.length ?? 0, "zone") : "no zones"}
              </button>{" "}
              <span className="kc">Z</span>
            </p>
            <div style={{ marginTop: "auto" }}>
              <Legend layer={layer} />
            </div>
          </section>
          <section aria-label="The panel" className="thing">
            <PanelView
              panel={read.panel}
              map={study?.map}
              layer={layer}
              hover={setPointer}
              label={`${read.panel.name}, ${short(read.panel.width_mm)} by ${short(read.panel.height_mm)} mm`}
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
            <div style={{ paddingTop: 8, minHeight: 62 }}>
              <p className="b" style={{ display: "flex", justifyContent: "space-between", gap: 12 }}>
                <span>{byHand ? "By hand" : study?.borrowed ? "Borrowed" : `Why ${no}?`}</span>
                {under === undefined ? null : (
                  <span className="s" style={{ fontWeight: 450 }}>
                    {layerNames[layer]} under the pointer <span className="n">{um(under)}</span>
                    {layer === "film" && underDoubt !== undefined ? ` ± ${um(underDoubt)}` : ""} {unitName()}
                  </span>
                )}
              </p>
              <p className="s" style={{ maxWidth: 500 }}>
                {hand.error && byHand ? hand.error.message : byHand ? `At ${short(byHand.x)}, ${short(byHand.y)} mm. Arrows move it 10 mm, Shift 1 mm.` : read.why}
                {inHand?.reason ? ` ${inHand.reason}` : ""}
                {inHand?.bound_um === undefined ? "" : ` No place of this section reads under ${um(inHand.bound_um)} ${unitName()}, at 1 in 20.`}
                {study ? ` ${study.ahead.text} ${study.ahead.helps}` : ""}
              </p>
            </div>
            <div className="keys" style={{ padding: "6px 0" }}>
              <button type="button" onClick={turnLayer} disabled={!study}>
                <span className="kc">L</span> layer: {layer}
              </button>
              <button type="button" onClick={keys["n"]}>
                <span className="kc">N</span> another spot
              </button>
              <button type="button" onClick={keys["m"]}>
                <span className="kc">M</span> place by hand
              </button>
              <button type="button" onClick={strike} disabled={live.length === 0}>
                <span className="kc">X</span> strike out
              </button>
              <button type="button" onClick={() => setOpen("import")}>
                <span className="kc">I</span> import a file
              </button>
            </div>
            <Strip readings={read.readings} next={place} bands={study?.bands} />
          </section>
          <section aria-label="Film core" className="core">
            <h2 className="lab b" style={{ lineHeight: "24px" }}>
              {study?.borrowed ? "Film core" : `Film core at ${no}`}
            </h2>
            {place?.total_um && place.clear_um ? (
              <>
                <div style={{ margin: "6px 0 4px" }}>
                  <span className="n" style={{ fontSize: 21 }}>
                    {um(place.total_um.mean)}
                  </span>
                  <span className="n" style={{ fontWeight: 450, color: "var(--ink2)" }}>
                    {" "}
                    ± {um(place.total_um.sd)}
                  </span>
                </div>
                <FilmCore total={place.total_um} clear={place.clear_um} floor={read.floor_um} below={place.below_um ?? 0} spend={study?.spend_um.mean ?? 0} guess={guessed} substrate={read.panel.substrate} height={560} />
                <p className="xs">At an edge the film is {(read.edge_factor * 100).toFixed(0)} % of the middle's. Spend: {study?.spend_from}.</p>
              </>
            ) : (
              <p className="s">{study?.borrowed ? "No core: nothing is read on this panel." : "The core appears with the first reading. The film is not drawn before it is known."}</p>
            )}
          </section>
          <div className="entrycol">
            {read.panel.substrate === "plastic" ? (
              <p className="s">{read.why}</p>
            ) : (
              <>
                <Entry no={no} place={place} fault={keep.error} busy={keep.isPending || !place} keep={(typed) => keepReading(typed)} offer={(typed) => keepReading(typed, probe?.shots.find((s) => s.id === shotFault))} said={said || (probe && probe.state !== "none" ? probe.text : "Zero the gauge on bare steel once a day.")} probe={probe} drop={(s) => void api.dropShot(s.id)} undo={last ? undo : undefined} leave={() => keep.reset()} />
                <KeptReadings taps={taps} />
                <button type="button" className="key q" style={{ width: "100%", marginTop: 8 }} onClick={keys["a"]} disabled={live.length === 0}>
                  Read again <span className="kc">A</span>
                </button>
                <button type="button" className={`key ${read.car.next.stage === "read" ? "q" : ""}`} style={{ width: "100%", marginTop: 8 }} onClick={() => void go(`/panels/${encodeURIComponent(panelId)}/plan`)}>
                  To Plan <span className="kc">P</span>
                </button>
                <p className="xs" style={{ marginTop: 8 }} role="status">
                  {read.gauge && !read.gauge.fine ? <span className="b">Zero and foil are not checked today: </span> : null}
                  <button type="button" className="linkish" onClick={() => setOpen("gauge")}>
                    check the gauge
                  </button>{" "}
                  <span className="kc">C</span>
                </p>
              </>
            )}
          </div>
        </div>
      ) : null}
      {open === "strike" && struckOne ? (
        <StrikeDialog
          what={`reading ${struckOne.no}, ${um(struckOne.film_um)} ${unitName()}`}
          close={() => {
            setOpen("none");
            setChosen(null);
          }}
          strike={async (reason) => {
            await api.strikeReading(struckOne.id, reason);
            await queries.invalidateQueries();
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
