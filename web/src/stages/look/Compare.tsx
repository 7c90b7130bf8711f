import { Box, Button } from "@mui/material";
import { Ask, Foot } from "../../ui/Ask";
import type { Schemas } from "../../api/client";

const grades = [0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10];

const words: Record<number, string> = { 0: "mirror", 2: "show factory", 4: "good factory", 6: "usual gun", 8: "heavy", 10: "very heavy" };

/** Strip lamps as panels of every grade mirror them, to hold beside the panel. */
export function Compare({ colour, grade, patch, set, close }: { colour: Schemas["Colour"]; grade: number; patch: string; set: (grade: number, whole: boolean) => void; close: () => void }) {
  return (
    <Ask title="Which one looks like your panel?" wide={1080} close={close}>
        <Box component="p" className="s" sx={{ marginTop: "-8px" }}>
          Hold the screen beside the panel so that both mirror strip lamps. Computed from a surface of each grade in this colour, not photographed.
        </Box>
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "repeat(2,1fr)", md: "repeat(4,1fr)" }, gap: "10px 12px", "& img": { display: "block", width: "100%", height: 112, objectFit: "cover" } }}>
          {grades.map((g) => (
            <Button variant="row" key={g} sx={{ border: "1.5px solid var(--line)", p: "4px 4px 6px", borderRadius: "3px", minHeight: 48, display: "block", "&[aria-pressed=true]": { borderColor: "var(--ink)", background: "var(--sheet)", boxShadow: "inset 0 -4px 0 var(--ink)" } }} aria-pressed={g === Math.round(grade)} onClick={() => set(g, patch === "")} autoFocus={g === Math.round(grade)}>
              <img src={`/api/peel/${g}/picture?colour=${colour}`} alt={`lamps mirrored at grade ${g}`} loading="eager" />
              <span>
                <Box component="span" className="n" sx={{ fontSize: 21 }}>
                  {g}
                </Box>{" "}
                <span className="s">{words[g] ?? ""}</span>
              </span>
            </Button>
          ))}
        </Box>
        <Foot>
          {patch ? <Box component="span" className="s" sx={{ flex: 1, alignSelf: "center" }}>{`The grade goes to ${patch}. The panel's own grade is set when no patch is chosen.`}</Box> : <Box component="span" className="s" sx={{ flex: 1, alignSelf: "center" }}>The grade goes to the whole panel.</Box>}
          <Button variant="quiet" onClick={close}>
            Not now
          </Button>
        </Foot>
    </Ask>
  );
}
