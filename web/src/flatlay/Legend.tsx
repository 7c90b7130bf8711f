import { bandEdges, guessFrom } from "./geometry";

/** The bands of film with their numbers, and what the dots say. */
export function Legend() {
  return (
    <div style={{ width: 366, maxWidth: "100%" }}>
      <div className="lab">film, µm total</div>
      <svg width="100%" style={{ maxWidth: 366, display: "block" }} viewBox="0 0 366 62" role="img" aria-label={`Film from ${bandEdges[0]} µm, dark, to ${bandEdges[8]} µm and more, pale. Dots: doubt of ${guessFrom} µm and more.`}>
        {bandEdges.map((edge, i) => (
          <g key={edge}>
            <rect x={i * 35} y="4" width="35" height="18" fill={`var(--film${i})`} stroke="var(--ink)" strokeWidth=".75" />
            <text className="n" x={i * 35} y="38" fontSize="12.5" textAnchor={i ? "middle" : "start"}>
              {edge}
            </text>
          </g>
        ))}
        <rect x="326" y="4" width="36" height="18" fill="var(--film6)" stroke="var(--ink)" strokeWidth=".75" />
        <rect x="326" y="4" width="36" height="18" fill="url(#pDoubt)" />
        <text x="344" y="38" fontSize="12" textAnchor="middle">
          guess
        </text>
        <text x="0" y="56" fontSize="12" style={{ fill: "var(--ink2)" }}>
          dark is thin. 75 and below: no sanding. Dots: ± {guessFrom} µm or more.
        </text>
      </svg>
    </div>
  );
}
