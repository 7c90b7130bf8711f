import { useEffect, useState } from "react";

/** Whole seconds until a section is cool that needed so many when the answer came at that time (ms). */
export function useCooling(seconds: number | undefined, came: number): number {
  const left = () => Math.max(0, Math.ceil((seconds ?? 0) - (Date.now() - came) / 1000));
  const [now, setNow] = useState(left);
  useEffect(() => {
    if (seconds === undefined) return undefined;
    const timer = setInterval(() => setNow(Math.max(0, Math.ceil(seconds - (Date.now() - came) / 1000))), 500);
    return () => clearInterval(timer);
  }, [seconds, came]);
  return seconds === undefined ? 0 : now;
}
