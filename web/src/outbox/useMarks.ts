import { useCallback, useEffect, useRef, useState } from "react";
import { newId, type Marked } from "../api/client";
import type { MarkAct } from "./device";
import { queue } from "./queue";
import { useOutbox } from "./useOutbox";

/** One thing done to the marks of a panel, with what takes it back. */
export interface Step {
  done: MarkAct;
  back: MarkAct;
  label: string;
}

/** What undo and redo know. */
interface Steps {
  past: Step[];
  future: Step[];
}

const deep = 50;

/** Kept over a reload, by the tab. */
function load(key: string): Steps {
  const none: Steps = { past: [], future: [] };
  try {
    return { ...none, ...(JSON.parse(sessionStorage.getItem(key) ?? "{}") as Partial<Steps>) };
  } catch {
    return none;
  }
}

/** What is done to the marks of a panel goes through the outbox; this tab can undo and redo it. */
export function useMarks(panel: string, taken: (act: MarkAct, marked: Marked) => void, refused: (text: string) => void) {
  const key = `waxplanus.look.${panel}`;
  const [steps, setSteps] = useState<Steps>(() => load(key));
  const state = useRef(steps);
  const latest = useRef({ taken, refused });
  useEffect(() => {
    latest.current = { taken, refused };
  });
  const put = useCallback(
    (next: Steps) => {
      sessionStorage.setItem(key, JSON.stringify(next));
      state.current = next;
      setSteps(next);
    },
    [key],
  );
  const outbox = useOutbox(panel, {
    taken: (one, answer) => {
      if (one.what === "mark") latest.current.taken(one.act, answer as Marked);
      if (one.what === "photo") latest.current.taken({ do: "restore", id: one.mark }, answer as Marked);
    },
    refused: (one, problem) => {
      if (one.what === "mark") {
        const same = JSON.stringify(one.act);
        put({ ...state.current, past: state.current.past.filter((s) => JSON.stringify(s.done) !== same) });
      }
      if (one.what === "mark" || one.what === "photo") latest.current.refused(problem.detail);
    },
  });
  const send = useCallback((act: MarkAct) => void queue.put({ what: "mark", act, id: newId(), panel, made: Date.now() }), [panel]);
  const act = useCallback(
    (step: Step) => {
      put({ past: [...state.current.past, step].slice(-deep), future: [] });
      send(step.done);
    },
    [put, send],
  );
  const undo = useCallback((): MarkAct | undefined => {
    const { past, future } = state.current;
    const last = past.at(-1);
    if (!last) return undefined;
    put({ past: past.slice(0, -1), future: [...future, last] });
    send(last.back);
    return last.back;
  }, [put, send]);
  const redo = useCallback(() => {
    const { past, future } = state.current;
    const next = future.at(-1);
    if (!next) return;
    put({ past: [...past, next], future: future.slice(0, -1) });
    // A mark that was placed is there already, struck out: it only comes back.
    send(next.done.do === "add" ? { do: "restore", id: next.done.id } : next.done.do === "mirror" ? { do: "restore", id: next.done.copy } : next.done);
  }, [put, send]);
  const photo = useCallback((mark: string, file: File) => void queue.put({ what: "photo", mark, file, id: newId(), panel, made: Date.now() }), [panel]);
  return { waiting: outbox.marks.map((m) => m.act), trouble: outbox.trouble, act, undo, redo, photo, undoes: steps.past.at(-1)?.label, redoes: steps.future.at(-1)?.label };
}
