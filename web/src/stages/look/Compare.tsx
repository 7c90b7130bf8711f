import { Dialog } from "@mui/material";
import type { Schemas } from "../../api/client";

const grades = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

const words: Record<number, string> = { 0: "mirror", 2: "show factory", 4: "good factory", 6: "usual gun", 8: "heavy", 10: "very heavy" };

/** Strip lamps as panels of every grade mirror them, to hold beside the panel. */
export function Compare({ colour, grade, patch, set, close }: { colour: Schemas["Colour"]; grade: number; patch: string; set: (grade: number, whole: boolean) => void; close: () => void }) {
  return (
    <Dialog open onClose={close} maxWidth={false} aria-labelledby="compare">
      <div style={{ padding: "20px 24px", width: 1080, maxWidth: "100%" }}>
        <h2 id="compare" className="t" style={{ fontSize: 22, lineHeight: "26px" }}>
          Which one looks like your panel?
        </h2>
        <p className="s" style={{ margin: "4px 0 12px" }}>
          Hold the screen beside the panel so that both mirror strip lamps. Computed from a surface of each grade in this colour, not photographed.
        </p>
        <div className="grades">
          {grades.map((g) => (
            <button key={g} type="button" aria-pressed={g === Math.round(grade)} onClick={() => set(g, patch === "")} autoFocus={g === Math.round(grade)}>
              <img src={`/api/peel/${g}/picture?colour=${colour}`} alt={`lamps mirrored at grade ${g}`} loading="eager" />
              <span>
                <span className="n" style={{ fontSize: 21 }}>
                  {g}
                </span>{" "}
                <span className="s">{words[g] ?? ""}</span>
              </span>
            </button>
          ))}
        </div>
        <div style={{ display: "flex", gap: 10, justifyContent: "flex-end", paddingTop: 14 }}>
          {patch ? <span className="s" style={{ flex: 1, alignSelf: "center" }}>{`The grade goes to ${patch}. The panel's own grade is set when no patch is chosen.`}</span> : <span className="s" style={{ flex: 1, alignSelf: "center" }}>The grade goes to the whole panel.</span>}
          <button type="button" className="key q" onClick={close}>
            Not now
          </button>
        </div>
      </div>
    </Dialog>
  );
}
