import { keepPreviousData, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { api, type Schemas } from "../api/client";
import { Notice } from "../ui/Notice";
import { Page } from "../app/Page";
import { useKeys } from "../app/keys";
import { capital, short, um, unitName } from "../app/format";

type Rule = Schemas["HouseRule"];

/** What practitioners disagree on: the school the shop follows, and what it comes to on a car. */
export default function RulesPage() {
  const [params, setParams] = useSearchParams();
  const rules = useQuery({ queryKey: ["rules"], queryFn: api.rules });
  const cars = useQuery({ queryKey: ["cars"], queryFn: api.cars });
  const question = params.get("question") ?? "flatten";
  const car = params.get("car") ?? cars.data?.[0]?.id ?? "";
  const queries = useQueryClient();
  const follow = useMutation({ mutationFn: api.setRule, onSettled: () => queries.invalidateQueries() });
  const list = rules.data ?? [];
  const at = list.findIndex((r) => r.key === question);
  const show = (key: string) => setParams({ question: key, ...(car ? { car } : {}) }, { replace: true });
  const step = (by: number) => {
    const next = list[Math.min(Math.max(at + by, 0), list.length - 1)];
    if (next) show(next.key);
  };
  useKeys({ ArrowDown: () => step(1), ArrowUp: () => step(-1) });
  return (
    <Page title="House rules" sub="where practitioners disagree" home="/" who="the shop" middle={<div style={{ paddingTop: 15 }}><div className="t" style={{ fontSize: 20, lineHeight: "23px" }}>One car under each school</div><div className="s">what each comes to, side by side</div></div>} query={rules} keys={[{ keys: "↑ ↓", does: "from question to question" }]}>
      {rules.data ? (
        <div className="rules">
          <section aria-label="House rules">
            <h2 className="heading t">
              Which school this shop follows <span className="s">none of them is called right</span>
            </h2>
            {list.map((r) => (
              <RuleLine key={r.key} rule={r} on={r.key === question} show={() => show(r.key)} follow={(school) => { show(r.key); follow.mutate({ key: r.key, school }); }} />
            ))}
            {follow.error ? <Notice text={follow.error.message} /> : null}
          </section>
          <section aria-label="Side by side">
            {car ? <SideBySide car={car} question={question} cars={cars.data ?? []} choose={(id) => setParams({ question, car: id }, { replace: true })} /> : <p className="s">Take a car in, and the schools are compared on it.</p>}
          </section>
        </div>
      ) : null}
    </Page>
  );
}

function RuleLine({ rule, on, show, follow }: { rule: Rule; on: boolean; show: () => void; follow: (school: string) => void }) {
  const chosen = rule.schools.find((s) => s.key === rule.chosen);
  return (
    <div className={`rule ${on ? "on" : ""}`}>
      <button type="button" aria-pressed={on} onClick={show}>
        {rule.question}
      </button>
      <div>
        <div className="one" role="group" aria-label={rule.question}>
          {rule.schools.map((s) => (
            <button key={s.key} type="button" aria-pressed={s.key === rule.chosen} title={s.says} onClick={() => follow(s.key)}>
              {s.name}
            </button>
          ))}
        </div>
        {on ? <p className="xs">{chosen?.says}</p> : null}
      </div>
    </div>
  );
}

function SideBySide({ car, question, cars, choose }: { car: string; question: string; cars: { id: string; name: string }[]; choose: (id: string) => void }) {
  const query = useQuery({ queryKey: ["schools", car, question], queryFn: () => api.schools(car, question), placeholderData: keepPreviousData });
  const d = query.data;
  return (
    <>
      <h2 className="heading t" style={{ display: "flex", gap: 10, alignItems: "baseline" }}>
        <label htmlFor="onCar">The same car,</label>
        <select id="onCar" className="plain" style={{ width: "auto", height: 34 }} value={car} onChange={(e) => choose(e.target.value)}>
          {cars.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </select>
      </h2>
      {query.error ? <Notice text={query.error.message} /> : null}
      {d ? (
        <>
          <p className="s" style={{ padding: "6px 0" }}>
            <span className="b">{d.rule.question}.</span> {d.text}
          </p>
          <div style={{ overflow: "auto" }} tabIndex={0} role="region" aria-label="Side by side">
            <table className="tb">
              <thead>
                <tr>
                  <th />
                  {d.columns.map((c) => (
                    <th key={c.school} className="r">
                      {nameOf(d.rule, c.school)}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                <Row name={`film, mean over the area, ${unitName()}`} values={d.columns.map((c) => um(c.totals.film_um))} />
                <Row name={`film, most on a panel, ${unitName()}`} values={d.columns.map((c) => um(c.totals.film_most_um))} />
                <Row name="hours" values={d.columns.map((c) => c.totals.hours.toFixed(1))} />
                <Row name="sheets" values={d.columns.map((c) => short(c.totals.sheets).replace(/\.0$/, ""))} />
                <Row name="discs" values={d.columns.map((c) => short(c.totals.discs).replace(/\.0$/, ""))} />
                <Row name="cost, €" values={d.columns.map((c) => c.totals.money.toFixed(0))} />
                <Row name="clarity, the least" values={d.columns.map((c) => c.totals.clarity.toFixed(0))} />
                <Row name="panels that end as asked" values={d.columns.map((c) => `${c.totals.reached} of ${c.totals.panels}`)} />
              </tbody>
            </table>
          </div>
          <h3 className="heading t" style={{ marginTop: 14 }}>
            Panel by panel
          </h3>
          {d.columns[0]?.panels.map((p, i) => (
            <div key={p.name} style={{ borderBottom: "1px solid var(--line)", padding: "5px 0" }}>
              <span className="b">{capital(p.name)}</span>
              {d.columns.map((c) => {
                const q = c.panels[i];
                return q ? (
                  <p key={c.school} className="s">
                    <span className="b">{nameOf(d.rule, c.school)}:</span> {q.reached ? `${um(q.film_um)} ${unitName()}, ${q.hours.toFixed(1)} h, clarity ${q.clarity.toFixed(0)}. ` : ""}
                    {q.text}
                  </p>
                ) : null;
              })}
            </div>
          ))}
        </>
      ) : null}
    </>
  );
}

function nameOf(rule: Rule, school: string): string {
  return rule.schools.find((s) => s.key === school)?.name ?? school;
}

function Row({ name, values }: { name: string; values: string[] }) {
  const differ = new Set(values).size > 1;
  return (
    <tr className={differ ? "on" : undefined}>
      <td>{name}</td>
      {values.map((v, i) => (
        <td key={i} className="n r">
          {v}
        </td>
      ))}
    </tr>
  );
}
