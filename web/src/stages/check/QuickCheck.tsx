import { Box, Button, Table, TableBody, TableCell, TableHead, TableRow } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { useNavigate } from "react-router";
import { api, newId, type Schemas } from "../../api/client";
import { useCheck, usePeople } from "../../api/queries";
import { useKeys } from "../../app/keys";
import { Page } from "../../app/Page";
import { useUnits } from "../../app/units";
import { ClearShape } from "../../drawing/ClearShape";
import { StateTab } from "../../drawing/StateTab";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { CheckFrame } from "./Frame";

type Check = Schemas["Check"];
type Ask = Omit<Schemas["CheckFor"], "total_um">;
type Sprayed = "factory" | "here" | "elsewhere" | "single";

const sprayers: [Sprayed, string][] = [
  ["factory", "factory"],
  ["here", "here"],
  ["elsewhere", "elsewhere"],
  ["single", "colour only"],
];
const coats: [string, string][] = [
  ["1", "1"],
  ["2", "2"],
  ["3", "3"],
  ["4", "4"],
  ["0", "not known"],
];
const unders: [Schemas["Under"], string][] = [
  ["new", "new part or bare"],
  ["over", "over the old finish"],
  ["unknown", "not known"],
];
const aims: [Schemas["Aim"], string][] = [
  ["nibs", "nibs only"],
  ["match", "match"],
  ["flat", "flat"],
  ["polish", "polish only"],
];
const colours: [Schemas["Colour"], string][] = [
  ["light", "light"],
  ["medium", "medium"],
  ["dark", "dark"],
];
const peels: [number, string][] = [
  [2, "glass"],
  [4, "factory"],
  [6, "gun finish"],
  [8, "rough"],
  [10, "heavy"],
];

const yesNo: ["yes" | "no", string][] = [
  ["no", "no"],
  ["yes", "yes"],
];

/** The next of a row of choices, for its key. */
function after<T>(options: [T, string][], now: T): T {
  const i = options.findIndex(([v]) => v === now);
  return (options[(i + 1) % options.length] ?? options[0] as [T, string])[0];
}

/** The page itself asks for nothing. */
const still = { error: null, isPending: false, refetch: () => undefined };

/** The size of the loose panel, mm, that a check is kept as: about a door. */
const door = { width_mm: 1000, height_mm: 700 };

/** May I sand this? What is known on the left, the answer on the right, nothing kept until somebody says so. */
export default function QuickCheck() {
  const u = useUnits();
  const go = useNavigate();
  const people = usePeople().data;
  const [typed, setTyped] = useState("");
  const [films, setFilms] = useState<number[]>([]);
  const [sprayed, setSprayed] = useState<Sprayed>("elsewhere");
  const [facts, setFacts] = useState({ coats: 0, under: "unknown" as Schemas["Under"], aim: "flat" as Schemas["Aim"], peel_grade: 6, colour: "medium" as Schemas["Colour"], floor_um: 0 });
  const [polished, setPolished] = useState(false);
  const film = useRef<HTMLInputElement>(null);
  const now = Number(typed.replace(",", "."));
  const all = typed.trim() !== "" && now > 0 ? [...films, u.typed(now)] : films;
  const total = all.length > 0 ? all.reduce((a, b) => a + b, 0) / all.length : 0;
  const refinished = sprayed === "here" || sprayed === "elsewhere";
  const finish = sprayed === "factory" ? "factory" : sprayed === "single" ? "single_stage" : "refinished";
  const ask: Ask = { finish, aim: facts.aim, peel_grade: facts.peel_grade, colour: facts.colour, ...(refinished ? { coats: facts.coats, under: facts.under } : {}), ...(sprayed === "factory" && polished ? { polished } : {}), ...(facts.floor_um > 0 ? { floor_um: facts.floor_um } : {}) };
  const query = useCheck(total > 0 ? { ...ask, total_um: total } : null);
  const check = total > 0 ? query.data : undefined;
  // A floor was agreed for the aim that was asked about.
  const set = (change: Partial<typeof facts>) => setFacts((f) => ({ ...f, ...("aim" in change ? { floor_um: 0 } : {}), ...change }));
  const more = () => {
    if (!(now > 0)) return;
    setFilms(all);
    setTyped("");
    film.current?.focus();
  };
  const anew = () => {
    setFilms([]);
    setTyped("");
    setFacts({ coats: 0, under: "unknown", aim: facts.aim, peel_grade: 6, colour: facts.colour, floor_um: 0 });
    film.current?.focus();
  };
  const keep = useMutation({
    mutationFn: async () => {
      const said: Schemas["PanelFacts"] = { origin: sprayed === "single" ? "elsewhere" : sprayed, layers: sprayed === "single" ? "single" : "clear", aim: facts.aim, peel_grade: facts.peel_grade, ...(refinished ? { coats: facts.coats, under: facts.under } : {}), ...(sprayed === "factory" && polished ? { past: ["polished"] } : {}) };
      const car = await api.takeIn({ name: `Quick check ${u.clock(new Date())}`, body: "loose", colour: facts.colour, painter: people?.people[0]?.name ?? "the shop", ...door, groups: [{ keys: ["panel"], facts: said }] });
      const panel = car.next.panel_id;
      for (const um of all) {
        const [at] = (await api.read(panel)).next;
        if (at) await api.addReading(panel, { id: newId(), x_mm: at.x_mm, y_mm: at.y_mm, film: um, unit: "um", phase: "total", sure: "taken over from the quick check" });
      }
      return panel;
    },
    onSuccess: (panel) => void go(`/panels/${encodeURIComponent(panel)}/read`),
  });
  const keepIt = () => {
    if (all.length > 0 && !keep.isPending) keep.mutate();
  };
  useKeys({
    k: keepIt,
    n: anew,
    s: () => setSprayed(after(sprayers, sprayed)),
    c: () => set({ coats: Number(after(coats, String(facts.coats))) }),
    u: () => set({ under: after(unders, facts.under) }),
    b: () => setPolished(!polished),
    a: () => set({ aim: after(aims, facts.aim) }),
    p: () => set({ peel_grade: after(peels, facts.peel_grade) }),
    d: () => set({ colour: after(colours, facts.colour) }),
    Escape: () => void go("/"),
  });
  return (
    <Page
      title="Quick check"
      sub="may I sand this?"
      home="/"
      who="the shop"
      middle={
        <Box sx={{ paddingTop: 15 }}>
          <Box className="t" sx={{ fontSize: 20, lineHeight: "23px" }}>
            May I sand this?
          </Box>
          <div className="s">Nothing is kept until you say so.</div>
        </Box>
      }
      query={still}
      keys={[
        { keys: "Enter", does: "one more reading" },
        { keys: "S C U B A P D", does: "step through a row" },
        { keys: "K", does: "keep as a car" },
        { keys: "N", does: "start over" },
        { keys: "Esc", does: "to Today" },
      ]}
    >
      <CheckFrame>
        <section aria-label="What is known">
          <form
            onSubmit={(e) => {
              e.preventDefault();
              more();
            }}
          >
            <div className="film">
              <Box sx={{ flex: "1 1 180px" }}>
                <Field label="film in all, one reading will do" number unit={u.name} autoFocus inputRef={film} value={typed} placeholder="–" onChange={(e) => setTyped(e.target.value)} />
              </Box>
              <Button type="submit" sx={{ minHeight: 56 }} disabled={!(now > 0)}>
                One more reading <span className="kc">Enter</span>
              </Button>
            </div>
            {films.length > 0 ? (
              <Box className="film" sx={{ paddingTop: 8 }}>
                {films.map((um, i) => (
                  <Button key={i} variant="quiet" aria-label={`strike out ${u.um(um)} ${u.name}`} onClick={() => setFilms(films.filter((_, j) => j !== i))}>
                    {u.um(um)} ×
                  </Button>
                ))}
                <span className="s">
                  mean <b className="n">{u.um(total)}</b> {u.name}
                </span>
              </Box>
            ) : null}
          </form>
          <Choice label="who sprayed it · S" value={sprayed} options={sprayers} set={setSprayed} />
          {refinished ? (
            <>
              <Choice label="coats of clear · C" value={String(facts.coats)} options={coats} set={(v) => set({ coats: Number(v) })} />
              <Choice label="what lies under it · U" value={facts.under} options={unders} set={(under) => set({ under })} />
            </>
          ) : null}
          {sprayed === "factory" ? <Choice label="polished before · B" value={polished ? "yes" : "no"} options={yesNo} set={(v) => setPolished(v === "yes")} /> : null}
          <Choice label="aim · A" value={facts.aim} options={aims} set={(aim) => set({ aim })} />
          <div role="group" aria-label="how strip lamps look in it now">
            <div className="lab">how strip lamps look in it now · P</div>
            <div className="peels">
              {peels.map(([grade, name]) => (
                <Button key={grade} variant="row" aria-pressed={facts.peel_grade === grade} onClick={() => set({ peel_grade: grade })}>
                  <img src={`/api/peel/${grade}/picture?colour=${facts.colour}`} alt="" />
                  <b>{grade}</b> {name}
                </Button>
              ))}
            </div>
          </div>
          {facts.floor_um > 0 ? (
            <Box className="film">
              <Button variant="quiet" onClick={() => set({ floor_um: 0 })}>
                the owner agrees to {u.um(facts.floor_um)} {u.name} ×
              </Button>
            </Box>
          ) : null}
          <Choice label="colour · D" value={facts.colour} options={colours} set={(colour) => set({ colour })} />
          {check && check.helps.length > 0 ? <Helps helps={check.helps} set={set} /> : null}
        </section>
        <section className="answer" aria-label="The answer" aria-live="polite">
          {query.error && total > 0 ? <Notice text={query.error.message} /> : check ? <Answer check={check} set={set} /> : <p>Type what the gauge shows.</p>}
          {keep.error ? <Notice text={keep.error.message} /> : null}
          <div className="keys2">
            <Button onClick={anew}>
              Start over <span className="kc">N</span>
            </Button>
            <Button onClick={() => void go("/")}>
              To Today <span className="kc">Esc</span>
            </Button>
          </div>
        </section>
        <section className="core" aria-label="The clear">
          {check ? <ClearShape u={u} clear={check.clear_um} spend={check.spend_um} floor={check.floor_um} height={500} /> : null}
          <Button variant="tape" disabled={all.length === 0 || keep.isPending} onClick={keepIt} sx={{ minHeight: 56 }}>
            Keep as a car <span className="kc">K</span>
          </Button>
        </section>
      </CheckFrame>
    </Page>
  );
}

function Answer({ check, set }: { check: Check; set: (change: { coats?: number; under?: Schemas["Under"]; aim?: Schemas["Aim"]; floor_um?: number }) => void }) {
  const u = useUnits();
  return (
    <>
      <div className="state t">
        <StateTab state={check.state} />
      </div>
      <div>
        <Box className="t" sx={{ fontSize: 20, lineHeight: "26px" }}>
          {check.headline}
        </Box>
        <p className="s">{check.advice}</p>
      </div>
      <div>
        <div className="chance">
          <span className="n">{check.chance_floor}</span>{" "}
          <span className="s">
            that less than {u.um(check.floor_um)} {u.name} stays
          </span>
        </div>
        <div className="chance">
          <span className="n">{check.chance_through}</span>{" "}
          <span className="s">that it goes through</span>
        </div>
      </div>
      {check.state === "shut" || check.steps.length === 0 ? null : (
        <Table>
          <TableHead>
            <TableRow>
              <TableCell>mildest way</TableCell>
              <TableCell align="right">{u.name}</TableCell>
              <TableCell align="right">passes</TableCell>
              <TableCell align="right">min</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {check.steps.map((s, i) => (
              <TableRow key={i}>
                <TableCell>
                  <b>{s.title}</b> <span className="s">{s.what}</span>
                </TableCell>
                <TableCell align="right" className="n">{u.um(s.film_um)}</TableCell>
                <TableCell align="right" className="n">{s.passes}</TableCell>
                <TableCell align="right" className="n">{s.minutes.toFixed(0)}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
      <p>
        <b>Why.</b> {check.why}
      </p>
      {check.ways.length === 0 ? null : check.state === "open" ? (
        <div>
          <div className="lab">milder aims on the same paint</div>
          <div className="keys2">
            {check.ways.filter((w) => aims.some(([v]) => v === w.code)).map((w) => (
              <Button key={w.code} variant="link" aria-label={w.text} onClick={() => set({ aim: w.code as Schemas["Aim"] })}>
                <StateTab state={w.state} word={false} /> {aims.find(([v]) => v === w.code)?.[1]}
              </Button>
            ))}
          </div>
        </div>
      ) : (
        <div>
          <h2 className="heading t">What can be done</h2>
          {check.ways.map((w) => (
            <div key={w.code} className="way">
              <StateTab state={w.state} />
              {w.code !== "leave" ? (
                <Button variant="link" onClick={() => set(w.code === "agreed_floor" ? { floor_um: w.floor_um } : { aim: w.code as Schemas["Aim"] })}>
                  {w.text}
                </Button>
              ) : (
                <span>{w.text}</span>
              )}
            </div>
          ))}
        </div>
      )}
    </>
  );
}

/** Questions that nobody has answered yet, with what each answer would bring. */
function Helps({ helps, set }: { helps: Check["helps"]; set: (change: { coats?: number; under?: Schemas["Under"] }) => void }) {
  return (
    <Box sx={{ borderTop: "2px solid var(--ink)", paddingTop: 8 }}>
      <h2 className="heading t">What would help</h2>
      <div className="helps">
        {helps.map((h) => (
          <div key={h.code} role="group" aria-label={h.text}>
            <b>{h.text}</b>
            {h.answers.map((a) => (
              <Button key={a.answer} variant="link" aria-label={`${a.text}, ${a.state}`} onClick={() => set(h.code === "under" ? { under: a.answer as Schemas["Under"] } : { coats: Number(a.answer) })}>
                <StateTab state={a.state} word={false} /> {a.text}
              </Button>
            ))}
          </div>
        ))}
      </div>
    </Box>
  );
}
