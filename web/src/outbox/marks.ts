import { useCallback, useEffect, useRef, useState } from "react";
import { api, Refusal, type Mark, type MarkKind, type Marked, type Schemas } from "../api/client";

/** One thing done to the marks of a panel, with what takes it back. */
export type Act =
  | { do: "add"; id: string; body: Schemas["NewMark"] }
  | { do: "strike"; id: string; reason: string }
  | { do: "restore"; id: string }
  | { do: "change"; id: string; body: Schemas["MarkChange"] }
  | { do: "close"; id: string; body: Schemas["MarkClose"] }
  | { do: "mirror"; id: string; copy: string };

export interface Step {
  done: Act;
  back: Act;
  label: string;
}

/** What undo and redo know, and what the bench server has still to hear. */
interface Kept {
  past: Step[];
  future: Step[];
  waiting: Act[];
}

const deep = 50;

function parsed<T>(text: string | null, or: T): T {
  try {
    return { ...or, ...(JSON.parse(text ?? "{}") as Partial<T>) };
  } catch {
    return or;
  }
}

/** What waits on this device, from every tab. */
function waitingOn(key: string): Act[] {
  return parsed<{ waiting: Act[] }>(localStorage.getItem(key), { waiting: [] }).waiting;
}

/** Kept over a reload: undo by its tab, what waits by the device. */
function load(key: string): Kept {
  return { ...parsed(sessionStorage.getItem(key), { past: [], future: [] }), waiting: waitingOn(key) };
}

/** Writes what waits here and leaves alone what another tab has put there. */
function store(key: string, before: Kept, next: Kept): void {
  const own = new Set(before.waiting.map((a) => JSON.stringify(a)));
  const others = waitingOn(key).filter((a) => !own.has(JSON.stringify(a)));
  localStorage.setItem(key, JSON.stringify({ waiting: [...others, ...next.waiting] }));
  sessionStorage.setItem(key, JSON.stringify({ past: next.past, future: next.future }));
}

export function send(panelId: string, act: Act): Promise<Marked> {
  switch (act.do) {
    case "add":
      return api.addMark(panelId, act.body);
    case "strike":
      return api.strikeMark(act.id, act.reason);
    case "restore":
      return api.restoreMark(act.id);
    case "change":
      return api.changeMark(act.id, act.body);
    case "close":
      return api.closeMark(act.id, act.body);
    case "mirror":
      return api.mirrorMark(act.id, act.copy);
  }
}

/**
 * Sends what is done to marks one after another, in order. What the bench server
 * cannot be told now waits on this device and is sent again; what it refuses is
 * said and taken out.
 */
export function useOutbox(panelId: string, taken: (act: Act, marked: Marked) => void, refused: (act: Act, text: string) => void) {
  const key = `waxplanus.look.${panelId}`;
  const [kept, setKept] = useState<Kept>(() => load(key));
  const [silent, setSilent] = useState(false);
  const state = useRef(kept);
  const busy = useRef(false);
  const told = useRef({ taken, refused });
  useEffect(() => {
    told.current = { taken, refused };
  });
  const put = useCallback(
    (next: Kept) => {
      store(key, state.current, next);
      state.current = next;
      setKept(next);
    },
    [key],
  );
  const pump = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    for (let act = state.current.waiting[0]; act; act = state.current.waiting[0]) {
      try {
        const marked = await send(panelId, act);
        put({ ...state.current, waiting: state.current.waiting.slice(1) });
        setSilent(false);
        told.current.taken(act, marked);
      } catch (error) {
        if (error instanceof Refusal && error.problem.status > 0 && error.problem.status < 500) {
          const same = JSON.stringify(act);
          put({ ...state.current, waiting: state.current.waiting.slice(1), past: state.current.past.filter((s) => JSON.stringify(s.done) !== same) });
          told.current.refused(act, error.message);
          continue;
        }
        setSilent(true);
        break;
      }
    }
    busy.current = false;
  }, [panelId, put]);
  useEffect(() => {
    void pump();
    const timer = setInterval(() => {
      if (state.current.waiting.length > 0) void pump();
    }, 3000);
    return () => clearInterval(timer);
  }, [pump]);
  const act = useCallback(
    (step: Step) => {
      const { past, waiting } = state.current;
      put({ past: [...past, step].slice(-deep), future: [], waiting: [...waiting, step.done] });
      void pump();
    },
    [pump, put],
  );
  const undo = useCallback((): Act | undefined => {
    const { past, future, waiting } = state.current;
    const last = past.at(-1);
    if (!last) return undefined;
    put({ past: past.slice(0, -1), future: [...future, last], waiting: [...waiting, last.back] });
    void pump();
    return last.back;
  }, [pump, put]);
  const redo = useCallback((): Act | undefined => {
    const { past, future, waiting } = state.current;
    const next = future.at(-1);
    if (!next) return undefined;
    // A mark that was placed is there already, struck out: it only comes back.
    const again: Act = next.done.do === "add" ? { do: "restore", id: next.done.id } : next.done.do === "mirror" ? { do: "restore", id: next.done.copy } : next.done;
    put({ past: [...past, next], future: future.slice(0, -1), waiting: [...waiting, again] });
    void pump();
    return again;
  }, [pump, put]);
  return { waiting: kept.waiting, silent, act, undo, redo, undoes: kept.past.at(-1)?.label, redoes: kept.future.at(-1)?.label, again: pump };
}

/** A mark as it is shown until the bench server has answered. */
export function provisional(panelId: string, id: string, kind: MarkKind, at: { x: number; y: number }, no: number, label: string, grade: number): Mark {
  const usual = { length_mm: kind === "nib" || kind === "pit" ? 1.5 : 60, width_mm: kind === "nib" || kind === "pit" ? 1.5 : 40 };
  const shape = ["nib", "pit", "crater", "etch", "through"].includes(kind) ? "point" : ["scratch", "thin_edge"].includes(kind) ? "line" : "area";
  return {
    id,
    panel_id: panelId,
    no,
    kind,
    name: label,
    shape,
    x_mm: at.x,
    y_mm: at.y,
    length_mm: usual.length_mm,
    width_mm: usual.width_mm,
    angle_deg: 0,
    class: "",
    size_um: 0,
    crest_um: 0,
    beside_um: 0,
    grade,
    density_dm2: 0,
    note: "",
    found: "workshop",
    person: "",
    at: new Date().toISOString(),
    outcome: "open",
    do: "read",
    text: "on its way to the bench server",
    relief_um: { mean: 0, sd: 0 },
    film_um: 0,
    tell: false,
    photo: false,
  } satisfies Mark;
}
