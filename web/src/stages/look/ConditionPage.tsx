import { Box, Button } from "@mui/material";
import { useState } from "react";
import { useMutation } from "@tanstack/react-query";
import { useNavigate, useParams } from "react-router";
import { api, type Schemas } from "../../api/client";
import { useCar, useChanged, useCondition } from "../../api/queries";
import { PanelView } from "../../drawing/PanelView";
import { areasPath } from "../../drawing/geometry";
import { StateTab } from "../../drawing/StateTab";
import { Pick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { Page } from "../../app/Page";
import { useKeys } from "../../app/keys";
import { stageNotes } from "../../app/stageNotes";
import { count } from "../../app/format";
import { useUnits } from "../../app/units";
import { ConditionFrame } from "./ConditionFrame";

type Looks = Schemas["Looks"];

interface Grades {
  swirls?: Schemas["Swirls"];
  dead?: Schemas["Dead"];
}

/** What was pressed and is not kept yet. */
interface Draft extends Grades {
  wet_test?: Schemas["WetTest"];
  cloth_test?: Schemas["ClothTest"];
  water_spots?: boolean;
  haze?: boolean;
  gone?: number;
  aim?: "polish";
}

export default function ConditionPage() {
  const { panelId = "" } = useParams();
  return <Comparing key={panelId} panelId={panelId} />;
}

function Picture({ looks, wet, no, chosen, choose }: { looks: Looks; wet?: boolean; no: number; chosen: boolean; choose: () => void }) {
  const query = new URLSearchParams({ swirls: looks.swirls, dead: looks.dead, ...(wet ? { wet: "true" } : {}) });
  return (
    <Button variant="row" className="lamp" aria-pressed={chosen} aria-label={wet ? `dead layer ${looks.title}` : `swirls ${looks.title}`} onClick={choose}>
      <img src={`/api/lamp/picture?${query.toString()}`} alt={wet ? `dry left, wet right: ${looks.title}` : `one lamp in paint: ${looks.title}`} />
      <span className="said">
        <span className="lampname">
          <span>
            {chosen ? "✓ " : ""}
            {looks.title}
          </span>
          <span className="kc">{no}</span>
        </span>
        {looks.lines.map((l) => (
          <span key={l} className="s">
            {l}
          </span>
        ))}
      </span>
    </Button>
  );
}

function Test({ label, options, value, set }: { label: string; options: [string, string, string, string][]; value: string; set: (v: string) => void }) {
  return (
    <Box role="group" aria-label={label} className="test">
      <p>
        <b>{label}</b>
      </p>
      <div>
        {options.map(([key, v, title, means]) => (
          <Button key={v} aria-pressed={value === v} className={value === v ? "on" : ""} onClick={() => set(v)}>
            <span>
              {title}
              <span className="s sub">{means}</span>
            </span>
            <span className="kc">{key}</span>
          </Button>
        ))}
      </div>
    </Box>
  );
}

/** How many strokes a grade of swirls is drawn with, and how dark. */
const strokes: Record<Schemas["Swirls"], [number, number]> = { none: [0, 0], light: [50, 0.3], medium: [110, 0.45], heavy: [220, 0.65] };

/** A number from 0 to 1 that looks drawn by lot, the same for the same place in the list. */
const lot = (i: number) => {
  const v = Math.sin(i * 127.1 + 311.7) * 43758.5453;
  return v - Math.floor(v);
};

/** The condition on the panel: more and darker strokes are worse; a dead layer lies grey over it. */
function Strokes({ panel, swirls, chalked, k }: { panel: Schemas["Panel"]; swirls: Schemas["Swirls"] | undefined; chalked: boolean; k: number }) {
  const [n, dark] = strokes[swirls ?? "none"];
  return (
    <g pointerEvents="none" fill="none" stroke="var(--ink)" strokeOpacity={dark} strokeWidth={1.1 * k}>
      {chalked ? <rect width={panel.width_mm} height={panel.height_mm} fill="var(--ink)" fillOpacity="0.12" stroke="none" /> : null}
      {Array.from({ length: n }, (_, i) => {
        const turn = 2 * Math.PI * lot(3 * i + 2);
        const reach = (10 + 8 * lot(i + 7000)) * k;
        const x = panel.width_mm * lot(3 * i);
        const y = panel.height_mm * lot(3 * i + 1);
        return <path key={i} d={`M${x} ${y}q${reach * Math.cos(turn)} ${reach * Math.sin(turn)} ${reach * Math.cos(turn + 0.6) * 2} ${reach * Math.sin(turn + 0.6) * 2}`} />;
      })}
    </g>
  );
}

const washes: Record<Schemas["Swirls"], number> = { none: 0, light: 0.08, medium: 0.16, heavy: 0.28 };

/** Sections that look other than the panel, and the one in hand. */
function Parts({ sections, parts, part, take }: { sections: Schemas["Section"][]; parts: Schemas["Part"][]; part: string; take: (key: string) => void }) {
  return (
    <g cursor="pointer">
      {sections.map((s) => {
        const said = parts.find((p) => p.section === s.key);
        return <path key={s.key} d={areasPath(s.outlines)} fill={s.key === part ? "var(--tape)" : "var(--ink)"} fillOpacity={s.key === part ? 0.55 : washes[said?.swirls ?? "none"]} stroke="var(--ink)" strokeDasharray="5 4" vectorEffect="non-scaling-stroke" onClick={() => take(s.key === part ? "" : s.key)} />;
      })}
    </g>
  );
}

/** The condition of a panel, by pictures to hold beside it. */
function Comparing({ panelId }: { panelId: string }) {
  const u = useUnits();
  const go = useNavigate();
  const changed = useChanged();
  const [draft, setDraft] = useState<Draft>({});
  // The section in hand, empty for the whole panel, and what was pressed for it.
  const [part, setPart] = useState("");
  const [looks, setLooks] = useState<Grades>({});
  const take = (key: string) => {
    setPart(key);
    setLooks({});
  };
  const query = useCondition(panelId, draft.swirls, draft.dead);
  const data = query.data;
  const car = useCar(data?.panel.car_id).data;
  const said = data?.condition;
  const own = said?.parts.find((p) => p.section === part);
  const section = data?.sections.find((s) => s.key === part);
  const swirls = looks.swirls ?? own?.swirls ?? draft.swirls ?? said?.swirls;
  const dead = looks.dead ?? own?.dead ?? draft.dead ?? said?.dead;
  const gone = draft.gone ?? said?.gone ?? 0;
  const wet = draft.wet_test ?? said?.wet_test ?? "";
  const cloth = draft.cloth_test ?? said?.cloth_test ?? "";
  const set = (more: Draft) => setDraft((d) => ({ ...d, ...more }));
  const keep = useMutation({
    mutationFn: async (keys: string[]) => {
      if (!data) return;
      if (part) {
        await api.setPart(panelId, { section: part, ...(swirls ? { swirls } : {}), ...(dead ? { dead } : {}) });
        return;
      }
      const facts: Schemas["PanelFacts"] = { ...draft, ...(swirls && !draft.swirls ? { swirls } : {}), ...(dead && !draft.dead ? { dead } : {}), gone };
      if (keys.length > 0) await api.changePanels(data.panel.car_id, keys, facts);
      else await api.changePanel(panelId, facts);
    },
    onSuccess: async () => {
      if (part) setLooks({});
      else setDraft({});
      await changed("panel");
    },
  });
  const ids = car?.panels.filter((p) => p.substrate !== "plastic").map((p) => p.id) ?? [];
  const beside = (step: number) => {
    const at = ids.indexOf(panelId);
    const to = ids[(at + step + ids.length) % ids.length];
    if (to && to !== panelId) void go(`/panels/${encodeURIComponent(to)}/condition`);
  };
  const asRest = useMutation({ mutationFn: () => api.setPart(panelId, { section: part }), onSettled: () => changed("panel") });
  const press = (more: Grades) => (part ? setLooks((l) => ({ ...l, ...more })) : set(more));
  const pick = (l: Looks) => press({ swirls: l.swirls, dead: l.dead });
  const dirty = part ? Object.keys(looks).length > 0 : Object.keys(draft).length > 0;
  const nextPart = () => {
    const all = ["", ...(data?.sections.map((s) => s.key) ?? [])];
    take(all[(all.indexOf(part) + 1) % all.length] ?? "");
  };
  const keys: Record<string, () => void> = {
    y: () => set({ wet_test: "gloss" }),
    n: () => set({ wet_test: "dull" }),
    v: () => set({ cloth_test: "colour" }),
    g: () => set({ cloth_test: "clean" }),
    w: () => set({ water_spots: !(draft.water_spots ?? said?.water_spots) }),
    h: () => set({ haze: !(draft.haze ?? said?.haze) }),
    u: () => (part ? setLooks({}) : setDraft({})),
    z: nextPart,
    m: () => void go(`/panels/${encodeURIComponent(panelId)}/look`),
    l: () => data && !part && keep.mutate(data.alike),
    Enter: () => (dirty ? keep.mutate([]) : void go(`/panels/${encodeURIComponent(panelId)}/plan`)),
    "[": () => beside(-1),
    "]": () => beside(1),
    Escape: () => void go(`/panels/${encodeURIComponent(panelId)}/look`),
  };
  data?.swirls.forEach((l, i) => (keys[String(i + 1)] = () => pick(l)));
  data?.dead.forEach((l, i) => (keys[String(i + 1 + (data.swirls.length ?? 0))] = () => press({ dead: l.dead })));
  useKeys(keys);
  const shares = said?.shares ?? [];
  const chalked = dead !== undefined && dead !== "none";
  const like = data?.swirls.filter((l) => l.swirls === swirls) ?? [];
  const seen = like.find((l) => (l.dead !== "none") === chalked) ?? like[0];
  return (
    <Page
      title={data?.car.name ?? "Condition"}
      sub={data ? `${data.panel.name} · condition` : ""}
      home={data ? `/cars/${encodeURIComponent(data.car.id)}` : "/"}
      who={data?.car.painter ?? ""}
      stage={{ current: 1, notes: data ? stageNotes(data.panel, data.car, { 1: `panel ${data.panel_no} of ${data.panels}` }) : {} }}
      query={query}
      keys={[
        { keys: "1–5", does: "what one lamp shows" },
        { keys: "6–8", does: "how dead the paint is, wet beside dry" },
        { keys: "Y, N", does: "water brings the gloss back, or not" },
        { keys: "V, G", does: "the cloth shows colour, or stays clean" },
        { keys: "Z", does: "the next part in hand, where it looks other than the panel" },
        { keys: "M", does: "a scratch stands out: mark it" },
        { keys: "W, H", does: "water spots, haze" },
        { keys: "Enter", does: "keep for this panel; then on to Plan" },
        { keys: "L", does: "keep for the panels that lie alike" },
        { keys: "[ ]", does: "previous, next panel" },
        { keys: "Esc", does: "back to the marks" },
      ]}
    >
      {data && said ? (
        <ConditionFrame>
          <section className="panelside" aria-label="The panel">
            <h2 className="t">{data.panel.name}</h2>
            <div className="outline">
              <PanelView u={u} panel={data.panel} label={`${data.panel.name}, ${swirls ? `swirls ${swirls}` : "not said yet"}`} inside={(k) => (
                  <>
                    <Strokes panel={data.panel} swirls={draft.swirls ?? said.swirls} chalked={chalked} k={k} />
                    <Parts sections={data.sections} parts={said.parts} part={part} take={take} />
                  </>
                )} />
            </div>
            <p className="s">{said.text}</p>
            <Pick label="said of" value={part} set={take}>
              <option value="">the whole panel</option>
              {data.sections.map((s) => {
                const other = said.parts.find((p) => p.section === s.key);
                return (
                  <option key={s.key} value={s.key}>
                    {s.name}
                    {other ? `: ${[other.swirls, other.dead && other.dead !== "none" ? "chalked" : ""].filter(Boolean).join(", ")}` : ""}
                  </option>
                );
              })}
            </Pick>
            <p className="s">
              {own ? (
                <Button variant="link" disabled={asRest.isPending} onClick={() => asRest.mutate()}>
                  It looks as the rest
                </Button>
              ) : (
                <>
                  <Button variant="link" onClick={nextPart}>
                    A part looks other
                  </Button>{" "}
                  <span className="kc">Z</span>
                </>
              )}{" "}
              <Button variant="link" onClick={keys.m}>
                A scratch stands out
              </Button>{" "}
              <span className="kc">M</span>
            </p>
          </section>
          <section className="compared" aria-label="Which is it?">
            <h2 className="t">
              One lamp in the paint: which is it? <span className="s">washed, dry, no oil; lamp at arm&apos;s length; {u.mm(66)} of paint</span>
            </h2>
            <div className="lamps">
              {data.swirls.map((l, i) => (
                <Picture key={l.title} looks={l} no={i + 1} chosen={l === seen} choose={() => pick(l)} />
              ))}
            </div>
            <div className="second">
              <div>
                <h2 className="t">
                  Dead paint? Wet half of it <span className="s">dry left, wet right</span>
                </h2>
                <div className="lamps wet">
                  {data.dead.map((l, i) => (
                    <Picture key={l.title} looks={l} wet no={i + 1 + data.swirls.length} chosen={l.dead === dead} choose={() => press({ dead: l.dead })} />
                  ))}
                </div>
              </div>
              <div>
                <h2 className="t">Two tests</h2>
                <Test label="Does water bring the gloss back?" value={wet} set={(v) => set({ wet_test: v as Schemas["WetTest"] })} options={[["Y", "gloss", "yes", "dead on top"], ["N", "dull", "no", "swirls, etching"]]} />
                <Test label="Colour on a damp cloth?" value={cloth} set={(v) => set({ cloth_test: v as Schemas["ClothTest"] })} options={data.panel.layers === "single" ? [["V", "colour", "yes", "normal here"], ["G", "clean", "no", "no chalk left"]] : [["V", "colour", "yes", "clear gone: stop"], ["G", "clean", "no", "clear is whole"]]} />
              </div>
            </div>
            <div className="shares">
              {shares.length > 0 ? (
                <>
                  <p>
                    <b>How much should go?</b>
                    <br />
                    <span className="s">Swirls go with the film, in every colour alike. Gloss alone takes less.</span>
                  </p>
                  {shares.map((s) => (
                    <Button key={s.gone} variant="row" className="share" aria-pressed={Math.abs(gone - s.gone) < 0.001} onClick={() => set({ gone: s.gone })}>
                      <span className="s">
                        {Math.abs(gone - s.gone) < 0.001 ? "✓ " : ""}
                        {s.text}
                      </span>
                      <span>
                        <span className="n big">{u.um(s.removal_um)}</span> {u.name}
                      </span>
                      <span className="s">{s.chance ?? "not read yet"}</span>
                      {s.state ? <StateTab state={s.state} /> : null}
                    </Button>
                  ))}
                  {data.panel.aim !== "polish" ? (
                    <Button className={draft.aim ? "on" : ""} aria-pressed={draft.aim !== undefined} onClick={() => setDraft(({ aim, ...d }) => (aim ? d : { ...d, aim: "polish" }))}>
                      <span>
                        polish only <span className="s sub">the aim is {data.panel.aim} now</span>
                      </span>
                    </Button>
                  ) : null}
                  <Button variant="row" className="share" aria-pressed={gone === 0} onClick={() => set({ gone: 0 })}>
                    <span className="s">{gone === 0 ? "✓ " : ""}gloss alone</span>
                    <span>{said.dead_um ? "the dead layer off" : "a fine polish"}</span>
                  </Button>
                </>
              ) : (
                <p className="s">{swirls ? "Nothing to take out: a fine polish for gloss is all." : said.text}</p>
              )}
            </div>
            {keep.error ? <Notice>{keep.error.message}</Notice> : null}
          </section>
          <div className="keysrow">
            <Button variant="tape" disabled={keep.isPending || (!dirty && !said.swirls)} onClick={() => (dirty ? keep.mutate([]) : void go(`/panels/${encodeURIComponent(panelId)}/plan`))}>
              <span>
                {dirty ? `Keep for the ${section?.name ?? data.panel.name}` : "Kept: on to Plan"}
                <span className="s sub">{swirls ? `swirls ${swirls}${dead && dead !== "none" ? `, dead layer ${dead}` : ""}` : "press what it looks like"}</span>
              </span>
              <span className="kc">Enter</span>
            </Button>
            <Button disabled={keep.isPending || !swirls || part !== "" || data.alike.length < 2} onClick={() => keep.mutate(data.alike)}>
              <span>
                Panels alike
                <span className="s sub">{count(data.alike.length, "panel")} that lie so</span>
              </span>
              <span className="kc">L</span>
            </Button>
            <Button aria-pressed={draft.water_spots ?? said.water_spots} className={(draft.water_spots ?? said.water_spots) ? "on" : ""} onClick={keys.w}>
              <span>Water spots</span>
              <span className="kc">W</span>
            </Button>
            <Button aria-pressed={draft.haze ?? said.haze} className={(draft.haze ?? said.haze) ? "on" : ""} onClick={keys.h}>
              <span>Haze</span>
              <span className="kc">H</span>
            </Button>
            <Button disabled={!dirty} onClick={keys.u}>
              <span>Undo</span>
              <span className="kc">U</span>
            </Button>
            <Button disabled={ids.length < 2} onClick={() => beside(1)}>
              <span>Next panel</span>
              <span className="kc">]</span>
            </Button>
          </div>
        </ConditionFrame>
      ) : null}
    </Page>
  );
}
