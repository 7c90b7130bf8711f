import type { ReactNode } from "react";
import type { Hand, Level, Schemas, Step } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { StateTab } from "../../drawing/StateTab";
import { capital, count } from "../../app/format";
import { Ways } from "./Asks";

interface MiddleProps {
  level: Level;
  others: Schemas["Beside"][];
  fault: string;
  now: { left: number; read: number; done: number } | null;
  lost: number;
  again: () => void;
  back: () => void;
  why: () => void;
  timer: ReactNode;
  children: ReactNode;
}

/** The step in hand, passes left, and why. */
export function Middle({ level, others, fault, now, lost, again, back, why, timer, children }: MiddleProps) {
  const hand = level.hand;
  const step = hand ? level.steps[hand.step - 1] : undefined;
  if (!hand || !step) {
    return (
      <section aria-label="Passes left" className="hand">
        <h2 className="t" style={{ fontSize: 40, lineHeight: "46px", marginTop: 24 }}>
          All steps are done here.
        </h2>
        <p style={{ marginTop: 12, color: "var(--ink2)" }}>Take the next section with ], or strike the last tap with U to work on.</p>
        <Back level={level} back={back} />
        {children}
      </section>
    );
  }
  const shut = hand.passes_granted === 0;
  const ways = hand.locked ? [] : hand.ways;
  const cycles = step.kind === "compound" || step.kind === "polish";
  const left = now?.left ?? 0;
  const word = cycles ? (left === 1 ? "cycle" : "cycles") : left === 1 ? "pass" : "passes";
  return (
    <section aria-label="Passes left" className="hand" style={{ minWidth: 0, display: "flex", flexDirection: "column", overflow: "hidden auto" }}>
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
            <div style={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: "0 18px" }}>
            <Tally hand={{ ...hand, passes_done: now.done, passes_left: now.left, read_after: now.read }} />
            {shut ? null : timer}
          </div>
          {hand.not_for ? (
            <p style={{ marginTop: 8 }} role="status">
              <span className="b">Not your grit.</span> {hand.not_for}
            </p>
          ) : null}
          <p style={{ marginTop: 12 }}>
            <span className="b">{capital(hand.headline)}.</span> <span style={{ color: "var(--ink2)" }}>{hand.reason}</span>
          </p>
          {ways.length > 0 && shut ? <Ways hand={hand} /> : null}
          {ways.length > 0 && !shut ? (
            <button type="button" className="linkish" style={{ alignSelf: "flex-start", marginTop: 4, minHeight: 32, fontSize: 15.5 }} onClick={why}>
              What may be done instead
            </button>
          ) : null}
          {others.map((o, i) => (
            <p key={i} className="s" role="status" style={{ marginTop: 4 }}>
              <span className="b">{o.person}</span> {o.section === level.section ? "works on this very section on another device; every pass counts for both." : `is on this panel too: ${level.sections.find((s) => s.key === o.section)?.name ?? "elsewhere"}.`}
            </p>
          ))}
          {hand.by_look && !hand.locked && !(shut && ways.length > 0) ? (
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
      {shut || fault || lost > 0 || hand.not_for ? null : (
        <>
          {hand.by_look || ways.length > 0 ? null : (
            <p className="s" style={{ marginTop: 6, fontSize: 15, lineHeight: "20px" }}>
              {hand.scratch ? `${hand.scratch} ` : ""}
              {hand.look}
            </p>
          )}
          <p className="xs" style={{ marginTop: 4, fontSize: 13 }}>
            {hand.caution}
          </p>
        </>
      )}
      {children}
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

/** The way back to a coarser grit, where there is one. */
function Back({ level, back }: { level: Level; back: () => void }) {
  if (level.again.length === 0) return null;
  return (
    <button type="button" className="linkish" style={{ alignSelf: "flex-start", marginTop: 4, minHeight: 32, fontSize: 15 }} onClick={back}>
      Back to a coarser grit, and what it takes
    </button>
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
      <svg style={{ width: shown * gap + 14, maxWidth: "100%", height: "auto" }} viewBox={`0 0 ${shown * gap + 14} 52`} role="img" aria-label={`${count(hand.passes_done, "pass")} made, ${hand.passes_left} left`}>
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

/** Which of its section's steps a step is: a section may have steps of its own. */
function place(steps: Step[], step: Step): string {
  const own = steps.filter((s) => s.area === step.area);
  return `${own.indexOf(step) + 1} of ${own.length}`;
}
