import { useMemo } from "react";
import type { FilmMap } from "../api/client";
import { filmBands, guessPath } from "./geometry";

/** Film as bands with iso-lines, dots where the map guesses. Clip it. */
export function Bands({ map, dotScale, width, height }: { map: FilmMap; dotScale: number; width: number; height: number }) {
  const bands = useMemo(() => filmBands(map), [map]);
  const guess = useMemo(() => guessPath(map), [map]);
  const id = `dots${Math.round(dotScale * 100)}`;
  return (
    <g>
      <pattern id={id} width={9 * dotScale} height={9 * dotScale} patternUnits="userSpaceOnUse">
        <circle cx={2.2 * dotScale} cy={2.2 * dotScale} r={1.25 * dotScale} fill="var(--paper)" />
        <circle cx={6.7 * dotScale} cy={6.7 * dotScale} r={1.25 * dotScale} fill="var(--paper)" />
      </pattern>
      <rect x="-30" y="-30" width={width + 60} height={height + 60} fill="var(--film0)" />
      {bands.map((b) => (
        <path key={b.value} d={b.path} fill={`var(--film${b.band})`} stroke="var(--ink)" strokeOpacity=".35" strokeWidth=".75" vectorEffect="non-scaling-stroke" />
      ))}
      <path d={guess} fill={`url(#${id})`} />
    </g>
  );
}
