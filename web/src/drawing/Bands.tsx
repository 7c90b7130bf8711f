import { useMemo } from "react";
import type { FilmMap } from "../api/client";
import type { Units } from "../app/units";
import { bandOf, guessPath, layerBands, type FilmLayer } from "./geometry";

/** Fewer readings than this draw no map: one band, all of it a guess. */
const mapFrom = 3;

/** A layer of film as bands with iso-lines, dots where the map guesses. Clip it. */
export function Bands({ u, map, readings, mean, dotScale, width, height, layer = "film" }: { u: Units; layer?: FilmLayer; map: FilmMap; readings: number; mean: number; dotScale: number; width: number; height: number }) {
  const { guessFrom } = u;
  const edges = u.edges[layer];
  const bands = useMemo(() => layerBands(map, layer, edges), [map, layer, edges]);
  const guess = useMemo(() => guessPath(map, guessFrom), [map, guessFrom]);
  const id = `dots${Math.round(dotScale * 100)}`;
  const few = readings < mapFrom && layer === "film";
  const all = { x: -30, y: -30, width: width + 60, height: height + 60 };
  return (
    <g>
      <pattern id={id} width={9 * dotScale} height={9 * dotScale} patternUnits="userSpaceOnUse">
        <circle cx={2.2 * dotScale} cy={2.2 * dotScale} r={1.25 * dotScale} fill="var(--paper)" />
        <circle cx={6.7 * dotScale} cy={6.7 * dotScale} r={1.25 * dotScale} fill="var(--paper)" />
      </pattern>
      <rect {...all} fill={`var(--film${few ? bandOf(edges, mean) : 0})`} />
      {(few ? [] : bands).map((b) => (
        <path key={b.value} d={b.path} fill={`var(--film${b.band})`} stroke="var(--ink)" strokeOpacity=".35" strokeWidth=".75" vectorEffect="non-scaling-stroke" />
      ))}
      {few ? <rect {...all} fill={`url(#${id})`} /> : layer === "film" ? <path d={guess} fill={`url(#${id})`} /> : null}
    </g>
  );
}
