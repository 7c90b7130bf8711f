import type { Level } from "../../api/client";
import { PanelView } from "../../drawing/PanelView";
import { short } from "../../app/format";

/** Spots that are worked alone: how far each finer step reaches around them. */
export function SpotsHere({ level }: { level: Level }) {
  const one = level.circles.slice(0, level.steps.length);
  return (
    <div style={{ display: "grid", gridTemplateColumns: "minmax(0,1fr) 380px", gap: 28, width: "100%" }}>
      <div style={{ height: 440, display: "flex" }}>
        <PanelView
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
      </div>
      <div>
        <h3 className="lab b" style={{ fontSize: 15, lineHeight: "22px" }}>
          Around the smallest spot
        </h3>
        <table className="records" style={{ width: "100%" }}>
          <tbody>
            {one.map((c) => (
              <tr key={c.title}>
                <td>{c.title}</td>
                <td className="n" style={{ textAlign: "right" }}>
                  to {short(c.r_mm)} mm
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <p className="s">Each finer grit goes further out, so that no dish shows. Larger spots: as drawn.</p>
      </div>
    </div>
  );
}
