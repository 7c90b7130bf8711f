import type { MarkKind } from "../api/client";

const paths: Record<MarkKind, string> = {
  nib: "M4.5 17 11 5M13 19l6.5-12",
  run: "M12 3c2.6 5.2 3.8 8.6 3.8 12a3.8 5.4 0 0 1-7.6 0C8.2 11.6 9.4 8.2 12 3zM12 7.5V18",
  sag: "M3 8c3 0 4 8 9 8s6-8 9-8M6 17.5c3.5 3 8.5 3 12 0",
  peel: "M3 9.5c3-4 6-4 9 0s6 4 9 0M3 16c3-4 6-4 9 0s6 4 9 0",
  pit: "M12 6.5a5.5 5.5 0 1 0 .01 0z",
  crater: "M12 5a7 7 0 1 0 .01 0zM12 9.5a2.5 2.5 0 1 0 .01 0z",
  scratch: "M5 16.5 19 7.5M3.8 13.8l2.4 5.4M17.8 4.8l2.4 5.4",
  etch: "M6 14c-1-6 5-9.5 9-7.5 4.5 2.3 3.5 8.5-1 9-3.5.4-5-3.5-2.5-5 1.7-1 3.2.6 2.6 2M5 18.5c4 2 9 1.8 13-.5",
  overspray: "",
  dull: "M5 7h3M10.5 7h3M16 7h3M5 12h3M10.5 12h3M16 12h3M5 17h3M10.5 17h3M16 17h3",
  curl: "M4 14c2-8 12-9 13-3 .7 4.5-6.5 5.5-6.5 1.5C10.5 8 20 8.5 20 17",
  thin_edge: "M4 5v14M4 5h16M8.5 19V9.5H20",
  through: "M5 12a7 7 0 1 0 14 0 7 7 0 1 0-14 0zM7.5 7.5l9 9M16.5 7.5l-9 9",
};

const spots: Partial<Record<MarkKind, [number, number, number][]>> = {
  nib: [[12, 12, 2.6]],
  pit: [[12, 12, 1.8]],
  overspray: [
    [6, 9, 1.3],
    [11, 5.5, 1.3],
    [17, 7.5, 1.3],
    [13, 11.5, 1.3],
    [7.5, 15.5, 1.3],
    [17.5, 14.5, 1.3],
    [12, 19, 1.3],
  ],
};

/** The sign of a kind on a 24 grid: what painters do or see there. */
export function SignPath({ kind }: { kind: MarkKind }) {
  return (
    <g fill="none" strokeWidth="1.75" strokeLinejoin="round">
      <path d={paths[kind]} stroke="currentColor" />
      {(spots[kind] ?? []).map(([x, y, r], i) => (
        <circle key={i} cx={x} cy={y} r={r} fill="currentColor" stroke="none" />
      ))}
    </g>
  );
}

export function Sign({ kind, size = 26 }: { kind: MarkKind; size?: number }) {
  return (
    <svg width={size} height={size} viewBox="0 0 24 24" aria-hidden="true" style={{ display: "block", flex: "none" }}>
      <SignPath kind={kind} />
    </svg>
  );
}
