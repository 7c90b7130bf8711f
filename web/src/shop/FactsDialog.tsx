import { Dialog, MenuItem, TextField } from "@mui/material";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Panel } from "../api/client";
import { Notice } from "../shell/Notice";
import { capital } from "../words/format";

export const finishes = {
  factory: "factory",
  refinished: "refinished, clear over base",
  refinished_unknown: "refinished, nobody knows how",
  single_stage: "single stage",
} as const;

/** What is known of a panel: finish, coats of clear, peel grade. */
export function FactsDialog({ panel, close }: { panel: Panel; close: () => void }) {
  const queries = useQueryClient();
  const [finish, setFinish] = useState<Panel["finish"]>(panel.finish);
  const [coats, setCoats] = useState(String(panel.coats));
  const [peel, setPeel] = useState(String(panel.peel_grade));
  const save = useMutation({
    mutationFn: () => api.changePanel(panel.id, { finish, coats: Number(coats), peel_grade: Number(peel.replace(",", ".")) }),
    onSuccess: async () => {
      await queries.invalidateQueries();
      close();
    },
  });
  const faulty = coats.trim() === "" || !/^\d+$/.test(coats.trim()) || !/^\d+([.,]\d+)?$/.test(peel.trim());
  return (
    <Dialog open onClose={close} aria-labelledby="facts">
      <form
        style={{ padding: "24px 28px", width: 480, maxWidth: "100%", display: "grid", gap: 16 }}
        onSubmit={(event) => {
          event.preventDefault();
          if (!faulty) save.mutate();
        }}
      >
        <h2 id="facts" className="t" style={{ fontSize: 22, lineHeight: "26px" }}>
          {capital(panel.name)}
        </h2>
        <TextField select label="Finish" value={finish} onChange={(e) => setFinish(e.target.value as Panel["finish"])}>
          {Object.entries(finishes).map(([value, words]) => (
            <MenuItem key={value} value={value}>
              {words}
            </MenuItem>
          ))}
        </TextField>
        <TextField label="Coats of clear, 0 when nobody knows" value={coats} onChange={(e) => setCoats(e.target.value)} slotProps={{ htmlInput: { inputMode: "numeric" } }} />
        <TextField label="Peel grade, 0 mirror to 10 very heavy" value={peel} onChange={(e) => setPeel(e.target.value)} slotProps={{ htmlInput: { inputMode: "decimal" } }} />
        <p className="s">2 is a show factory finish, 4 a good factory one, 6 to 8 a usual gun finish.</p>
        {faulty ? <Notice text="Coats are a whole number from 0 to 10, the peel grade a number from 0 to 10." /> : null}
        {save.error ? <Notice text={save.error.message} /> : null}
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end" }}>
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
          <button type="submit" className="key tape" disabled={faulty}>
            Keep <span className="kc">Enter</span>
          </button>
        </div>
      </form>
    </Dialog>
  );
}
