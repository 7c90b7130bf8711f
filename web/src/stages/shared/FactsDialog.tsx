import { Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { Link } from "react-router";
import { api, type Panel } from "../../api/client";
import { Choice } from "../../ui/Choice";
import { Ask, Foot } from "../../ui/Ask";
import { Field } from "../../ui/Field";
import { useChanged } from "../../api/queries";
import { Notice } from "../../ui/Notice";
import { capital } from "../../app/format";

const aims = [
  ["flat", "flat"],
  ["match", "match"],
  ["nibs", "nibs only"],
  ["polish", "polish only"],
] as const;
const hardnesses = [
  ["soft", "soft"],
  ["medium", "medium"],
  ["hard", "hard"],
  ["oxidised", "oxidised"],
  ["lacquer", "lacquer"],
] as const;

/** What readings are held against: coats of clear and peel grade. */
export function FactsDialog({ panel, close }: { panel: Panel; close: () => void }) {
  const changed = useChanged();
  const [coats, setCoats] = useState(String(panel.coats));
  const [peel, setPeel] = useState(String(panel.peel_eye));
  const [hardness, setHardness] = useState(panel.hardness);
  const [aim, setAim] = useState(panel.aim);
  const save = useMutation({
    mutationFn: () => api.changePanel(panel.id, { coats: Number(coats), peel_grade: Number(peel.replace(",", ".")), hardness, aim }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  const faulty = coats.trim() === "" || !/^\d+$/.test(coats.trim()) || !/^\d+([.,]\d+)?$/.test(peel.trim());
  return (
    <Ask title={capital(panel.name)} wide={480} close={close} submit={() => (faulty ? undefined : save.mutate())}>
        <p className="s">
          Finish: {panel.finish.replace("_", " ")}. Where it comes from and what is wanted is said in <Link to={`/cars/${encodeURIComponent(panel.car_id)}/take-in`}>Take in</Link>.
        </p>
        <Field label="Coats of clear, 0 when nobody knows" number value={coats} onChange={(e) => setCoats(e.target.value)} />
        <Field label="Peel grade, 0 mirror to 10 very heavy" number value={peel} onChange={(e) => setPeel(e.target.value)} />
        <Choice label="What is wanted" value={aim} options={aims} set={setAim} />
        <Choice label="How easily the paint is cut" value={hardness} options={hardnesses} set={setHardness} />
        {panel.peel_grade === panel.peel_eye ? null : <p className="s">By photo it is another: {panel.peel_text}. The photo counts.</p>}
        <p className="s">2 is a show factory finish, 4 a good factory one, 6 to 8 a usual gun finish.</p>
        {faulty ? <Notice text="Coats are a whole number from 0 to 10, the peel grade a number from 0 to 10." /> : null}
        {save.error ? <Notice text={save.error.message} /> : null}
        <Foot>
          <Button variant="quiet" onClick={close}>
            Not now
          </Button>
          <Button type="submit" variant="tape" disabled={faulty}>
            Keep <span className="kc">Enter</span>
          </Button>
        </Foot>
    </Ask>
  );
}
