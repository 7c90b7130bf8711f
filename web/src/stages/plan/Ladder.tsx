import { Box, Button } from "@mui/material";
import { Scroll } from "../../ui/Scroll";
import { useState } from "react";
import type { Plan, Step } from "../../api/client";
import { short } from "../../app/format";
import { Pick } from "../../ui/Field";
import { useUnits } from "../../app/units";
import { choicesOf, keyOf, type Choice, type Offer } from "./ladder";
import { Profile, scaleOf, Stroke } from "./Profile";

const cycles = (s: Step) => s.kind === "compound" || s.kind === "polish";

interface LadderProps {
  plan: Plan;
  offer: Offer;
  picture: (no: number) => string;
  /** The step that is being changed, from 1; 0 for none. */
  at: number;
  select: (no: number) => void;
  change: (choices: Choice[]) => void;
}

/** The steps with their film, cross-section and lamps; each can be changed. */
export function Ladder({ plan, offer, picture, at, select, change }: LadderProps) {
  const u = useUnits();
  const [drag, setDrag] = useState(0);
  const profiles = [offer.start.profile, ...offer.steps.map((s) => s.after.profile)];
  const scale = scaleOf(profiles);
  const choices = choicesOf(offer.steps);
  const drop = (no: number) => {
    if (drag > 0 && drag !== no) {
      const next = [...choices];
      const [moved] = next.splice(drag - 1, 1);
      if (moved) next.splice(no - 1, 0, moved);
      change(next);
    }
    setDrag(0);
  };
  return (
    <Scroll className="ladder" label="Steps" sx={{ flex: 1, alignContent: "start" }}>
      <div className="row lab">
        <span />
        <span />
        <span />
        <span>takes</span>
        <span className="pic">cross-section after the step</span>
        <span className="pic">{plan.correct ? "one lamp in it" : "strip lamps mirrored in it"}</span>
        <Box component="span" className="clar" sx={{ textAlign: "right" }}>
          {plan.correct ? "gone" : "clarity"}
        </Box>
      </div>
      <Box className="line" sx={{ background: "var(--ink)" }} />
      <div className="row">
        <span />
        <div className="cell">
          <div className="t step">as it is</div>
          <div className="s">peel grade {short(offer.start.peel_grade)}</div>
          {plan.tally.nibs > 0 ? <div className="s">first spot {plan.tally.nibs} nibs</div> : null}
        </div>
        <span />
        <span />
        <div className="cell pic">
          <Profile before={null} after={offer.start.profile} first={offer.start.profile} scale={scale} label="cross-section as it is" />
        </div>
        <div className="cell pic">
          <img src={picture(0)} alt={`${plan.correct ? "one lamp" : "strip lamps"} mirrored as it is, clarity ${offer.start.clarity.toFixed(0)}`} />
        </div>
        <Box component="span" className="n clar" sx={{ textAlign: "right" }}>
          {plan.correct ? "0 %" : offer.start.clarity.toFixed(0)}
        </Box>
      </div>
      {offer.steps.map((s, i) => (
        <div className="row" key={s.no} onDragOver={(e) => e.preventDefault()} onDrop={() => drop(s.no)}>
          <div className="line" />
          <Box component="span" className="n s" draggable={s.area === ""} onDragStart={() => setDrag(s.no)} title="drag to another place" sx={{ cursor: s.area === "" ? "grab" : "default" }}>
            {s.no}
          </Box>
          <div className="cell" title={s.why}>
            <Button variant="row" className="stepname" aria-expanded={at === s.no} disabled={s.area !== ""} onClick={() => select(at === s.no ? 0 : s.no)}>
              <Box component="span" className="t step" sx={{ display: "block" }}>
                {s.title}
              </Box>
              <Box component="span" className="s" sx={{ display: "block" }}>
                {s.what}
              </Box>
              <span className="xs">
                {s.area ? `${s.area} only, ` : ""}
                {s.tool}, leaves {s.scratch_um.toFixed(2)} µm
              </span>
            </Button>
          </div>
          <Stroke degrees={s.stroke} />
          <Box className="cell" sx={{ lineHeight: "19px" }}>
            <div className="nowrap">
              <span className="n">{u.um(s.film_um.mean)}</span>
              <span className="pm n"> ± {u.um(s.film_um.sd)}</span>
              <span className="u">{u.name}</span>
            </div>
            <div>
              <span className="n">{s.passes}</span>
              <span className="u">{cycles(s) ? (s.passes === 1 ? "cycle" : "cycles") : s.passes === 1 ? "pass" : "passes"}</span>
            </div>
            <div>
              <span className="n">{s.minutes.toFixed(0)}</span>
              <span className="u">min</span>
            </div>
          </Box>
          <div className="cell pic">
            <Profile before={s.area === "" ? (profiles[i] ?? null) : null} after={s.after.profile} first={offer.start.profile} scale={scale} label={`cross-section after ${s.title}: takes ${u.plusMinus(s.film_um)} ${u.name}`} />
          </div>
          <div className="cell pic">
            <img src={picture(s.no)} alt={`${plan.correct ? "one lamp" : "strip lamps"} mirrored after ${s.title}, clarity ${s.after.clarity.toFixed(0)}`} />
          </div>
          <Box component="span" className="n clar" sx={{ textAlign: "right" }}>
            {s.gone === undefined ? (
              s.after.clarity.toFixed(0)
            ) : (
              <>
                {`${(100 * s.gone).toFixed(0)} %`}
                <span className="xs" style={{ display: "block" }}>
                  clarity {s.after.clarity.toFixed(0)}
                </span>
              </>
            )}
          </Box>
          {s.warnings.map((text) => (
            <p key={text} className="wrong">
              {text}
            </p>
          ))}
          {at === s.no ? <StepTools plan={plan} step={s} choices={choices} change={change} select={select} /> : null}
        </div>
      ))}
    </Scroll>
  );
}

/** What may be done with the step in hand. */
function StepTools({ plan, step, choices, change, select }: { plan: Plan; step: Step; choices: Choice[]; change: (c: Choice[]) => void; select: (no: number) => void }) {
  const i = step.no - 1;
  const set = (passes: number) => change(choices.map((c, k) => (k === i ? { ...c, passes: Math.min(Math.max(passes, 1), 60) } : c)));
  const swap = (key: string) => {
    const thing = plan.things.find((t) => keyOf(t) === key);
    if (thing) change(choices.map((c, k) => (k === i ? { item: thing.item, backing: thing.backing, passes: c.passes } : c)));
  };
  return (
    <div className="picked" role="group" aria-label={`Change step ${step.no}`}>
      <Button onClick={() => set(step.passes - 1)} disabled={step.passes <= 1} aria-label="one pass less">
        − <span className="kc">-</span>
      </Button>
      <Box component="span" className="n" sx={{ minWidth: 26, textAlign: "center" }}>
        {step.passes}
      </Box>
      <Button onClick={() => set(step.passes + 1)} aria-label="one pass more">
        + <span className="kc">+</span>
      </Button>
      {step.needs !== step.passes && step.needs > 0 && step.kind !== "level" ? (
        <Button variant="quiet" onClick={() => set(step.needs)}>
          as many as it needs: {step.needs}
        </Button>
      ) : null}
      <Pick label="with" silent value={keyOf(step)} set={swap}>
        {plan.things.map((t) => (
          <option key={keyOf(t)} value={keyOf(t)}>
            {t.title}, {t.what}, {t.tool}
          </option>
        ))}
      </Pick>
      <Button
        onClick={() => {
          change([...choices.slice(0, i + 1), choices[i] ?? { item: "", backing: "", passes: 1 }, ...choices.slice(i + 1)]);
          select(step.no + 1);
        }}
      >
        Add after <span className="kc">Ins</span>
      </Button>
      <Button
        variant="quiet"
        disabled={choices.length < 2}
        onClick={() => {
          change(choices.filter((_, k) => k !== i));
          select(0);
        }}
      >
        Remove <span className="kc">Del</span>
      </Button>
    </div>
  );
}
