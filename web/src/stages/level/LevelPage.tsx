import { Box, Button } from "@mui/material";
import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { newId, type Schemas } from "../../api/client";
import { LevelCore } from "../../drawing/LevelCore";
import { MarksHere } from "../shared/MarksHere";
import { KeptReadings } from "../../outbox/KeptReadings";
import { Page } from "../../app/Page";
import { useKeys } from "../../app/keys";
import { keys, prefetch, useChanged, useLevel } from "../../api/queries";
import { ahead, ends, waiting } from "../../outbox/level";
import { queue } from "../../outbox/queue";
import { useOutbox } from "../../outbox/useOutbox";
import { stageNotes } from "../../app/stageNotes";
import { useUnits } from "../../app/units";
import { BackDialog, EarlyDialog, HistoryDialog, OverDialog, ShinyDialog, TabletDialog, WhyDialog } from "./Asks";
import { count } from "../../app/format";
import { allThrough, padded, stopped } from "./entries";
import { GuideDialog } from "./GuideDialog";
import { KeyRow } from "./KeyRow";
import { Middle } from "./Middle";
import { PassTimer } from "./PassTimer";
import { ReadHere } from "./ReadHere";
import { SectionPicture } from "./SectionPicture";
import { SpotsHere } from "./SpotsHere";
import { signal, useApart, useTablet } from "./tablet";
import { useAwake } from "./useAwake";
import { useCooling } from "./useCooling";
import { useLive } from "../shared/useLive";
import { LevelFrame } from "./Frame";

type NewTap = Schemas["NewEntry"];
type Kind = NewTap["kind"];
type Asked = "" | "shiny" | "over" | "early" | "back" | "why" | "history" | "tablet" | "guide";

export default function LevelPage() {
  const u = useUnits();
  const { panelId = "" } = useParams();
  const [search, setSearch] = useSearchParams();
  const section = search.get("section") ?? "";
  const go = useNavigate();
  const changed = useChanged();
  const [tablet, setTablet] = useTablet();
  const query = useLevel(panelId, section, tablet.person);
  const level = query.data;
  const [reading, setReading] = useState(false);
  const [asks, setAsks] = useState<Asked>("");
  const who = tablet.person || (level?.car.painter ?? "");
  // Each tap is kept on this device before the figure changes, and sent in order.
  const [refused, setRefused] = useState("");
  const outbox = useOutbox(panelId, {
    taken: () => {
      setRefused("");
      return changed("panel");
    },
    refused: (one, problem) => {
      if (one.what === "entry" || one.what === "undo") setRefused(problem.detail);
      void changed("panel");
    },
  });
  // A palm or a bounce is one pass; the timer runs from the last one made here.
  const apart = useApart(400);
  const [timed, setTimed] = useState({ section: "", at: 0 });
  const hand = level?.hand;
  const warm = useCooling(hand?.cooling?.seconds, query.dataUpdatedAt);
  // Without clear, colour in the slurry is how it cuts.
  const single = level?.panel.layers === "single";
  const ended = hand !== undefined && stopped(hand);
  const through = level !== undefined && allThrough(level);
  useAwake(hand !== undefined);
  const others = useLive(panelId, level?.panel, level?.section, who);
  const here = waiting(level?.log ?? [], level?.section ?? "", outbox.entries, outbox.undone);
  // Until a section that was turned to is here, the one before it is shown, and nothing is counted.
  const turning = query.isPlaceholderData;
  const now = hand && !turning ? ahead(hand, here) : null;
  const kept = outbox.entries.length + outbox.undone.length;
  const tap = (body: NewTap) => {
    setRefused("");
    void queue.put({ what: "entry", body, id: body.id, panel: panelId, made: Date.now() });
  };
  const log = (kind: Kind, more: Partial<NewTap> = {}): boolean => {
    if (!level || !hand) return false;
    // What would be of a step that is not here yet is not counted, and never lost unseen.
    if (turning || ends(here) || (kind === "pass" && here.taps.filter((t) => t.kind === "pass").length >= hand.may_tap)) {
      signal(tablet, "stop");
      return false;
    }
    if (kind === "pass") signal(tablet, now && now.left <= 1 ? "stop" : "pass");
    tap({ id: newId(), plan: level.plan, section: level.section, step: hand.step, kind, person: who, ...more });
    return true;
  };
  // A step that still wants passes, and may have them, is not closed by a slip.
  const done = () => {
    if (hand && (now?.left ?? hand.passes_left) > 0) setAsks("early");
    else log("done");
  };
  const pass = () => {
    apart((at) => {
      if (log("pass")) setTimed({ section: level?.section ?? "", at });
    });
  };
  // A way that is told is taken by one key; a new rest is logged with its steps.
  const take = (way: Schemas["Way"]) => {
    setAsks("");
    if (way.code === "read") setReading(true);
    else if (way.code === "stop") done();
    else if (way.rest) log("rest", { rest: way.rest });
  };
  // Of the other sections too, so that they can be worked where the network ends.
  const client = useQueryClient();
  useEffect(() => {
    if (!level || turning) return;
    if (level.section !== section) client.setQueryData(keys.level(panelId, level.section, tablet.person), level);
    for (const s of level.sections) void prefetch.level(client, panelId, s.key, tablet.person);
  }, [client, level, turning, section, panelId, tablet.person]);
  const timeOver = useCallback(() => signal(tablet, "time"), [tablet]);
  const undo = () => {
    if (level && here.last) void queue.put({ what: "undo", entry: here.last.id, id: newId(), panel: panelId, made: Date.now() });
  };
  const beside = (by: number) => {
    if (!level || level.sections.length === 0) return;
    const i = level.sections.findIndex((s) => s.key === level.section);
    const to = level.sections[(i + by + level.sections.length) % level.sections.length];
    if (to) setSearch({ section: to.key });
  };
  const toLook = () => void go(`/panels/${encodeURIComponent(panelId)}/look`);
  const toProve = () => void go(`/panels/${encodeURIComponent(panelId)}/prove`);
  const toPlan = () => void go(`/panels/${encodeURIComponent(panelId)}/plan`);
  // Where Level has nothing in hand: nibs that are all gone are looked at under the lamp.
  const spotted = level?.panel.aim === "nibs" && level.steps.length > 0;
  const onward = !spotted ? { text: "To Plan", go: toPlan } : level.marks.length > 0 && level.marks.every((m) => m.outcome !== "open") ? { text: "The places are polished: on to Prove", go: toProve } : { text: "To Look", go: toLook };
  const stop = () => void go(level ? `/cars/${encodeURIComponent(level.car.id)}` : "/");
  useKeys(
    {
      " ": pass,
      r: () => setReading(Boolean(hand)),
      p: () => log("paper"),
      d: done,
      s: () => setAsks(hand ? "shiny" : ""),
      w: () => setAsks(hand ? "why" : ""),
      h: () => setAsks(level ? "history" : ""),
      o: () => setAsks(level ? "tablet" : ""),
      n: () => setAsks(level && level.guides.length > 0 ? "guide" : ""),
      k: () => log("scrape"),
      ...(single ? {} : { v: () => void log("colour") }),
      t: () => log("through"),
      a: () => (ended ? done() : undefined),
      c: () => (ended ? toPlan() : undefined),
      u: undo,
      "[": () => beside(-1),
      "]": () => beside(1),
      ...(through ? { Enter: toProve } : level?.waits && level.guides.length === 0 ? { Enter: onward.go } : {}),
      Escape: stop,
    },
    !reading && asks === "",
  );
  const name = level?.sections.find((s) => s.key === level.section)?.name;
  const away = outbox.trouble !== "" && kept > 0;
  const closeAsk = () => setAsks("");
  return (
    <Page
      title={level?.car.name ?? "Level"}
      sub={level ? `${level.panel.name}${name ? `, ${name}` : ""}` : ""}
      home={level ? `/cars/${encodeURIComponent(level.car.id)}` : "/"}
      who={who}
      unsaved={Boolean(refused)}
      stage={{ current: 4, notes: level ? stageNotes(level.panel, level.car, level.waits ? {} : { 4: `section ${level.section_no} of ${level.sections.length}` }) : {} }}
      query={query}
      keys={[
        { keys: "Space", does: "one pass" },
        { keys: "R", does: "read the gauge" },
        { keys: "P", does: "paper changed" },
        { keys: "D", does: "step done on this section" },
        { keys: "S", does: "shiny share seen on a dry wipe" },
        { keys: "K", does: "a scraping sound" },
        ...(single ? [] : [{ keys: "V", does: "colour in the slurry over clear" }]),
        { keys: "T", does: "a through spot" },
        { keys: "U", does: "undo the last tap" },
        { keys: "A, C", does: "at the stop: accept the peel, look at the plan" },
        { keys: "N, G", does: "work the nibs and runs here; all are gone" },
        { keys: "W", does: "say why" },
        { keys: "H", does: "what was done on this section" },
        { keys: "O", does: "who is at this tablet, sound and buzz" },
        { keys: "[ ]", does: "previous, next section" },
        ...(through ? [{ keys: "Enter", does: "on to Prove" }] : []),
        { keys: "Esc", does: "stop" },
      ]}
    >
      {level?.waits ? (
        <Box sx={{ padding: level.circles.length > 0 ? "20px 0" : "56px 0", maxWidth: level.circles.length > 0 ? undefined : 560, display: "grid", gap: 18, justifyItems: "start" }}>
          <Box component="h2" className="t" sx={{ fontSize: 28, lineHeight: "34px" }}>
            {level.waits}
          </Box>
          {level.guides.length > 0 && level.steps.length > 0 ? (
            <Button variant="tape" sx={{ minHeight: 72, fontSize: 20 }} onClick={() => setAsks("guide")}>
              Work them one by one <span className="kc">N</span>
            </Button>
          ) : (
            <Button variant="tape" sx={{ minHeight: 72, fontSize: 20 }} onClick={onward.go}>
              {onward.text} <span className="kc">Enter</span>
            </Button>
          )}
          <MarksHere here={level.marks_here} panelId={panelId} person={who} />
          <KeptReadings readings={outbox.readings} />
          {level.circles.length > 0 ? <SpotsHere level={level} /> : null}
        </Box>
      ) : null}
      {level && !level.waits ? (
        <LevelFrame>
          <SectionPicture level={level} who={who} choose={(key) => setSearch({ section: key })} work={() => setAsks("guide")} />
          <Middle warm={warm} level={level} others={others} fault={refused} now={now} lost={away ? kept : 0} back={() => setAsks("back")} why={() => setAsks("why")} take={take} timer={hand && timed.section === level.section ? <PassTimer since={timed.at} about={hand.pass_s} time={timeOver} /> : null}>
            <KeptReadings readings={outbox.readings} />
          </Middle>
          <section aria-label="Film ledger">
            {hand && !away ? (
              <>
                <Box component="h2" className="lab b" sx={{ fontSize: 15, lineHeight: "22px", marginBottom: 8 }}>
                  Clear here, {u.name}
                </Box>
                <LevelCore u={u} ledger={hand.ledger} next={count(hand.passes_left, padded(level.steps[hand.step - 1]) ? "cycle" : "pass")} height={372} />
                <Box component="p" className="s" sx={{ lineHeight: "19px" }}>
                  Thinnest place now <span className="b">{`${u.um(hand.ledger.balance_um.mean)} ± ${u.um(hand.ledger.balance_um.sd)}`}</span>
                </Box>
              </>
            ) : null}
          </section>
          <KeyRow through={through} hand={hand} last={here.last} waiting={away && !now} pass={pass} log={log} done={done} look={toLook} undo={undo} read={() => setReading(true)} plan={toPlan} nextSection={() => beside(1)} stop={stop} ask={setAsks} again={level.again.length > 0} who={who} single={single} warm={warm > 0} elsewhere={level.sections.some((s) => s.key !== level.section && !s.done)} levels={hand ? level.steps[hand.step - 1]?.kind === "level" : true} />
        </LevelFrame>
      ) : null}
      {asks === "shiny" && hand ? (
        <ShinyDialog
          swirls={hand.look_for === "swirls_left"}
          pays={hand.look_pays}
          photo={`/panels/${encodeURIComponent(panelId)}/prove?section=${encodeURIComponent(level?.section ?? "")}`}
          close={closeAsk}
          see={(share) => {
            closeAsk();
            log("shiny", { share });
          }}
        />
      ) : null}
      {asks === "over" && hand ? (
        <OverDialog
          person={who}
          close={closeAsk}
          over={(person, reason) => {
            closeAsk();
            log("override", { person, reason });
          }}
        />
      ) : null}
      {asks === "early" && hand ? (
        <EarlyDialog
          hand={hand}
          close={closeAsk}
          end={(reason) => {
            closeAsk();
            log("done", { reason });
          }}
        />
      ) : null}
      {asks === "back" && level && level.again.length > 0 ? (
        <BackDialog
          level={level}
          person={who}
          close={closeAsk}
          back={(step, person, reason) => {
            closeAsk();
            tap({ id: newId(), plan: level.plan, section: level.section, step, kind: "back", person, reason });
          }}
        />
      ) : null}
      {asks === "why" && hand ? <WhyDialog hand={hand} take={take} close={closeAsk} /> : null}
      {asks === "history" && level ? <HistoryDialog level={level} name={name ?? level.panel.name} close={closeAsk} /> : null}
      {asks === "tablet" && level ? <TabletDialog people={level.people} tablet={tablet} who={who} change={setTablet} close={closeAsk} /> : null}
      {asks === "guide" && level ? <GuideDialog guides={level.guides} person={who} stroke={level.steps.length > 0 ? (kind, mark) => tap({ id: newId(), plan: level.plan, section: level.section, step: hand?.step ?? 1, kind, person: who, mark }) : undefined} undo={() => (here.last?.kind === "shave" || here.last?.kind === "block" ? undo() : undefined)} close={closeAsk} /> : null}
      {reading && level && hand ? <ReadHere level={level} close={() => setReading(false)} /> : null}
    </Page>
  );
}
