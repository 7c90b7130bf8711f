import { openDB, type DBSchema, type IDBPDatabase } from "idb";
import type { Problem, ProofAsk, Schemas } from "../api/client";

/** One thing done to the marks of a panel. */
export type MarkAct =
  | { do: "add"; id: string; body: Schemas["NewMark"] }
  | { do: "strike"; id: string; reason: string }
  | { do: "restore"; id: string }
  | { do: "change"; id: string; body: Schemas["MarkChange"] }
  | { do: "close"; id: string; body: Schemas["MarkClose"] }
  | { do: "mirror"; id: string; copy: string };

/** What is sent: a tap of Level, what takes one back, a reading, what was done to a mark, the photo of a mark, a photo that proves a panel. */
export type Sent =
  | { what: "entry"; body: Schemas["NewEntry"] }
  | { what: "undo"; entry: string }
  | { what: "reading"; body: Schemas["NewReading"]; refused?: Problem }
  | { what: "mark"; act: MarkAct }
  | { what: "photo"; mark: string; file: File }
  | { what: "proof"; ask: ProofAsk; file: File };

/** Something kept on this device until the shop server has it; no is infinite until it is written down, made is this device's clock, ms. */
export type Kept = Sent & { no: number; id: string; panel: string; made: number };
export type New = Kept extends infer K ? (K extends Kept ? Omit<K, "no"> : never) : never;

interface Device extends DBSchema {
  outbox: { key: number; value: New & { no?: number }; indexes: { id: string } };
}

const open = () =>
  openDB<Device>("waxplanus.outbox", 1, {
    upgrade: (db) => void db.createObjectStore("outbox", { keyPath: "no", autoIncrement: true }).createIndex("id", "id", { unique: true }),
  });

/**
 * Where things are written down: the browser's database, whose numbers keep the order
 * of all tabs; this page alone where the browser has no room or refuses one.
 */
class Keeper {
  private opened: Promise<IDBPDatabase<Device>> | undefined;
  private refuses = false;
  private page: Kept[] = [];

  /** Whether something is kept by this page alone, and lost with it. */
  get fleeting(): boolean {
    return this.page.length > 0;
  }

  async all(): Promise<Kept[]> {
    return [...((await this.ask((db) => db.getAll("outbox"))) ?? []), ...this.page] as Kept[];
  }

  async add(one: New): Promise<void> {
    // Behind what this page keeps alone nothing may get ahead.
    if (!this.fleeting && (await this.ask(async (db) => (await db.getFromIndex("outbox", "id", one.id))?.no ?? db.add("outbox", one))) !== undefined) return;
    this.page.push({ ...one, no: Date.now() + this.page.length });
  }

  async replace(one: Kept): Promise<void> {
    if (this.page.some((k) => k.no === one.no)) this.page = this.page.map((k) => (k.no === one.no ? one : k));
    else await this.ask((db) => db.put("outbox", one));
  }

  async drop(no: number): Promise<void> {
    if (this.page.some((k) => k.no === no)) this.page = this.page.filter((k) => k.no !== no);
    else await this.ask((db) => db.delete("outbox", no));
  }

  /** What the database answers; nothing where there is none, or it has no room. */
  private async ask<T>(question: (db: IDBPDatabase<Device>) => Promise<T>): Promise<T | undefined> {
    if (this.refuses) return undefined;
    try {
      const first = !this.opened;
      const db = await (this.opened ??= open());
      if (first) await this.takeOver(db);
      return await question(db);
    } catch (error) {
      this.refuses = !(error instanceof DOMException && error.name === "QuotaExceededError");
      return undefined;
    }
  }

  /** What an earlier version of these pages had kept: taps and readings in a database, marks beside it. */
  private async takeOver(db: IDBPDatabase<Device>): Promise<void> {
    const before = (await indexedDB.databases()).some((d) => d.name === "waxplanus") ? await openDB("waxplanus") : null;
    if (before?.objectStoreNames.contains("taps")) {
      const kept = (await before.getAll("taps")) as Earlier[];
      for (const { id, panel, made, what, refused, ...rest } of kept.sort((a, b) => a.made - b.made)) {
        const body = { id, ...rest };
        const on = { id, panel, made };
        if (what === "reading") await db.add("outbox", { ...on, what, body: body as Schemas["NewReading"], ...(refused ? { refused } : {}) });
        // Of which plan it was, nobody wrote down: none is said.
        else await db.add("outbox", { ...on, what: "entry", body: { ...body, plan: "" } as Schemas["NewEntry"] });
        await before.delete("taps", id);
      }
    }
    before?.close();
    for (const key of Object.keys(localStorage).filter((k) => k.startsWith(marks))) {
      const { waiting = [] } = JSON.parse(localStorage.getItem(key) ?? "{}") as { waiting?: MarkAct[] };
      for (const [i, act] of waiting.entries()) await db.add("outbox", { what: "mark", act, id: `${act.id}.${act.do}.${i}`, panel: key.slice(marks.length), made: Date.now() });
      localStorage.removeItem(key);
    }
  }
}

const marks = "waxplanus.look.";

/** A tap or a reading as an earlier version kept it. */
type Earlier = { id: string; panel: string; made: number; what?: "reading"; refused?: Problem } & Record<string, unknown>;

export const device = new Keeper();
