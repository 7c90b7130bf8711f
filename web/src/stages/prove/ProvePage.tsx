import { Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate, useParams } from "react-router";
import { api, newId, type Schemas } from "../../api/client";
import { useCamera, useCarProof, useChanged, useProof } from "../../api/queries";
import { Page } from "../../app/Page";
import { capital, count, short } from "../../app/format";
import { useKeys } from "../../app/keys";
import { useUnits } from "../../app/units";
import { ProvedCore } from "../../drawing/ProvedCore";
import { handOverOf, nextOf, stageNotes } from "../../app/stageNotes";
import { useOutbox } from "../../outbox/useOutbox";
import { Ask, Foot } from "../../ui/Ask";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { Scroll } from "../../ui/Scroll";
import { useLive } from "../shared/useLive";
import { CostTable } from "./CostTable";
import { MarksDialog } from "./MarksDialog";
import { MeterDialog } from "./MeterDialog";
import { PhotoDialog } from "./PhotoDialog";
import { Photos } from "./Photos";
import { ProveFrame } from "./ProveFrame";
import { Handle, Slide } from "./Slide";
import { WipeDialog } from "./WipeDialog";

type Photo = Schemas["ProofPhoto"];
type Proof = Schemas["PanelProof"];

export default function ProvePage() {
  const { panelId = "" } = useParams();
  return <Proving key={panelId} panelId={panelId} />;
}

/** The last photo of a kind that tells something: one that was taken at its word, or else any that was read. */
function last(photos: readonly Photo[], serves: (p: Photo) => boolean): Photo | undefined {
  const all = photos.filter((p) => !p.struck_at && p.reading !== undefined && serves(p));
  return all.filter((p) => p.accepted_at).at(-1) ?? all.at(-1);
}

/** Where a task is done. */
const where: Partial<Record<Schemas["ProofTask"], string>> = { finish: "level", scratch: "level", read: "read" };

/** How many of the marks are gone, softer, left, and open, in the order of the columns. */
const columns = (m: Schemas["MarkSum"]) => [m.gone, m.softened, m.left, m.open];

function Marks({ lines, together, panel, open }: { lines: Schemas["ProofLine"][]; together: Schemas["MarkSum"] | undefined; panel: string; open: (id: string) => void }) {
  const shown = lines.filter((l) => columns(l.marks).some((n) => n > 0));
  return (
    <Table>
      <TableHead>
        <TableRow>
          <TableCell />
          <TableCell align="right">gone</TableCell>
          <TableCell align="right">softer</TableCell>
          <TableCell align="right">left</TableCell>
          <TableCell align="right">open</TableCell>
        </TableRow>
      </TableHead>
      <TableBody>
        {shown.map((l) => (
          <TableRow key={l.panel_id} selected={l.panel_id === panel} onClick={() => open(l.panel_id)}>
            <TableCell>{l.name}</TableCell>
            {columns(l.marks).map((n, i) => (
              <TableCell key={i} align="right" className="n">
                {n}
              </TableCell>
            ))}
          </TableRow>
        ))}
        <TableRow>
          <TableCell>together</TableCell>
          {(together ? columns(together) : []).map((n, i) => (
            <TableCell key={i} align="right" className="n">
              {n}
            </TableCell>
          ))}
        </TableRow>
      </TableBody>
    </Table>
  );
}

/** Asks why a panel goes back. */
function BackDialog({ proof, person, close, gone }: { proof: Proof; person: string; close: () => void; gone: () => void }) {
  const changed = useChanged();
  const [note, setNote] = useState("");
  const back = useMutation({
    mutationFn: () => api.addProof(proof.panel.id, { id: newId(), person, kind: "back", ...(note.trim() ? { note: note.trim() } : {}) }),
    onSuccess: async () => {
      await changed("panel");
      gone();
    },
  });
  return (
    <Ask title={`Not good enough: the ${proof.panel.name} goes back`} wide={560} close={close} submit={() => back.mutate()}>
      <p style={{ margin: 0 }}>Its plan ends here and stays on record. What it took stays counted, and the next plan starts from what is left: the peel and the scratches as they are now.</p>
      <Field label="why (if you like)" value={note} most={200} autoFocus placeholder="scratches under the gloss" onChange={(e) => setNote(e.target.value)} />
      {back.error ? <Notice text={back.error.message} /> : null}
      <Foot>
        <Button variant="quiet" onClick={close}>
          Not now
        </Button>
        <Button type="submit" variant="tape" disabled={back.isPending}>
          Back to Plan <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

/** The film of the section that decides, as a core. */
function CoreDialog({ proof, close, read }: { proof: Proof; close: () => void; read: () => void }) {
  const u = useUnits();
  if (!proof.clear_um || !proof.spent_um || proof.floor_um === undefined) return null;
  return (
    <Ask title={`Film core, ${proof.panel.name}`} wide={520} close={close} submit={read}>
      <ProvedCore u={u} spent={proof.spent_um} clear={proof.clear_um} floor={proof.floor_um} height={420} />
      <p style={{ margin: 0 }}>The section that decides; {u.name}. {proof.panel.reason}</p>
      <Foot>
        <Button variant="quiet" onClick={close}>
          Done
        </Button>
        <Button type="submit">
          All readings <span className="kc">Enter</span>
        </Button>
      </Foot>
    </Ask>
  );
}

type Open = "wipe" | "marks" | "meter" | "back" | "core" | null;

/** One panel, proven. */
function Proving({ panelId }: { panelId: string }) {
  const go = useNavigate();
  const changed = useChanged();
  const query = useProof(panelId);
  const data = query.data;
  const car = useCarProof(data?.car.id).data;
  const camera = useCamera().data;
  useLive(panelId, data?.panel);
  const [at, setAt] = useState(46);
  const [open, setOpen] = useState<Open>(null);
  const [photo, setPhoto] = useState<Photo | null>(null);
  const [refused, setRefused] = useState<string[]>([]);
  const input = useRef<HTMLInputElement>(null);
  const person = data?.car.painter ?? "";
  const outbox = useOutbox(panelId, {
    taken: () => changed("panel"),
    refused: (one, problem) => {
      if (one.what === "proof") setRefused((all) => [...all, `${one.file.name}: ${problem.detail}`]);
    },
  });
  const known = (id: string | undefined) => data?.photos.find((p) => p.id === id);
  const before = known(data?.before.photo) ?? last(data?.photos ?? [], (p) => p.kind === "reflection" && !p.after);
  const after = known(data?.after?.photo) ?? last(data?.photos ?? [], (p) => p.kind === "reflection" && p.after);
  const read = after ?? before;
  const dull = last(data?.photos ?? [], (p) => p.kind === "dull");
  const lines = car?.lines ?? [];
  const to = (id: string, stage = "prove") => void go(`/panels/${encodeURIComponent(id)}/${stage}`);
  const at0 = lines.findIndex((l) => l.panel_id === panelId);
  const nextPanel = [...lines.slice(at0 + 1), ...lines.slice(0, Math.max(at0, 0))].find((l) => !l.kept && l.worked) ?? [...lines.slice(at0 + 1), ...lines.slice(0, Math.max(at0, 0))].find((l) => !l.kept);
  // A panel on which something was to be done and nothing was is not kept by the key in yellow.
  const early = data !== undefined && !data.kept && lines[at0]?.worked === false && !(data.car.next.stage === "prove" && data.car.next.panel_id === panelId);
  const keep = useMutation({
    mutationFn: () => api.addProof(panelId, { id: newId(), person, kind: "kept" }),
    onSuccess: async () => {
      await changed("panel");
      if (nextPanel && data) void go(nextOf((await api.carProof(data.car.id)).car));
    },
  });
  const takeBack = useMutation({ mutationFn: (id: string) => api.strikeProof(id, "looked at again"), onSuccess: () => changed("panel") });
  const onwards = () => {
    if (!data) return;
    if (data.kept) {
      void go(nextPanel && car ? nextOf(car.car) : handOverOf(data.car.id));
    } else if (early) void go(nextOf(data.car));
    else if (!data.barred) keep.mutate();
  };
  const slide = (by: number) => setAt((v) => Math.min(Math.max(v + by, 0), 100));
  const has = after !== undefined;
  useKeys({
    Enter: onwards,
    ...(has ? { ArrowLeft: () => slide(-2), ArrowRight: () => slide(2), ShiftArrowLeft: () => slide(-10), ShiftArrowRight: () => slide(10) } : {}),
    v: () => input.current?.click(),
    k: () => setOpen("meter"),
    w: () => setOpen("wipe"),
    m: () => setOpen("marks"),
    f: () => (data?.clear_um ? setOpen("core") : to(panelId, "read")),
    n: () => data?.may_go_back && setOpen("back"),
    o: () => read && setPhoto(read),
    "[": () => { const l = lines[at0 - 1]; if (l) to(l.panel_id); },
    "]": () => { const l = lines[at0 + 1]; if (l) to(l.panel_id); },
  });
  const unseen = data?.wipes.filter((w) => !w.seen || w.seen === "scratched") ?? [];
  const clarity = data?.changes.find((c) => c.quantity === "clarity");
  const kept = car ? `${car.kept} of ${car.lines.length} kept` : "";
  return (
    <Page
      title={data?.car.name ?? "Prove"}
      sub={data ? `${count(lines.length, "panel")} to prove · ${data.panel.name}` : ""}
      home={data ? `/cars/${encodeURIComponent(data.car.id)}` : "/"}
      who={person}
      stage={{ current: 5, notes: data ? stageNotes(data.panel, data.car, { 5: kept }) : {} }}
      query={query}
      keys={[
        { keys: "Enter", does: "keep it, on to the next panel" },
        { keys: "← →", does: "slide before and after (Shift: further)" },
        { keys: "V", does: "take or choose photos" },
        { keys: "O", does: "what was read from the photo" },
        { keys: "W", does: "wipe and look" },
        { keys: "M", does: "what became of the marks" },
        { keys: "K", does: "gloss and clarity by a meter" },
        { keys: "F", does: "the film core of this panel" },
        { keys: "N", does: "not good enough: back to Plan" },
        { keys: "[ ]", does: "previous, next panel" },
      ]}
    >
      {data ? (
        <ProveFrame>
          <section className="left" aria-label="What the lamps show">
            <h2 className="t">
              The same lamps in the {data.panel.name}
              {has ? (
                <span className="s">
                  <span className="kc">←</span> <span className="kc">→</span> slide
                </span>
              ) : null}
            </h2>
            <Slide
              before={before}
              after={after}
              at={at}
              none={before ? null : (
                <>
                  <b>{data.panel.name}: no photo of the lamps yet</b>
                  <span>{data.todos.find((t) => t.task === "before" || t.task === "after")?.text ?? "Photograph striped lamps mirrored in the paint."}</span>
                </>
              )}
            />
            <div className="under">
              <span>
                {before || data.before.source !== "eye" ? <b>before</b> : "before"} peel <b className="n">{short(data.before.grade.mean)}</b> clarity <b className="n">{(clarity?.before?.mean ?? data.before.clarity).toFixed(0)}</b>
              </span>
              <span className="handle">
                {has ? <Handle at={at} set={setAt} disabled={!has} /> : null}
              </span>
              <span className="to">
                {data.after ? (
                  <>
                    peel <b className="n">{short(data.after.grade.mean)}</b> clarity <b className="n">{(clarity?.after?.mean ?? data.after.clarity).toFixed(0)}</b> <b>after</b>
                  </>
                ) : (
                  <span className="s">{data.mark_sum.gone > 0 ? "spotted only" : "not worked yet"}</span>
                )}
              </span>
            </div>
            {before && after && before.take.name !== after.take.name ? <p className="s">Two lamps: {before.take.name} before, {after.take.name} after. The figures hold; the pictures compare less well.</p> : null}
            <Photos proof={data} camera={camera} person={person} waiting={outbox.proofs} refused={refused} heard={() => setRefused([])} chosen={photo?.id ?? ""} choose={setPhoto} input={input} />
            <div className="cards">
              {[read, dull].map((p, i) => (
                <div key={i === 0 ? "lamps" : "dull"}>
                  <h3>{i === 0 ? "Read from the photo" : "Shiny share before the pad"}</h3>
                  {p ? (
                    <>
                      <Button variant="row" sx={{ width: "100%" }} aria-label={`photo ${p.no}, as it was read`} onClick={() => setPhoto(p)}>
                        {p.dropped ? null : <img src={`/api/photos/${encodeURIComponent(p.id)}/drawn?of=${p.reading?.drawn ?? ""}`} alt={p.text} />}
                      </Button>
                      <span className="n big">{p.head}</span>
                      <p className="s" style={{ margin: 0 }}>
                        {p.accepted_at ? p.text : "Not taken at its word yet: open it and say so."}
                      </p>
                    </>
                  ) : (
                    <p className="s">{i === 0 ? "No photo was read yet." : "None was taken: sand, wipe dry, photograph, and it says what is still to cut."}</p>
                  )}
                </div>
              ))}
            </div>
          </section>
          <section className="right" aria-label="What it cost, what it gave">
            <h2 className="t">
              What it cost, what it gave <span className="s">gauge, meters, photos; same spots as before</span>
            </h2>
            <Scroll label="What it cost, what it gave, panel by panel" sx={{ flex: "none", overflow: "auto", maxHeight: "max(300px, calc(100vh - 470px))" }}>
              <CostTable lines={lines} panel={panelId} open={(id) => to(id)} />
            </Scroll>
            {data.apart ? <p className="s">{data.apart}</p> : null}
            <div className="two">
              <div>
                <h2 className="t">
                  Marks{" "}
                  {data.mark_sum.open > 0 ? (
                    <Button variant="hint" onClick={() => setOpen("marks")}>
                      <span className="kc">M</span> say what became of {data.mark_sum.open}
                    </Button>
                  ) : (
                    <span className="s">{count(data.marks.length, "mark")} here</span>
                  )}
                </h2>
                <Marks lines={lines} together={car?.marks} panel={panelId} open={(id) => to(id)} />
              </div>
              <div>
                {unseen.length > 0 ? (
                  <>
                    <h2 className="t">
                      Wipe and look{" "}
                      <Button variant="hint" onClick={() => setOpen("wipe")}>
                        <span className="kc">W</span> {count(unseen.length, "section")}
                      </Button>
                    </h2>
                    <ul className="why">
                      {unseen.some((w) => w.hidden || w.seen) ? null : <li>They were polished, and polish fills fine scratches with oil. By the passes made nothing should show once they are wiped.</li>}
                      {unseen.filter((w) => w.hidden || w.seen).slice(0, 2).map((w) => (
                        <li key={w.section}>
                          <b>
                            {capital(w.name)}
                            {w.likely ? ", scratches are likely" : ""}.
                          </b>{" "}
                          {w.text}
                        </li>
                      ))}
                    </ul>
                  </>
                ) : (
                  <>
                    <h2 className="t">Why they are not gone</h2>
                    <ul className="why">
                      {data.left.slice(0, 4).map((l) => (
                        <li key={l.mark}>
                          <b>{l.head}.</b> {l.text}
                        </li>
                      ))}
                      {data.left.length === 0 ? <li className="s">{data.mark_sum.open > 0 ? "Nobody has said yet what became of them." : "Nothing was left or only softened here."}</li> : null}
                    </ul>
                  </>
                )}
              </div>
            </div>
            <div className="verdict">
              <div>
                <h2 className="t">{data.title}</h2>
                <p>{data.text}</p>
                {data.todos.length > 0 ? (
                  <ul className="todos" aria-label="Still to do">
                    {data.todos.map((t) => {
                      const stage = where[t.task];
                      return (
                        <li key={t.task}>
                          <span className={t.bars ? "bars" : ""}>{t.text}</span>
                          {stage ? (
                            <Button variant="link" onClick={() => to(panelId, t.section ? `level?section=${encodeURIComponent(t.section)}` : stage)}>
                              {t.section ? "There" : capital(stage)}
                            </Button>
                          ) : null}
                        </li>
                      );
                    })}
                  </ul>
                ) : null}
                {keep.error ? <Notice text={keep.error.message} /> : null}
                <div className="hints">
                  <Button variant="hint" onClick={() => (data.clear_um ? setOpen("core") : to(panelId, "read"))}>
                    <span className="kc">F</span> film core
                  </Button>
                  <Button variant="hint" onClick={() => setOpen("meter")}>
                    <span className="kc">K</span> gloss and clarity
                  </Button>
                  {data.wipes.length > 0 ? (
                    <Button variant="hint" onClick={() => setOpen("wipe")}>
                      <span className="kc">W</span> wipe
                    </Button>
                  ) : null}
                </div>
              </div>
              <div className="ends">
                {data.kept ? (
                  <>
                    <Button variant="tape" onClick={onwards}>
                      {nextPanel ? "Kept. Next panel" : "Kept. To the car"} <span className="kc">Enter</span>
                    </Button>
                    <Button variant="quiet" disabled={takeBack.isPending} onClick={() => data.kept && takeBack.mutate(data.kept.id)}>
                      Look at it again
                    </Button>
                  </>
                ) : (
                  <>
                    {early ? (
                      <Button variant="tape" onClick={onwards}>
                        {data.car.next.action} <span className="kc">Enter</span>
                      </Button>
                    ) : null}
                    <Button variant={early ? "key" : "tape"} disabled={Boolean(data.barred) || keep.isPending} onClick={() => (early ? keep.mutate() : onwards())}>
                      {early ? "Keep it as it is" : nextPanel ? "Keep, next panel" : "Keep it"} {early ? null : <span className="kc">Enter</span>}
                    </Button>
                    {data.may_go_back ? (
                      <Button onClick={() => setOpen("back")}>
                        Not good enough, back to Plan <span className="kc">N</span>
                      </Button>
                    ) : (
                      <Button onClick={() => to(panelId, "plan")}>To its plan</Button>
                    )}
                  </>
                )}
              </div>
            </div>
          </section>
          {photo ? <PhotoDialog key={photo.id} photo={data.photos.find((p) => p.id === photo.id) ?? photo} person={person} close={() => setPhoto(null)} /> : null}
          {open === "wipe" ? <WipeDialog proof={data} person={person} close={() => setOpen(null)} /> : null}
          {open === "marks" ? <MarksDialog proof={data} person={person} close={() => setOpen(null)} /> : null}
          {open === "meter" ? <MeterDialog proof={data} camera={camera} person={person} close={() => setOpen(null)} /> : null}
          {open === "core" ? <CoreDialog proof={data} close={() => setOpen(null)} read={() => to(panelId, "read")} /> : null}
          {open === "back" ? <BackDialog proof={data} person={person} close={() => setOpen(null)} gone={() => to(panelId, "plan")} /> : null}
        </ProveFrame>
      ) : null}
    </Page>
  );
}
