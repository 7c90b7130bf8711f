import { Box, Button } from "@mui/material";
import type { ReactNode } from "react";
import { Link } from "react-router";
import type { Hand, Level, Schemas, Step } from "../../api/client";
import { Scroll } from "../../ui/Scroll";
import { Notice } from "../../ui/Notice";
import { StateTab } from "../../drawing/StateTab";
import { capital, count } from "../../app/format";
import { Ways } from "./Asks";
import { allThrough, padded, stopped } from "./entries";

interface MiddleProps {
  level: Level;
  others: Schemas["Beside"][];
  fault: string;
  now: { left: number; read: number; done: number } | null;
  lost: number;
  /** Seconds until the section is cool. */
  warm: number;
  back: () => void;
  why: () => void;
  take: (way: Hand["ways"][number]) => void;
  timer: ReactNode;
  children: ReactNode;
}

/** The step in hand, passes left, and why. */
export function Middle({ level, others, fault, now, lost, warm, back, why, take, timer, children }: MiddleProps) {
  const hand = level.hand;
  const step = hand ? level.steps[hand.step - 1] : undefined;
  if (!hand || !step) {
    return (
      <section aria-label="Passes left" className="hand">
        <Box component="h2" className="t" sx={{ fontSize: 40, lineHeight: "46px", marginTop: 24 }}>
          All steps are done here.
        </Box>
        {allThrough(level) ? (
          <>
            <Box component="p" sx={{ marginTop: 12, color: "var(--ink2)" }}>All sections are through: wipe the oils off, look, photograph the same lamps. U strikes the last tap to work on.</Box>
            <ToProve level={level} />
          </>
        ) : (
          <Box component="p" sx={{ marginTop: 12, color: "var(--ink2)" }}>Take the next section with ], or strike the last tap with U to work on.</Box>
        )}
        <Back level={level} back={back} />
        {children}
      </section>
    );
  }
  const shut = stopped(hand);
  // Reading and stopping here have keys of their own below.
  const ways = hand.locked ? [] : hand.ways.filter((w) => !shut || (w.code !== "read" && w.code !== "stop"));
  const cycles = padded(step);
  const left = now?.left ?? 0;
  const word = cycles ? (left === 1 ? "cycle" : "cycles") : left === 1 ? "pass" : "passes";
  return (
    <Scroll label="Passes left" className="hand" sx={{ minWidth: 0, display: "flex", flexDirection: "column", overflow: "hidden auto" }}>
      <Box sx={{ display: "flex", gap: 14, alignItems: "center", flexWrap: "wrap" }}>
        {shut ? <StateTab state={hand.state} word={false} /> : null}
        <Box component="h2" className="t" sx={{ fontSize: shut ? 28 : 38, lineHeight: "42px" }}>
          {shut ? hand.headline : step.title}
        </Box>
        <Box component="span" sx={{ color: "var(--ink2)" }}>
          {shut ? step.title : step.what}. Step {place(level.steps, step)}
        </Box>
      </Box>
      <Box sx={{ display: "flex", gap: 24, alignItems: "flex-start", margin: "16px 0 12px" }}>
        <div className={shut ? "passes none" : "passes"} data-testid="passes-left" aria-live="polite" aria-label={now ? `${left} ${word} left` : "passes left not known"}>
          {now ? left : "–"}
        </div>
        <Box sx={{ paddingTop: 26, maxWidth: 290 }}>
          <Box className="t" sx={{ fontSize: 40, lineHeight: "44px" }}>
            {word}
            <br />
            left
          </Box>
          <Box component="p" sx={{ marginTop: 12, color: "var(--ink2)" }}>
            <span className="b">{hand.rate_from.split(",")[0]}</span>,{hand.rate_from.split(",").slice(1).join(",")}
          </Box>
        </Box>
      </Box>
      {!now ? (
        // A count without the taps that wait would be too high: better none.
        <Box component="p" sx={{ marginTop: 12 }}>
          <span className="b">Lift the pad.</span> <Box component="span" sx={{ color: "var(--ink2)" }}>{lost > 0 ? "Passes left are not known until the taps below have arrived." : "No tap counts until the shop server has answered."}</Box>
        </Box>
      ) : (
        <>
            <Box sx={{ display: "flex", flexWrap: "wrap", alignItems: "center", gap: "0 18px" }}>
            <Tally hand={{ ...hand, passes_done: now.done, passes_left: now.left, read_after: now.read }} />
            {shut ? null : timer}
          </Box>
          {hand.not_for ? (
            <Box component="p" sx={{ marginTop: 8 }} role="status">
              <span className="b">Not your grit.</span> {hand.not_for}
            </Box>
          ) : null}
          <Box component="p" sx={{ marginTop: 12 }}>
            {shut ? null : <span className="b">{capital(hand.headline)}.</span>} <Box component="span" sx={{ color: "var(--ink2)" }}>{hand.reason}</Box>
          </Box>
          {ways.length > 0 && shut ? <Ways ways={ways} take={take} /> : null}
          {ways.length > 0 && !shut ? (
            <Button variant="link" sx={{ alignSelf: "flex-start", marginTop: 4, minHeight: 32, fontSize: 15.5 }} onClick={why}>
              What may be done instead
            </Button>
          ) : null}
          {others.map((o, i) => (
            <Box component="p" key={i} className="s" role="status" sx={{ marginTop: 4 }}>
              <span className="b">{o.person}</span> {o.section === level.section ? "works on this very section on another device; every pass counts for both." : `is on this panel too: ${level.sections.find((s) => s.key === o.section)?.name ?? "elsewhere"}.`}
            </Box>
          ))}
          {hand.by_look && !hand.locked && !(shut && ways.length > 0) ? (
            <Box component="p" sx={{ marginTop: 6, color: "var(--ink2)" }}>
              <span className="b">By the look:</span> {hand.by_look.text}
            </Box>
          ) : null}
          {hand.swirls ? (
            <Box component="p" sx={{ marginTop: 6, color: "var(--ink2)" }} role="status">
              {hand.swirls}
            </Box>
          ) : null}
          {warm > 0 && hand.cooling && !shut ? (
            <Box component="p" sx={{ marginTop: 6 }} role="status">
              <span className="b">Warm, {warm} s.</span> {hand.cooling.text}
            </Box>
          ) : null}
          {hand.alarm && !hand.locked ? (
            <Box component="p" sx={{ marginTop: 6 }} role="status">
              <span className="b">{hand.alarm}</span>
            </Box>
          ) : null}
        </>
      )}
      {shut || fault || lost > 0 || hand.not_for ? null : (
        <>
          {hand.by_look || ways.length > 0 ? null : (
            <Box component="p" className="s" sx={{ marginTop: 6, fontSize: 15, lineHeight: "20px" }}>
              {hand.scratch ? `${hand.scratch} ` : ""}
              {hand.look}
            </Box>
          )}
          <Box component="p" className="xs" sx={{ marginTop: 4, fontSize: 13 }}>
            {hand.caution}
          </Box>
          {level.log.length === 0 && level.panel.peel_grade === level.panel.peel_eye ? (
            <Box component="p" sx={{ marginTop: 6 }}>
              <Link to={`/panels/${encodeURIComponent(level.panel.id)}/prove`} style={{ color: "inherit", fontWeight: 600 }}>
                Photograph the lamps first
              </Link>
              <Box component="span" sx={{ color: "var(--ink2)" }}>, or there is no before.</Box>
            </Box>
          ) : null}
        </>
      )}
      {allThrough(level) ? <ToProve level={level} /> : null}
      {children}
      {fault ? (
        <Box sx={{ marginTop: 8 }}>
          <Notice text={fault} />
        </Box>
      ) : null}
    </Scroll>
  );
}

/** Where it goes on when nothing more is done on any section. */
function ToProve({ level }: { level: Level }) {
  return (
    <Button variant="tape" component={Link} to={`/panels/${encodeURIComponent(level.panel.id)}/prove`} sx={{ marginTop: 12, minHeight: 72, alignSelf: "flex-start" }}>
      On to Prove <span className="kc">Enter</span>
    </Button>
  );
}

/** The way back to a coarser grit, where there is one. */
function Back({ level, back }: { level: Level; back: () => void }) {
  if (level.again.length === 0) return null;
  return (
    <Button variant="link" sx={{ alignSelf: "flex-start", marginTop: 4, minHeight: 32, fontSize: 15 }} onClick={back}>
      Back to a coarser grit, and what it takes
    </Button>
  );
}

/** Passes made, passes left, and where to read. */
function Tally({ hand }: { hand: Hand }) {
  const shown = Math.min(hand.passes_done + hand.passes_left, 14);
  const done = Math.min(hand.passes_done, shown);
  const mark = hand.read_after < hand.passes_left ? done + hand.read_after : -1;
  const gap = 44;
  return (
    <Box sx={{ display: "flex", alignItems: "center", gap: 14, minHeight: 54, flexWrap: "wrap" }}>
      <svg style={{ width: shown * gap + 14, maxWidth: "100%", height: "auto" }} viewBox={`0 0 ${shown * gap + 14} 52`} role="img" aria-label={`${count(hand.passes_done, "pass")} made, ${hand.passes_left} left`}>
        {Array.from({ length: shown }, (_, i) => (
          <path key={i} d={`M${i * gap + 5} 40L${i * gap + 35} 8L${i * gap + 43} 15L${i * gap + 13} 47Z`} fill={i < done ? "var(--ink)" : "var(--sheet)"} stroke="var(--ink)" strokeWidth="1.5" />
        ))}
        {mark >= 0 ? <path d={`M${mark * gap + 3} 0V52`} stroke="var(--ink)" strokeWidth="2.5" /> : null}
      </svg>
      <Box component="span" className="b" sx={{ fontSize: 16 }}>
        {hand.passes_left === 0 ? "" : hand.read_after === 0 ? "read now" : mark >= 0 ? `read after ${hand.read_after} more` : ""}
      </Box>
    </Box>
  );
}

/** Which of its section's steps a step is: a section may have steps of its own. */
function place(steps: Step[], step: Step): string {
  const own = steps.filter((s) => s.area === step.area);
  return `${own.indexOf(step) + 1} of ${own.length}`;
}
