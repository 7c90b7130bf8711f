import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { useNavigate, useParams, useSearchParams } from "react-router";
import { api, type Plan, type Schemas } from "../../api/client";
import { useChanged, usePlan } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { Num } from "../../ui/Num";
import { Page } from "../../app/Page";
import { StateTab } from "../../drawing/StateTab";
import { useKeys, type Keys } from "../../app/keys";
import { FactsDialog } from "../shared/FactsDialog";
import { stageNotes } from "../../app/stageNotes";
import { short } from "../../app/format";
import { useUnits } from "../../app/units";
import { Below, type View } from "./Below";
import { Cloud } from "./Cloud";
import { Ladder } from "./Ladder";
import { choicesOf, codeOf, distinct, offerWords, undone, type Choice } from "./ladder";
import { Square } from "./Square";
import { TryDialog } from "./TryDialog";
import { PlanFrame } from "./Frame";
import { Correcting } from "./Correcting";
import { WaysOn } from "./WaysOn";

const counted = ["No", "One", "Two", "Three", "Four", "Five"];

export default function PlanPage() {
  const u = useUnits();
  const { panelId = "" } = useParams();
  const [params, setParams] = useSearchParams();
  const wish = params.get("ladder") ?? "";
  const go = useNavigate();
  const changed = useChanged();
  // The share of the swirls under the thumb, before it is let go.
  const [gone, setGone] = useState<number | undefined>(undefined);
  const query = usePlan(panelId, wish, gone);
  const [facts, setFacts] = useState(false);
  const [trying, setTrying] = useState(false);
  const [square, setSquare] = useState(false);
  const [view, setView] = useState<View>("why");
  const [step, setStep] = useState(0);
  const heading = useRef<HTMLHeadingElement>(null);
  const known = query.data !== undefined;
  useEffect(() => heading.current?.focus({ preventScroll: true }), [known]);
  const here = `/panels/${encodeURIComponent(panelId)}`;
  const plan = query.data;
  const offer = plan?.offer;
  const show = (ladder: string, keep = true) => {
    if (ladder === wish) return;
    if (keep) undone.push(panelId, wish);
    setParams(ladder ? { ladder } : {}, { replace: true });
  };
  const accept = useMutation({
    mutationFn: (body: { basis: string; ladder: string }) => api.acceptPlan(panelId, body),
    onSuccess: async () => {
      await changed("panel");
      void go(`${here}/level`);
    },
    onError: () => changed("panel"),
  });
  const ask = useMutation({
    mutationFn: (share: number) => api.changePanel(panelId, { gone: share }),
    onSettled: async () => {
      await changed("panel");
      setGone(undefined);
    },
  });
  const forget = accept.reset;
  useEffect(() => forget(), [wish, forget]);
  const ofRecord = Boolean(plan?.record && !plan.record.stale && offer && plan.record.ladder === offer.ladder);
  // Where nothing reaches the aim all ways on come first; one that is chosen is shown step by step.
  const refusal = !wish && !(plan?.record && !plan.record.stale) ? plan?.refusal : undefined;
  const use = () => {
    if (!plan) return;
    if (ofRecord) void go(`${here}/level`);
    else if (!plan.ready) void go(`${here}/read`);
    else if (offer) accept.mutate({ basis: plan.basis, ladder: offer.ladder });
  };
  const change = (choices: Choice[]) => show(codeOf(choices));
  const choices = offer ? choicesOf(offer.steps) : [];
  const along = (by: number) => {
    const front = plan?.points.filter((p) => p.front) ?? [];
    const at = front.findIndex((p) => p.ladder === offer?.ladder);
    const near = at >= 0 ? at + by : by > 0 ? 0 : front.length - 1;
    const next = front[near];
    if (next) show(next.ladder);
  };
  const passes = (by: number) => {
    if (step > 0) change(choices.map((c, i) => (i === step - 1 ? { ...c, passes: Math.max(c.passes + by, 1) } : c)));
  };
  const keys: Keys = {
    Enter: use,
    f: () => setFacts(true),
    r: () => void go(`${here}/read`),
    w: () => setView("why"),
    t: () => (plan?.correct ? setSquare(Boolean(offer)) : setTrying(Boolean(offer))),
    ArrowRight: () => along(1),
    ArrowLeft: () => along(-1),
    ArrowDown: () => setStep(Math.min(step + 1, choices.length)),
    ArrowUp: () => setStep(Math.max(step - 1, 0)),
    "+": () => passes(1),
    "-": () => passes(-1),
    Delete: () => {
      if (step > 0 && choices.length > 1) change(choices.filter((_, i) => i !== step - 1));
    },
    Insert: () => {
      const after = choices[Math.max(step - 1, 0)];
      if (after) change([...choices.slice(0, step), after, ...choices.slice(step)]);
    },
    u: () => {
      const last = undone.pop(panelId);
      if (last !== undefined) show(last, false);
    },
  };
  const ways = distinct(plan?.offers ?? []);
  ways.slice(0, 4).forEach((o, i) => (keys[String(i + 1)] = () => show(o.wish)));
  useKeys(keys, !facts && !trying && !square && !refusal);
  useEffect(() => {
    const undo = (e: KeyboardEvent) => {
      if (!e.ctrlKey || e.key.toLowerCase() !== "z" || (e.target instanceof Element && e.target.closest("input,textarea,[role=dialog]"))) return;
      e.preventDefault();
      const last = undone.pop(panelId);
      if (last !== undefined) setParams(last ? { ladder: last } : {}, { replace: true });
    };
    window.addEventListener("keydown", undo);
    return () => window.removeEventListener("keydown", undo);
  }, [panelId, setParams]);
  const picture = (no: number) => `/api${here}/plan/pictures/${no}?ladder=${encodeURIComponent(ofRecord ? "record" : (offer?.ladder ?? ""))}&basis=${plan?.basis ?? ""}`;
  const aim = plan?.panel.aim;
  return (
    <Page
      title={plan?.car.name ?? "Plan"}
      sub={plan ? `${plan.panel.name} · aim: ${aim === "nibs" || aim === "polish" ? `${aim} only` : aim}` : ""}
      home={plan ? `/cars/${encodeURIComponent(plan.car.id)}` : "/"}
      who={plan?.car.painter ?? ""}
      stage={{ current: 3, notes: plan ? stageNotes(plan.panel, plan.car, { 3: plan.record ? `version ${plan.record.version}` : "to accept" }) : {} }}
      query={{ ...query, error: plan || wish ? null : query.error }}
      keys={[
        { keys: "1–4", does: "show an offer" },
        { keys: "← →", does: "along the front of film and hours" },
        { keys: "↑ ↓", does: "to a step of the ladder" },
        { keys: "+ −", does: "passes of that step" },
        { keys: "Ins Del", does: "add after it, remove it" },
        { keys: "U", does: "undo the last change of the ladder" },
        { keys: "Enter", does: "use what is shown" },
        { keys: "T", does: "try on a square" },
        { keys: "W", does: "why" },
        { keys: "F", does: "finish, coats, peel grade" },
        { keys: "R", does: "back to Read" },
      ]}
    >
      {!plan && wish && query.error ? (
        <Box sx={{ padding: "40px 0", maxWidth: 620, display: "grid", gap: 18, justifyItems: "start" }}>
          <Notice text={query.error.message} />
          <Button variant="tape" onClick={() => setParams({}, { replace: true })}>
            Show the offers
          </Button>
        </Box>
      ) : null}
      {plan?.correct && refusal ? (
        <Box sx={{ maxWidth: 760, paddingTop: 4 }}>
          <Correcting correct={plan.correct} gone={gone ?? plan.correct.gone} move={setGone} ask={(share) => ask.mutate(share)} show={show} chosen="" />
        </Box>
      ) : null}
      {plan && refusal ? <WaysOn plan={plan} refusal={refusal} facts={() => setFacts(true)} show={show} asking={facts} /> : null}
      {plan && !offer && !refusal ? <Nothing plan={plan} go={() => void go(`${here}/read`)} /> : null}
      {plan && offer && !refusal ? (
        <PlanFrame>
          <section aria-label="The offers">
            <Box component="h2" ref={heading} tabIndex={-1} className="t" sx={{ fontSize: 17, lineHeight: "24px", outline: "none" }}>
              {plan.refusal ? "How far it goes" : ways.length === 1 ? "One way" : `${counted[ways.length] ?? ways.length} ways`}
              <Box component="span" className="s" sx={{ float: "right", fontFamily: "Hanken Grotesk Variable", fontWeight: 400 }}>
                <Button variant="link" onClick={() => setFacts(true)}>
                  peel grade {short(plan.panel.peel_grade)}{plan.panel.peel_grade === plan.panel.peel_eye ? "" : " by photo"}
                </Button>{" "}
                <span className="kc">F</span>
              </Box>
            </Box>
            <Offers plan={plan} show={show} />
            {plan.correct && !ofRecord ? <Correcting correct={plan.correct} gone={gone ?? plan.correct.gone} move={setGone} ask={(share) => (show(""), ask.mutate(share))} show={show} chosen={offer.ladder} /> : null}
            {ask.error ? <Notice text={ask.error.message} /> : null}
            {plan.refusal && !ofRecord ? (
              <Box className="notice" sx={{ margin: "10px 0", flex: "none" }}>
                <p>{plan.refusal.text}</p>
                <Button variant="link" onClick={() => show("")}>
                  All ways on
                </Button>
              </Box>
            ) : null}
            <Box component="p" sx={{ flex: "none", paddingTop: 6 }}>
              <b className="n">{offer.chance_floor}</b> <span className="s">that less than {u.um(offer.floor_um)} stays; through:</span> <b>{offer.chance_through}</b>
            </Box>
            {plan.agreed ? <Agreed floor={plan.agreed} /> : null}
            {plan.points.length > 0 ? (
              <Box sx={{ paddingTop: 8, flex: "none" }}>
                <Cloud plan={plan} height={256} pick={show} />
              </Box>
            ) : null}
            {plan.waits ? <Notice text={plan.waits} /> : null}
            {plan.record?.stale ? <Notice text={plan.record.stale} /> : null}
            <Below ofRecord={ofRecord} plan={plan} offer={offer} view={view} show={setView} pick={show} tryHere={() => setTrying(true)} />
          </section>
          <section aria-label="Step by step">
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: "0 12px", alignItems: "baseline" }}>
              <Box component="h2" className="t" sx={{ fontSize: 17, lineHeight: "24px", whiteSpace: "nowrap" }}>
                {ofRecord ? `Plan of record, version ${plan.record?.version ?? ""}` : `${offerWords[offer.name].charAt(0).toUpperCase()}${offerWords[offer.name].slice(1)}, step by step`}
              </Box>
              <Box component="span" className="s">
                {plan.target} {plan.correct ? `One lamp in ${u.mm(48)} of paint.` : `${u.mm(48)} of this panel.`}
              </Box>
            </Box>
            <Ladder plan={plan} offer={offer} picture={picture} at={step} select={setStep} change={change} />
            {query.error ? <Notice text={query.error.message} /> : null}
            {accept.error ? <Notice text={accept.error.message} /> : null}
            <div className="totals">
              <div>
                <div className="lab">film</div>
                <Num e={offer.film_um} size={24} />
              </div>
              <div>
                <div className="lab">keeps</div>
                <Num e={offer.keeps_um} size={24} />
              </div>
              <div>
                <div className="lab">time{offer.wait_minutes > 0 ? `, ${offer.wait_minutes.toFixed(0)} min wait` : ""}</div>
                <Num e={offer.hours} unit="h" size={24} />
              </div>
              <div>
                <div className="lab">paper</div>
                <Box component="span" className="n" sx={{ fontSize: 24 }}>
                  {offer.sheets > 0 || offer.discs === 0 ? (
                    <>
                      {pieces(offer.sheets)}
                      <span className="u">{offer.sheets === 1 ? "sheet" : "sheets"}</span>{" "}
                    </>
                  ) : null}
                  {offer.discs > 0 ? (
                    <>
                      {pieces(offer.discs)}
                      <span className="u">{offer.discs === 1 ? "disc" : "discs"}</span>
                    </>
                  ) : null}
                </Box>
              </div>
              <div>
                <div className="lab">cost</div>
                <Box component="span" className="n" sx={{ fontSize: 24 }}>
                  {offer.money.toFixed(0)}
                  <span className="u">{u.money}</span>
                </Box>
              </div>
              <Box sx={{ marginLeft: "auto" }}>
                <Button variant="tape" sx={{ minHeight: 52, minWidth: 168 }} disabled={accept.isPending} onClick={use}>
                  {ofRecord ? "To Level" : !plan.ready ? "To Read" : `Use ${offer.name === "partial" ? "this" : offerWords[offer.name]}`} <span className="kc">Enter</span>
                </Button>
              </Box>
            </div>
            <Box component="p" className="xs" sx={{ textAlign: "right", paddingTop: 4 }}>
              <Button variant="link" sx={{ fontWeight: 450 }} onClick={() => (plan.correct ? setSquare(true) : setTrying(true))}>
                try it on a square first
              </Button>{" "}
              <span className="kc">T</span>
            </Box>
          </section>
        </PlanFrame>
      ) : null}
      {facts && plan ? <FactsDialog panel={plan.panel} close={() => setFacts(false)} /> : null}
      {square && plan && offer ? <Square plan={plan} offer={offer} close={() => setSquare(false)} /> : null}
      {trying && plan && offer ? (
        <TryDialog
          plan={plan}
          offer={offer}
          section={plan.sections[0]?.key ?? ""}
          close={() => setTrying(false)}
          kept={() => {
            setView("tries");
            void changed("panel");
          }}
        />
      ) : null}
    </Page>
  );
}

function pieces(n: number): string {
  return Number.isInteger(n) ? n.toFixed(0) : n.toFixed(1);
}

/** What the owner agreed to, and taking it back. */
function Agreed({ floor }: { floor: Schemas["AgreedFloor"] }) {
  const changed = useChanged();
  const strike = useMutation({ mutationFn: () => api.strikeFloor(floor.id, "taken back"), onSettled: () => changed("panel") });
  return (
    <Box component="p" className="s" sx={{ flex: "none", paddingTop: 6 }}>
      {floor.text}{" "}
      <Button variant="link" disabled={strike.isPending} onClick={() => strike.mutate()}>
        Take it back
      </Button>
      {strike.error ? <Notice text={strike.error.message} /> : null}
    </Box>
  );
}

function Offers({ plan, show }: { plan: Plan; show: (ladder: string) => void }) {
  const u = useUnits();
  return (
    <Table className="offers" sx={{ flex: "none" }}>
      <TableHead>
        <TableRow>
          <TableCell />
          <TableCell align="right">film, {u.name}</TableCell>
          <TableCell align="right">hours</TableCell>
          <TableCell align="right">{plan.correct ? "gone" : "peel left"}</TableCell>
          <TableCell />
        </TableRow>
      </TableHead>
      <TableBody>
        {distinct(plan.offers).map(({ line: o, words, wish }, i) => {
          const pick = () => show(wish);
          return (
            <TableRow key={o.name} selected={o.ladder === plan.offer?.ladder} onClick={pick}>
              <TableCell>
                <Button variant="row" aria-pressed={o.ladder === plan.offer?.ladder} onClick={pick}>
                  <span className="kc">{i + 1}</span> {words}
                </Button>
              </TableCell>
              <TableCell align="right" className="n">{u.um(o.film_um.mean)}</TableCell>
              <TableCell align="right" className="n">{o.hours.mean.toFixed(1)}</TableCell>
              <TableCell align="right" className="n">{o.gone === undefined ? short(o.peel_left) : `${(100 * o.gone).toFixed(0)} %`}</TableCell>
              <TableCell>
                <StateTab state={o.state} />
              </TableCell>
            </TableRow>
          );
        })}
      </TableBody>
    </Table>
  );
}

/** Nothing of the panel is worked. */
function Nothing({ plan, go }: { plan: Plan; go: () => void }) {
  return (
    <Box sx={{ padding: "40px 0", maxWidth: 620, display: "grid", gap: 18, justifyItems: "start" }}>
      <Box component="h2" className="t" sx={{ fontSize: 28, lineHeight: "34px" }}>
        {plan.waits}
      </Box>
      <Button variant="tape" onClick={go}>
        To Read <span className="kc">R</span>
      </Button>
    </Box>
  );
}
