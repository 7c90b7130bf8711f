import { Box, Table, TableBody, TableCell, TableRow } from "@mui/material";
import { useUnits } from "../../app/units";
import type { Level } from "../../api/client";
import { PanelView } from "../../drawing/PanelView";

/** Spots that are worked alone: how far each finer step reaches around them. */
export function SpotsHere({ level }: { level: Level }) {
  const u = useUnits();
  const one = level.circles.slice(0, level.steps.length);
  return (
    <Box sx={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 380px", gap: 28, width: "100%" }}>
      <Box sx={{ height: 440, display: "flex" }}>
        <PanelView
          u={u}
          panel={level.panel}
          label={`${level.panel.name}: how far each step reaches around its spots`}
          inside={() => (
            <>
              {level.circles.map((c, i) => (
                <circle key={i} cx={c.x_mm} cy={c.y_mm} r={c.r_mm} fill="none" stroke="var(--ink)" strokeWidth={1} strokeDasharray={i % level.steps.length === 0 ? undefined : "5 4"} vectorEffect="non-scaling-stroke" />
              ))}
            </>
          )}
        />
      </Box>
      <div>
        <Box component="h3" className="lab b" sx={{ fontSize: 15, lineHeight: "22px" }}>
          Around the smallest spot
        </Box>
        <Table wide sx={{ width: "100%" }}>
          <TableBody>
            {one.map((c) => (
              <TableRow key={c.title}>
                <TableCell>{c.title}</TableCell>
                <TableCell className="n" sx={{ textAlign: "right" }}>
                  to {u.mm(c.r_mm)}
                </TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
        <p className="s">Each finer grit goes further out, so that no dish shows. Larger spots: as drawn.</p>
      </div>
    </Box>
  );
}
