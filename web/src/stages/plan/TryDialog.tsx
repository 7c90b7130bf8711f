import { Dialog } from "@mui/material";
import { useState } from "react";
import { api, newId, type Plan } from "../../api/client";
import { Notice } from "../../ui/Notice";
import { typedFilm, um, unitName } from "../../app/format";
import type { Offer } from "./ladder";

const number = (v: string) => (v.trim() === "" ? undefined : Number(v.replace(",", ".")));

/** A process tried on a taped square: what was read before and after. */
export function TryDialog({ plan, offer, section, close, kept }: { plan: Plan; offer: Offer; section: string; close: () => void; kept: () => void }) {
  const [id] = useState(newId);
  const [v, setV] = useState({ section, ladder: plan.squares[0]?.ladder ?? offer.ladder, before: "", after: "", spots: "3", clear0: "", clear1: "", gloss0: "", gloss1: "", note: "" });
  const [fault, setFault] = useState("");
  const set = (k: keyof typeof v) => (e: { target: { value: string } }) => setV({ ...v, [k]: e.target.value });
  const processes = [...plan.squares, { ladder: offer.ladder, text: "the ladder on screen", film_um: offer.film_um.mean, clarity: offer.steps.at(-1)?.after.clarity ?? 0 }];
  const save = async () => {
    const film = (t: string) => typedFilm(number(t) ?? 0);
    const gloss0 = number(v.gloss0);
    const gloss1 = number(v.gloss1);
    try {
      await api.addTry(plan.panel.id, {
        id,
        section: v.section,
        ladder: v.ladder,
        film_before_um: film(v.before),
        film_after_um: film(v.after),
        spots: number(v.spots) ?? 0,
        clarity_before: number(v.clear0) ?? 0,
        clarity_after: number(v.clear1) ?? 0,
        ...(gloss0 === undefined ? {} : { gloss_before: gloss0 }),
        ...(gloss1 === undefined ? {} : { gloss_after: gloss1 }),
        ...(v.note.trim() ? { note: v.note } : {}),
        person: plan.car.painter,
      });
      kept();
      close();
    } catch (error) {
      setFault(error instanceof Error ? error.message : String(error));
    }
  };
  const box = (label: string, k: keyof typeof v, unit: string, auto = false) => (
    <label>
      <span className="lab">{label}</span>
      <span className="numbox">
        <input inputMode="decimal" value={v[k]} onChange={set(k)} autoFocus={auto} aria-label={label} />
        <span className="s">{unit}</span>
      </span>
    </label>
  );
  return (
    <Dialog open onClose={close} aria-labelledby="try" maxWidth={false}>
      <form
        style={{ padding: "22px 26px", width: 620, maxWidth: "100%", display: "grid", gridTemplateColumns: "minmax(0,1fr)", gap: 12 }}
        onSubmit={(e) => {
          e.preventDefault();
          void save();
        }}
      >
        <h2 id="try" className="t" style={{ fontSize: 22, lineHeight: "26px" }}>
          Try on a square
        </h2>
        <p className="s">Tape a square on the worst representative place and leave half of it untouched. Mildest first; step up only if it is not enough.</p>
        <label>
          <span className="lab">process, mildest first</span>
          <select className="plain" value={v.ladder} onChange={set("ladder")}>
            {processes.map((p, i) => (
              <option key={`${p.ladder}${i}`} value={p.ladder}>
                {um(p.film_um)} {unitName()}, clarity {p.clarity.toFixed(0)}: {p.text}
              </option>
            ))}
          </select>
        </label>
        <label>
          <span className="lab">where</span>
          <select className="plain" value={v.section} onChange={set("section")}>
            {plan.sections.map((s) => (
              <option key={s.key} value={s.key}>
                {s.name}
              </option>
            ))}
          </select>
        </label>
        <div style={{ display: "grid", gridTemplateColumns: "repeat(3,1fr)", gap: "8px 12px" }}>
          {box("film before", "before", unitName(), true)}
          {box("film after", "after", unitName())}
          {box("spots read each time", "spots", "")}
          {box("clarity before", "clear0", "of 100")}
          {box("clarity after", "clear1", "of 100")}
          <span />
          {box("gloss before, if read", "gloss0", "at 20°")}
          {box("gloss after, if read", "gloss1", "at 20°")}
        </div>
        <label>
          <span className="lab">note</span>
          <input className="textline" value={v.note} onChange={set("note")} maxLength={200} />
        </label>
        {fault ? <Notice text={fault} /> : null}
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
          <button type="submit" className="key tape">
            Keep the try <span className="kc">Enter</span>
          </button>
        </div>
      </form>
    </Dialog>
  );
}
