import { expect, settled, test } from "./shop";

interface Look {
  marks: { kind: string; x_mm: number; y_mm: number; found: string }[];
  tally: { nibs: number };
}

test.use({ viewport: { width: 390, height: 844 }, hasTouch: true });

const roof = "/panels/library-van.roof";

test("booth mode with a finger on a phone", async ({ page, demo }) => {
  await page.goto(demo.url);
  await page.evaluate(() => localStorage.setItem("waxplanus.mode", "booth"));
  await page.goto(`${demo.url}${roof}/look`);
  await settled(page);

  // Every key is large enough for a wet finger, and nothing lies beside the screen.
  for (const key of await page.locator(".lookkeys button").all()) {
    const box = await key.boundingBox();
    expect(box?.height ?? 0, await key.innerText()).toBeGreaterThanOrEqual(48);
    expect((box?.x ?? 0) + (box?.width ?? 0)).toBeLessThanOrEqual(390);
  }
  for (const key of await page.locator(".markkey:not(.more)").all()) {
    expect((await key.boundingBox())?.height ?? 0).toBeGreaterThanOrEqual(72);
  }
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);

  const picture = page.getByRole("group", { name: /Tap to place/ });
  const box = await picture.boundingBox();
  if (!box) throw new Error("no picture");
  for (let i = 0; i < 3; i++) {
    await page.touchscreen.tap(box.x + box.width * (0.35 + 0.12 * i), box.y + box.height * 0.5);
    await expect(page.getByTestId("nibs")).toHaveText(String(i + 1));
  }
  await page.getByRole("button", { name: /Undo nib 3/ }).tap();
  await expect(page.getByTestId("nibs")).toHaveText("2");
  await page.getByRole("button", { name: /Redo nib 3/ }).tap();
  await expect(page.getByTestId("nibs")).toHaveText("3");

  // Another kind by its key, then the next panel.
  await page.getByRole("button", { name: /^scratch, 0 placed/ }).tap();
  await page.touchscreen.tap(box.x + box.width * 0.5, box.y + box.height * 0.42);
  await expect(page.getByRole("heading", { name: "scratch 1" })).toBeVisible();
  await page.getByRole("button", { name: "catches" }).tap();
  await expect(page.getByText("12 ± 5.0 µm").first()).toBeVisible();
  await settled(page);
  await expect.poll(async () => (await demo.get<Look>(`${roof}/look`)).marks.map((m) => m.kind).join(" ")).toBe("nib nib nib scratch");
  expect((await demo.get<Look>(`${roof}/look`)).marks.every((m) => m.found === "booth")).toBe(true);
  await page.getByRole("button", { name: "all marks" }).tap();
  await page.getByRole("button", { name: /Next panel/ }).tap();
  await expect(page).not.toHaveURL(new RegExp(roof));
});

test("what nobody read is dots, and a layer shows the marks", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${demo.url}/cars/hire-saloon`);
  await settled(page);
  await expect(page.getByRole("button", { name: /^roof: not read/ })).toBeVisible();
  const unread = page.locator('[data-panel="roof"] rect[fill^="url(#unread"]');
  await expect(unread).toHaveCount(1);
  await page.keyboard.press("l");
  await expect(unread).toHaveCount(0);
  await expect(page.locator('[data-panel="bonnet"] circle')).toHaveCount(4);
  await page.locator('[data-panel="bonnet"]').focus();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/hire-saloon.bonnet\/look/);

  // Read says the same of a panel without readings, and draws no map.
  await page.goto(`${demo.url}/panels/hire-saloon.roof/read`);
  await expect(page.getByText("The film is not drawn before it is known.")).toBeVisible();
  await expect(page.locator('.thing rect[fill^="url(#unread"]')).toHaveCount(1);
});

test("nibs are planned as spots, and worked one by one", async ({ page, demo }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.goto(`${demo.url}/panels/library-van.L-slide/plan`);
  await expect(page.getByText(/^Nibs only: 34 nibs filed/)).toBeVisible();
  await page.getByRole("button", { name: /^Use / }).click();
  await expect(page.getByRole("heading", { name: /Nibs are filed one by one/ })).toBeVisible();
  await page.getByRole("button", { name: /Work them one by one/ }).click();
  await expect(page.getByRole("dialog").getByText(/on the nib alone/)).toBeVisible();
  await page.keyboard.press("g");
  await expect(page.getByText(/^33 nibs still stand here/)).toBeVisible();
});
