import { useEffect } from "react";

/** Keeps the screen on while it is looked at, where the device lets it. */
export function useAwake(on: boolean): void {
  useEffect(() => {
    if (!on || !("wakeLock" in navigator)) return undefined;
    let lock: WakeLockSentinel | null = null;
    let gone = false;
    const ask = () => {
      if (gone || document.visibilityState !== "visible") return;
      navigator.wakeLock.request("screen").then(
        (got) => {
          lock = got;
          if (gone) void got.release();
        },
        () => undefined, // a low battery refuses; the screen dims as it would
      );
    };
    ask();
    document.addEventListener("visibilitychange", ask);
    return () => {
      gone = true;
      document.removeEventListener("visibilitychange", ask);
      void lock?.release();
    };
  }, [on]);
}
