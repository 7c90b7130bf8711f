import { acceptDoor, accessible, expect, settled, test } from "./bench";

interface Level {
  section: string;
  hand: { passes_left: number; passes_done: number; passes_granted: number; passes_needed: number; locked: boolean; by_look?: { share: number; text: string } };
  log: { kind: string; person: string; reason?: string; share?: number }[];
}

const door = "/panels/pilot-car.L-fdoor";

test("two devices on one section know of each other, and see each pass", async ({ page, demo, browser }) => {
  await acceptDoor(page, demo);
  await settled(page);
  const other = await (await browser.newContext()).newPage();
  await other.goto(`${demo.url}${door}/level`);
  await expect(page.getByText("this very section on another device")).toBeVisible();
  await expect(other.getByText("this very section on another device")).toBeVisible();
  await page.keyboard.press("Space");
  await expect(other.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await other.keyboard.press("]");
  await expect(page.getByText(/is on this panel too/)).toBeVisible();
  await other.close();
  await expect(page.getByText(/is on this panel too/)).toHaveCount(0);
});

test("without a network taps are kept over a closed tab, and arrive once and in order", async ({ page, demo, context }) => {
  await acceptDoor(page, demo);
  await settled(page);
  const first = Number(await page.getByTestId("passes-left").textContent());
  await context.route("**/log", (route) => route.abort());
  for (let i = 1; i <= 2; i++) {
    await page.keyboard.press("Space");
    await expect(page.getByRole("alert")).toContainText(i === 1 ? "1 tap kept here" : "2 taps kept here");
    await expect(page.getByTestId("passes-left")).toHaveText(String(first - i));
    await page.waitForTimeout(450);
  }
  await accessible(page);
  await page.close();
  expect((await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(0);
  await context.unroute("**/log");
  const again = await context.newPage();
  await again.goto(`${demo.url}${door}/level`);
  await expect(again.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
  await expect.poll(async () => (await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(2);
  await again.reload();
  await expect(again.getByTestId("passes-left")).toHaveText(String(first - 2));
  expect((await demo.get<Level>(`${door}/level`)).log.filter((e) => e.kind === "pass")).toHaveLength(2);
});

test("a look at what still shines, a sound, colour in the slurry, and one pass over the stop", async ({ page, demo }) => {
  await acceptDoor(page, demo);
  const level = () => demo.get<Level>(`${door}/level`);
  for (let i = 1; i <= 2; i++) {
    await page.keyboard.press("Space");
    await expect(page.getByRole("img", { name: new RegExp(`^${i === 1 ? "1 pass" : "2 passes"} made`) })).toBeVisible();
    await page.waitForTimeout(420);
  }
  await page.keyboard.press("s");
  await accessible(page);
  await page.getByRole("button", { name: "50 %", exact: true }).click();
  await expect(page.getByText(/^By the look: 50 in 100 still shone after 2 passes/)).toBeVisible();
  await settled(page);
  const looked = await level();
  await expect(page.getByTestId("passes-left")).toHaveText(String(looked.hand.passes_left));
  expect(looked.hand.by_look?.share).toBe(0.5);
  await page.keyboard.press("u");
  await expect(page.getByText(/^By the look/)).toHaveCount(0);

  await page.keyboard.press("k");
  await expect(page.getByText(/rinse paper and panel/)).toBeVisible();
  await page.keyboard.press("p");
  await expect(page.getByText(/rinse paper and panel/)).toHaveCount(0);

  await page.keyboard.press("v");
  await expect(page.getByTestId("passes-left")).toHaveText("0");
  await expect(page.getByText(/Colour in the slurry over clear means it is through/)).toBeVisible();
  await expect(page.getByRole("button", { name: /Override/ })).toBeDisabled();
  await accessible(page);
  await page.keyboard.press("u");
  await expect(page.getByTestId("passes-left")).not.toHaveText("0");

  const { section } = await level();
  for (let i = 0; i < 60; i++) {
    const data = { id: `entry-more-${i}`, section, step: 1, kind: "pass", person: "Tove" };
    if (!(await page.request.post(`${demo.url}/api${door}/log`, { data })).ok()) break;
  }
  await page.reload();
  await expect(page.getByTestId("passes-left")).toHaveText("0");
  const stopped = (await level()).hand.passes_done;
  await page.getByRole("button", { name: /Override/ }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Count one pass" }).click();
  await expect(dialog.getByRole("alert")).toContainText("a reason");
  await accessible(page);
  await dialog.getByLabel("why").fill("a patch that is blocked anyway");
  await dialog.getByRole("button", { name: "Count one pass" }).click();
  await expect(page.getByRole("list", { name: "Log of this section" })).toContainText("a pass over the stop (a patch that is blocked anyway)");
  await settled(page);
  const after = await level();
  expect(after.hand.passes_done).toBe(stopped + 1);
  expect(after.hand.passes_granted).toBe(0);
});
