import { useCallback, useEffect, useRef, useState } from "react";
import { api, Refusal, type Schemas } from "../../api/client";

/** A tap as it is kept on this device until the bench server has it; made is this device's clock, ms. */
export type Tap = Schemas["NewEntry"] & { panel: string; made: number };

const name = "waxplanus";
const taps = "taps";

function database(): Promise<IDBDatabase> {
  return new Promise((done, fail) => {
    const ask = indexedDB.open(name, 1);
    ask.onupgradeneeded = () => ask.result.createObjectStore(taps, { keyPath: "id" });
    ask.onsuccess = () => done(ask.result);
    ask.onerror = () => fail(ask.error ?? new Error("no database on this device"));
  });
}

async function run<T>(mode: IDBTransactionMode, work: (store: IDBObjectStore) => IDBRequest<T>): Promise<T> {
  const db = await database();
  try {
    return await new Promise<T>((done, fail) => {
      const transaction = db.transaction(taps, mode);
      const ask = work(transaction.objectStore(taps));
      transaction.oncomplete = () => done(ask.result);
      transaction.onerror = () => fail(transaction.error ?? new Error("this device cannot keep the tap"));
    });
  } finally {
    db.close();
  }
}

const kept = {
  of: async (panel: string) => (await run("readonly", (s) => s.getAll() as IDBRequest<Tap[]>)).filter((t) => t.panel === panel).sort((a, b) => a.made - b.made),
  put: (tap: Tap) => run("readwrite", (s) => s.put(tap)),
  drop: (id: string) => run("readwrite", (s) => s.delete(id)),
};

/** What of a tap the bench server is told. */
function bodyOf({ id, section, step, kind, person, share, reason, made }: Tap): Schemas["NewEntry"] {
  return { id, section, step, kind, person, seconds_ago: Math.max(Date.now() - made, 0) / 1000, ...(share === undefined ? {} : { share }), ...(reason === undefined ? {} : { reason }) };
}

const retry = 4000;

/**
 * Taps of a panel: each is written to this device first, sent in order with its own
 * id and time, and taken off once the bench server has it. They outlive the tab.
 */
export function useTaps(panelId: string, arrived: () => Promise<unknown>) {
  const [waiting, setWaiting] = useState<Tap[]>([]);
  const [away, setAway] = useState(false);
  const [fault, setFault] = useState("");
  const busy = useRef(false);
  const tell = useRef(arrived);
  useEffect(() => {
    tell.current = arrived;
  });
  const flush = useCallback(async () => {
    if (busy.current) return;
    busy.current = true;
    try {
      for (let tap = (await kept.of(panelId))[0]; tap; tap = (await kept.of(panelId))[0]) {
        try {
          await api.addEntry(tap.panel, bodyOf(tap));
          setFault("");
        } catch (error) {
          if (!(error instanceof Refusal) || error.problem.status === 0) {
            setAway(true);
            return;
          }
          setFault(error.message); // it arrived, and was not taken
        }
        setAway(false);
        await kept.drop(tap.id);
        await tell.current();
        const id = tap.id;
        setWaiting((list) => list.filter((t) => t.id !== id));
      }
    } finally {
      busy.current = false;
    }
  }, [panelId]);
  useEffect(() => {
    let here = true;
    void kept.of(panelId).then((list) => {
      if (here && list.length > 0) setWaiting(list);
      return flush();
    });
    const again = () => void flush();
    const timer = setInterval(again, retry);
    window.addEventListener("online", again);
    return () => {
      here = false;
      clearInterval(timer);
      window.removeEventListener("online", again);
    };
  }, [panelId, flush]);
  const tap = useCallback(
    async (body: Schemas["NewEntry"]) => {
      const one: Tap = { ...body, panel: panelId, made: Date.now() };
      await kept.put(one);
      setWaiting((list) => [...list, one]);
      await flush();
    },
    [panelId, flush],
  );
  return { waiting, away, fault, tap, flush };
}

/** The figure while taps wait: by the table that the server sent ahead; null where it does not tell. */
export function ahead(hand: Schemas["Hand"], waiting: Tap[]): { left: number; read: number; done: number } | null {
  const passes = waiting.filter((t) => t.kind === "pass").length;
  if (waiting.some((t) => t.step !== hand.step || !["pass", "paper"].includes(t.kind))) return null;
  if (passes === 0) return { left: hand.passes_left, read: hand.read_after, done: hand.passes_done };
  const at = hand.ahead[passes - 1];
  return at ? { left: at.passes_left, read: at.read_after, done: hand.passes_done + passes } : null;
}
