import { createContext, useContext, useMemo, useState, type ReactNode } from "react";
import type { Mode } from "./theme";

const stored = "waxplanus.mode";

const ModeContext = createContext<{ mode: Mode; toggle: () => void }>({ mode: "day", toggle: () => undefined });

/** Day or booth, kept on this device. */
export function ModeProvider({ children }: { children: ReactNode }) {
  const [mode, setMode] = useState<Mode>(() => (localStorage.getItem(stored) === "booth" ? "booth" : "day"));
  const value = useMemo(
    () => ({
      mode,
      toggle: () => {
        const next: Mode = mode === "day" ? "booth" : "day";
        localStorage.setItem(stored, next);
        setMode(next);
      },
    }),
    [mode],
  );
  return <ModeContext.Provider value={value}>{children}</ModeContext.Provider>;
}

export const useMode = () => useContext(ModeContext);
