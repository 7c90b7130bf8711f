import { Button } from "@mui/material";
import type { Mark, Schemas } from "../../api/client";
import { Sign } from "../../drawing/Sign";
import { capital, short } from "../../app/format";
import { useUnits } from "../../app/units";

/** Kinds with their counts and what will be done; single marks open by touch. */
export function MarkList({ marks, tally, choose }: { marks: Mark[]; tally: Schemas["MarkCount"][]; choose: (id: string) => void }) {
  const u = useUnits();
  const single = marks.filter((m) => m.kind !== "nib");
  const nibText = tally.find((c) => c.kind === "nib");
  return (
    <ul className="marklist">
      {nibText ? (
        <li>
          <span className="n no">{nibText.count}</span>
          <span>
            <span className="b">nib</span>
            <span className="does">{capital(nibText.text)}.</span>
          </span>
        </li>
      ) : null}
      {single.map((m) => (
        <li key={m.id}>
          <Button variant="row" onClick={() => choose(m.id)}>
            <span className="no">
              <Sign kind={m.kind} size={24} />
            </span>
            <span>
              <span className="b">
                {m.name}
                {m.kind === "peel" ? `, grade ${short(m.grade)}` : m.relief_um.mean > 0 ? `, ${u.um(m.relief_um.mean)} ± ${u.um(m.relief_um.sd)} ${u.name}` : ""}
              </span>
              <span className="does">{m.text}</span>
            </span>
          </Button>
        </li>
      ))}
    </ul>
  );
}
