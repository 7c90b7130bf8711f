import { useCallback, useRef, useState } from "react";

/** What holds for this tablet alone: who is at it, and what it tells by ear and hand. */
export interface Tablet {
  /** Empty for the painter of the car. */
  person: string;
  sound: boolean;
  buzz: boolean;
}

const place = "waxplanus.tablet";

function load(): Tablet {
  const usual: Tablet = { person: "", sound: false, buzz: false };
  try {
    return { ...usual, ...(JSON.parse(localStorage.getItem(place) ?? "{}") as Partial<Tablet>) };
  } catch {
    return usual;
  }
}

export function useTablet(): [Tablet, (change: Partial<Tablet>) => void] {
  const [tablet, setTablet] = useState(load);
  const change = useCallback((by: Partial<Tablet>) => {
    const next = { ...load(), ...by };
    localStorage.setItem(place, JSON.stringify(next));
    setTablet(next);
  }, []);
  return [tablet, change];
}

/** Does what comes no sooner than so many ms after the last, and says when. */
export function useApart(ms: number): (act: (at: number) => void) => void {
  const last = useRef(0);
  return useCallback(
    (act) => {
      const at = performance.now();
      if (at - last.current < ms) return;
      last.current = at;
      act(at);
    },
    [ms],
  );
}

let context: AudioContext | undefined;

/** A short tone, or two for the stop; nothing where the tablet has no sound. */
function tone(twice: boolean): void {
  context ??= new AudioContext();
  const start = context.currentTime;
  for (const at of twice ? [0, 0.22] : [0]) {
    const osc = context.createOscillator();
    const gain = context.createGain();
    osc.frequency.value = twice ? 330 : 660;
    gain.gain.setValueAtTime(0.18, start + at);
    gain.gain.exponentialRampToValueAtTime(0.001, start + at + 0.16);
    osc.connect(gain).connect(context.destination);
    osc.start(start + at);
    osc.stop(start + at + 0.18);
  }
}

/** Tells by ear and hand, as the tablet is set: a pass was counted, or it was not. */
export function signal(tablet: Tablet, what: "pass" | "stop" | "time"): void {
  if (tablet.sound) tone(what === "stop");
  if (tablet.buzz && "vibrate" in navigator) navigator.vibrate(what === "stop" ? [60, 60, 60] : 40);
}
