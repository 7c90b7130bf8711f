import type { Car, Panel } from "../api/client";
import type { Units } from "../app/units";
import { Bands } from "./Bands";
import { Unread } from "./Unread";
import { ScaledPatterns, scaledFill } from "./ScaledPatterns";
import { FlatLay } from "./FlatLay";

const margin = 60;

function spoken(p: Panel, u: Units): string {
  const marks = p.marks.length > 0 ? `, ${p.marks.length} marks` : "";
  if (!p.film_um) return `${p.name}: not read${marks}`;
  return `${p.name}: film ${u.plusMinus(p.film_um)} ${u.name}, ${p.state ?? "not judged"}${marks}`;
}

/** What lies on the car: its film, its marks, or whether each panel's plan fits. */
export type Layer = "film" | "marks" | "state";

interface CarViewProps {
  u: Units;
  car: Car;
  selected?: string;
  choose: (panel: Panel) => void;
  height: number;
  layer?: Layer;
}

/** The car unfolded, each panel a place to go to; what is not known is dots. */
export function CarView({ u, car, selected, choose, height, layer = "film" }: CarViewProps) {
  const scale = (car.box.w + 2 * margin) / 1100;
  const dots = scale / 0.6;
  const on = (p: Panel) => p.id === selected;
  const id = `state-${car.id}-`;
  return (
    <>
    {layer === "state" ? (
      <svg width="0" height="0" style={{ position: "absolute" }} aria-hidden="true">
        <ScaledPatterns id={id} scale={scale * 1.4} />
      </svg>
    ) : null}
    <FlatLay
      label={`${car.name} unfolded, nose to the left`}
      box={car.box}
      scenery={car.scenery}
      panels={car.panels}
      height={height}
      choose={choose}
      spoken={(p) => spoken(p, u)}
      chosen={on}
      {...(layer === "state" ? { fill: (p: Panel) => (p.state ? scaledFill(id, p.state) : "var(--sheet)") } : {})}
      inside={
        layer === "state" ? () => null : layer === "film"
          ? (p) =>
              p.map ? (
                <Bands u={u} map={p.map} readings={p.readings} mean={p.film_um?.mean ?? 0} dotScale={dots} width={p.width_mm} height={p.height_mm} />
              ) : (
                <Unread panel={p} scale={dots} />
              )
          : (p) => (on(p) ? <rect width={p.width_mm} height={p.height_mm} fill="var(--ink)" /> : null)
      }
      over={(p) => (
        <>
          {layer === "marks" ? p.marks.map((m, i) => <circle key={i} cx={m.x_mm} cy={m.y_mm} r={scale * 3.2} fill={on(p) ? "var(--sheet)" : "var(--ink)"} />) : null}
          {on(p) && layer !== "marks" ? (
            <rect x="-22" y="-22" width={p.width_mm + 44} height={p.height_mm + 44} fill="none" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="5 3" vectorEffect="non-scaling-stroke" />
          ) : null}
        </>
      )}
    />
    </>
  );
}
