import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { api, newId, type Entry, type Hand, type Level, type Schemas, type Step } from "../../api/client";
import { LevelCore } from "../../filmcore/LevelCore";
import { MarksHere } from "../../marks/MarksHere";
import { Notice } from "../../shell/Notice";
import { Page } from "../../shell/Page";
import { StateTab } from "../../shell/StateTab";
import { useKeys } from "../../shell/keys";
import { stageNotes } from "../../shop/stages";
import { capital, count, um, unitName } from "../../words/format";
import { OverDialog, ShinyDialog } from "./Asks";
import { ReadHere } from "./ReadHere";
import { entryWords } from "./entries";
import { SectionPicture } from "./SectionPicture";
import { ahead, useTaps } from "./taps";
import { useAwake } from "./useAwake";
import { useLive } from "./useLive";

type NewTap = Schemas["NewEntry"];
type Kind = NewTap["kind"];

export default function LevelPage() {
  const { panelId = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const section = search.get("section") ?? "";
  const go = useNavigate();
  const queries = useQueryClient();
  const query = useQuery({ queryKey: ["level", panelId, section], queryFn: () => api.level(panelId, section), placeholderData: (old) => old });
  const level = query.data;
  const [reading, setReading] = useState(false);
  const [asks, setAsks] = useState<"" | "shiny" | "over">("");
  // Each tap is kept on this device before the figure changes, and sent in order.
  const taps = useTaps(panelId, () => queries.invalidateQueries());
  const strike = useMutation({
    mutationFn: (entry: Entry) => api.strikeEntry(entry.id, "undone at once"),
    onSettled: () => queries.invalidateQueries(),
  });
  const lastPress = useRef(0);
  const hand = level?.hand;
  useAwake(hand !== undefined);
  const others = useLive(panelId, level?.section ?? "", level?.car.painter ?? "");
  const waiting = level ? taps.waiting.filter((t) => !level.log.some((e) => e.id === t.id)) : [];
  const here = waiting.filter((t) => t.section === level?.section);
  const now = hand ? ahead(hand, here) : null;
  const busy = strike.isPending || (waiting.length > 0 && !taps.away);
  const log = (kind: Kind, more: Partial<NewTap> = {}) => {
    if (!level || !hand || (busy && kind !== "pass")) return;
    const beyond = here.filter((t) => t.kind === "pass").length >= hand.passes_granted;
    if (kind === "pass" && (beyond || hand.passes_granted === 0)) return;
    void taps.tap({ id: newId(), section: level.section, step: hand.step, kind, person: level.car.painter, ...more });
  };
  const pass = () => {
    const now = performance.now();
    if (now - lastPress.current < 400) return; // a palm or a bounce is one pass
    lastPress.current = now;
    log("pass");
  };
  const last = level?.log.filter((e) => !e.struck_at && e.section === level.section).at(-1);
  const undo = () => {
    if (last && !busy) strike.mutate(last);
  };
  const beside = (by: number) => {
    if (!level || level.sections.length === 0) return;
    const i = level.sections.findIndex((s) => s.key === level.section);
    const to = level.sections[(i + by + level.sections.length) % level.sections.length];
    if (to) setSearch({ section: to.key });
  };
  const toLook = () => void go(`/panels/${encodeURIComponent(panelId)}/look`);
  const toPlan = () => void go(`/panels/${encodeURIComponent(panelId)}/plan`);
  const stop = () => void go(level ? `/cars/${encodeURIComponent(level.car.id)}` : "/");
  useKeys(
    {
      " ": pass,
      r: () => setReading(Boolean(hand)),
      p: () => log("paper"),
      d: () => log("done"),
      s: () => setAsks(hand ? "shiny" : ""),
      k: () => log("scrape"),
      v: () => log("colour"),
      t: () => log("through"),
      a: () => (hand?.passes_granted === 0 ? log("done") : undefined),
      c: () => (hand?.passes_granted === 0 ? toPlan() : undefined),
      u: undo,
      "[": () => beside(-1),
      "]": () => beside(1),
      Escape: stop,
    },
    !reading && asks === "",
  );
  const name = level?.sections.find((s) => s.key === level.section)?.name;
  const fault = taps.fault || (strike.error?.message ?? "");
  const away = taps.away && waiting.length > 0;
  return (
    <Page
      title={level?.car.name ?? "Level"}
      sub={level ? `${level.panel.name}${name ? `, ${name}` : ""}` : ""}
      home={level ? `/cars/${encodeURIComponent(level.car.id)}` : "/"}
      who={level?.car.painter ?? ""}
      unsaved={Boolean(fault) || away}
      stage={{ current: 4, notes: level ? stageNotes(level.panel, level.car, level.waits ? {} : { 4: `section ${level.section_no} of ${level.sections.length}` }) : {} }}
      query={query}
      keys={[
        { keys: "Space", does: "one pass" },
        { keys: "R", does: "read the gauge" },
        { keys: "P", does: "paper changed" },
        { keys: "D", does: "step done on this section" },
        { keys: "S", does: "shiny share seen on a dry wipe" },
        { keys: "K", does: "a scraping sound" },
        { keys: "V", does: "colour in the slurry over clear" },
        { keys: "T", does: "a through spot" },
        { keys: "U", does: "undo the last tap" },
        { keys: "A, C", does: "at the stop: accept the peel, look at the plan" },
        { keys: "G", does: "the nibs and runs here are gone" },
        { keys: "[ ]", does: "previous, next section" },
        { keys: "Esc", does: "stop" },
      ]}
    >
      {level?.waits ? (
        <div style={{ padding: "56px 0", maxWidth: 560, display: "grid", gap: 18, justifyItems: "start" }}>
          <h2 className="t" style={{ fontSize: 28, lineHeight: "34px" }}>
            {level.waits}
          </h2>
          <button type="button" className="key tape" onClick={level.panel.aim === "nibs" ? toLook : toPlan}>
            {level.panel.aim === "nibs" ? "To Look" : "To Plan"}
          </button>
          <MarksHere marks={level.marks} panelId={panelId} person={level.car.painter} />
        </div>
      ) : null}
      {level && !level.waits ? (
        <div className="level">
          <SectionPicture level={level} choose={(key) => setSearch({ section: key })} />
          <Middle level={level} others={others} fault={fault} now={now} lost={away ? waiting.length : 0} again={() => void taps.flush()} />
          <section aria-label="Film ledger">
            {hand && !away ? (
              <>
                <h2 className="lab b" style={{ fontSize: 15, lineHeight: "22px", marginBottom: 8 }}>
                  Clear here, {unitName()}
                </h2>
                <LevelCore ledger={hand.ledger} passes={hand.passes_left} height={372} />
                <p className="s" style={{ lineHeight: "19px" }}>
                  Thinnest place now <span className="b">{`${um(hand.ledger.balance_um.mean)} ± ${um(hand.ledger.balance_um.sd)}`}</span>
                </p>
              </>
            ) : null}
          </section>
          <KeyRow hand={hand} last={last} busy={busy} waiting={away && !now} pass={pass} log={log} undo={undo} read={() => setReading(true)} plan={toPlan} nextSection={() => beside(1)} stop={stop} shiny={() => setAsks("shiny")} over={() => setAsks("over")} single={level.panel.layers === "single"} />
        </div>
      ) : null}
      {asks === "shiny" && hand ? (
        <ShinyDialog
          pays={hand.look_pays}
          close={() => setAsks("")}
          see={(share) => {
            setAsks("");
            log("shiny", { share });
          }}
        />
      ) : null}
      {asks === "over" && level && hand ? (
        <OverDialog
          person={level.car.painter}
          close={() => setAsks("")}
          over={(person, reason) => {
            setAsks("");
            log("override", { person, reason });
          }}
        />
      ) : null}
      {reading && level && hand ? <ReadHere level={level} close={() => setReading(false)} /> : null}
    </Page>
  );
}

function Middle({ level, others, fault, now, lost, again }: { level: Level; others: Schemas["Beside"][]; fault: string; now: { left: number; read: number; done: number } | null; lost: number; again: () => void }) {
  const hand = level.hand;
  const step = hand ? level.steps[hand.step - 1] : undefined;
  if (!hand || !step) {
    return (
      <section aria-label="Passes left" className="hand">
        <h2 className="t" style={{ fontSize: 40, lineHeight: "46px", marginTop: 24 }}>
          All steps are done here.
        </h2>
        <p style={{ marginTop: 12, color: "var(--ink2)" }}>Take the next section with ], or strike the last tap with U to work on.</p>
      </section>
    );
  }
  const shut = hand.passes_granted === 0;
  const cycles = step.kind === "compound" || step.kind === "polish";
  const left = now?.left ?? 0;
  const word = cycles ? (left === 1 ? "cycle" : "cycles") : left === 1 ? "pass" : "passes";
  return (
    <section aria-label="Passes left" className="hand" style={{ minWidth: 0, display: "flex", flexDirection: "column" }}>
      <div style={{ display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
        {shut ? <StateTab state="shut" word={false} /> : null}
        <h2 className="t" style={{ fontSize: shut ? 28 : 38, lineHeight: "42px" }}>
          {shut ? "shut here" : step.title}
        </h2>
        <span style={{ color: "var(--ink2)" }}>
          {shut ? step.title : step.what}. Step {place(level.steps, step)}
        </span>
      </div>
      <div style={{ display: "flex", gap: 24, alignItems: "flex-start", margin: "16px 0 12px" }}>
        <div className="passes" data-testid="passes-left" aria-live="polite" aria-label={now ? `${left} ${word} left` : "passes left not known"}>
          {now ? left : "–"}
        </div>
        <div style={{ paddingTop: 26, maxWidth: 290 }}>
          <div className="t" style={{ fontSize: 40, lineHeight: "44px" }}>
            {word}
            <br />
            left
          </div>
          <p style={{ marginTop: 12, color: "var(--ink2)" }}>
            <span className="b">{hand.rate_from.split(",")[0]}</span>,{hand.rate_from.split(",").slice(1).join(",")}
          </p>
        </div>
      </div>
      {!now ? (
        // A count without the taps that wait would be too high: better none.
        <p style={{ marginTop: 12 }}>
          <span className="b">Lift the pad.</span> <span style={{ color: "var(--ink2)" }}>Passes left are not known until the taps below have arrived.</span>
        </p>
      ) : (
        <>
          <Tally hand={{ ...hand, passes_done: now.done, passes_left: now.left, read_after: now.read }} />
          <p style={{ marginTop: 12 }}>
            <span className="b">{capital(hand.headline)}.</span> <span style={{ color: "var(--ink2)" }}>{hand.reason}</span>
          </p>
          {others.map((o, i) => (
            <p key={i} className="s" role="status" style={{ marginTop: 4 }}>
              <span className="b">{o.person}</span> {o.section === level.section ? "works on this very section on another device; every pass counts for both." : `is on this panel too: ${level.sections.find((s) => s.key === o.section)?.name ?? "elsewhere"}.`}
            </p>
          ))}
          {hand.by_look && !hand.locked ? (
            <p style={{ marginTop: 6, color: "var(--ink2)" }}>
              <span className="b">By the look:</span> {hand.by_look.text}
            </p>
          ) : null}
          {hand.alarm && !hand.locked ? (
            <p style={{ marginTop: 6 }} role="status">
              <span className="b">{hand.alarm}</span>
            </p>
          ) : null}
        </>
      )}
      {shut || fault || lost > 0 ? null : (
        <>
          {hand.by_look ? null : (
            <p className="s" style={{ marginTop: 6, fontSize: 15, lineHeight: "20px" }}>
              {hand.look}
            </p>
          )}
          <p className="xs" style={{ marginTop: 4, fontSize: 13 }}>
            {hand.caution}
          </p>
        </>
      )}
      {fault || lost > 0 ? (
        <div style={{ marginTop: 8 }}>
          <Notice
            text={lost > 0 ? `The bench server does not answer. ${count(lost, "tap")} kept here until it does.${now ? " The figure goes on by the table that it sent before." : ""}` : fault}
            action={
              lost > 0 ? (
                <button type="button" className="key tape" style={{ minHeight: 56 }} onClick={again}>
                  Send again
                </button>
              ) : undefined
            }
          />
        </div>
      ) : null}
    </section>
  );
}

/** Passes made, passes left, and where to read. */
function Tally({ hand }: { hand: Hand }) {
  const shown = Math.min(hand.passes_done + hand.passes_left, 14);
  const done = Math.min(hand.passes_done, shown);
  const mark = hand.read_after < hand.passes_left ? done + hand.read_after : -1;
  const gap = 44;
  return (
    <div style={{ display: "flex", alignItems: "center", gap: 14, minHeight: 54, flexWrap: "wrap" }}>
      <svg width={shown * gap + 14} height="52" viewBox={`0 0 ${shown * gap + 14} 52`} role="img" aria-label={`${count(hand.passes_done, "pass")} made, ${hand.passes_left} left`}>
        {Array.from({ length: shown }, (_, i) => (
          <path key={i} d={`M${i * gap + 5} 40L${i * gap + 35} 8L${i * gap + 43} 15L${i * gap + 13} 47Z`} fill={i < done ? "var(--ink)" : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1.5" />
        ))}
        {mark >= 0 ? <path d={`M${mark * gap + 3} 0V52`} stroke="var(--ink)" strokeWidth="2.5" /> : null}
      </svg>
      <span className="b" style={{ fontSize: 16 }}>
        {hand.passes_left === 0 ? "" : hand.read_after === 0 ? "read now" : mark >= 0 ? `read after ${hand.read_after} more` : ""}
      </span>
    </div>
  );
}

interface KeyRowProps {
  hand: Hand | undefined;
  last: Entry | undefined;
  busy: boolean;
  /** Taps wait to be sent again: that is the next thing to do. */
  waiting: boolean;
  pass: () => void;
  log: (kind: Kind) => void;
  undo: () => void;
  read: () => void;
  plan: () => void;
  nextSection: () => void;
  stop: () => void;
  shiny: () => void;
  over: () => void;
  /** Single stage: colour in the slurry is how it cuts. */
  single: boolean;
}

function KeyRow({ hand, last, busy, waiting, pass, log, undo, read, plan, nextSection, stop, shiny, over, single }: KeyRowProps) {
  const shut = hand?.passes_granted === 0;
  const readKey = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!shut) return undefined;
    // Later than a pass that is already on its way, so that it lands nowhere.
    const timer = setTimeout(() => readKey.current?.focus(), 400);
    return () => clearTimeout(timer);
  }, [shut]);
  // One tape key: read when the film asks for it, done when the plan is made.
  const tape = waiting ? "none" : !hand ? "next" : shut || (hand.read_after === 0 && hand.passes_left > 0) ? "read" : hand.passes_needed === 0 ? "done" : "pass";
  const undoWord = last ? `Undo ${entryWords[last.kind].undo}` : "Undo";
  const due = hand ? (hand.read_after === 0 ? "it is due" : `due after ${count(hand.read_after, "pass")}`) : "";
  return (
    // A key pressed by hand gives its focus back, so that Space stays a pass.
    <div className="levelkeys" onClickCapture={(e) => (e.detail > 0 && document.activeElement instanceof HTMLElement ? document.activeElement.blur() : undefined)}>
      {shut ? (
        <>
          <button ref={readKey} type="button" className="key main tape" style={{ gridColumn: "span 7" }} onClick={read} onKeyDown={(e) => (e.key === " " ? e.preventDefault() : undefined)} onKeyUp={(e) => (e.key === " " ? e.preventDefault() : undefined)}>
            <span>
              <span className="big">Read more spots</span>
              <span className="sub">Spot 1 first. Readings narrow the doubt, and the doubt eats the passes.</span>
            </span>
            <span className="kc">R</span>
          </button>
          <button type="button" className="key main" style={{ gridColumn: "span 5" }} disabled={busy} onClick={() => log("done")}>
            <span>
              Accept this peel
              <span className="sub">the step ends here, the finer grits follow</span>
            </span>
            <span className="kc">A</span>
          </button>
        </>
      ) : (
        <>
          <button type="button" data-pass="1" className={`key main ${tape === "pass" ? "tape" : ""}`} style={{ gridColumn: "span 5" }} disabled={!hand} onPointerDown={pass} onKeyDown={(e) => (e.key === "Enter" ? pass() : undefined)}>
            <span className="big">One more pass</span> <span className="kc">Space</span>
          </button>
          <button type="button" className={`key main ${tape === "read" ? "tape" : ""}`} style={{ gridColumn: "span 4" }} disabled={!hand} onClick={read}>
            <span>
              Read gauge
              <span className="sub">{due}</span>
            </span>
            <span className="kc">R</span>
          </button>
          <button type="button" className="key main" style={{ gridColumn: "span 3" }} disabled={!hand || busy} onClick={() => log("paper")}>
            <span>
              Paper changed
              <span className="sub">{hand?.paper ?? ""}</span>
            </span>
            <span className="kc">P</span>
          </button>
        </>
      )}
      <button type="button" className="key q" style={{ gridColumn: "span 3" }} disabled={!last || busy} onClick={undo}>
        {undoWord} <span className="kc">U</span>
      </button>
      {shut ? (
        <button type="button" className="key" style={{ gridColumn: "span 3" }} onClick={plan}>
          Look at the plan <span className="kc">C</span>
        </button>
      ) : (
        <button type="button" className={`key ${tape === "done" ? "tape" : ""}`} style={{ gridColumn: "span 3" }} disabled={!hand || busy} onClick={() => log("done")}>
          Step done <span className="kc">D</span>
        </button>
      )}
      <button type="button" className={`key ${tape === "next" ? "tape" : ""}`} style={{ gridColumn: "span 3" }} onClick={nextSection}>
        Next section <span className="kc">]</span>
      </button>
      <button type="button" className="key dark" style={{ gridColumn: "span 3" }} onClick={stop}>
        Stop <span className="kc">Esc</span>
      </button>
      <div className="wrong">
        {shut ? (
          <button type="button" className="key q" disabled={!hand || busy || hand.locked} onClick={over}>
            Override, one pass
          </button>
        ) : (
          <button type="button" className="key q" disabled={!hand || busy} onClick={shiny}>
            Shiny share <span className="kc">S</span>
          </button>
        )}
        <span className="s">Something is wrong:</span>
        <button type="button" className="key q" disabled={!hand || busy} onClick={() => log("scrape")}>
          scraping sound <span className="kc">K</span>
        </button>
        {single ? null : (
          <button type="button" className="key q" disabled={!hand || busy} onClick={() => log("colour")}>
            colour in the slurry <span className="kc">V</span>
          </button>
        )}
        <button type="button" className="key q" disabled={!hand || busy} onClick={() => log("through")}>
          through <span className="kc">T</span>
        </button>
      </div>
    </div>
  );
}

/** Which of its section's steps a step is: a section may have steps of its own. */
function place(steps: Step[], step: Step): string {
  const own = steps.filter((s) => s.area === step.area);
  return `${own.indexOf(step) + 1} of ${own.length}`;
}
