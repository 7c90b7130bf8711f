import { Dialog } from "@mui/material";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import type { Hand, Level, Schemas } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { clock, plusMinus, unitName } from "../../app/format";
import { told } from "./entries";
import type { Tablet } from "./tablet";

const shares = [0, 3, 10, 20, 30, 50, 70, 90];

function Ask({ name, title, wide = 560, close, children }: { name: string; title: string; wide?: number; close: () => void; children: ReactNode }) {
  return (
    <Dialog open onClose={close} aria-labelledby={name} maxWidth={false}>
      <div style={{ padding: "24px 28px", width: wide, maxWidth: "100%", display: "grid", gap: 14 }}>
        <h2 id={name} className="t" style={{ fontSize: 24, lineHeight: "30px" }}>
          {title}
        </h2>
        {children}
      </div>
    </Dialog>
  );
}

function Foot({ children }: { children: ReactNode }) {
  return <div style={{ display: "flex", gap: 10, justifyContent: "flex-end" }}>{children}</div>;
}

function NotNow({ close, word = "Not now", first }: { close: () => void; word?: string; first?: boolean }) {
  return (
    <button type="button" className="key q" onClick={close} autoFocus={first}>
      {word}
    </button>
  );
}

/** How much still shines on a dry wipe: one press, or typed. */
export function ShinyDialog({ pays, close, see }: { pays: boolean; close: () => void; see: (share: number) => void }) {
  return (
    <Ask name="shiny" title="How much still shines?" close={close}>
      <p className="s">Wipe the section dry and look along the lamp: shiny specks are low spots that the paper has not touched.{pays ? "" : " On this backing the shine goes long before the peel: it is kept, and decides nothing."}</p>
      <div style={{ display: "grid", gridTemplateColumns: "repeat(4,1fr)", gap: 10 }}>
        {shares.map((v, i) => (
          <button key={v} type="button" className="key" style={{ minHeight: 72, fontSize: 22 }} autoFocus={i === 0} onClick={() => see(v / 100)}>
            {v === 0 ? "none" : `${v} %`}
          </button>
        ))}
      </div>
      <Foot>
        <NotNow close={close} />
      </Foot>
    </Ask>
  );
}

/** A name and a reason, for what somebody has to answer for. */
function Answer({ name, title, person, what, key1, may = true, close, keep }: { name: string; title: string; person: string; what: ReactNode; key1: string; may?: boolean; close: () => void; keep: (who: string, reason: string) => void }) {
  const [who, setWho] = useState(person);
  const [reason, setReason] = useState("");
  const [fault, setFault] = useState("");
  return (
    <Ask name={name} title={title} wide={540} close={close}>
      <form
        style={{ display: "grid", gap: 14 }}
        onSubmit={(e) => {
          e.preventDefault();
          if (who.trim() === "" || reason.trim().length < 5) setFault("It needs a name and a reason of at least 5 letters.");
          else keep(who.trim(), reason.trim());
        }}
      >
        {what}
        <label>
          <span className="lab">who answers for it</span>
          <input className="textline" value={who} maxLength={40} onChange={(e) => setWho(e.target.value)} />
        </label>
        <label>
          <span className="lab">why</span>
          <input className="textline" value={reason} maxLength={200} autoFocus onChange={(e) => setReason(e.target.value)} />
        </label>
        {fault ? <Notice text={fault} /> : null}
        <Foot>
          <NotNow close={close} />
          <button type="submit" className="key" disabled={!may}>
            {key1}
          </button>
        </Foot>
      </form>
    </Ask>
  );
}

/** One pass over the stop: somebody answers for it by name, with a reason. */
export function OverDialog({ person, close, over }: { person: string; close: () => void; over: (name: string, reason: string) => void }) {
  return <Answer name="over" title="One pass over the stop" person={person} key1="Count one pass" close={close} keep={over} what={<p className="s">It is one pass, not a switch: each further one asks again. Name, reason and the film at this moment stay on record and print in both sheets.</p>} />;
}

/** Back to a coarser grit: what it takes, and somebody who knows that. */
export function BackDialog({ level, person, close, back }: { level: Level; person: string; close: () => void; back: (step: number, name: string, reason: string) => void }) {
  const [step, setStep] = useState(level.again[0]?.step ?? 0);
  const at = level.again.find((a) => a.step === step);
  return (
    <Answer
      name="back"
      title="Back to a coarser grit"
      person={person}
      key1={`I know: back to ${at?.title ?? ""}`}
      may={at?.ready ?? false}
      close={close}
      keep={(name, reason) => back(step, name, reason)}
      what={
        <>
          <p className="s">Late and coarse is how panels are cut through. Every finer step comes once more after it.</p>
          <div className="one" role="group" aria-label="Which grit">
            {level.again.map((a) => (
              <button key={a.step} type="button" aria-pressed={a.step === step} style={{ height: 48 }} onClick={() => setStep(a.step)}>
                {a.title}
              </button>
            ))}
          </div>
          <p role="status">{at?.text}</p>
        </>
      }
    />
  );
}

/** What may be done where the film does not allow all passes. */
export function Ways({ hand }: { hand: Hand }) {
  return (
    <ul aria-label="What may be done instead" className="ways">
      {hand.ways.map((w) => (
        <li key={w.code}>{w.text}</li>
      ))}
    </ul>
  );
}

/** All reasons of the figures. */
export function WhyDialog({ hand, close }: { hand: Hand; close: () => void }) {
  return (
    <Ask name="why" title={hand.passes_left === 0 ? "Why none is left" : `Why ${hand.passes_left} and not more`} wide={680} close={close}>
      <ul style={{ margin: 0, padding: "0 0 0 18px", display: "grid", gap: 8, fontSize: 17, lineHeight: "24px" }}>
        {hand.why.map((w) => (
          <li key={w}>{w}</li>
        ))}
      </ul>
      {hand.ways.length > 0 && !hand.locked ? (
        <>
          <h3 className="t" style={{ fontSize: 18, lineHeight: "24px" }}>
            What may be done instead
          </h3>
          <Ways hand={hand} />
        </>
      ) : null}
      <Foot>
        <NotNow close={close} word="Close" first />
      </Foot>
    </Ask>
  );
}

/** The log of the section: who, when, what, and the film after; struck entries stay. */
export function HistoryDialog({ level, name, close }: { level: Level; name: string; close: () => void }) {
  const own = level.log.filter((e) => e.section === level.section);
  return (
    <Ask name="history" title={`What was done, ${name}`} wide={760} close={close}>
      {own.length === 0 ? (
        <p className="s">Nothing yet. Every pass, reading and change of paper on this section will stand here.</p>
      ) : (
        <div style={{ maxHeight: "52vh", overflow: "auto" }} tabIndex={0} role="region" aria-label="Log">
          <table className="records" style={{ width: "100%" }}>
            <thead>
              <tr>
                <th>when</th>
                <th>who</th>
                <th>what</th>
                <th>step</th>
                <th style={{ textAlign: "right" }}>clear left, {unitName()}</th>
              </tr>
            </thead>
            <tbody>
              {[...own].reverse().map((e) => (
                <tr key={e.id} style={e.struck_at ? { textDecoration: "line-through", color: "var(--ink2)" } : undefined}>
                  <td>{clock(new Date(e.at))}</td>
                  <td>{e.person}</td>
                  <td>
                    {told(e)}
                    {e.struck_at ? `, struck out: ${e.struck_reason ?? ""}` : ""}
                  </td>
                  <td>{level.steps[e.step - 1]?.title}</td>
                  <td className="n" style={{ textAlign: "right" }}>
                    {e.left_um ? plusMinus(e.left_um) : ""}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      )}
      <Foot>
        <NotNow close={close} word="Close" first />
      </Foot>
    </Ask>
  );
}

const switches: ["sound" | "buzz", string, string][] = [
  ["sound", "sound", "a tone for each pass and when about a pass has gone by, two for the stop"],
  ["buzz", "buzz", "the tablet shakes shortly, where it can"],
];

/** Who is at this tablet, and how it tells. */
export function TabletDialog({ people, tablet, who, change, close }: { people: Schemas["Level"]["people"]; tablet: Tablet; who: string; change: (by: Partial<Tablet>) => void; close: () => void }) {
  return (
    <Ask name="tablet" title="At this tablet" close={close}>
      <div role="group" aria-label="Who makes the passes" style={{ display: "grid", gridTemplateColumns: "repeat(3,1fr)", gap: 10 }}>
        {people.map((p) => (
          <button key={p} type="button" className={`key ${p === who ? "tape" : ""}`} aria-pressed={p === who} style={{ minHeight: 64 }} onClick={() => change({ person: p })}>
            {p}
          </button>
        ))}
      </div>
      <p className="s">
        Each pass is logged with this name, and only grits that it may run are offered. <Link className="linkish" to="/hands">Hands</Link> says who may run what.
      </p>
      {switches.map(([key, name, does]) => (
        <label key={key} style={{ display: "flex", gap: 12, alignItems: "center", minHeight: 48 }}>
          <input type="checkbox" checked={tablet[key]} onChange={(e) => change({ [key]: e.target.checked })} style={{ width: 24, height: 24 }} />
          <span>
            <span className="b">{name}</span> <span className="s">{does}</span>
          </span>
        </label>
      ))}
      <Foot>
        <NotNow close={close} word="Close" />
      </Foot>
    </Ask>
  );
}
