import { api, Refusal, type Marked, type Problem } from "../api/client";
import { tabletName } from "./name";
import { device, type Kept, type MarkAct, type New } from "./device";

/** Sends one thing, with how long ago it was made: this device's clock may show anything. */
async function send(one: Kept): Promise<unknown> {
  const seconds_ago = Math.max(Date.now() - one.made, 0) / 1000;
  switch (one.what) {
    case "entry":
      // One of an earlier version of these pages names no plan: that of record it was.
      return api.addEntry(one.panel, { ...one.body, plan: one.body.plan || (await api.level(one.panel, one.body.section, one.body.person)).plan, seconds_ago, device: tabletName() });
    case "undo":
      return api.strikeEntry(one.entry, "undone at once");
    case "reading":
      return api.addReading(one.panel, { ...one.body, seconds_ago });
    case "photo":
      return api.putPhoto(one.mark, one.file);
    case "proof":
      return api.addPhoto(one.panel, { ...one.ask, id: one.id }, one.file);
    case "mark":
      return sendMark(one.panel, one.act);
  }
}

function sendMark(panel: string, act: MarkAct): Promise<Marked> {
  switch (act.do) {
    case "add":
      return api.addMark(panel, act.body);
    case "strike":
      return api.strikeMark(act.id, act.reason);
    case "restore":
      return api.restoreMark(act.id);
    case "change":
      return api.changeMark(act.id, act.body);
    case "close":
      return api.closeMark(act.id, act.body);
    case "mirror":
      return api.mirrorMark(act.id, act.copy);
  }
}

/** What became of something at once: it arrived, was refused, or waits on this device. */
export type Outcome = { answer: unknown } | { refused: Problem } | { waits: true };

/** Who wants to know what became of the things of a panel. */
export interface Listener {
  panel: string;
  /** It is on the shop server; the figures that it changes are asked for before it leaves the list. */
  taken: (one: Kept, answer: unknown) => unknown;
  /** The shop server said no, and why. */
  refused: (one: Kept, problem: Problem) => void;
}

/** How the sending stands. */
export interface Standing {
  kept: readonly Kept[];
  /** Why it waits, in words; nothing while it gets through. */
  trouble: string;
  /** It is kept by this page alone, and lost with it. */
  fleeting: boolean;
}

const again = 4000; // ms
const silent = "The shop server does not answer.";

/**
 * The one queue of this device. Each thing is written down first and sent in the
 * order in which it was made, with its own id, so that twice sent counts once.
 * What is not answered, or answered with a fault of the server, is kept and sent
 * again; after a fault only the things of the same panel wait behind it. What the
 * server refuses leaves the queue and is told to its panel; a reading that it asks
 * back about stays until somebody answers.
 */
class Queue {
  private standing: Standing = { kept: [], trouble: "", fleeting: false };
  private readonly views = new Set<() => void>();
  private readonly listeners = new Set<Listener>();
  private readonly tabs = new BroadcastChannel("waxplanus.outbox");
  /** On its way to the database of this device: it counts at once. */
  private adding: Kept[] = [];
  private stored: Kept[] = [];
  private readonly makers = new Map<string, (outcome: Outcome) => void>();
  private busy = false;
  private asked = false;

  constructor() {
    this.tabs.onmessage = () => void this.load();
    window.addEventListener("online", () => void this.flush());
    window.addEventListener("beforeunload", (event) => {
      if (device.fleeting || this.adding.length > 0) event.preventDefault();
    });
    window.setInterval(() => void this.flush(), again);
    void this.load().then(() => this.flush());
  }

  subscribe = (view: () => void) => {
    this.views.add(view);
    return () => void this.views.delete(view);
  };
  snapshot = () => this.standing;

  listen(one: Listener): () => void {
    this.listeners.add(one);
    return () => void this.listeners.delete(one);
  }

  /** Writes one thing down and sends it; what is refused while its maker waits for it is not kept. */
  async put(one: New): Promise<Outcome> {
    const known = new Promise<Outcome>((tell) => this.makers.set(one.id, tell));
    this.adding.push({ ...one, no: Infinity });
    this.show(this.standing);
    try {
      await device.add(one);
    } finally {
      this.adding = this.adding.filter((k) => k.id !== one.id);
    }
    await this.load();
    this.tabs.postMessage("changed");
    void this.flush();
    return known;
  }

  /** Sends something kept once more, changed as somebody has answered. */
  async change(one: Kept): Promise<void> {
    await device.replace(one);
    await this.load();
    await this.flush();
  }

  async drop(one: Kept): Promise<void> {
    await device.drop(one.no);
    await this.load();
    this.tabs.postMessage("changed");
  }

  async flush(): Promise<void> {
    if (this.busy) {
      this.asked = true;
      return;
    }
    this.busy = true;
    try {
      do {
        this.asked = false;
        await this.alone(() => this.sendAll());
      } while (this.asked);
    } finally {
      this.busy = false;
      // One that is still being written down is not told: its own sending follows.
      for (const { id } of this.stored) this.tell(id, { waits: true });
    }
  }

  private tell(id: string, outcome: Outcome): void {
    this.makers.get(id)?.(outcome);
    this.makers.delete(id);
  }

  /** One tab sends at a time, where the browser can tell; the ids make the rest harmless. */
  private alone(work: () => Promise<void>): Promise<unknown> {
    return "locks" in navigator ? navigator.locks.request("waxplanus.outbox", work) : work();
  }

  private async sendAll(): Promise<void> {
    const stuck = new Set<string>();
    let trouble = "";
    for (;;) {
      const one = (await device.all()).find((k) => !stuck.has(k.panel) && !(k.what === "reading" && k.refused));
      if (!one) break;
      try {
        const answer = await send(one);
        await device.drop(one.no);
        await Promise.all(this.of(one.panel).map((l) => l.taken(one, answer)));
        this.tell(one.id, { answer });
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        if (error.problem.status === 0) {
          this.say(silent);
          return;
        }
        if (!error.refused) {
          trouble = error.message;
          stuck.add(one.panel);
          continue;
        }
        if (one.what === "reading" && !this.makers.has(one.id)) await device.replace({ ...one, refused: error.problem });
        else await device.drop(one.no);
        this.tell(one.id, { refused: error.problem });
        this.of(one.panel).forEach((l) => l.refused(one, error.problem));
      }
      this.tabs.postMessage("changed");
      await this.load();
    }
    this.say(trouble);
  }

  private of(panel: string): Listener[] {
    return [...this.listeners].filter((l) => l.panel === panel);
  }

  private async load(): Promise<void> {
    this.stored = await device.all();
    this.show(this.standing);
  }

  private say(trouble: string): void {
    if (trouble !== this.standing.trouble) this.show({ ...this.standing, trouble });
  }

  private show(next: Standing): void {
    this.standing = { ...next, fleeting: device.fleeting, kept: [...this.stored, ...this.adding.filter((a) => this.stored.every((k) => k.id !== a.id))] };
    this.views.forEach((view) => view());
  }
}

export const queue = new Queue();
