import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useSearchParams } from "react-router";
import { useCars, useChanged, useRules, useSchools } from "../api/queries";
import { Choice } from "../ui/Choice";
import { Pick } from "../ui/Field";
import { api, type Schemas } from "../api/client";
import { Scroll } from "../ui/Scroll";
import { Notice } from "../ui/Notice";
import { Page } from "../app/Page";
import { useKeys } from "../app/keys";
import { capital, short } from "../app/format";
import { useUnits } from "../app/units";
import { RulesFrame } from "./RulesFrame";

type Rule = Schemas["HouseRule"];

/** What practitioners disagree on: the school the shop follows, and what it comes to on a car. */
export default function RulesPage() {
  const [params, setParams] = useSearchParams();
  const rules = useRules();
  const cars = useCars();
  const question = params.get("question") ?? "flatten";
  const car = params.get("car") ?? cars.data?.cars[0]?.id ?? "";
  const changed = useChanged();
  const follow = useMutation({ mutationFn: api.setRule, onSettled: () => changed("house") });
  const list = rules.data ?? [];
  const at = list.findIndex((r) => r.key === question);
  const show = (key: string) => setParams({ question: key, ...(car ? { car } : {}) }, { replace: true });
  const step = (by: number) => {
    const next = list[Math.min(Math.max(at + by, 0), list.length - 1)];
    if (next) show(next.key);
  };
  useKeys({ ArrowDown: () => step(1), ArrowUp: () => step(-1) });
  return (
    <Page title="House rules" sub="where practitioners disagree" home="/" who="the shop" middle={<Box sx={{ paddingTop: 15 }}><Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>One car under each school</Box><div className="s">what each comes to, side by side</div></Box>} query={rules} keys={[{ keys: "↑ ↓", does: "from question to question" }]}>
      {rules.data ? (
        <RulesFrame>
          <section aria-label="House rules">
            <h2 className="heading t">
              Which school this shop follows <span className="s">none of them is called right</span>
            </h2>
            {list.map((r) => (
              <RuleLine key={r.key} rule={r} on={r.key === question} show={() => show(r.key)} follow={(school) => { show(r.key); follow.mutate({ key: r.key, school, was: r.chosen }); }} />
            ))}
            {follow.error ? <Notice text={follow.error.message} /> : null}
          </section>
          <section aria-label="Side by side">
            {car ? <SideBySide car={car} question={question} cars={cars.data?.cars ?? []} choose={(id) => setParams({ question, car: id }, { replace: true })} /> : <p className="s">Take a car in, and the schools are compared on it.</p>}
          </section>
        </RulesFrame>
      ) : null}
    </Page>
  );
}

function RuleLine({ rule, on, show, follow }: { rule: Rule; on: boolean; show: () => void; follow: (school: string) => void }) {
  const chosen = rule.schools.find((s) => s.key === rule.chosen);
  return (
    <div className={`rule ${on ? "on" : ""}`}>
      <Button variant="row" aria-pressed={on} onClick={show}>
        {rule.question}
      </Button>
      <div>
        <Choice label={rule.question} silent value={rule.chosen} options={rule.schools.map((s) => [s.key, s.name] as const)} set={follow} />
        {on ? <p className="xs">{chosen?.says}</p> : null}
      </div>
    </div>
  );
}

function SideBySide({ car, question, cars, choose }: { car: string; question: string; cars: { id: string; name: string }[]; choose: (id: string) => void }) {
  const u = useUnits();
  const query = useSchools(car, question);
  const d = query.data;
  return (
    <>
      <Box component="h2" className="heading t" sx={{ display: "flex", gap: 10, alignItems: "baseline" }}>
        <Box component="span" sx={{ whiteSpace: "nowrap" }}>
          The same car,
        </Box>
        <Pick label="The same car," silent value={car} set={choose}>
          {cars.map((c) => (
            <option key={c.id} value={c.id}>
              {c.name}
            </option>
          ))}
        </Pick>
      </Box>
      {query.error ? <Notice text={query.error.message} /> : null}
      {d ? (
        <>
          <Box component="p" className="s" sx={{ padding: "6px 0" }}>
            <span className="b">{d.rule.question}.</span> {d.text}
          </Box>
          <Scroll label="Side by side">
            <Table sx={{ "& .MuiTableCell-root": { whiteSpace: "normal" } }}>
              <TableHead>
                <TableRow>
                  <TableCell />
                  {d.columns.map((c) => (
                    <TableCell align="right" key={c.school}>
                      {nameOf(d.rule, c.school)}
                    </TableCell>
                  ))}
                </TableRow>
              </TableHead>
              <TableBody>
                <Row name={`film, mean over the area, ${u.name}`} values={d.columns.map((c) => u.um(c.totals.film_um))} />
                <Row name={`film, most on a panel, ${u.name}`} values={d.columns.map((c) => u.um(c.totals.film_most_um))} />
                <Row name="hours" values={d.columns.map((c) => c.totals.hours.toFixed(1))} />
                <Row name="sheets" values={d.columns.map((c) => short(c.totals.sheets).replace(/\.0$/, ""))} />
                <Row name="discs" values={d.columns.map((c) => short(c.totals.discs).replace(/\.0$/, ""))} />
                <Row name={`cost, ${u.money}`} values={d.columns.map((c) => c.totals.money.toFixed(0))} />
                <Row name="clarity, the least" values={d.columns.map((c) => c.totals.clarity.toFixed(0))} />
                <Row name="panels that end as asked" values={d.columns.map((c) => `${c.totals.reached} of ${c.totals.panels}`)} />
              </TableBody>
            </Table>
          </Scroll>
          <Box component="h3" className="heading t" sx={{ marginTop: 14 }}>
            Panel by panel
          </Box>
          {d.columns[0]?.panels.map((p, i) => (
            <Box key={p.name} sx={{ borderBottom: "1px solid var(--line)", padding: "5px 0" }}>
              <span className="b">{capital(p.name)}</span>
              {d.columns.map((c) => {
                const q = c.panels[i];
                return q ? (
                  <p key={c.school} className="s">
                    <span className="b">{nameOf(d.rule, c.school)}:</span> {q.reached ? `${u.um(q.film_um)} ${u.name}, ${q.hours.toFixed(1)} h, clarity ${q.clarity.toFixed(0)}. ` : ""}
                    {q.text}
                  </p>
                ) : null;
              })}
            </Box>
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
    <TableRow selected={differ}>
      <TableCell>{name}</TableCell>
      {values.map((v, i) => (
        <TableCell align="right" key={i} className="n">
          {v}
        </TableCell>
      ))}
    </TableRow>
  );
}
