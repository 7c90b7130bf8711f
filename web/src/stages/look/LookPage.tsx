import { Box, Button } from "@mui/material";
import { useUnits } from "../../app/units";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState, type PointerEvent } from "react";
import { useNavigate, useParams } from "react-router";
import { api, newId, type Look, type Mark, type MarkKind, type Marked, type Point, type Schemas } from "../../api/client";
import { CarView } from "../../drawing/CarView";
import { PanelView } from "../../drawing/PanelView";
import { infoOf, kinds } from "../../drawing/kinds";
import { OnPanel, type Grip } from "../../drawing/OnPanel";
import { Sign } from "../../drawing/Sign";
import { Scroll } from "../../ui/Scroll";
import { Notice } from "../../ui/Notice";
import { Page } from "../../app/Page";
import { useKeys, type Keys } from "../../app/keys";
import { keys as answers, useCar, useChanged, useLook } from "../../api/queries";
import { stageNotes } from "../../app/stageNotes";
import { useMode } from "../../app/theme/mode";
import { count } from "../../app/format";
import { Compare } from "./Compare";
import { MarkForm } from "./MarkForm";
import { MarkList } from "./MarkList";
import { changed, closer, dragged, type Drag, type Near } from "./local";
import type { MarkAct } from "../../outbox/device";
import { useMarks, type Step } from "../../outbox/useMarks";
import { LookFrame } from "./Frame";

export default function LookPage() {
  const { panelId = "" } = useParams();
  return <Looking key={panelId} panelId={panelId} />;
}

function Looking({ panelId }: { panelId: string }) {
  const u = useUnits();
  const go = useNavigate();
  const queries = useQueryClient();
  const { mode } = useMode();
  const changedPanel = useChanged();
  const query = useLook(panelId);
  const look = query.data;
  const carQuery = useCar(look?.panel.car_id);
  const [tool, setTool] = useState<MarkKind>("nib");
  const [chosen, setChosen] = useState<string | null>(null);
  const [cross, setCross] = useState<Point | null>(null);
  const [drag, setDrag] = useState<Drag | null>(null);
  const [fault, setFault] = useState("");
  const [more, setMore] = useState(false);
  const [whole, setWhole] = useState(false);
  const [near, setNear] = useState<Near | null>(null);
  const [comparing, setComparing] = useState(false);
  const [last, setLast] = useState<string | null>(null);
  // Where arrows have sent the mark so far: keys come faster than the screen.
  const sent = useRef<{ id: string; x: number; y: number } | null>(null);
  const taken = (act: MarkAct, marked: Marked) => {
    // An answer that was asked for before must not take this mark away again.
    void queries.cancelQueries({ queryKey: answers.look(panelId) });
    queries.setQueryData<Look>(answers.look(panelId), (old) => {
      if (!old) return old;
      const others = old.marks.filter((m) => m.id !== marked.mark.id);
      const here = marked.mark.panel_id === panelId && !marked.mark.struck_at;
      const marks = here ? [...others, marked.mark].sort((a, b) => Date.parse(a.at) - Date.parse(b.at)) : others;
      return { ...old, marks, tally: marked.mark.panel_id === panelId ? marked.tally : old.tally };
    });
    if (act.do === "mirror") setFault("");
    void queries.invalidateQueries({ queryKey: ["car"], refetchType: "none" });
    void queries.invalidateQueries({ queryKey: ["cars"], refetchType: "none" });
  };
  const outbox = useMarks(panelId, taken, (text) => {
    sent.current = null;
    setFault(text);
    void query.refetch();
  });
  const panel = look?.panel;
  const marks = useMemo(() => {
    if (!look) return [];
    return outbox.waiting.reduce((list, act) => changed(list, act, look), look.marks);
  }, [look, outbox.waiting]);
  const waiting = new Set(outbox.waiting.map((a) => a.id));
  const mark = marks.find((m) => m.id === chosen);
  const part = look && panel && look.focus.w * look.focus.h < panel.width_mm * panel.height_mm ? look.focus : undefined;
  const all = panel ? { x: 0, y: 0, w: panel.width_mm, h: panel.height_mm } : undefined;
  const base = whole ? undefined : part;
  const focus = near && (base ?? all) ? closer(base ?? all, near) : base;
  const hidden = focus ? marks.filter((m) => m.x_mm < focus.x || m.y_mm < focus.y || m.x_mm > focus.x + focus.w || m.y_mm > focus.y + focus.h).length : 0;

  const act = (step: Step) => {
    setFault("");
    outbox.act(step);
  };
  const place = (at: Point, kind: MarkKind = tool) => {
    if (!panel) return;
    const id = newId();
    const no = marks.filter((m) => m.kind === kind).length + 1;
    const body: Schemas["NewMark"] = { id, kind, x_mm: Math.round(at.x * 10) / 10, y_mm: Math.round(at.y * 10) / 10, found: mode === "booth" ? "booth" : "workshop" };
    act({ done: { do: "add", id, body }, back: { do: "strike", id, reason: "taken back" }, label: `${infoOf(kind).label} ${no}` });
    setLast(id);
    setChosen(kind === "nib" ? null : id);
    setCross(null);
  };
  const change = (m: Mark, body: Schemas["MarkChange"], label: string) => {
    const back: Schemas["MarkChange"] = {};
    if (body.x_mm !== undefined) back.x_mm = m.x_mm;
    if (body.y_mm !== undefined) back.y_mm = m.y_mm;
    if (body.found !== undefined) back.found = m.found;
    if (body.sizes) back.sizes = Object.fromEntries(Object.keys(body.sizes).map((k) => [k, m[k as keyof Mark]])) as Schemas["MarkSizes"];
    act({ done: { do: "change", id: m.id, body }, back: { do: "change", id: m.id, body: back }, label });
  };
  const closeMark = (m: Mark, outcome: Schemas["Outcome"], reason: string) => {
    const person = look?.car.painter ?? "";
    const back = { outcome: m.outcome, reason: m.outcome_reason ?? "", person };
    act({ done: { do: "close", id: m.id, body: { outcome, reason, person } }, back: { do: "close", id: m.id, body: back }, label: `${m.name} ${m.no}` });
  };
  const strike = (m: Mark | undefined) => {
    if (!m) return;
    act({ done: { do: "strike", id: m.id, reason: "struck out in Look" }, back: { do: "restore", id: m.id }, label: `striking ${m.name} ${m.no}` });
    setChosen(null);
  };
  const mirror = (m: Mark | undefined) => {
    if (!m) return;
    const copy = newId();
    act({ done: { do: "mirror", id: m.id, copy }, back: { do: "strike", id: copy, reason: "taken back" }, label: `copy of ${m.name} ${m.no}` });
  };
  const undo = () => {
    sent.current = null;
    const back = outbox.undo();
    if (back?.do === "strike" && back.id === chosen) setChosen(null);
  };
  const redo = () => {
    sent.current = null;
    outbox.redo();
  };
  const grab = (event: PointerEvent, m: Mark, grip: Grip) => {
    if (m.id !== chosen || !panel || event.isDefaultPrevented()) return;
    event.preventDefault(); // the grip, not the mark that it is on
    const svg = event.currentTarget.closest("svg");
    if (!svg) return;
    const box = svg.getBoundingClientRect();
    const [x0 = 0, y0 = 0, w = 1] = (svg.getAttribute("viewBox") ?? "").split(" ").map(Number);
    const k = w / box.width;
    setDrag({ mark: m, grip, from: { x: x0 + (event.clientX - box.left) * k, y: y0 + (event.clientY - box.top) * k }, now: null });
  };
  const drop = () => {
    if (drag?.now) {
      const to = dragged(drag);
      const m = drag.mark;
      if (drag.grip === "move") change(m, { x_mm: Math.round(to.x_mm * 10) / 10, y_mm: Math.round(to.y_mm * 10) / 10 }, `${m.name} ${m.no}`);
      else if (drag.grip === "end") change(m, { sizes: { length_mm: to.length_mm, angle_deg: to.angle_deg } }, `${m.name} ${m.no}`);
      else change(m, { sizes: { width_mm: to.width_mm } }, `${m.name} ${m.no}`);
    }
    sent.current = null;
    setDrag(null);
  };
  const panels = look?.panels ?? [];
  const beside = (by: number) => {
    const to = panels[(panels.indexOf(panelId) + by + panels.length) % Math.max(panels.length, 1)];
    if (to) void go(`/panels/${encodeURIComponent(to)}/look`);
  };
  const middle = (): Point => (focus ? { x: focus.x + focus.w / 2, y: focus.y + focus.h / 2 } : { x: (panel?.width_mm ?? 0) / 2, y: (panel?.height_mm ?? 0) / 2 });
  const steer = (dx: number, dy: number) => {
    if (!mark || cross) {
      setCross((at) => (at ? { x: at.x + dx, y: at.y + dy } : middle()));
      return;
    }
    const from = sent.current?.id === mark.id ? sent.current : { x: mark.x_mm, y: mark.y_mm };
    sent.current = { id: mark.id, x: from.x + dx, y: from.y + dy };
    change({ ...mark, x_mm: from.x, y_mm: from.y }, { x_mm: sent.current.x, y_mm: sent.current.y }, `${mark.name} ${mark.no}`);
  };
  const zoomAt = (by: number, at: Point) => {
    const times = Math.min(16, (near?.times ?? 1) * by);
    setNear(times > 1.05 ? { x: at.x, y: at.y, times } : null);
  };
  const zoom = (by: number) => zoomAt(by, near ?? cross ?? (mark ? { x: mark.x_mm, y: mark.y_mm } : middle()));
  const step = (by: number) => {
    const at = marks.findIndex((m) => m.id === chosen);
    const next = marks[at < 0 ? (by > 0 ? 0 : marks.length - 1) : (at + by + marks.length) % marks.length];
    if (next) {
      setChosen(next.id);
      setNear((n) => (n ? { ...n, x: next.x_mm, y: next.y_mm } : n));
    }
    setCross(null);
  };
  const pickTool = (kind: MarkKind) => {
    setTool(kind);
    setChosen(null);
    if (!cross) setCross(middle());
  };
  const keys: Keys = {
    Enter: () => (cross ? place(cross) : setCross(middle())),
    u: undo,
    y: redo,
    m: () => mirror(mark),
    v: () => setComparing(true),
    Delete: () => strike(mark ?? marks.find((m) => m.id === last)),
    Escape: () => (chosen || cross ? (setChosen(null), setCross(null)) : void go(`/cars/${encodeURIComponent(panel?.car_id ?? "")}`)),
    j: () => step(1),
    k: () => step(-1),
    "0": () => (near ? setNear(null) : setWhole(!whole)),
    "+": () => zoom(1.6),
    "=": () => zoom(1.6),
    "-": () => zoom(1 / 1.6),
    "[": () => beside(-1),
    "]": () => beside(1),
    ArrowLeft: () => steer(-10, 0),
    ArrowRight: () => steer(10, 0),
    ArrowUp: () => steer(0, -10),
    ArrowDown: () => steer(0, 10),
    ShiftArrowLeft: () => steer(-1, 0),
    ShiftArrowRight: () => steer(1, 0),
    ShiftArrowUp: () => steer(0, -1),
    ShiftArrowDown: () => steer(0, 1),
    w: () => void go(`/panels/${encodeURIComponent(panelId)}/condition`),
  };
  if (chosen) keys["."] = () => document.getElementById("marksize")?.focus();
  for (const k of kinds) keys[k.key] = () => pickTool(k.kind);
  useKeys(keys, !comparing);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (!(event.ctrlKey || event.metaKey) || event.key.toLowerCase() !== "z") return;
      if (event.target instanceof HTMLInputElement) return;
      event.preventDefault();
      if (event.shiftKey) redo();
      else undo();
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  });
  const shown = drag?.now ? marks.map((m) => (m.id === drag.mark.id ? { ...m, ...dragged(drag) } : m)) : marks;
  const offered = kinds.filter((k) => k.main || more || k.kind === tool);
  const nibs = marks.filter((m) => m.kind === "nib" && m.outcome === "open").length;
  const busy = outbox.waiting.length > 0;
  return (
    <Page
      title={look?.car.name ?? "Look"}
      sub={panel ? panel.name : ""}
      home={look ? `/cars/${encodeURIComponent(look.car.id)}` : "/"}
      who={look?.car.painter ?? ""}
      stage={{ current: 1, notes: look ? stageNotes(look.panel, look.car, { 1: `panel ${look.panel_no} of ${look.panels.length}` }) : {} }}
      query={query}
      keys={[
        ...kinds.map((k) => ({ keys: k.key.toUpperCase(), does: k.label })),
        { keys: "arrows", does: "move the cross or the mark 10 mm; Shift 1 mm" },
        { keys: "Enter", does: "place" },
        { keys: "J, K", does: "next, previous mark" },
        { keys: ".", does: "type the size" },
        { keys: "U, Ctrl Z", does: "undo" },
        { keys: "Y", does: "redo" },
        { keys: "Del", does: "strike the mark out" },
        { keys: "M", does: "copy to the mirrored panel" },
        { keys: "V", does: "peel grade by comparison" },
        { keys: "W", does: "swirls and dead paint by comparison" },
        { keys: "+ −", does: "closer, farther; pull the picture to move it" },
        { keys: "0", does: "whole panel, or paint only" },
        { keys: "[ ]", does: "previous, next panel" },
      ]}
    >
      {look && panel ? (
        <LookFrame className={mode}>
          <section className="thing" aria-label="The panel">
            <PanelView
              u={u}
              panel={panel}
              focus={focus}
              pull={near ? (dx, dy) => setNear((n) => (n ? { ...n, x: n.x + dx, y: n.y + dy } : n)) : undefined}
              pinch={(times, about) => zoomAt(times, near ?? about)}
              label={`${panel.name}, ${u.size(panel.width_mm, panel.height_mm, " by ")}. Tap to place a ${infoOf(tool).label}.`}
              pick={(at) => place(at)}
              drag={drag ? { move: (now) => setDrag({ ...drag, now }), end: drop } : undefined}
              over={(k) => (
                <>
                  {shown.map((m) => (
                    <OnPanel
                      u={u}
                      key={m.id}
                      mark={m}
                      k={k}
                      chosen={m.id === chosen || (m.id === last && chosen === null && m.kind === "nib")}
                      waiting={waiting.has(m.id)}
                      choose={() => {
                        setChosen(m.id);
                        setCross(null);
                      }}
                      grab={m.id === chosen ? (event, grip) => grab(event, m, grip) : undefined}
                    />
                  ))}
                  {cross ? (
                    <g transform={`translate(${cross.x} ${cross.y})`} pointerEvents="none" stroke="var(--ink)" strokeWidth={2 * k}>
                      <circle r={17 * k} fill="var(--tape)" fillOpacity=".85" />
                      <path d={`M${-26 * k} 0H${26 * k}M0 ${-26 * k}V${26 * k}`} />
                    </g>
                  ) : null}
                </>
              )}
            />
            <div className="zoom">
              <Button variant="quiet" onClick={() => zoom(1.6)} aria-label="closer">
                +
              </Button>
              <Button variant="quiet" onClick={() => zoom(1 / 1.6)} aria-label="farther" disabled={!near}>
                −
              </Button>
            </div>
            {cross ? (
              <p className="s nowrap crossat">
                cross at {u.size(cross.x, cross.y, ", ")} · <span className="kc">Enter</span> places a {infoOf(tool).label}
              </p>
            ) : part || near ? (
              <p className="s nowrap crossat">
                <Button variant="link" onClick={keys["0"]}>
                  {near ? "all of it" : whole ? "paint only" : "whole panel"}
                </Button>{" "}
                <span className="kc">0</span>
                {hidden > 0 ? ` · ${count(hidden, "mark")} out of sight` : ""}
              </p>
            ) : null}
          </section>
          <Scroll className="lookside" label="What was found">
            <div className="lookcar" hidden={Boolean(mark)}>{carQuery.data ? <CarView u={u} car={carQuery.data} selected={panelId} layer="marks" choose={(p) => void go(`/panels/${encodeURIComponent(p.id)}/look`)} height={190} /> : <Box sx={{ height: 190 }} />}</div>
            {fault ? <Notice text={fault} /> : null}
            {mark ? (
              <MarkForm
                key={mark.id}
                mark={mark}
                change={(body, label) => change(mark, body, label)}
                close={(outcome, reason) => closeMark(mark, outcome, reason)}
                strike={() => strike(mark)}
                mirror={() => mirror(mark)}
                compare={() => setComparing(true)}
                photo={(file) => outbox.photo(mark.id, file)}
                done={() => setChosen(null)}
              />
            ) : (
              <>
                <div className="nibcount">
                  <span className="n big" data-testid="nibs" aria-live="polite">
                    {nibs}
                  </span>
                  <span>
                    <Box component="span" className="t" sx={{ fontSize: 24, lineHeight: "28px", display: "block" }}>
                      {nibs === 1 ? "nib" : "nibs"}
                    </Box>
                    <Box component="span" sx={{ color: "var(--ink2)" }}>
                      <Box component="span" className="n" sx={{ color: "var(--ink)" }}>
                        {busy ? "…" : look.tally.nibs_per_m2.toFixed(look.tally.nibs_per_m2 < 9.95 ? 1 : 0)}
                      </Box>{" "}
                      per m², {panel.area_m2.toFixed(2)} m²
                    </Box>
                  </span>
                </div>
                {marks.length === 0 ? <Box component="p" sx={{ color: "var(--ink2)" }}>No marks. Glide a hand over the panel, then press N where it catches.</Box> : <p className="lookwhy">{look.tally.text}</p>}
                <MarkList marks={marks} tally={look.tally.counts} choose={setChosen} />
                <Box component="p" className="s" sx={{ marginTop: "auto", paddingTop: 8 }}>
                  Peel grade of the panel {panel.peel_text}.{" "}
                  <Button variant="link" onClick={() => setComparing(true)}>
                    compare
                  </Button>{" "}
                  <span className="kc">V</span>{" "}
                  <Button variant="link" onClick={() => void go(`/panels/${encodeURIComponent(panelId)}/prove`)}>
                    measure it by photo
                  </Button>{" "}
                  <Button variant="link" onClick={() => void go(`/panels/${encodeURIComponent(panelId)}/condition`)}>
                    swirls and dead paint
                  </Button>{" "}
                  <span className="kc">W</span>{" "}
                  <Box component="a" className="linkish" sx={{ textDecoration: "none", marginLeft: 14 }} href={`/api/panels/${encodeURIComponent(panelId)}/outline.svg`} download={`${look.car.name} ${panel.name}.svg`}>
                    drawing (SVG)
                  </Box>
                </Box>
              </>
            )}
          </Scroll>
          <div className={`lookkeys ${more ? "all" : ""}`} role="group" aria-label="Marks to place">
            {offered.map((k) => {
              const n = marks.filter((m) => m.kind === k.kind && m.outcome === "open").length;
              return (
                <Button key={k.kind} variant={k.kind === tool ? "tape" : "key"} className="markkey" aria-pressed={k.kind === tool} aria-label={`${k.label}, ${n} placed`} onClick={() => (setTool(k.kind), setChosen(null), setCross(null))}>
                  <span className="kc">{k.key.toUpperCase()}</span>
                  {n > 0 ? <span className="n cnt">{n}</span> : null}
                  <Sign kind={k.kind} />
                  {k.label}
                </Button>
              );
            })}
            <Button className="markkey more" aria-expanded={more} onClick={() => setMore(!more)}>
              {more ? "fewer" : "more"}
            </Button>
            <Button className="wide" onClick={undo} disabled={!outbox.undoes}>
              <span className="kc">U</span>
              {outbox.undoes ? `Undo ${outbox.undoes}` : "Undo"}
            </Button>
            {outbox.redoes ? (
              <Button className="wide" onClick={redo}>
                <span className="kc">Y</span>
                {`Redo ${outbox.redoes}`}
              </Button>
            ) : null}
            <Button className="wide" onClick={() => beside(1)}>
              <span className="kc">]</span>
              Next panel
            </Button>
          </div>
        </LookFrame>
      ) : null}
      {comparing && look && panel ? (
        <Compare
          colour={look.car.colour}
          grade={mark?.kind === "peel" ? mark.grade : panel.peel_grade}
          patch={mark?.kind === "peel" ? `peel patch ${mark.no}` : ""}
          close={() => setComparing(false)}
          set={(grade, all) => {
            setComparing(false);
            if (!all && mark) change(mark, { sizes: { grade } }, `${mark.name} ${mark.no}`);
            else
              api
                .changePanel(panelId, { peel_grade: grade })
                .then(() => changedPanel("panel"))
                .catch((error: Error) => setFault(error.message));
          }}
        />
      ) : null}
    </Page>
  );
}
