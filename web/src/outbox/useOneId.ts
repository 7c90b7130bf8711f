import { useCallback, useRef } from "react";
import { newId } from "../api/client";

/**
 * An id for each thing that is sent: the same while the same thing is under way, so that
 * a key pressed twice counts once, and another for anything else.
 */
export function useOneId() {
  const under = useRef({ what: "", id: "" });
  const idFor = useCallback((what: unknown): string => {
    const same = JSON.stringify(what);
    if (under.current.what !== same) under.current = { what: same, id: newId() };
    return under.current.id;
  }, []);
  const done = useCallback((id: string) => {
    if (under.current.id === id) under.current = { what: "", id: "" };
  }, []);
  return { idFor, done };
}
