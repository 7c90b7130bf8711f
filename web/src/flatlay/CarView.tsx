import { useId } from "react";
import type { Car, Panel } from "../api/client";
import { plusMinus } from "../words/format";
import { Bands } from "./Bands";
import { panelPath, pathOf, placementOf } from "./geometry";

const margin = 60;

function Scenery({ car }: { car: Car }) {
  const order = (kind: string) => (kind === "ghost" ? 0 : kind === "wheel" ? 1 : 2);
  return [...car.scenery]
    .sort((a, b) => order(a.kind) - order(b.kind))
    .map((s, i) => {
      if (s.centre && s.radius) {
        return (
          <g key={i} stroke="var(--line)" strokeWidth="1">
            <circle cx={s.centre.x} cy={s.centre.y} r={s.radius} fill="var(--sunk)" vectorEffect="non-scaling-stroke" />
            <circle cx={s.centre.x} cy={s.centre.y} r={s.radius * 0.66} fill="var(--paper)" vectorEffect="non-scaling-stroke" />
          </g>
        );
      }
      if (s.kind === "ghost") return <path key={i} d={pathOf(s.points)} fill="var(--ghost)" fillOpacity=".55" />;
      return null;
    });
}

function Trim({ car }: { car: Car }) {
  return car.scenery
    .filter((s) => !s.centre && s.kind !== "ghost")
    .map((s, i) => (
      <path
        key={i}
        d={pathOf(s.points)}
        fill={["handle", "flap"].includes(s.kind) ? "none" : s.kind === "mirror" ? "var(--sheet)" : s.kind === "grille" ? "var(--rubber)" : "var(--glass)"}
        stroke="var(--lineStrong)"
        strokeWidth=".75"
        vectorEffect="non-scaling-stroke"
        pointerEvents="none"
      />
    ));
}

function spoken(p: Panel): string {
  if (!p.film_um) return `${p.name}: not read`;
  return `${p.name}: film ${plusMinus(p.film_um)} µm, ${p.state ?? "not judged"}`;
}

/** The car unfolded, each panel a place to go to; the map is drawn where it is known. */
export function CarView({ car, selected, choose, height }: { car: Car; selected?: string; choose: (panel: Panel) => void; height: number }) {
  const scope = useId();
  const { x, y, w, h } = car.box;
  const dots = (w + 2 * margin) / 1100 / 0.6;
  return (
    <svg viewBox={`${x - margin} ${y - margin} ${w + 2 * margin} ${h + 2 * margin}`} width="100%" height={height} role="group" aria-label={`${car.name} unfolded, nose to the left`}>
      <Scenery car={car} />
      {car.panels.map((p) => {
        const clip = `${scope}${p.key}`;
        const on = p.id === selected;
        return (
          <g
            key={p.id}
            transform={placementOf(p)}
            role="button"
            tabIndex={0}
            aria-label={spoken(p)}
            aria-pressed={on}
            onClick={() => choose(p)}
            onKeyDown={(event) => {
              if (event.key === "Enter" || event.key === " ") {
                event.preventDefault();
                choose(p);
              }
            }}
            style={{ cursor: "pointer" }}
          >
            <clipPath id={clip}>
              <path d={panelPath(p)} clipRule="evenodd" />
            </clipPath>
            <path d={panelPath(p)} fill="var(--sheet)" fillRule="evenodd" />
            {p.map ? (
              <g clipPath={`url(#${clip})`}>
                <Bands map={p.map} readings={p.readings} mean={p.film_um?.mean ?? 0} dotScale={dots} width={p.width_mm} height={p.height_mm} />
              </g>
            ) : null}
            {p.holes.map((hole, i) => (
              <path key={i} d={pathOf(hole.points)} fill={hole.kind === "glass" ? "var(--glass)" : hole.kind === "hole" ? "var(--primer)" : "var(--rubber)"} stroke="var(--ink)" strokeWidth=".75" vectorEffect="non-scaling-stroke" />
            ))}
            {p.creases.map((c) => (
              <path key={c.name} d={pathOf(c.points, false)} fill="none" stroke="var(--lineStrong)" strokeWidth="1" vectorEffect="non-scaling-stroke" />
            ))}
            <path d={pathOf(p.outline)} fill="none" stroke="var(--ink)" strokeWidth={on ? 2.5 : 1.25} vectorEffect="non-scaling-stroke" />
            {on ? <rect x="-22" y="-22" width={p.width_mm + 44} height={p.height_mm + 44} fill="none" stroke="var(--ink)" strokeWidth="1.5" strokeDasharray="5 3" vectorEffect="non-scaling-stroke" /> : null}
          </g>
        );
      })}
      <Trim car={car} />
    </svg>
  );
}
