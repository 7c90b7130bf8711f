import { useEffect, useMemo, useRef, useSyncExternalStore } from "react";
import { count } from "../app/format";
import type { Kept } from "./device";
import { queue, type Listener } from "./queue";

type Of<W extends Kept["what"]> = Extract<Kept, { what: W }>;
export type KeptEntry = Of<"entry">;
export type KeptUndo = Of<"undo">;
export type KeptReading = Of<"reading">;
export type KeptMark = Of<"mark">;

/** What waits on this device for a panel, and who is told when it has got through. */
export function useOutbox(panel: string, told: Omit<Listener, "panel">) {
  const { kept, trouble } = useSyncExternalStore(queue.subscribe, queue.snapshot);
  const latest = useRef(told);
  useEffect(() => {
    latest.current = told;
  });
  useEffect(() => queue.listen({ panel, taken: (one, answer) => latest.current.taken(one, answer), refused: (one, problem) => latest.current.refused(one, problem) }), [panel]);
  return useMemo(() => {
    const here = kept.filter((k) => k.panel === panel);
    const of = <W extends Kept["what"]>(what: W) => here.filter((k): k is Of<W> => k.what === what);
    return { entries: of("entry"), undone: of("undo"), readings: of("reading"), marks: of("mark"), proofs: of("proof"), trouble };
  }, [kept, trouble, panel]);
}

const shown = (r: KeptReading) => `${r.body.film} ${r.body.unit === "mil" ? "mil" : "µm"}`;

/** What waits, in words: readings with their values, the rest by their number. */
function told(kept: readonly Kept[], fleeting: boolean): string {
  const where = fleeting ? "kept by this page only, as the browser has no room for more" : "kept on this device";
  const readings = kept.filter((k): k is KeptReading => k.what === "reading" && !k.refused);
  const taps = kept.filter((k) => k.what === "entry" || k.what === "undo" || k.what === "mark").length;
  const photos = kept.filter((k) => k.what === "photo" || k.what === "proof").length;
  const rest = [...(taps > 0 ? [count(taps, "tap")] : []), ...(photos > 0 ? [count(photos, "photo")] : [])];
  const values = readings.length > 0 ? [`${count(readings.length, "reading")} ${where}: ${readings.map(shown).join(", ")}; figures do not have ${readings.length === 1 ? "it" : "them"} yet`] : [];
  return [...(rest.length > 0 ? [`${rest.join(", ")} ${where}`] : []), ...values].join("; ");
}

/** How the sending stands, for the head of every page: no words while it gets through. */
export function useStanding(): { waiting: number; text: string } {
  const { kept, trouble, fleeting } = useSyncExternalStore(queue.subscribe, queue.snapshot);
  const waiting = kept.filter((k) => !(k.what === "reading" && k.refused)).length;
  const written = kept.filter((k) => Number.isFinite(k.no));
  const until = `until ${waiting === 1 ? "it arrives" : "they arrive"}.`;
  return { waiting, text: written.length > 0 && waiting > 0 && trouble ? `${trouble} ${told(written, fleeting)}. ${fleeting ? `Leave this page open ${until}` : `Sent again ${until}`}` : "" };
}
