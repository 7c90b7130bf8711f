import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, newId, type Plan, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { useKeys, type Keys } from "../../app/keys";
import { useUnits } from "../../app/units";
import { ClearLying } from "../../drawing/ClearLying";
import { StateTab } from "../../drawing/StateTab";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { WaysFrame } from "./Frame";
import { WaysPicture } from "./WaysPicture";

type Way = Schemas["WayOn"];
type Refusal = Schemas["Refusal"];

const groups: [Way["group"], string][] = [
  ["aim", "after all"],
  ["question", "What would help"],
  ["less", "Less than"],
];
const aimNames: Record<string, string> = { flat: "flat", match: "matched", nibs: "free of nibs", polish: "polished" };

interface WaysOnProps {
  plan: Plan;
  refusal: Refusal;
  facts: () => void;
  /** Shows a sequence step by step. */
  show: (ladder: string) => void;
  asking: boolean;
}

/** Plan where nothing reaches the aim: how it stands, and every way on as a key. */
export function WaysOn({ plan, refusal, facts, show, asking }: WaysOnProps) {
  const u = useUnits();
  const ways = refusal.ways;
  const [at, setAt] = useState(0);
  const foot = useRef<HTMLDivElement>(null);
  // What a way asks stands below them all: on a small screen it comes into view.
  const choose = (i: number) => {
    setAt(i);
    requestAnimationFrame(() => foot.current?.scrollIntoView({ block: "nearest" }));
  };
  const way = ways[Math.min(at, ways.length - 1)];
  const aim = aimNames[plan.panel.aim] ?? plan.panel.aim;
  const keys: Keys = {
    f: facts,
    ArrowDown: () => choose(Math.min(at + 1, ways.length - 1)),
    ArrowUp: () => choose(Math.max(at - 1, 0)),
  };
  ways.slice(0, 9).forEach((_, i) => (keys[String(i + 1)] = () => choose(i)));
  useKeys(keys, !asking);
  return (
    <WaysFrame>
      <section aria-label="As things are">
        <div className="state t">
          <StateTab state="shut" />
          <span className="s">
            for {aim}, as things are:
            <br />
            {refusal.needs || refusal.text}
          </span>
        </div>
        {refusal.chance_floor ? (
          <div>
            <p>
              <span className="n deciding">{refusal.chance_floor}</span> <span className="s">that less than {u.um(refusal.floor_um ?? 0)} stays</span>
            </p>
            <p>
              <span className="n">{refusal.chance_through}</span> <span className="s">that it goes through</span>
            </p>
          </div>
        ) : null}
        {refusal.points.length > 0 && refusal.bars ? <WaysPicture refusal={refusal} aim={aim} at={way} /> : null}
        {refusal.clear_um ? (
          <Box sx={{ borderTop: "1px solid var(--line)", paddingTop: 6 }}>
            <div className="lying">
              <b>Clear that stays after {aim}</b> <span className="s">at the thin places</span>
            </div>
            <ClearLying u={u} clear={refusal.clear_um} spend={at >= 0 && way?.film_um ? way.film_um : refusal.need_um} floor={way?.floor_um ?? refusal.floor_um ?? 40} offered={refusal.offered_um} />
          </Box>
        ) : null}
        {refusal.known ? (
          <p className="s">
            <b>Known:</b> {refusal.known}
          </p>
        ) : null}
        <div>
          <Button variant="link" onClick={facts}>
            <span className="kc">F</span> facts of this panel
          </Button>
        </div>
        {plan.waits ? <Notice text={plan.waits} /> : null}
        {plan.record?.stale ? <Notice text={plan.record.stale} /> : null}
      </section>
      <section aria-label="Ways on">
        <div className="ways">
          {groups.map(([group, name]) => {
            const own = ways.filter((v) => v.group === group);
            if (own.length === 0) return null;
            const title = group === "aim" ? `${aim.charAt(0).toUpperCase()}${aim.slice(1)} ${name}` : group === "less" ? `${name} ${aim}` : name;
            return (
              <div key={group} role="group" aria-label={title}>
                <h2 className="heading t">{title}</h2>
                <div className={group === "question" ? "questions" : "rows"}>
                  {own.map((v) => {
                    const i = ways.indexOf(v);
                    return (
                      <Button key={`${v.code}${v.aim ?? ""}${v.help ?? ""}`} className="way" aria-pressed={i === at} onClick={() => choose(i)}>
                        <span className="kc">{i + 1}</span>
                        <span className="what">
                          <b>{v.head}</b>
                          <span className="s">{v.text}</span>
                        </span>
                        {v.chance ? <span className="chance">{v.chance}</span> : null}
                        {v.state ? <StateTab state={v.state} /> : null}
                      </Button>
                    );
                  })}
                </div>
              </div>
            );
          })}
        </div>
        <div ref={foot} className="asks">
          {way ? <Foot key={at} plan={plan} way={way} show={show} /> : null}
        </div>
      </section>
    </WaysFrame>
  );
}

const under: [Schemas["Under"], string][] = [
  ["new", "New or bare part"],
  ["over", "Over the old finish"],
];

/** What the chosen way asks: a name, an answer, or to go there. */
function Foot({ plan, way, show }: { plan: Plan; way: Way; show: (ladder: string) => void }) {
  const u = useUnits();
  const go = useNavigate();
  const changed = useChanged();
  const [person, setPerson] = useState("");
  const [reason, setReason] = useState(`so that it can be ${aimNames[way.aim ?? plan.panel.aim] ?? "done"}`);
  const panel = plan.panel.id;
  const take = useMutation({
    mutationFn: async (facts: Schemas["PanelFacts"] | null) => {
      if (way.floor_um) await api.agreeFloor(panel, { id: newId(), floor_um: way.floor_um, person: person.trim(), reason });
      if (facts) await api.changePanel(panel, facts);
    },
    onSettled: () => changed("panel"),
  });
  const leave = useMutation({
    mutationFn: () => api.addProof(panel, { id: newId(), person: plan.car.painter, kind: "kept", note: "left as it is" }),
    onSuccess: async () => {
      await changed("panel");
      void go(car);
    },
  });
  const here = `/panels/${encodeURIComponent(panel)}`;
  const car = `/cars/${encodeURIComponent(plan.car.id)}`;
  const does: { key: string; act: () => void; off?: boolean } | null =
    way.code === "agreed_floor" || (way.code === "aim" && way.floor_um)
      ? { key: `Agreed, plan with ${u.um(way.floor_um ?? 0)}`, act: () => take.mutate(way.aim ? { aim: way.aim } : null), off: person.trim() === "" }
      : way.code === "aim"
        ? { key: way.head, act: () => way.aim && take.mutate({ aim: way.aim }) }
        : way.code === "softer_aim"
          ? { key: "Show it step by step", act: () => show("partial") }
          : way.code === "shelf"
            ? { key: "To the shelf", act: () => void go("/shelf") }
            : way.code === "coat"
              ? { key: "Leave it for now", act: () => void go(car) }
              : way.code === "leave"
                ? { key: "Leave it as it is", act: () => leave.mutate(), off: leave.isPending }
                : way.help === "under" || way.help === "coats"
                  ? null
                  : way.help === "car"
                    ? { key: "To the car's panels", act: () => void go(car) }
                    : { key: "To Read", act: () => void go(`${here}/read`) };
  useKeys({ Enter: () => (does && !does.off && !take.isPending ? does.act() : undefined), r: () => void go(`${here}/read`) });
  return (
    <form
      className="foot"
      onSubmit={(e) => {
        e.preventDefault();
        if (does && !does.off) does.act();
      }}
    >
      <div className={way.floor_um ? "say whole" : "say"}>
        {way.say ? (
          <>
            <b>Say to the owner:</b> {way.say}
          </>
        ) : (
          (way.how ?? hints[way.code] ?? "")
        )}
        {take.error ? <Notice text={take.error.message} /> : null}
        {leave.error ? <Notice text={leave.error.message} /> : null}
      </div>
      {way.floor_um ? (
        <>
          <Field label="who agreed" value={person} most={60} onChange={(e) => setPerson(e.target.value)} />
          <Field label="why" value={reason} most={200} onChange={(e) => setReason(e.target.value)} />
        </>
      ) : null}
      {way.help === "under" ? under.map(([v, name]) => <Answer key={v} name={name} busy={take.isPending} act={() => take.mutate({ under: v })} />) : null}
      {way.help === "coats" ? [2, 3].map((n) => <Answer key={n} name={`${n} coats`} busy={take.isPending} act={() => take.mutate({ coats: n })} />) : null}
      {does ? (
        <Button type="submit" variant="tape" disabled={does.off === true || take.isPending} sx={{ minHeight: 56 }}>
          {does.key} <span className="kc">Enter</span>
        </Button>
      ) : null}
    </form>
  );
}

const hints: Record<string, string> = {
  coat: "Spray it, let it cure, and say under facts (F) how many coats it has then. Its readings start anew.",
  leave: "It counts as looked at and left, and its work is done. What stays is told with the car, under what will not come out; Prove takes it back.",
  aim: "The aim of this panel changes; facts (F) change it back.",
  softer_aim: "The furthest the film allows; the peel that stays is told to the owner.",
};

function Answer({ name, busy, act }: { name: string; busy: boolean; act: () => void }) {
  return (
    <Button onClick={act} disabled={busy} sx={{ minHeight: 56 }}>
      {name}
    </Button>
  );
}
