import { spawn } from "node:child_process";
import { cp, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import AxeBuilder from "@axe-core/playwright";
import { expect, test as base, type Page } from "@playwright/test";

/** A Wax Planus of its own for one test, the real program on a free port. */
export interface Shop {
  url: string;
  get<T>(path: string): Promise<T>;
}

export async function start(args: string[]): Promise<{ url: string; stop: () => Promise<number | null> }> {
  const child = spawn("../bin/waxplanus", [...args, "--addr", "127.0.0.1:0"], { stdio: ["ignore", "pipe", "pipe"] });
  const ended = new Promise<number | null>((done) => child.on("exit", done));
  const url = await new Promise<string>((found, lost) => {
    let out = "";
    child.stdout.on("data", (chunk: Buffer) => {
      out += chunk.toString();
      const at = /http:\/\/[\d.:]+/.exec(out);
      if (at) found(at[0]);
    });
    child.stderr.on("data", (chunk: Buffer) => (out += chunk.toString()));
    child.on("exit", () => lost(new Error(`the program ended before it was ready: ${out}`)));
  });
  return {
    url,
    stop: () => {
      child.kill("SIGTERM");
      return ended;
    },
  };
}

async function withShop(args: string[], use: (shop: Shop) => Promise<void>) {
  const app = await start(args);
  await use({
    url: app.url,
    get: async <T>(path: string) => {
      const answer = await fetch(`${app.url}/api${path}`);
      if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
      return (await answer.json()) as T;
    },
  });
  expect(await app.stop(), "SIGTERM stops it gracefully").toBe(0);
}

const folder = () => mkdtemp(join(tmpdir(), "waxplanus a shop "));
const served = ["--gauge", "", "--ahead=false"];

/** The demo shop is filled once a worker; each test works on a copy of its own. */
export const test = base.extend<{ demo: Shop; empty: Shop }, { filled: string }>({
  filled: [
    async ({}, use) => {
      const dir = await folder();
      const app = await start(["demo", "--data", dir, "--gauge", ""]);
      expect(await app.stop(), "SIGTERM stops it gracefully").toBe(0);
      await use(dir);
      await rm(dir, { recursive: true });
    },
    { scope: "worker" },
  ],
  demo: async ({ filled }, use) => {
    const dir = await folder();
    await cp(filled, dir, { recursive: true });
    await withShop(["serve", "--data", dir, ...served], use);
    await rm(dir, { recursive: true });
  },
  empty: async ({}, use) => {
    const dir = await folder();
    await withShop(["serve", "--data", dir, ...served], use);
    await rm(dir, { recursive: true });
  },
  page: async ({ page }, use) => {
    const faults: string[] = [];
    page.on("pageerror", (e) => faults.push(e.message));
    page.on("request", (r) => {
      const host = new URL(r.url()).hostname;
      if (host !== "127.0.0.1" && host !== "") faults.push(`the page asked ${r.url()}`);
    });
    await use(page);
    expect(faults, "faults of the page and calls to other hosts").toEqual([]);
  },
});

export { expect };

/** Nothing is on its way to or from the shop server. */
export async function settled(page: Page) {
  await expect(page.locator("#main > *").first()).toBeAttached();
  await expect(page.locator(".waiting")).toHaveCount(0);
  await expect(page.locator(".page[data-busy=false]")).toBeVisible();
}

/** A key that asks something is pressed until it asks: a page that still moves may lose the first press. */
export async function asked(page: Page, key: RegExp | string) {
  await settled(page);
  const dialog = page.getByRole("dialog");
  await expect(async () => {
    if (!(await dialog.isVisible())) await page.getByRole("button", { name: key }).click();
    await expect(dialog).toBeVisible({ timeout: 2000 });
  }).toPass();
  return dialog;
}

/** Says why a step ends although passes are wanted and granted. */
export async function endEarly(page: Page) {
  await expect(page.getByRole("dialog")).toContainText("End this step already?");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toBeHidden();
}

/** The clock of the pages goes on by more than a bounce of the pass key lasts; install it first. */
export async function apart(page: Page) {
  await page.clock.fastForward(450);
}

/** All that was made on this page has arrived at the shop server. */
export async function arrived(page: Page) {
  await expect(page.locator('.page[data-waiting="0"]')).toBeVisible();
}

/** No serious accessibility fault on the screen as it is now. */
export async function accessible(page: Page) {
  await settled(page);
  await page.evaluate(() => document.fonts.ready);
  const found = await new AxeBuilder({ page }).withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"]).analyze();
  const serious = found.violations.filter((v) => v.impact === "serious" || v.impact === "critical");
  expect(serious.map((v) => `${v.id}: ${v.nodes.map((n) => `${n.target.join(" ")} ${n.failureSummary ?? ""}`).join("; ")}`)).toEqual([]);
}

/** µm as the screens write them. */
export function um(v: number): string {
  return Math.abs(v) < 9.95 ? v.toFixed(1) : v.toFixed(0);
}

/** A ladder with many passes of its first grit. */
export const manyPasses = "p2000@rubber*7,p2500-foam@foam-disc*2,3000@foam-disc*3,wool-medium*2,foam-fine*2";

/** Reads the demo car's door until it can be planned, and accepts a ladder. */
export async function acceptDoor(page: Page, demo: Shop) {
  const panel = "/panels/pilot-car.L-fdoor";
  const send = async (path: string, data: unknown) => {
    const answer = await page.request.post(`${demo.url}/api${panel}${path}`, { data });
    expect(answer.status(), await answer.text()).toBe(201);
  };
  for (const [i, film] of [166, 163].entries()) {
    const [at] = (await demo.get<{ next: { x_mm: number; y_mm: number }[] }>(`${panel}/read`)).next;
    await send("/readings", { id: `reading-door-${i}`, x_mm: at?.x_mm, y_mm: at?.y_mm, film, unit: "um", phase: "total" });
  }
  const { basis } = await demo.get<{ basis: string }>(`${panel}/plan?ladder=${encodeURIComponent(manyPasses)}`);
  await send("/plan", { basis, ladder: manyPasses });
  await page.goto(`${demo.url}${panel}/level`);
  await expect(page.getByTestId("passes-left")).toBeVisible();
}

/** Types film into the field of Read and keeps it. */
export async function keep(page: Page, film: string) {
  await page.getByRole("textbox", { name: /Film at spot/ }).fill(film);
  await page.keyboard.press("Enter");
}
