import { useEffect, useRef } from "react";
import type { Entry, Hand, Schemas } from "../../api/client";
import { count } from "../../app/format";
import { entryWords } from "./entries";

type Kind = Schemas["NewEntry"]["kind"];

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
  ask: (what: "shiny" | "over" | "back" | "why" | "history" | "tablet") => void;
  /** There is a coarser grit to go back to. */
  again: boolean;
  /** Who is at this tablet. */
  who: string;
  /** Single stage: colour in the slurry is how it cuts. */
  single: boolean;
}

export function KeyRow({ hand, last, busy, waiting, pass, log, undo, read, plan, nextSection, stop, ask, again, who, single }: KeyRowProps) {
  const shut = hand?.passes_granted === 0;
  const readKey = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!shut) return undefined;
    // Later than a pass that is already on its way, so that it lands nowhere.
    const timer = setTimeout(() => readKey.current?.focus(), 400);
    return () => clearTimeout(timer);
  }, [shut]);
  // One tape key: read when the film asks for it, done when the plan is made.
  const tape = waiting ? "none" : !hand ? "next" : shut || (hand.read_after === 0 && hand.passes_left > 0) ? "read" : hand.passes_needed === 0 ? "done" : hand.not_for ? "next" : hand.paper_due ? "paper" : "pass";
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
          <button type="button" data-pass="1" className={`key main ${tape === "pass" ? "tape" : ""}`} style={{ gridColumn: "span 5" }} disabled={!hand || hand.not_for !== ""} onPointerDown={pass} onKeyDown={(e) => (e.key === "Enter" ? pass() : undefined)}>
            <span className="big">{hand && hand.paper_word === "Pad cleaned" ? "One more cycle" : "One more pass"}</span> <span className="kc">Space</span>
          </button>
          <button type="button" className={`key main ${tape === "read" ? "tape" : ""}`} style={{ gridColumn: "span 4" }} disabled={!hand} onClick={read}>
            <span>
              Read gauge
              <span className="sub">{due}</span>
            </span>
            <span className="kc">R</span>
          </button>
          <button type="button" className={`key main ${tape === "paper" ? "tape" : ""}`} style={{ gridColumn: "span 3" }} disabled={!hand || busy} onClick={() => log("paper")}>
            <span>
              {hand?.paper_word ?? "Paper changed"}
              <span className="sub">
                {hand?.paper_due ? "due: " : ""}
                {hand?.paper ?? ""}
              </span>
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
          <button type="button" className="key q" disabled={!hand || busy || hand.locked} onClick={() => ask("over")}>
            Override, one pass
          </button>
        ) : again ? (
          <button type="button" className="key q" disabled={busy} onClick={() => ask("back")}>
            Coarser again
          </button>
        ) : (
          <button type="button" className="key q" disabled={!hand || busy} onClick={() => ask("shiny")}>
            Shiny share <span className="kc">S</span>
          </button>
        )}
        <button type="button" className="key q" disabled={!hand} onClick={() => ask("why")}>
          Say why <span className="kc">W</span>
        </button>
        <button type="button" className="key q" onClick={() => ask("history")}>
          History <span className="kc">H</span>
        </button>
        <button type="button" className="key q" aria-label={`At this tablet: ${who}`} onClick={() => ask("tablet")}>
          {who} <span className="kc">O</span>
        </button>
        <span className="s">Wrong:</span>
        <button type="button" className="key q" disabled={!hand || busy} onClick={() => log("scrape")}>
          scraping <span className="kc">K</span>
        </button>
        {single ? null : (
          <button type="button" className="key q" disabled={!hand || busy} onClick={() => log("colour")}>
            colour in slurry <span className="kc">V</span>
          </button>
        )}
        <button type="button" className="key q" disabled={!hand || busy} onClick={() => log("through")}>
          through <span className="kc">T</span>
        </button>
      </div>
    </div>
  );
}

