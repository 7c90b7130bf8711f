import { useEffect, useState } from "react";

const minute = 60_000;

/** How long it is until a moment, counted down: "2 d 3 h", "3 h 12 min"; empty once it has come. */
export function useLeft(until: string | undefined): string {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (until === undefined) return undefined;
    const timer = setInterval(() => setNow(Date.now()), minute / 4);
    return () => clearInterval(timer);
  }, [until]);
  if (until === undefined) return "";
  const left = Math.ceil((Date.parse(until) - now) / minute);
  if (left <= 0) return "";
  const hours = Math.floor(left / 60);
  if (hours >= 48) return `${Math.floor(hours / 24)} d ${hours % 24} h`;
  return hours > 0 ? `${hours} h ${left % 60} min` : `${left} min`;
}
