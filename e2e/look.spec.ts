import type { Page } from "@playwright/test";
import { accessible, arrived, expect, settled, test } from "./shop";

interface Mark {
  id: string;
  no: number;
  kind: string;
  x_mm: number;
  y_mm: number;
  length_mm: number;
  angle_deg: number;
  text: string;
  outcome: string;
  outcome_reason?: string;
  relief_um: { mean: number };
  grade: number;
  found: string;
  film_um: number;
}
interface Look {
  marks: Mark[];
  tally: { nibs: number; nibs_per_m2: number; text: string };
  panel: { width_mm: number; height_mm: number };
}

const roof = "/panels/library-van.roof";

const picture = (page: Page) => page.getByRole("group", { name: /Tap to place/ });

/** Taps the picture at shares of its width and height. */
async function tap(page: Page, x: number, y: number) {
  const box = await picture(page).boundingBox();
  if (!box) throw new Error("no picture");
  await page.mouse.click(box.x + x * box.width, box.y + y * box.height);
}

test("booth mode: one tap a nib, counted, undone, done again, kept over a reload", async ({ page, demo }) => {
  await page.goto(`${demo.url}${roof}/look`);
  await settled(page);
  await page.keyboard.press("b");
  const count = page.getByTestId("nibs");
  await expect(count).toHaveText("0");
  await expect(page.getByText("No marks. Glide a hand over the panel")).toBeVisible();
  for (let i = 0; i < 6; i++) {
    await tap(page, 0.35 + 0.05 * i, 0.45 + 0.01 * i);
    await expect(count).toHaveText(String(i + 1));
  }
  await page.getByRole("button", { name: /Undo nib 6/ }).click();
  await expect(count).toHaveText("5");
  await page.keyboard.press("Control+z");
  await expect(count).toHaveText("4");
  await page.keyboard.press("y");
  await expect(count).toHaveText("5");
  await arrived(page);
  const look = await demo.get<Look>(`${roof}/look`);
  expect(look.tally.nibs).toBe(5);
  expect(look.marks.every((m) => m.found === "booth" && m.kind === "nib")).toBe(true);
  await expect(page.getByText(look.tally.text)).toBeVisible();
  await accessible(page);
  await page.reload();
  await expect(count).toHaveText("5");

  // Closer, pulled aside without placing anything, then a nib to the mm.
  await page.getByRole("button", { name: "closer" }).click();
  await page.getByRole("button", { name: "closer" }).click();
  const box = await picture(page).boundingBox();
  if (!box) throw new Error("no picture");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 - 80, box.y + box.height / 2 - 10, { steps: 4 });
  await page.mouse.up();
  await expect(count).toHaveText("5");
  await tap(page, 0.5, 0.5);
  await expect(count).toHaveText("6");
  await page.keyboard.press("0");
  await page.getByRole("button", { name: /Undo nib 6/ }).click();
  await expect(page.getByRole("button", { name: /Redo nib 6/ })).toBeVisible();
  await page.getByRole("button", { name: /Undo nib 5/ }).click();
  await expect(count).toHaveText("4");
});

test("marks by keyboard alone: placed, sized, moved, mirrored, struck out", async ({ page, demo }) => {
  const door = "/panels/pilot-car.R-fdoor";
  await page.goto(`${demo.url}${door}/look`);
  await settled(page);
  await page.keyboard.press("s");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "scratch 1" })).toBeVisible();
  await page.keyboard.press(".");
  await page.keyboard.type("14");
  await page.keyboard.press("Enter");
  await expect(page.getByText("14 ± 1.7 µm").first()).toBeVisible();
  await arrived(page);
  let [mark] = (await demo.get<Look>(`${door}/look`)).marks;
  const { width_mm } = (await demo.get<Look>(`${door}/look`)).panel;
  expect(mark?.x_mm).toBeCloseTo(width_mm / 2 + 10, 0);
  for (let i = 0; i < 5; i++) await page.keyboard.press("ArrowLeft");
  await arrived(page);
  [mark] = (await demo.get<Look>(`${door}/look`)).marks;
  expect(mark?.x_mm, "fast keys lose no step").toBeCloseTo(width_mm / 2 - 40, 0);
  expect(mark?.relief_um.mean).toBe(14);
  await settled(page);
  await expect(page.getByRole("region", { name: "The chosen mark" })).toContainText(mark?.text ?? "no verdict");
  await page.keyboard.press("m");
  await arrived(page);
  const other = await demo.get<Look>("/panels/pilot-car.L-fdoor/look");
  const copy = other.marks.filter((m) => m.kind === "scratch").at(-1);
  expect(copy?.x_mm).toBeCloseTo(width_mm - (mark?.x_mm ?? 0), 1);
  await page.keyboard.press("Delete");
  await arrived(page);
  expect((await demo.get<Look>(`${door}/look`)).marks).toHaveLength(0);
  await page.keyboard.press("u");
  await arrived(page);
  expect((await demo.get<Look>(`${door}/look`)).marks).toHaveLength(1);
});

test("sizes by drag, peel by comparison, and what became of a mark", async ({ page, demo }) => {
  const flap = "/panels/milk-float.panel";
  expect((await page.request.patch(`${demo.url}/api${flap}`, { data: { aim: "flat" } })).ok()).toBe(true);
  await page.goto(`${demo.url}${flap}/look`);
  await settled(page);
  await page.keyboard.press("p");
  await tap(page, 0.4, 0.4);
  await expect(page.getByRole("heading", { name: "peel patch 1" })).toBeVisible();
  await page.keyboard.press("v");
  await expect(page.getByRole("dialog")).toContainText("Which one looks like your panel?");
  await expect(page.getByRole("dialog").locator("img")).toHaveCount(11);
  await page.waitForFunction(() => Array.from(document.images).every((i) => i.complete && i.naturalWidth > 100));
  await accessible(page);
  await page.getByRole("dialog").getByRole("button", { name: /8 heavy/ }).click();
  await arrived(page);
  const peel = async () => (await demo.get<Look>(`${flap}/look`)).marks.find((m) => m.kind === "peel");
  expect((await peel())?.grade).toBe(8);

  // The end is dragged out, the whole is dragged away.
  const before = await peel();
  const grip = page.locator(`[data-mark="${before?.id ?? ""}"] circle[fill="var(--tape)"]`).first();
  const from = await grip.boundingBox();
  if (!from) throw new Error("no grip");
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 60, from.y + 40, { steps: 4 });
  await page.mouse.up();
  await arrived(page);
  const after = await peel();
  expect(after?.length_mm).toBeGreaterThan((before?.length_mm ?? 0) + 20);
  expect(after?.angle_deg).not.toBe(before?.angle_deg);
  await page.keyboard.press("u");
  await arrived(page);
  expect((await peel())?.length_mm).toBe(before?.length_mm);

  // Left needs a reason; it stays on record and is told to the owner.
  await page.getByRole("button", { name: "Left", exact: true }).click();
  await expect(page.getByRole("button", { name: "Leave it" })).toBeDisabled();
  await page.getByLabel(/why it is left/).fill("behind the number plate");
  await page.getByRole("button", { name: "Leave it" }).click();
  await arrived(page);
  expect(await peel()).toMatchObject({ outcome: "left", outcome_reason: "behind the number plate" });
  await page.goto(`${demo.url}/cars/milk-float/take-in`);
  await expect(page.getByText("It stays: behind the number plate.")).toBeVisible();
});

test("taps without a shop server wait, survive a reload and arrive once", async ({ page, demo }) => {
  const second = await page.context().newPage();
  for (const tab of [page, second]) {
    await tab.goto(`${demo.url}${roof}/look`);
    await settled(tab);
  }
  await page.context().setOffline(true);
  await tap(page, 0.4, 0.5);
  await tap(page, 0.5, 0.52);
  await expect(page.getByText("The shop server does not answer. 2 taps kept on this device")).toBeVisible();
  await expect(page.getByText(/not saved on the shop server/)).toBeVisible();
  // A second tab of this device does not wipe out what waits for the first.
  await tap(second, 0.6, 0.48);
  await expect(second.getByText("3 taps kept on this device")).toBeVisible();
  await second.close();
  await page.route("**/api/panels/*/marks", (route) => route.abort());
  await page.context().setOffline(false);
  await page.reload();
  await expect(page.getByTestId("nibs")).toHaveText("3");
  expect((await demo.get<Look>(`${roof}/look`)).marks).toHaveLength(0);
  await page.unroute("**/api/panels/*/marks");
  await arrived(page);
  await expect(page.getByTestId("nibs")).toHaveText("3");
  expect((await demo.get<Look>(`${roof}/look`)).marks).toHaveLength(3);

  // A tap on glass is refused with the reason and is not counted.
  await page.goto(`${demo.url}/panels/pilot-car.R-rdoor/look`);
  await settled(page);
  await picture(page).locator('path[fill="var(--glass)"]').first().click();
  await expect(page.getByRole("alert")).toContainText("glass");
  await expect(page.getByTestId("nibs")).toHaveText("0");
});

test("two tablets mark one panel; Plan and Level turn the marks into work", async ({ page, demo, context }) => {
  const door = "/panels/pilot-car.L-fdoor";
  const second = await context.newPage();
  await page.goto(`${demo.url}${door}/look`);
  await second.goto(`${demo.url}${door}/look`);
  await settled(page);
  await settled(second);
  await tap(page, 0.3, 0.5);
  await tap(second, 0.6, 0.7);
  await arrived(page);
  await arrived(second);
  await page.reload();
  await expect(page.getByTestId("nibs")).toHaveText("13");
  await second.close();

  await page.goto(`${demo.url}${door}/plan`);
  await expect(page.getByRole("region", { name: "why" })).toContainText("13 nibs");
  await page.goto(`${demo.url}${door}/level`);
  const standing = page.getByText(/nibs still stand here/);
  await expect(standing).toContainText("13 nibs");
  await page.keyboard.press("g");
  await expect(standing).toHaveCount(0);
  const look = await demo.get<Look>(`${door}/look`);
  expect(look.marks.filter((m) => m.kind === "nib").every((m) => m.outcome === "gone")).toBe(true);
  expect(look.marks.find((m) => m.kind === "run")?.outcome, "a run that is soft inside is not gone").toBe("open");
  expect(look.tally.nibs).toBe(0);
});
