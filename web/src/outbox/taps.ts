import { useCallback, useEffect, useRef, useState } from "react";
import { api, Refusal, type Problem, type Schemas } from "../api/client";

/** What is kept on this device until the bench server has it; made is this device's clock, ms. */
interface OnDevice {
  id: string;
  panel: string;
  made: number;
}
export type Tap = Schemas["NewEntry"] & OnDevice & { what?: undefined };
/** A reading taken without a network; refused when the bench server asks back. */
export type KeptReading = Schemas["NewReading"] & OnDevice & { what: "reading"; refused?: Problem };
type Kept = Tap | KeptReading;

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
  of: async (panel: string) => (await run("readonly", (s) => s.getAll() as IDBRequest<Kept[]>)).filter((t) => t.panel === panel).sort((a, b) => a.made - b.made),
  put: (one: Kept) => run("readwrite", (s) => s.put(one)),
  drop: (id: string) => run("readwrite", (s) => s.delete(id)),
};

/** Sends what is kept, with how long ago it was made: this device's clock may show anything. */
function send(one: Kept): Promise<unknown> {
  const seconds_ago = Math.max(Date.now() - one.made, 0) / 1000;
  if (one.what === "reading") return api.addReading(one.panel, { ...bare(one), seconds_ago });
  return api.addEntry(one.panel, { ...bare(one), seconds_ago });
}

const own = ["panel", "made", "what", "refused"];

/** Without what only this device needs. */
function bare<T extends Kept>(one: T): Omit<T, "panel" | "made" | "what" | "refused"> {
  return Object.fromEntries(Object.entries(one).filter(([key]) => !own.includes(key))) as Omit<T, "panel" | "made" | "what" | "refused">;
}

export const unanswered = (error: unknown) => !(error instanceof Refusal) || error.problem.status === 0;

const retry = 4000;

/**
 * Taps and readings of a panel: each is written to this device first, sent in order
 * with its own id and time, and taken off once the bench server has it. They outlive
 * the tab. A reading that the bench server asks back about stays until it is answered.
 */
export function useTaps(panelId: string, arrived: () => Promise<unknown>) {
  const [all, setAll] = useState<Kept[]>([]);
  const [away, setAway] = useState(false);
  const [fault, setFault] = useState("");
  const busy = useRef(false);
  const tell = useRef(arrived);
  useEffect(() => {
    tell.current = arrived;
  });
  const flush = useCallback(async () => {
    if (busy.current || panelId === "") return;
    busy.current = true;
    try {
      const next = async () => (await kept.of(panelId)).find((t) => !(t.what === "reading" && t.refused));
      for (let one = await next(); one; one = await next()) {
        const id = one.id;
        try {
          await send(one);
          setFault("");
        } catch (error) {
          if (!(error instanceof Refusal) || unanswered(error)) {
            setAway(true);
            return;
          }
          setAway(false);
          if (one.what === "reading") {
            const asks = { ...one, refused: error.problem };
            await kept.put(asks);
            setAll((list) => list.map((t) => (t.id === id ? asks : t)));
            continue;
          }
          setFault(error.message); // it arrived, and was not taken
        }
        setAway(false);
        await kept.drop(id);
        await tell.current();
        setAll((list) => list.filter((t) => t.id !== id));
      }
    } finally {
      busy.current = false;
    }
  }, [panelId]);
  useEffect(() => {
    let here = true;
    void kept.of(panelId).then((list) => {
      if (here && list.length > 0) setAll(list);
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
  const keep = useCallback(
    async (one: Kept) => {
      await kept.put(one);
      setAll((list) => [...list.filter((t) => t.id !== one.id), one]);
      await flush();
    },
    [flush],
  );
  const tap = useCallback((body: Schemas["NewEntry"]) => keep({ ...body, panel: panelId, made: Date.now() }), [panelId, keep]);
  const read = useCallback((body: Schemas["NewReading"]) => keep({ ...body, panel: panelId, made: Date.now(), what: "reading" }), [panelId, keep]);
  const drop = useCallback(async (id: string) => {
    await kept.drop(id);
    setAll((list) => list.filter((t) => t.id !== id));
  }, []);
  const waiting = all.filter((t): t is Tap => t.what === undefined);
  const readings = all.filter((t): t is KeptReading => t.what === "reading");
  /** Answers what the bench server asked about a kept reading. */
  const answer = useCallback(
    (one: KeptReading, change: Partial<Schemas["NewReading"]>) => {
      return keep({ ...bare(one), ...change, panel: one.panel, made: one.made, what: "reading" });
    },
    [keep],
  );
  return { waiting, readings, away, fault, tap, read, drop, answer, flush };
}

/** Taps that change neither sheet nor step. */
const beside = ["pass", "paper", "shave", "block"];

/** The figure while taps wait: by the table that the server sent ahead; null where it does not tell. */
export function ahead(hand: Schemas["Hand"], waiting: Tap[]): { left: number; read: number; done: number } | null {
  const passes = waiting.filter((t) => t.kind === "pass").length;
  if (waiting.some((t) => t.step !== hand.step || !beside.includes(t.kind))) return null;
  if (passes === 0) return { left: hand.passes_left, read: hand.read_after, done: hand.passes_done };
  const at = hand.ahead[passes - 1];
  return at ? { left: at.passes_left, read: at.read_after, done: hand.passes_done + passes } : null;
}
