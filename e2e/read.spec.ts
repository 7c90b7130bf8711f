import type { Page } from "@playwright/test";
import { spawn, type ChildProcess } from "node:child_process";
import { createServer } from "node:net";
import { writeFile } from "node:fs/promises";
import type { AddressInfo } from "node:net";
import { accessible, expect, keep, settled, start, test, type Shop } from "./shop";

const door = "/panels/pilot-car.L-fdoor";

interface Read {
  readings: { id: string; no: number; film_um: number; source: string; x_mm: number; y_mm: number; struck_reason?: string; sure?: string }[];
  next: { x_mm: number; y_mm: number }[];
  study?: { ahead: { text: string }; film_um: { mean: number }; borrowed: boolean };
  zones: { name: string }[];
}

/** A port that nothing listens on. */
async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((done) => probe.listen(0, "127.0.0.1", done));
  const { port } = probe.address() as AddressInfo;
  await new Promise((done) => probe.close(done));
  return port;
}

function gauge(port: number): ChildProcess {
  return spawn("../bin/waxplanus", ["gauge", "--addr", `127.0.0.1:${port}`, "--seed", "5"], { stdio: ["pipe", "ignore", "ignore"] });
}

/** The open place has gone to the gauge. */
const toGauge = (page: Page) => page.waitForResponse((r) => r.url().endsWith("/api/probe/spot") && r.ok());

test("a gauge sends to the open spot, is lost and found, and nothing counts twice", async ({ page }) => {
  const port = await freePort();
  const app = await start(["demo", "--gauge", `127.0.0.1:${port}`]);
  const read = async () => (await (await fetch(`${app.url}/api${door}/read`)).json()) as Read;
  let stand = gauge(port);
  try {
    let aimed = toGauge(page);
    await page.goto(`${app.url}${door}/read`);
    await expect(page.getByText("STAND-IN-1 is sending")).toBeVisible();
    await settled(page);
    const before = await read();
    await aimed;
    stand.stdin?.write("\n");
    await expect(page.getByText(/kept: [\d.]+ µm/)).toBeVisible();
    const kept = (await read()).readings;
    expect(kept).toHaveLength(before.readings.length + 1);
    expect(kept.at(-1)).toMatchObject({ source: "gauge", x_mm: before.next[0]?.x_mm, y_mm: before.next[0]?.y_mm });

    await page.getByRole("button", { name: /take it back/ }).click();
    await expect(page.getByText(/taken back; it stays on record/)).toBeVisible();
    expect((await read()).readings.at(-1)?.struck_reason).toBe("taken back at once");

    stand.kill();
    await expect(page.getByText(/Gauge stopped sending at/)).toBeHidden(); // what was said stands
    await page.reload();
    await expect(page.getByText(/Gauge stopped sending at/)).toBeVisible();
    await keep(page, "166");
    await expect(page.getByText("kept: 166 µm")).toBeVisible();
    expect((await read()).readings.at(-1)?.source).toBe("typed");

    stand = gauge(port);
    aimed = toGauge(page);
    await page.reload();
    await expect(page.getByText("STAND-IN-1 is sending")).toBeVisible({ timeout: 15_000 });
    const count = (await read()).readings.length;
    await aimed;
    stand.stdin?.write("\n");
    await expect(page.getByText(/kept: [\d.]+ µm/)).toBeVisible();
    await page.reload();
    await expect(page.getByText("STAND-IN-1 is sending")).toBeVisible();
    expect((await read()).readings).toHaveLength(count + 1);
  } finally {
    stand.kill();
    expect(await app.stop(), "an open page does not hold it up").toBe(0);
  }
});

test("a reading that does not fit is asked back, and kept only with a reason", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  const count = (await demo.get<Read>(`${door}/read`)).readings.length;
  await keep(page, "6.5");
  await expect(page.getByRole("alert")).toContainText("mil instead of µm? As mil it is 165.1 µm");
  await accessible(page);
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(count);
  await page.getByRole("button", { name: "keep as 165.1 µm" }).click();
  await expect(page.getByText("kept: 165.1 µm")).toBeVisible();

  await keep(page, "340");
  await expect(page.getByRole("alert")).toContainText("Filler, a repair, or another panel?");
  await page.getByRole("button", { name: "read again", exact: true }).click();
  await expect(page.getByRole("alert")).toHaveCount(0);
  await keep(page, "340");
  await page.getByRole("button", { name: "keep 340 µm anyway" }).click();
  const why = page.getByRole("button", { name: "keep 340 µm anyway" });
  await expect(why).toBeDisabled();
  await page.getByLabel("Why does it stand?").fill("filler under it");
  await why.click();
  await expect(page.getByText("kept: 340 µm")).toBeVisible();
  expect((await demo.get<Read>(`${door}/read`)).readings.at(-1)?.sure).toBe("filler under it");
});

test("two readings of one place that differ ask for a third", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  await keep(page, "166");
  await expect(page.getByText("kept: 166 µm")).toBeVisible();
  await page.getByRole("button", { name: /Read again/ }).click();
  await keep(page, "180");
  await expect(page.getByText("kept: 180 µm")).toBeVisible();
  await expect(page.getByText("read it a third time")).toBeVisible();
  await keep(page, "167");
  await expect(page.getByText("kept: 167 µm")).toBeVisible();
  await expect(page.getByText("read it a third time")).toHaveCount(0);
  const r = (await demo.get<Read>(`${door}/read`)).readings.slice(-3);
  expect(new Set(r.map((x) => `${x.x_mm},${x.y_mm}`)).size).toBe(1);
});

test("layers, mil on every screen, the gauge checked and studied, a blend drawn", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  for (const legend of ["doubt of the film", "headroom of the clear", "film, total"]) {
    await page.keyboard.press("l");
    await expect(page.getByRole("img", { name: new RegExp(`^${legend} from`) })).toBeVisible();
  }
  await expect(page.getByText(/More readings change no decision|more would settle|readings? more/)).toBeVisible();
  await page.getByRole("button", { name: /films in µm/ }).click();
  await expect(page.getByRole("columnheader", { name: "film, mil" })).toBeVisible();
  await expect(page.getByText(/expected \d\.\d\d ± \d\.\d\d mil/).first()).toBeVisible();
  await expect(page.locator("#main")).not.toContainText(/[\ue000\ue001]/);
  await keep(page, "6.5");
  await expect(page.getByText("kept: 6.50 mil")).toBeVisible();
  expect((await demo.get<Read>(`${door}/read`)).readings.at(-1)?.film_um).toBeCloseTo(165.1, 1);
  await page.goto(`${demo.url}/cars/pilot-car`);
  await expect(page.getByRole("columnheader", { name: "film, mil" })).toBeVisible();
  await page.getByRole("button", { name: /films in mil/ }).click();
  await expect(page.getByRole("columnheader", { name: "film, µm" })).toBeVisible();

  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  await page.keyboard.press("c");
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("status")).toContainText("never looked at");
  await dialog.getByLabel("shows on bare metal").fill("0.3");
  await dialog.getByLabel("foil is").fill("125");
  await dialog.getByLabel("shows on the foil").fill("126");
  await dialog.getByRole("button", { name: /Keep the check/ }).click();
  await expect(dialog.getByRole("status")).toContainText("as it should be");
  await dialog.getByLabel(/shots of one spot/).fill("151 152.5 151 150.5 152 153 150 151");
  await dialog.getByRole("button", { name: "Study 8 shots" }).click();
  await expect(dialog).toContainText("from 8 shots of one place");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(page.getByText("not checked today")).toHaveCount(0);

  await page.keyboard.press("z");
  const zones = page.getByRole("group", { name: /tap the corners of a zone/ });
  const box = await zones.boundingBox();
  if (!box) throw new Error("no panel to draw on");
  for (const [x, y] of [[0.4, 0.6], [0.6, 0.6], [0.6, 0.8], [0.4, 0.8]] as const) await page.mouse.click(box.x + box.width * x, box.y + box.height * y);
  await dialog.getByRole("button", { name: "Keep this zone of 4 corners" }).click();
  await expect(dialog.getByRole("list", { name: "Zones" })).toContainText("zone 1: sprayed here, 2 coats");
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.reload();
  await expect(page.getByRole("button", { name: "1 zone" })).toBeVisible();
});

test("readings of a whole car come in and go out as one file", async ({ page, demo }, info) => {
  await page.goto(`${demo.url}/cars/pilot-car`);
  await settled(page);
  await page.keyboard.press("i");
  const file = info.outputPath("car.csv");
  await writeFile(file, "panel;x;y;shot 1;shot 2\nleft rear door;300;620;116,5;117\nright rear door;;;110;\nside rear l;1;1;110;\n");
  await page.getByLabel("File of readings").setInputFiles(file);
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("heading")).toHaveText("4 rows, 1 to look at");
  await expect(dialog).toContainText("placed on a regular pattern");
  await dialog.getByRole("button", { name: /Keep 3, leave out 1/ }).click();
  await expect(dialog.getByRole("heading")).toHaveText("3 readings kept");
  await dialog.getByRole("button", { name: /Back to the car/ }).click();
  const [download] = await Promise.all([page.waitForEvent("download"), page.getByRole("link", { name: "all readings as CSV" }).click()]);
  const text = await (await fetch(download.url())).text();
  expect(text.split("\n")[0]).toBe("panel,panel_key,no,x_mm,y_mm,film_um,phase,time,gauge,source,placed,sure,struck,id,agreed_floor_um");
  expect(text).toContain("left rear door,L-rdoor");
  const other = (await demo.get<Read>("/panels/pilot-car.R-rdoor/read")).readings;
  expect(other.map((r) => r.film_um)).toEqual([110]);
  const again = info.outputPath("again.csv");
  await writeFile(again, text);
  await page.keyboard.press("i");
  await page.getByLabel("File of readings").setInputFiles(again);
  await expect(dialog.getByRole("button", { name: /Nothing new/ })).toBeDisabled();
});

test("plastic shows the film of its neighbours, borrowed with double doubt", async ({ page, demo }: { page: import("@playwright/test").Page; demo: Shop }) => {
  const car = await demo.get<{ panels: { id: string; name: string; substrate: string }[] }>("/cars/pilot-car");
  const bumper = car.panels.find((p) => p.substrate === "plastic" && p.name.includes("front"));
  await page.goto(`${demo.url}/panels/${bumper?.id ?? ""}/read`);
  await expect(page.getByText("lent by the panels beside it")).toBeVisible();
  await expect(page.getByText("reads nothing here").first()).toBeVisible();
  await accessible(page);
  const read = await demo.get<Read>(`/panels/${bumper?.id ?? ""}/read`);
  expect(read.study?.borrowed).toBe(true);
  expect(read.next.length).toBeGreaterThan(0); // for a gauge that reads through plastic
});
