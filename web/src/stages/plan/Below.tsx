import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow, Tab, Tabs } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Plan, type Schemas } from "../../api/client";
import { PlanCore } from "../../drawing/PlanCore";
import { PanelView } from "../../drawing/PanelView";
import { pathOf } from "../../drawing/geometry";
import { useChanged } from "../../api/queries";
import { Scroll } from "../../ui/Scroll";
import { Notice } from "../../ui/Notice";
import { ScaledPatterns, scaledFill } from "../../drawing/ScaledPatterns";
import { StateTab } from "../../drawing/StateTab";
import { StrikeDialog } from "../../ui/StrikeDialog";
import { capital, count } from "../../app/format";
import { useUnits } from "../../app/units";
import type { Offer } from "./ladder";

export const views = ["why", "sections", "core", "tries", "manner"] as const;
export type View = (typeof views)[number];
const names: Record<View, string> = { why: "why", sections: "sections", core: "film core", tries: "tries", manner: "manner" };

interface BelowProps {
  /** The plan of record is what is shown. */
  ofRecord: boolean;
  plan: Plan;
  offer: Offer;
  view: View;
  show: (v: View) => void;
  pick: (ladder: string) => void;
  tryHere: () => void;
}

/** What stands behind the figures of a way. */
export function Below({ ofRecord, plan, offer, view, show, pick, tryHere }: BelowProps) {
  const u = useUnits();
  return (
    <>
      <Tabs value={view} onChange={(_, v: View) => show(v)} aria-label="Behind the figures" variant="fullWidth" sx={{ flex: "none" }}>
        {views.map((v) => (
          <Tab key={v} value={v} label={`${names[v]}${v === "tries" && plan.tries.length > 0 ? ` ${plan.tries.length}` : ""}`} />
        ))}
      </Tabs>
      <Scroll className="below" label={names[view]}>
        {view === "why" ? <Why record={ofRecord ? plan.record : undefined} plan={plan} offer={offer} pick={pick} /> : null}
        {view === "sections" ? <Sections plan={plan} offer={offer} /> : null}
        {view === "core" ? <PlanCore u={u} offer={offer} /> : null}
        {view === "tries" ? <Tries plan={plan} tryHere={tryHere} /> : null}
        {view === "manner" ? (
          <>
            {plan.how.map((text) => (
              <p key={text} className="s">
                {text}
              </p>
            ))}
            {plan.cautions.map((text) => (
              <p key={text} className="s">
                <span className="b">Caution:</span> {text}
              </p>
            ))}
            <p className="s">
              <Button component={Link} variant="link" to={`/rules?car=${encodeURIComponent(plan.car.id)}`}>House rules</Button>, <Button component={Link} variant="link" to="/shelf">the shelf</Button>
            </p>
          </>
        ) : null}
      </Scroll>
    </>
  );
}

function Why({ record, plan, offer, pick }: { record: Plan["record"]; plan: Plan; offer: Offer; pick: (ladder: string) => void }) {
  return (
    <>
      {offer.warnings.map((text) => (
        <p key={text} className="s">
          <span className="b">Mind:</span> {text}
        </p>
      ))}
      {record?.why.map((text, i) => (
        <p key={i} className="s">
          {i === 0 ? <span className="b">As it was accepted. </span> : null}
          {text}
        </p>
      ))}
      {(record ? [] : offer.whys).map((w) => (
        <p key={w.code} className="s">
          <span className="b">{w.head}</span> {w.text}{" "}
          {w.ladder ? (
            <Button variant="link" sx={{ fontWeight: 450 }} onClick={() => pick(w.ladder ?? "")}>
              show it
            </Button>
          ) : null}
        </p>
      ))}
      <p className="s">
        <span className="b">{offer.tightest ? `${capital(offer.tightest)} decides.` : "Not read yet."}</span> {offer.reason}
      </p>
      <MarksFirst plan={plan} />
      {plan.cautions[0] ? <Box component="p" className="xs" sx={{ marginTop: 4 }}>{plan.cautions[0]}</Box> : null}
    </>
  );
}

/** What is done about marks before the first step, and what stays. */
function MarksFirst({ plan }: { plan: Plan }) {
  const open = plan.tally.counts.filter((c) => c.open > 0);
  if (open.length === 0) return null;
  return (
    <p className="s">
      <span className="b">Marks first{plan.tally.spot_minutes > 0 ? `, about ${plan.tally.spot_minutes.toFixed(0)} min` : ""}:</span>{" "}
      {open.map((c) => `${count(c.open, c.name)} (${c.text})`).join(", ")}. <Button component={Link} variant="link" to={`/panels/${encodeURIComponent(plan.panel.id)}/look`}>in Look</Button>
    </p>
  );
}

/** The sections on the panel, each with its state for this film. */
function Sections({ plan, offer }: { plan: Plan; offer: Offer }) {
  const u = useUnits();
  const fits = plan.sections.filter((s) => s.state !== "shut").length;
  return (
    <>
      <Box sx={{ height: 190, display: "flex" }}>
        <PanelView
          u={u}
          panel={plan.panel}
          label={`Sections of the ${plan.panel.name}`}
          inside={(k) => (
            <>
              <ScaledPatterns id="sections-" scale={k} />
              {plan.sections.flatMap((s) => s.outlines.map((o, i) => <path key={`${s.key}${i}`} d={pathOf(o)} fill={scaledFill("sections-", s.state)} stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />))}
            </>
          )}
        />
      </Box>
      <p className="s">
        <span className="b">{fits} of {count(plan.sections.length, "section")} take it.</span> Strips of {u.mm(25)} at edges stay out. {offer.tightest ? `${capital(offer.tightest)} decides.` : ""}
      </p>
      <Table>
        <TableHead>
          <TableRow>
            <TableCell>section</TableCell>
            <TableCell align="right">can go, {u.name}</TableCell>
            <TableCell align="right">asks</TableCell>
            <TableCell>may I sand?</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {plan.sections.map((s) => (
            <TableRow key={s.key} selected={s.name === offer.tightest} title={s.reason}>
              <TableCell>{s.name}</TableCell>
              <TableCell align="right" className="n">{u.room(s.headroom_um)}</TableCell>
              <TableCell align="right" className="n">{s.spend_um === undefined ? "" : u.um(s.spend_um)}</TableCell>
              <TableCell>{s.state ? <StateTab state={s.state} /> : null}</TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </>
  );
}

/** The try squares of the panel, and what each was worth. */
function Tries({ plan, tryHere }: { plan: Plan; tryHere: () => void }) {
  const u = useUnits();
  const changed = useChanged();
  const [strike, setStrike] = useState<Schemas["Try"] | null>(null);
  const [square, setSquare] = useState("");
  const use = useMutation({ mutationFn: api.useTry, onSettled: () => changed("panel") });
  return (
    <>
      {plan.squares_seen.map((q) => (
        <Box key={q.id} component="p" className="s" sx={{ borderBottom: "1px solid var(--line)", padding: "4px 0 6px", ...(q.struck_at ? { textDecoration: "line-through", color: "var(--ink2)" } : {}) }}>
          <b>{q.person}:</b> {q.text}{" "}
          {q.struck_at ? q.struck_reason : (
            <Button variant="hint" onClick={() => setSquare(q.id)}>
              strike out
            </Button>
          )}
        </Box>
      ))}
      {square ? <StrikeDialog what="what this square showed" close={() => setSquare("")} strike={async (reason) => { await api.strikeSquare(square, reason); await changed("panel"); }} /> : null}
      {plan.tries.length + plan.squares_seen.length === 0 ? <p className="s">No square tried yet. Try the mildest process on a taped square, half of it left untouched; what it gains and costs is compared against the noise of the instruments.</p> : null}
      {plan.tries.map((t) => (
        <Box key={t.id} sx={{ borderBottom: "1px solid var(--line)", padding: "4px 0 6px" }}>
          <p className="s">
            <span className="b">
              Square {t.no}, {t.section_name}
              {t.used ? ", in its plan" : ""}:
            </span>{" "}
            {t.steps}. {t.text}
            {t.gloss ? ` Gloss ${u.plusMinus(t.gloss).replace("-", "−")}.` : ""} {t.note ? `“${t.note}”` : ""}
          </p>
          <div className="keys">
            {t.used ? null : (
              <Button variant="hint" onClick={() => use.mutate(t.id)} disabled={use.isPending}>
                use it for {t.section_name} only
              </Button>
            )}
            <Button variant="hint" onClick={() => setStrike(t)}>
              strike out
            </Button>
          </div>
        </Box>
      ))}
      {use.error ? <Notice text={use.error.message} /> : null}
      <Button sx={{ marginTop: 8, minHeight: 40 }} onClick={tryHere}>
        Try on a square <span className="kc">T</span>
      </Button>
      {strike ? <StrikeDialog what={`square ${strike.no}`} close={() => setStrike(null)} strike={async (reason) => { await api.strikeTry(strike.id, reason); await changed("panel"); }} /> : null}
    </>
  );
}
