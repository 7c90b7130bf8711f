import { Box, Button } from "@mui/material";
import { useState } from "react";
import { api, newId, type Plan } from "../../api/client";
import { Ask, Foot } from "../../ui/Ask";
import { Field, Pick } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { useUnits } from "../../app/units";
import type { Offer } from "./ladder";

const number = (v: string) => (v.trim() === "" ? undefined : Number(v.replace(",", ".")));

/** A process tried on a taped square: what was read before and after. */
export function TryDialog({ plan, offer, section, close, kept }: { plan: Plan; offer: Offer; section: string; close: () => void; kept: () => void }) {
  const u = useUnits();
  const [id] = useState(newId);
  const [v, setV] = useState({ section, ladder: plan.squares[0]?.ladder ?? offer.ladder, before: "", after: "", spots: "3", clear0: "", clear1: "", gloss0: "", gloss1: "", note: "" });
  const [fault, setFault] = useState("");
  const set = (k: keyof typeof v) => (text: string) => setV({ ...v, [k]: text });
  const processes = [...plan.squares, { ladder: offer.ladder, text: "the ladder on screen", film_um: offer.film_um.mean, clarity: offer.steps.at(-1)?.after.clarity ?? 0 }];
  const save = async () => {
    const film = (t: string) => u.typed(number(t) ?? 0);
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
    <Field label={label} number unit={unit} value={v[k]} onChange={(e) => set(k)(e.target.value)} autoFocus={auto} />
  );
  return (
    <Ask title="Try on a square" wide={620} close={close} submit={() => void save()}>
        <p className="s">Tape a square on the worst representative place and leave half of it untouched. Mildest first; step up only if it is not enough.</p>
        <Pick label="process, mildest first" value={v.ladder} set={set("ladder")}>
            {processes.map((p, i) => (
              <option key={`${p.ladder}${i}`} value={p.ladder}>
                {u.um(p.film_um)} {u.name}, clarity {p.clarity.toFixed(0)}: {p.text}
              </option>
            ))}
        </Pick>
        <Pick label="where" value={v.section} set={set("section")}>
            {plan.sections.map((s) => (
              <option key={s.key} value={s.key}>
                {s.name}
              </option>
            ))}
        </Pick>
        <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3,1fr)", gap: "8px 12px" }}>
          {box("film before", "before", u.name, true)}
          {box("film after", "after", u.name)}
          {box("spots read each time", "spots", "")}
          {box("clarity before", "clear0", "of 100")}
          {box("clarity after", "clear1", "of 100")}
          <span />
          {box("gloss before, if read", "gloss0", "at 20°")}
          {box("gloss after, if read", "gloss1", "at 20°")}
        </Box>
        <Field label="note" value={v.note} onChange={(e) => set("note")(e.target.value)} most={200} />
        {fault ? <Notice text={fault} /> : null}
        <Foot>
          <Button variant="quiet" onClick={close}>
            Not now
          </Button>
          <Button type="submit" variant="tape">
            Keep the try <span className="kc">Enter</span>
          </Button>
        </Foot>
    </Ask>
  );
}
