import { Box, Button } from "@mui/material";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";
import { api, type Mark, type Schemas } from "../../api/client";
import { useChanged } from "../../api/queries";
import { Ask, Foot } from "../../ui/Ask";
import { Choice } from "../../ui/Choice";
import { Field } from "../../ui/Field";
import { Notice } from "../../ui/Notice";
import { count } from "../../app/format";

type Outcome = "gone" | "softened" | "left";

/** What most likely became of a mark, by what was to be done about it. */
function likely(m: Mark): Outcome {
  if (m.do === "softens") return "softened";
  return ["leaves", "keep_off", "respray", "read"].includes(m.do) ? "left" : "gone";
}

const options = [["gone", "gone"], ["softened", "softer"], ["left", "left"]] as const;

/** What became of all open marks of a panel, said in one go. */
export function MarksDialog({ proof, person, close }: { proof: Schemas["PanelProof"]; person: string; close: () => void }) {
  const changed = useChanged();
  const open = proof.marks.filter((m) => m.outcome === "open");
  const [said, setSaid] = useState<Record<string, { outcome?: Outcome; reason?: string }>>({});
  const of = (m: Mark): Outcome | "" => said[m.id]?.outcome ?? "";
  const soft = (m: Mark) => m.ready_at !== undefined;
  const asPlanned = () => setSaid((s) => Object.fromEntries(open.map((m) => [m.id, soft(m) ? (s[m.id] ?? {}) : { outcome: likely(m), ...s[m.id] }])));
  const unsaid = open.filter((m) => of(m) === "").length;
  const why = (m: Mark) => said[m.id]?.reason ?? (of(m) === "left" ? m.text.slice(0, 200) : "");
  const put = (id: string, more: { outcome?: Outcome; reason?: string }) => setSaid((s) => ({ ...s, [id]: { ...s[id], ...more } }));
  const keep = useMutation({
    mutationFn: () => api.closeMarks(proof.panel.id, { person, marks: open.flatMap((m) => { const outcome = of(m); return outcome === "" ? [] : [{ id: m.id, outcome, ...(why(m) ? { reason: why(m) } : {}) }]; }) }),
    onSuccess: async () => {
      await changed("panel");
      close();
    },
  });
  return (
    <Ask title={`What became of ${count(open.length, "mark")}`} wide={780} close={close} leave submit={() => (unsaid === open.length ? asPlanned() : keep.mutate())}>
      <p className="s">Look at each under the lamp: nothing is said for you. {open.some(soft) ? "A run that is soft inside can hardly be gone yet." : ""}</p>
      <Box component="ul" sx={{ m: 0, p: 0, listStyle: "none", maxHeight: "55vh", overflow: "auto" }}>
        {open.map((m) => (
          <Box component="li" key={m.id} sx={{ borderTop: "1px solid var(--line)", py: 6, display: "grid", gridTemplateColumns: { xs: "minmax(0,1fr)", md: "minmax(0,1fr) 220px" }, gap: "4px 16px" }}>
            <span>
              <b>
                {m.name} {m.no}
              </b>{" "}
              <span className="s">{m.text}</span>
            </span>
            <Choice label={`${m.name} ${m.no}`} silent value={of(m)} options={options} set={(outcome) => put(m.id, { outcome })} tall />
            {of(m) === "left" ? (
              <Box sx={{ gridColumn: "1 / -1" }}>
                <Field label={`why ${m.name} ${m.no} is left: the owner will ask`} value={why(m)} most={200} onChange={(e) => put(m.id, { reason: e.target.value })} />
              </Box>
            ) : null}
          </Box>
        ))}
      </Box>
      {keep.error ? <Notice text={keep.error.message} /> : null}
      <Foot>
        {unsaid === open.length ? (
          <Button type="submit" variant="tape" disabled={open.length === 0}>
            All as they were to be worked <span className="kc">Enter</span>
          </Button>
        ) : (
          <Button type="submit" variant="tape" disabled={keep.isPending}>
            Close {count(open.length - unsaid, "mark")} <span className="kc">Enter</span>
          </Button>
        )}
      </Foot>
    </Ask>
  );
}
