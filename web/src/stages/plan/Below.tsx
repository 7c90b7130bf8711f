import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Plan, type Schemas } from "../../api/client";
import { PlanCore } from "../../drawing/PlanCore";
import { PanelView } from "../../drawing/PanelView";
import { pathOf } from "../../drawing/geometry";
import { Notice } from "../../ui/Notice";
import { ScaledPatterns, scaledFill } from "../../drawing/ScaledPatterns";
import { StateTab } from "../../drawing/StateTab";
import { StrikeDialog } from "../../ui/StrikeDialog";
import { capital, count, plusMinus, room, um, unitName } from "../../app/format";
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
  return (
    <>
      <div className="one" role="group" aria-label="Behind the figures" style={{ flex: "none" }}>
        {views.map((v) => (
          <button key={v} type="button" aria-pressed={v === view} onClick={() => show(v)}>
            {names[v]}
            {v === "tries" && plan.tries.length > 0 ? ` ${plan.tries.length}` : ""}
          </button>
        ))}
      </div>
      <div className="below" tabIndex={0} role="region" aria-label={names[view]}>
        {view === "why" ? <Why record={ofRecord ? plan.record : undefined} plan={plan} offer={offer} pick={pick} /> : null}
        {view === "sections" ? <Sections plan={plan} offer={offer} /> : null}
        {view === "core" ? <PlanCore offer={offer} /> : null}
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
              <Link className="linkish" to={`/rules?car=${encodeURIComponent(plan.car.id)}`}>House rules</Link>, <Link className="linkish" to="/shelf">the shelf</Link>
            </p>
          </>
        ) : null}
      </div>
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
            <button type="button" className="linkish" style={{ fontWeight: 450 }} onClick={() => pick(w.ladder ?? "")}>
              show it
            </button>
          ) : null}
        </p>
      ))}
      <p className="s">
        <span className="b">{offer.tightest ? `${capital(offer.tightest)} decides.` : "Not read yet."}</span> {offer.reason}
      </p>
      <MarksFirst plan={plan} />
      {plan.cautions[0] ? <p className="xs" style={{ marginTop: 4 }}>{plan.cautions[0]}</p> : null}
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
      {open.map((c) => `${count(c.open, c.name)} (${c.text})`).join(", ")}. <Link className="linkish" to={`/panels/${encodeURIComponent(plan.panel.id)}/look`}>in Look</Link>
    </p>
  );
}

/** The sections on the panel, each with its state for this film. */
function Sections({ plan, offer }: { plan: Plan; offer: Offer }) {
  const fits = plan.sections.filter((s) => s.state !== "shut").length;
  return (
    <>
      <div style={{ height: 190, display: "flex" }}>
        <PanelView
          panel={plan.panel}
          label={`Sections of the ${plan.panel.name}`}
          inside={(k) => (
            <>
              <ScaledPatterns id="sections-" scale={k} />
              {plan.sections.flatMap((s) => s.outlines.map((o, i) => <path key={`${s.key}${i}`} d={pathOf(o)} fill={scaledFill("sections-", s.state)} stroke="var(--ink)" strokeWidth="1.5" vectorEffect="non-scaling-stroke" />))}
            </>
          )}
        />
      </div>
      <p className="s">
        <span className="b">{fits} of {count(plan.sections.length, "section")} take it.</span> Strips of 25 mm at edges stay out. {offer.tightest ? `${capital(offer.tightest)} decides.` : ""}
      </p>
      <table className="tb">
        <thead>
          <tr>
            <th>section</th>
            <th className="r">may go, {unitName()}</th>
            <th className="r">asks</th>
            <th>may I sand?</th>
          </tr>
        </thead>
        <tbody>
          {plan.sections.map((s) => (
            <tr key={s.key} className={s.name === offer.tightest ? "on" : undefined} title={s.reason}>
              <td>{s.name}</td>
              <td className="n r">{room(s.headroom_um)}</td>
              <td className="n r">{s.spend_um === undefined ? "" : um(s.spend_um)}</td>
              <td>{s.state ? <StateTab state={s.state} /> : null}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}

/** The try squares of the panel, and what each was worth. */
function Tries({ plan, tryHere }: { plan: Plan; tryHere: () => void }) {
  const queries = useQueryClient();
  const [strike, setStrike] = useState<Schemas["Try"] | null>(null);
  const use = useMutation({ mutationFn: api.useTry, onSettled: () => queries.invalidateQueries() });
  return (
    <>
      {plan.tries.length === 0 ? <p className="s">No square tried yet. Try the mildest process on a taped square, half of it left untouched; what it gains and costs is compared against the noise of the instruments.</p> : null}
      {plan.tries.map((t) => (
        <div key={t.id} style={{ borderBottom: "1px solid var(--line)", padding: "4px 0 6px" }}>
          <p className="s">
            <span className="b">
              Square {t.no}, {t.section_name}
              {t.used ? ", in its plan" : ""}:
            </span>{" "}
            {t.steps}. {t.text}
            {t.gloss ? ` Gloss ${plusMinus(t.gloss).replace("-", "−")}.` : ""} {t.note ? `“${t.note}”` : ""}
          </p>
          <div className="keys">
            {t.used ? null : (
              <button type="button" onClick={() => use.mutate(t.id)} disabled={use.isPending}>
                use it for {t.section_name} only
              </button>
            )}
            <button type="button" onClick={() => setStrike(t)}>
              strike out
            </button>
          </div>
        </div>
      ))}
      {use.error ? <Notice text={use.error.message} /> : null}
      <button type="button" className="key" style={{ marginTop: 8, minHeight: 40 }} onClick={tryHere}>
        Try on a square <span className="kc">T</span>
      </button>
      {strike ? <StrikeDialog what={`square ${strike.no}`} close={() => setStrike(null)} strike={async (reason) => { await api.strikeTry(strike.id, reason); await queries.invalidateQueries(); }} /> : null}
    </>
  );
}
