import { Button } from "@mui/material";
import { useEffect, useRef } from "react";
import type { Entry, Hand, Schemas } from "../../api/client";
import { count } from "../../app/format";
import { entryWords, stopped } from "./entries";

type Kind = Schemas["NewEntry"]["kind"];

interface KeyRowProps {
  hand: Hand | undefined;
  /** All sections are through: what is next stands above. */
  through: boolean;
  /** The last thing done here, which Undo takes back. */
  last: Pick<Entry, "kind"> | undefined;
  /** Taps wait to be sent again: that is the next thing to do. */
  waiting: boolean;
  pass: () => void;
  log: (kind: Kind) => void;
  /** Ends the step; it asks why where passes are wanted and granted. */
  done: () => void;
  undo: () => void;
  read: () => void;
  plan: () => void;
  nextSection: () => void;
  stop: () => void;
  ask: (what: "shiny" | "over" | "back" | "why" | "history" | "tablet" | "guide") => void;
  /** To Look, where it is said why a mark stays. */
  look: () => void;
  /** There is a coarser grit to go back to. */
  again: boolean;
  /** Who is at this tablet. */
  who: string;
  /** Single stage: colour in the slurry is how it cuts. */
  single: boolean;
  levels: boolean;
  /** Too warm for another cycle. */
  warm: boolean;
  /** Another section is still to be worked. */
  elsewhere: boolean;
}

export function KeyRow({ hand, through, last, waiting, pass, log, done, undo, read, plan, look, nextSection, stop, ask, again, who, single, levels, warm, elsewhere }: KeyRowProps) {
  const shut = hand !== undefined && stopped(hand);
  const held = hand !== undefined && !hand.locked && (hand.marks_first > 0 || hand.soft_until !== undefined);
  const swirls = hand?.look_for === "swirls_left";
  const reads = hand?.ways.some((w) => w.code === "read") ?? false;
  const readKey = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (!shut || held) return undefined;
    // Later than a pass that is already on its way, so that it lands nowhere.
    const timer = setTimeout(() => readKey.current?.focus(), 400);
    return () => clearTimeout(timer);
  }, [shut, held]);
  // One tape key: read when the film asks for it, done when the plan is made.
  const tape = waiting || through || held ? "none" : !hand ? "next" : shut || (hand.read_after === 0 && hand.passes_left > 0) ? "read" : hand.passes_needed === 0 ? "done" : hand.not_for ? "next" : warm ? (elsewhere ? "next" : "none") : hand.paper_due ? "paper" : "pass";
  const undoWord = last ? `Undo ${entryWords[last.kind].undo}` : "Undo";
  const due = hand ? (hand.read_after === 0 ? "it is due" : `due after ${count(hand.read_after, hand.paper_word === "Pad cleaned" ? "cycle" : "pass")}`) : "";
  return (
    // A key pressed by hand gives its focus back, so that Space stays a pass.
    <div className="levelkeys" onClickCapture={(e) => (e.detail > 0 && document.activeElement instanceof HTMLElement ? document.activeElement.blur() : undefined)}>
      {held && hand.marks_first > 0 ? (
        <>
          <Button variant="tape" className="main" sx={{ gridColumn: "span 6" }} onClick={() => ask("guide")}>
            <span className="big">Work them at their place</span> <span className="kc">N</span>
          </Button>
          <Button className="main" sx={{ gridColumn: "span 6" }} onClick={look}>
            <span>
              Say why they stay
              <span className="sub">in Look, mark by mark; they are told to the owner</span>
            </span>
          </Button>
        </>
      ) : held ? (
        <>
          <Button variant="tape" className="main" sx={{ gridColumn: "span 6" }} onClick={stop}>
            <span>
              <span className="big">Leave it to harden</span>
              <span className="sub">what else there is to do stands with the car</span>
            </span>
            <span className="kc">Esc</span>
          </Button>
          <Button className="main" sx={{ gridColumn: "span 6" }} disabled={!hand.may_override} onClick={() => ask("over")}>
            <span>
              Go on all the same
              <span className="sub">one pass, with a name and a reason; this step on this section goes on then</span>
            </span>
          </Button>
        </>
      ) : shut ? (
        <>
          <Button ref={readKey} variant={reads || hand.locked ? "tape" : "key"} className="main" sx={{ gridColumn: "span 6" }} onClick={read} onKeyDown={(e) => (e.key === " " ? e.preventDefault() : undefined)} onKeyUp={(e) => (e.key === " " ? e.preventDefault() : undefined)}>
            <span>
              <span className="big">Read here</span>
              <span className="sub">{reads ? "passes were made since the last reading: it may allow more" : "nothing was cut since the last reading: it will hardly allow more"}</span>
            </span>
            <span className="kc">R</span>
          </Button>
          <Button variant={reads || hand.locked ? "key" : "tape"} className="main" sx={{ gridColumn: "span 6" }} onClick={done}>
            <span>
              {levels ? "Enough, keep this peel" : swirls ? "Enough, the rest stays" : "Leave the scratch"}
              <span className="sub">{levels ? "the step ends here, the finer grits follow" : swirls ? "the step ends here, the deepest swirls stay" : "the step ends here, it shows under the gloss"}</span>
            </span>
            <span className="kc">A</span>
          </Button>
        </>
      ) : (
        <>
          <Button data-pass="1" variant={tape === "pass" ? "tape" : "key"} className="main" sx={{ gridColumn: "span 5" }} disabled={!hand || hand.not_for !== ""} onPointerDown={pass} onKeyDown={(e) => (e.key === "Enter" ? pass() : undefined)}>
            <span className="big">{hand && hand.paper_word === "Pad cleaned" ? "One more cycle" : "One more pass"}</span> <span className="kc">Space</span>
          </Button>
          <Button variant={tape === "read" ? "tape" : "key"} className="main" sx={{ gridColumn: "span 4" }} disabled={!hand} onClick={read}>
            <span>
              Read gauge
              <span className="sub">{due}</span>
            </span>
            <span className="kc">R</span>
          </Button>
          <Button variant={tape === "paper" ? "tape" : "key"} className="main" sx={{ gridColumn: "span 3" }} disabled={!hand} onClick={() => log("paper")}>
            <span>
              {hand?.paper_word ?? "Paper changed"}
              <span className="sub">
                {hand?.paper_due ? "due: " : ""}
                {hand?.paper ?? ""}
              </span>
            </span>
            <span className="kc">P</span>
          </Button>
        </>
      )}
      <Button variant="quiet" sx={{ gridColumn: "span 3" }} disabled={!last} onClick={undo}>
        {undoWord} <span className="kc">U</span>
      </Button>
      {shut ? (
        <Button sx={{ gridColumn: "span 3" }} onClick={plan}>
          Look at the plan <span className="kc">C</span>
        </Button>
      ) : (
        <Button variant={tape === "done" ? "tape" : "key"} sx={{ gridColumn: "span 3" }} disabled={!hand} onClick={done}>
          Step done <span className="kc">D</span>
        </Button>
      )}
      <Button variant={tape === "next" ? "tape" : "key"} sx={{ gridColumn: "span 3" }} onClick={nextSection}>
        Next section <span className="kc">]</span>
      </Button>
      <Button variant="dark" sx={{ gridColumn: "span 3" }} onClick={stop}>
        Stop <span className="kc">Esc</span>
      </Button>
      <div className="wrong">
        {hand?.passes_granted === 0 ? (
          <Button variant="quiet" disabled={!hand.may_override} onClick={() => ask("over")}>
            Override, one pass
          </Button>
        ) : again ? (
          <Button variant="quiet" onClick={() => ask("back")}>
            Coarser again
          </Button>
        ) : (
          <Button variant="quiet" disabled={!hand} onClick={() => ask("shiny")}>
            {swirls ? "Swirls left" : "Shiny share"} <span className="kc">S</span>
          </Button>
        )}
        <Button variant="quiet" disabled={!hand} onClick={() => ask("why")}>
          Say why <span className="kc">W</span>
        </Button>
        <Button variant="quiet" onClick={() => ask("history")}>
          History <span className="kc">H</span>
        </Button>
        <Button variant="quiet" aria-label={`At this tablet: ${who}`} onClick={() => ask("tablet")}>
          {who} <span className="kc">O</span>
        </Button>
        <span className="s">Wrong:</span>
        <Button variant="quiet" disabled={!hand} onClick={() => log("scrape")}>
          scraping <span className="kc">K</span>
        </Button>
        {single ? null : (
          <Button variant="quiet" disabled={!hand} onClick={() => log("colour")}>
            colour in slurry <span className="kc">V</span>
          </Button>
        )}
        <Button variant="quiet" disabled={!hand} onClick={() => log("through")}>
          through <span className="kc">T</span>
        </Button>
      </div>
    </div>
  );
}

