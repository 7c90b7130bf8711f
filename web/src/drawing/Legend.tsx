import { Box } from "@mui/material";
import type { Units } from "../app/units";
import { layerNames, type FilmLayer } from "./geometry";

/** The bands of a layer with their numbers, and what the dots say. */
export function Legend({ u, layer = "film" }: { u: Units; layer?: FilmLayer }) {
  const edges = u.edges[layer];
  const last = edges.length - 1;
  const says = {
    film: `${u.um(edges[0] ?? 0)} and below: no sanding. Dots: ± ${u.um(u.guessFrom)} ${u.name} or more.`,
    doubt: "one standard deviation: the left end is sure, the right a guess.",
    headroom: "what can go at each place alone; a section may spend less.",
  }[layer];
  return (
    <Box sx={{ width: 366, maxWidth: "100%" }}>
      <div className="lab">
        {layerNames[layer]}, {u.name}
      </div>
      <svg width="100%" style={{ maxWidth: 366, display: "block" }} viewBox="0 0 366 62" role="img" aria-label={`${layerNames[layer]} from ${u.um(edges[0] ?? 0)} ${u.name}, dark, to ${u.um(edges[last] ?? 0)} ${u.name} and more, pale. ${says}`}>
        {edges.map((edge, i) => (
          <g key={edge}>
            <rect x={i * 35} y="4" width="35" height="18" fill={`var(--film${i})`} stroke="var(--ink)" strokeWidth=".75" />
            <text className="n" x={i * 35} y="38" fontSize="12.5" textAnchor={i ? "middle" : "start"}>
              {edge === 0 ? "0" : u.um(edge).replace(/(\.\d)\d$/, "$1")}
            </text>
          </g>
        ))}
        {layer === "film" ? (
          <>
            <rect x="326" y="4" width="36" height="18" fill="var(--film6)" stroke="var(--ink)" strokeWidth=".75" />
            <rect x="326" y="4" width="36" height="18" fill="url(#pDoubt)" />
            <text x="344" y="38" fontSize="12" textAnchor="middle">
              guess
            </text>
          </>
        ) : null}
        <text x="0" y="56" fontSize="12" style={{ fill: "var(--ink2)" }}>
          {says}
        </text>
      </svg>
    </Box>
  );
}
