import { useEffect, useState } from "react";
import { api, type Probe } from "../../api/client";

const again = 3000; // ms after a question that failed

/** The gauge that sends, kept up to date while the page is looked at. */
export function useProbe(): Probe | null {
  const [probe, setProbe] = useState<Probe | null>(null);
  useEffect(() => {
    const stop = new AbortController();
    let timer: number | undefined;
    const ask = async (seen: number): Promise<void> => {
      try {
        const p = await api.probe(seen, stop.signal);
        if (stop.signal.aborted) return;
        setProbe(p);
        // Without a gauge the answer comes at once; with one it waits for news.
        if (p.seq === seen && p.state === "none") timer = window.setTimeout(() => void ask(p.seq), again);
        else void ask(p.seq);
      } catch {
        if (!stop.signal.aborted) timer = window.setTimeout(() => void ask(-1), again);
      }
    };
    void ask(-1);
    return () => {
      stop.abort();
      window.clearTimeout(timer);
    };
  }, []);
  return probe;
}
