import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { api, type Plan, type Schemas } from "../../api/client";
import { PlanCore } from "../../filmcore/PlanCore";
import { Notice } from "../../shell/Notice";
import { Num } from "../../shell/Num";
import { Page } from "../../shell/Page";
import { StateTab } from "../../shell/StateTab";
import { useKeys } from "../../shell/keys";
import { FactsDialog } from "../../shop/FactsDialog";
import { stageNotes } from "../../shop/stages";
import { capital, count, plusMinus, room, short, um, unitName } from "../../words/format";
import { Profile, scaleOf, Stroke } from "./Profile";

type Offer = Schemas["Offer"];

export default function PlanPage() {
  const { panelId = "" } = useParams();
  const go = useNavigate();
  const queries = useQueryClient();
  const query = useQuery({ queryKey: ["plan", panelId], queryFn: () => api.plan(panelId) });
  const [facts, setFacts] = useState(false);
  const accept = useMutation({
    mutationFn: (basis: string) => api.acceptPlan(panelId, basis),
    onSuccess: async () => {
      await queries.invalidateQueries();
      void go(`/panels/${encodeURIComponent(panelId)}/level`);
    },
    onError: () => queries.invalidateQueries(),
  });
  const plan = query.data;
  const offer = plan?.offer;
  const standing = Boolean(plan?.record && !plan.record.stale);
  const other = plan?.other_aim ?? "";
  const use = () => {
    if (other) void go(`/cars/${encodeURIComponent(plan?.car.id ?? "")}/take-in`);
    else if (plan?.waits) void go(`/panels/${encodeURIComponent(panelId)}/read`);
    else if (standing) void go(`/panels/${encodeURIComponent(panelId)}/level`);
    else if (offer) accept.mutate(offer.basis);
  };
  useKeys({ Enter: use, f: () => setFacts(true), r: () => void go(`/panels/${encodeURIComponent(panelId)}/read`) }, !facts);
  return (
    <Page
      title={plan?.car.name ?? "Plan"}
      sub={plan ? `${plan.panel.name} · aim: ${plan.panel.aim === "nibs" || plan.panel.aim === "polish" ? `${plan.panel.aim} only` : plan.panel.aim}` : ""}
      home={plan ? `/cars/${encodeURIComponent(plan.car.id)}` : "/"}
      who={plan?.car.painter ?? ""}
      stage={{ current: 3, notes: plan ? stageNotes(plan.panel, plan.car, { 3: plan.record ? `version ${plan.record.version}` : "one sequence" }) : {} }}
      query={query}
      keys={[
        { keys: "Enter", does: "use the sequence" },
        { keys: "F", does: "finish, coats, peel grade" },
        { keys: "R", does: "back to Read" },
      ]}
    >
      {plan && !offer ? (
        <div style={{ padding: "56px 0", maxWidth: 560, display: "grid", gap: 18, justifyItems: "start" }}>
          <h2 className="t" style={{ fontSize: 28, lineHeight: "34px" }}>
            {plan.waits}
          </h2>
          <button type="button" className="key tape" onClick={() => void go(`/panels/${encodeURIComponent(panelId)}/read`)}>
            To Read <span className="kc">R</span>
          </button>
        </div>
      ) : null}
      {plan && offer ? (
        <div className="plan">
          <Offered plan={plan} offer={offer} facts={() => setFacts(true)} />
          <section aria-label="Step by step">
            <div style={{ display: "flex", gap: 12, alignItems: "baseline" }}>
              <h2 className="t" style={{ fontSize: 17, lineHeight: "24px" }}>
                Level to flat, step by step
              </h2>
              <span className="s">computed for 48 mm of this panel; heights drawn to one scale</span>
            </div>
            <Ladder offer={offer} panelId={panelId} />
            {accept.error ? <Notice text={accept.error.message} /> : null}
            <div className="totals">
              <div>
                <div className="lab">film</div>
                <Num e={offer.film_um} size={26} />
              </div>
              <div>
                <div className="lab">keeps, thinnest place</div>
                <Num e={offer.keeps_um} size={26} />
              </div>
              <div>
                <div className="lab">time</div>
                <Num e={offer.hours} unit="h" size={26} />
              </div>
              <div>
                <div className="lab">paper</div>
                <span className="n nowrap" style={{ fontSize: 26 }}>
                  {offer.sheets}
                  <span className="u">{offer.sheets === 1 ? "sheet" : "sheets"}</span> {offer.discs}
                  <span className="u">{offer.discs === 1 ? "disc" : "discs"}</span>
                </span>
              </div>
              <div style={{ marginLeft: "auto", textAlign: "right" }}>
                <button type="button" className="key tape" style={{ minHeight: 52, minWidth: 190 }} disabled={accept.isPending} onClick={use}>
                  {other ? "To Take in" : plan.waits ? "Read more spots" : standing ? "To Level" : "Use this sequence"} <span className="kc">Enter</span>
                </button>
              </div>
            </div>
          </section>
        </div>
      ) : null}
      {facts && plan ? <FactsDialog panel={plan.panel} close={() => setFacts(false)} /> : null}
    </Page>
  );
}

function Offered({ plan, offer, facts }: { plan: Plan; offer: Offer; facts: () => void }) {
  const fits = plan.sections.filter((s) => s.state === "open").length;
  return (
    <section aria-label="The offer">
      <h2 className="t" style={{ fontSize: 17, lineHeight: "24px" }}>
        One way to flat
      </h2>
      <div style={{ overflow: "auto", minHeight: 80, flex: "none", maxHeight: 266 }} tabIndex={0} role="region" aria-label="Sections">
        <table className="tb">
          <thead>
            <tr>
              <th>section</th>
              <th className="r">may go, {unitName()}</th>
              <th className="r">takes</th>
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
      </div>
      <div style={{ padding: "12px 0 0" }}>
        <PlanCore offer={offer} />
      </div>
      {plan.waits || plan.other_aim ? (
        <div style={{ marginBottom: "auto" }} />
      ) : (
        <ol style={{ margin: "0 0 auto", padding: 0, listStyle: "none", overflow: "auto", minHeight: 0 }} tabIndex={0} aria-label="Why each step">
          {offer.steps.map((s) => (
            <li key={s.no} className="xs" style={{ paddingBottom: 3 }}>
              <span className="b">{s.title}.</span> {s.why}
            </li>
          ))}
        </ol>
      )}
      <MarksFirst plan={plan} />
      {plan.other_aim ? <Notice text={plan.other_aim} /> : plan.waits ? <Notice text={plan.waits} /> : null}
      {plan.record?.stale ? <Notice text={plan.record.stale} /> : null}
      <p className="s" style={{ marginTop: 6 }}>
        <span className="b">
          {capital(offer.tightest)} decides, {fits} of {count(plan.sections.length, "section")} open.
        </span>{" "}
        {offer.reason}
      </p>
      <p className="s" style={{ marginTop: 4 }}>
        <span className="b">Why this:</span> {offer.why}
      </p>
      <p className="s" style={{ marginTop: 4 }}>
        <button type="button" className="linkish" onClick={facts}>
          peel grade {short(plan.panel.peel_grade)}
        </button>{" "}
        <span className="kc">F</span>
      </p>
      <p className="xs" style={{ marginTop: 4 }}>
        {plan.cautions[0]}
      </p>
    </section>
  );
}

/** What is done about marks before the first step, and what stays. */
function MarksFirst({ plan }: { plan: Plan }) {
  const open = plan.tally.counts.filter((c) => c.open > 0);
  if (open.length === 0) return null;
  return (
    <p className="s marksfirst">
      <span className="b">Marks first{plan.tally.spot_minutes > 0 ? `, about ${plan.tally.spot_minutes.toFixed(0)} min` : ""}:</span> {open.map((c) => `${count(c.open, c.name)} (${c.text})`).join(", ")}.{" "}
      <Link to={`/panels/${encodeURIComponent(plan.panel.id)}/look`} className="linkish">
        in Look
      </Link>
    </p>
  );
}

function Ladder({ offer, panelId }: { offer: Offer; panelId: string }) {
  const profiles = [offer.start.profile, ...offer.steps.map((s) => s.after.profile)];
  const scale = scaleOf(profiles);
  const picture = (no: number) => `/api/panels/${encodeURIComponent(panelId)}/plan/pictures/${no}?basis=${offer.basis}`;
  return (
    <div className="ladder" style={{ flex: 1, alignContent: "start", overflow: "auto", minHeight: 0 }} tabIndex={0} role="region" aria-label="Steps">
      <div className="row lab">
        <span />
        <span />
        <span />
        <span>takes</span>
        <span className="pic">cross-section after the step</span>
        <span className="pic">strip lamps mirrored in it</span>
        <span className="clar" style={{ textAlign: "right" }}>
          clarity
        </span>
      </div>
      <div className="line" style={{ background: "var(--ink)" }} />
      <div className="row">
        <span />
        <div className="cell">
          <div className="t step">as it is</div>
          <div className="s">peel grade {short(offer.start.peel_grade)}</div>
        </div>
        <span />
        <span />
        <div className="cell pic">
          <Profile before={null} after={offer.start.profile} first={offer.start.profile} scale={scale} label="cross-section as it is" />
        </div>
        <div className="cell pic">
          <img src={picture(0)} alt={`strip lamps mirrored as it is, clarity ${offer.start.clarity.toFixed(0)}`} />
        </div>
        <span className="n clar" style={{ textAlign: "right" }}>
          {offer.start.clarity.toFixed(0)}
        </span>
      </div>
      {offer.steps.map((s, i) => (
        <div className="row" key={s.no}>
          <div className="line" />
          <span className="n s">{s.no}</span>
          <div className="cell" title={s.why}>
            <div className="t step">{s.title}</div>
            <div className="s">{s.what}</div>
            <div className="xs">
              {s.tool}, leaves {s.scratch_um.toFixed(2)} µm
            </div>
          </div>
          <Stroke degrees={s.stroke} />
          <div className="cell" style={{ lineHeight: "20px" }}>
            <div>
              <span className="n">{um(s.film_um.mean)}</span>
              <span className="pm n"> ± {um(s.film_um.sd)}</span>
              <span className="u">{unitName()}</span>
            </div>
            <div>
              <span className="n">{s.passes}</span>
              <span className="u">{s.kind === "compound" || s.kind === "polish" ? (s.passes === 1 ? "cycle" : "cycles") : s.passes === 1 ? "pass" : "passes"}</span>
            </div>
            <div>
              <span className="n">{s.minutes.toFixed(0)}</span>
              <span className="u">min</span>
            </div>
          </div>
          <div className="cell pic">
            <Profile before={profiles[i] ?? null} after={s.after.profile} first={offer.start.profile} scale={scale} label={`cross-section after ${s.title}: takes ${plusMinus(s.film_um)} ${unitName()}`} />
          </div>
          <div className="cell pic">
            <img src={picture(s.no)} alt={`strip lamps mirrored after ${s.title}, clarity ${s.after.clarity.toFixed(0)}`} />
          </div>
          <span className="n clar" style={{ textAlign: "right" }}>
            {s.after.clarity.toFixed(0)}
          </span>
        </div>
      ))}
    </div>
  );
}
