import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useState, type ReactNode } from "react";
import { Link } from "react-router";
import type { Hand, Level, Schemas } from "../../api/client";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field, Tick } from "../../ui/Field";
import { Scroll } from "../../ui/Scroll";
import { Notice } from "../../ui/Notice";
import { count } from "../../app/format";
import { useUnits } from "../../app/units";
import { told } from "./entries";
import type { Tablet } from "./tablet";

const shares = [0, 3, 10, 20, 30, 50, 70, 90];
const swirlShares = [0, 5, 10, 20, 35, 50, 75, 100];

function NotNow({ close, word = "Not now", first }: { close: () => void; word?: string; first?: boolean }) {
  return (
    <Button variant="quiet" onClick={close} autoFocus={first}>
      {word}
    </Button>
  );
}

/** How much still shines on a dry wipe: one press, or typed. */
export function ShinyDialog({ swirls, pays, photo, close, see }: { swirls: boolean; pays: boolean; photo: string; close: () => void; see: (share: number) => void }) {
  return (
    <Ask title={swirls ? "How many swirls are left?" : "How much still shines?"} close={close}>
      {swirls ? (
        <p className="s">Wipe the oils off and hold the lamp over this section, then over paint that was not polished: how much of it is still there? It tells how deep they are, and the cycles of all sections follow.</p>
      ) : (
      <p className="s">Wipe the section dry and look along the lamp: shiny specks are low spots that the paper has not touched.{pays ? "" : " On this backing the shine goes long before the peel: it is kept, and decides nothing."}</p>
      )}
      <Box sx={{ display: "grid", gridTemplateColumns: "repeat(4,1fr)", gap: 10 }}>
        {(swirls ? swirlShares : shares).map((v, i) => (
          <Button key={v} sx={{ minHeight: 72, fontSize: 22 }} autoFocus={i === 0} onClick={() => see(v / 100)}>
            {v === 0 ? "none" : v === 100 ? "all" : `${v} %`}
          </Button>
        ))}
      </Box>
      <Foot>
        {swirls ? null : (
          <Button variant="link" component={Link} to={photo} sx={{ marginRight: "auto" }}>
            By a photo, to a point or two
          </Button>
        )}
        <NotNow close={close} />
      </Foot>
    </Ask>
  );
}

/** A name and a reason, for what somebody has to answer for. */
function Answer({ title, person, what, key1, may = true, close, keep }: { title: string; person: string; what: ReactNode; key1: string; may?: boolean; close: () => void; keep: (who: string, reason: string) => void }) {
  const [who, setWho] = useState(person);
  const [reason, setReason] = useState("");
  const [fault, setFault] = useState("");
  return (
    <Ask title={title} wide={540} close={close} submit={() => (who.trim() === "" || reason.trim().length < 5 ? setFault("It needs a name and a reason of at least 5 letters.") : keep(who.trim(), reason.trim()))}>
        {what}
        <Field label="who answers for it" value={who} most={40} onChange={(e) => setWho(e.target.value)} />
        <Field label="why" value={reason} most={200} autoFocus onChange={(e) => setReason(e.target.value)} />
        {fault ? <Notice text={fault} /> : null}
        <Foot>
          <NotNow close={close} />
          <Button type="submit" disabled={!may}>
            {key1}
          </Button>
        </Foot>
    </Ask>
  );
}

/** One pass over the stop: somebody answers for it by name, with a reason. */
export function OverDialog({ person, close, over }: { person: string; close: () => void; over: (name: string, reason: string) => void }) {
  return <Answer title="One pass over the stop" person={person} key1="Count one pass" close={close} keep={over} what={<p className="s">It is one pass, not a switch: each further one asks again. Name, reason and the film at this moment stay on record and print in both sheets.</p>} />;
}

/** A step is ended although passes are wanted and granted: why, by one press. */
export function EarlyDialog({ hand, close, end }: { hand: Hand; close: () => void; end: (reason: string) => void }) {
  const what = hand.paper_word === "Pad cleaned" ? "cycle" : "pass";
  return (
    <Ask title="End this step already?" wide={540} close={close}>
      <p className="s">
        {count(hand.passes_done, what)} made here, {hand.passes_left} more {hand.passes_left === 1 ? "is" : "are"} wanted and the film allows them. Why does the step end?
      </p>
      <Box sx={{ display: "grid", gap: 10 }}>
        {["Wiped and looked: nothing shows any more", "It shall go no further here", "The rest is made another way"].map((reason, i) => (
          <Button key={reason} sx={{ minHeight: 72, fontSize: 18 }} autoFocus={i === 0} onClick={() => end(reason)}>
            {reason}
          </Button>
        ))}
      </Box>
      <Foot>
        <NotNow close={close} word="Go on with it" />
      </Foot>
    </Ask>
  );
}

/** Back to a coarser grit: what it takes, and somebody who knows that. */
export function BackDialog({ level, person, close, back }: { level: Level; person: string; close: () => void; back: (step: number, name: string, reason: string) => void }) {
  const [step, setStep] = useState(level.again[0]?.step ?? 0);
  const at = level.again.find((a) => a.step === step);
  return (
    <Answer
      title="Back to a coarser grit"
      person={person}
      key1={`I know: back to ${at?.title ?? ""}`}
      may={at?.ready ?? false}
      close={close}
      keep={(name, reason) => back(step, name, reason)}
      what={
        <>
          <p className="s">Late and coarse is how panels are cut through. Every finer step comes once more after it.</p>
          <Choice label="Which grit" silent tall value={String(step)} options={level.again.map((a) => [String(a.step), a.title] as const)} set={(v) => setStep(Number(v))} />
          <p role="status">{at?.text}</p>
        </>
      }
    />
  );
}

type Way = Hand["ways"][number];

/** What may be done where the film does not allow all passes, each as a key where it is taken by one. */
export function Ways({ ways, take }: { ways: Way[]; take?: ((way: Way) => void) | undefined }) {
  return (
    <Box role="group" aria-label="What may be done instead" sx={{ mt: 6, display: "grid", gap: 6, fontSize: 15.5, lineHeight: "20px" }}>
      {ways.map((w) =>
        take && w.code !== "on" ? (
          <Button key={w.code} sx={{ justifyContent: "flex-start", textAlign: "left", minHeight: 48, py: "7px", fontWeight: 500, lineHeight: "20px" }} onClick={() => take(w)}>
            {w.text}
          </Button>
        ) : (
          <p key={w.code}>{w.text}</p>
        ),
      )}
    </Box>
  );
}

/** All reasons of the figures. */
export function WhyDialog({ hand, take, close }: { hand: Hand; take?: ((way: Way) => void) | undefined; close: () => void }) {
  return (
    <Ask title={hand.passes_left === 0 ? "Why none is left" : `Why ${hand.passes_left} and not more`} wide={680} close={close}>
      <Box component="ul" sx={{ margin: 0, padding: "0 0 0 18px", display: "grid", gap: 8, fontSize: 17, lineHeight: "24px" }}>
        {hand.why.map((w) => (
          <li key={w}>{w}</li>
        ))}
      </Box>
      {hand.ways.length > 0 && !hand.locked ? (
        <>
          <Box component="h3" className="t" sx={{ fontSize: 18, lineHeight: "24px" }}>
            What may be done instead
          </Box>
          <Ways ways={hand.ways} take={take} />
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
  const u = useUnits();
  const own = [...level.earlier, ...level.log].filter((e) => e.section === level.section || level.earlier.includes(e));
  return (
    <Ask title={`What was done, ${name}`} wide={760} close={close}>
      {own.length === 0 ? (
        <p className="s">Nothing yet. Every pass, reading and change of paper on this section will stand here.</p>
      ) : (
        <Scroll label="Log" sx={{ maxHeight: "52vh" }}>
          <Table wide sx={{ width: "100%" }}>
            <TableHead>
              <TableRow>
                <TableCell>when</TableCell>
                <TableCell>who</TableCell>
                <TableCell>what</TableCell>
                <TableCell>step</TableCell>
                <TableCell sx={{ textAlign: "right" }}>clear left, {u.name}</TableCell>
              </TableRow>
            </TableHead>
            <TableBody>
              {[...own].reverse().map((e) => (
                <TableRow key={e.id} sx={e.struck_at ? { textDecoration: "line-through", color: "var(--ink2)" } : undefined}>
                  <TableCell>{u.clock(new Date(e.at))}</TableCell>
                  <TableCell>{e.person}</TableCell>
                  <TableCell>
                    {told(e, level.earlier.includes(e) ? undefined : level.steps[e.step - 1])}
                    {e.late ? `, ${e.late}` : ""}
                    {e.struck_at ? `, struck out: ${e.struck_reason ?? ""}` : ""}
                  </TableCell>
                  <TableCell>{level.earlier.includes(e) ? "of an earlier plan" : level.steps[e.step - 1]?.title}</TableCell>
                  <TableCell className="n" sx={{ textAlign: "right" }}>
                    {e.left_um ? u.plusMinus(e.left_um) : ""}
                  </TableCell>
                </TableRow>
              ))}
            </TableBody>
          </Table>
        </Scroll>
      )}
      <Foot>
        <NotNow close={close} word="Close" first />
      </Foot>
    </Ask>
  );
}

const switches: ["sound" | "buzz", string, string][] = [
  ["sound", "sound", "a tone for each pass and when about a pass has gone by, two for the stop"],
  ["buzz", "buzz", "the tablet shakes, where it can"],
];

/** Who is at this tablet, and how it tells. */
export function TabletDialog({ people, tablet, who, change, close }: { people: Schemas["Level"]["people"]; tablet: Tablet; who: string; change: (by: Partial<Tablet>) => void; close: () => void }) {
  return (
    <Ask title="At this tablet" close={close}>
      <Box role="group" aria-label="Who makes the passes" sx={{ display: "grid", gridTemplateColumns: "repeat(3,1fr)", gap: 10 }}>
        {people.map((p) => (
          <Button key={p} variant={p === who ? "tape" : "key"} aria-pressed={p === who} sx={{ minHeight: 64 }} onClick={() => change({ person: p })}>
            {p}
          </Button>
        ))}
      </Box>
      <p className="s">
        Each pass is logged with this name, and only grits that it may run are offered. <Button component={Link} variant="link" to="/hands">Hands</Button> says who may run what.
      </p>
      {switches.map(([key, name, does]) => (
        <Tick key={key} checked={tablet[key]} set={(on) => change({ [key]: on })}>
          <span className="b">{name}</span> <span className="s">{does}</span>
        </Tick>
      ))}
      <Foot>
        <NotNow close={close} word="Close" />
      </Foot>
    </Ask>
  );
}
