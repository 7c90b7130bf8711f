import type { State } from "../api/client";
import { patternOf } from "./Patterns";

const shape: Record<State, string> = {
  open: "M2 3H18A8 8 0 0 1 18 19H2Z",
  tight: "M2 3H26V8L21 11L26 14V19H2Z",
  shut: "M2 3H26V6L22 8L26 10V12L22 14L26 16V19H2Z",
};

/** A state as colour, pattern, shape and word. */
export function StateTab({ state, word = true }: { state: State; word?: boolean }) {
  return (
    <span className="tag">
      <svg width="28" height="22" viewBox="0 0 28 22" role="img" aria-label={word ? undefined : state} aria-hidden={word}>
        <path d={shape[state]} fill={patternOf[state]} stroke="var(--ink)" strokeWidth="1.25" />
      </svg>
      {word ? state : null}
    </span>
  );
}
