import { acceptDoor, accessible, apart, arrived, expect, keep, settled, test } from "./shop";

const door = "/panels/pilot-car.L-fdoor";

interface Read {
  readings: { id: string; film_um: number; phase: string; x_mm: number; y_mm: number }[];
  next: { x_mm: number; y_mm: number }[];
  panel: { readings: number };
}
interface Level {
  section: string;
  log: { kind: string; struck_at?: string }[];
  hand: { passes_done: number };
}

test("a reading that the shop server does not answer waits on the device and counts once", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  const before = (await demo.get<Read>(`${door}/read`)).readings.length;
  // The answer is lost although the reading arrived; then the network is gone.
  let first = true;
  await page.route("**/readings", async (route) => {
    if (first) {
      first = false;
      await route.fetch();
    }
    await route.abort();
  });
  await keep(page, "166");
  await expect(page.getByRole("alert")).toContainText("does not answer. 1 reading kept on this device: 166 µm");
  await expect(page.getByText("not saved on the shop server")).toBeVisible();
  await expect(page.getByRole("textbox", { name: /Film at spot/ })).toHaveValue("");
  await page.unroute("**/readings");
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(page.getByText("saved on the shop server", { exact: false }).first()).toBeVisible();
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(before + 1);
});

test("the pad, mil and before clear do what the keys do", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  await page.getByRole("button", { name: "unit µm, change" }).click();
  await page.getByRole("button", { name: "before clear", exact: true }).click();
  for (const key of ["4", ".", "1", "5", "9"]) await page.getByRole("button", { name: key, exact: true }).click();
  await page.getByRole("button", { name: "take the last digit back" }).click();
  await expect(page.getByRole("textbox", { name: /mil/ })).toHaveValue("4.15");
  await page.getByRole("button", { name: /Keep, next/ }).click();
  await expect(page.getByText("kept: 105.4 µm")).toBeVisible();
  const last = (await demo.get<Read>(`${door}/read`)).readings.at(-1);
  expect(last?.phase).toBe("before_clear");
  expect(last?.film_um).toBeCloseTo(4.15 * 25.4, 6);
  await page.getByRole("button", { name: /Keep, next/ }).click();
  await expect(page.getByRole("alert")).toContainText("Type what the gauge shows");
});

test("passes come from the press of a key, bounce once, and are undone by striking out", async ({ page, demo }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  await settled(page);
  const main = page.getByRole("button", { name: /One more pass/ });
  await page.clock.pauseAt(Date.now() + 60_000); // a busy machine draws a bounce out
  await main.dblclick({ delay: 20 });
  await page.clock.resume();
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await settled(page);
  expect((await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(1);
  await page.getByRole("button", { name: /Paper changed/ }).click();
  await expect(page.getByRole("list", { name: "Log of this section" })).toContainText("paper changed");
  await page.getByRole("button", { name: /Undo paper/ }).click();
  await expect(page.getByRole("button", { name: /Undo pass/ })).toBeVisible();
  await page.getByRole("button", { name: /Undo pass/ }).click();
  await expect(page.getByRole("img", { name: /^0 passes made/ })).toBeVisible();
  await arrived(page);
  const log = (await demo.get<Level>(`${door}/level`)).log;
  expect(log.map((e) => [e.kind, Boolean(e.struck_at)])).toEqual([
    ["pass", true],
    ["paper", true],
  ]);
  await page.getByRole("button", { name: /Next section/ }).click();
  await expect(page).toHaveURL(/section=/);
  await expect(page.getByText("section 2 of 5")).toBeVisible();
  await page.keyboard.press("?");
  await expect(page.getByRole("dialog")).toContainText("one pass");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("dialog")).toBeHidden();
  await page.keyboard.press("Escape");
  await expect(page).toHaveURL(/cars\/pilot-car/);
  await expect(page.getByRole("group", { name: /Pilot car unfolded/ })).toBeVisible();
  await settled(page);
});

test("a tap made while another is on its way is counted, and a lost one is sent again once", async ({ page, demo }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  let answer = () => {};
  const held = new Promise<void>((go) => (answer = go));
  await page.route("**/log", async (route) => {
    await held;
    await route.continue();
  });
  await page.keyboard.press("Space");
  await apart(page);
  await page.keyboard.press("Space");
  await apart(page);
  await page.keyboard.press("Space");
  answer();
  await expect(page.getByRole("img", { name: /^3 passes made/ })).toBeVisible();
  await expect.poll(async () => (await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(3);
  await page.unroute("**/log");

  await settled(page);
  const before = Number(await page.getByTestId("passes-left").textContent());
  await page.route("**/log", async (route) => {
    await route.fetch(); // it arrives, its answer does not
    await route.abort();
  });
  // It arrived, and the live updates may say so before it is sent again.
  for (const more of [1, 2]) {
    await apart(page);
    await page.keyboard.press("Space");
    await expect(page.getByTestId("passes-left"), "the figure goes on by the table").toHaveText(String(before - more));
  }
  await accessible(page);
  await page.unrouteAll({ behavior: "ignoreErrors" }); // one may be on its way just now
  await expect.poll(async () => (await demo.get<Level>(`${door}/level`)).hand.passes_done, { timeout: 30_000 }).toBe(5);
  await expect(page.getByRole("alert")).toBeHidden();
  await settled(page);
  expect((await demo.get<Level>(`${door}/level`)).hand.passes_done, "each once").toBe(5);
});

test("the whole way works by keyboard alone", async ({ page, demo }) => {
  await page.goto(demo.url);
  await settled(page);
  await page.keyboard.press("Enter");
  await expect(page.getByRole("textbox", { name: /Film at spot/ })).toBeFocused();
  await page.keyboard.type("166");
  await page.keyboard.press("Enter");
  await expect(page.getByText("kept: 166 µm")).toBeVisible();
  // N moves to the next cross, once; B and ? work from the field; digits find the field from anywhere.
  const second = (await demo.get<Read>(`${door}/read`)).next[1];
  await page.keyboard.press("n");
  await page.keyboard.press("b");
  await expect(page.getByRole("button", { name: /B day/ })).toBeVisible();
  await page.keyboard.press("b");
  await page.getByRole("button", { name: /another spot/ }).focus();
  await page.keyboard.type("163");
  await expect(page.getByRole("textbox", { name: /Film at spot/ })).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page.getByText("kept: 163 µm")).toBeVisible();
  const kept = (await demo.get<Read>(`${door}/read`)).readings.at(-1);
  expect([kept?.x_mm, kept?.y_mm]).toEqual([second?.x_mm, second?.y_mm]);
  await page.keyboard.press("x");
  await page.keyboard.type("the probe sat on tape");
  await page.keyboard.press("Enter");
  await expect(page.getByText("one struck out")).toBeVisible();
  await settled(page);
  await page.getByRole("textbox", { name: /Film at spot/ }).focus();
  await page.keyboard.type("165");
  await page.keyboard.press("Enter");
  await expect(page.getByText("kept: 165 µm")).toBeVisible();
  await page.keyboard.press("p");
  await expect(page.getByRole("button", { name: /Use balanced/ })).toBeVisible();
  await settled(page);
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("passes-left")).toBeVisible();
  await page.keyboard.press("Space");
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  expect((await demo.get<Read>(`${door}/read`)).panel.readings).toBe(5);
});

test("a screen that cannot be loaded says so and comes back", async ({ page, demo }) => {
  await page.goto(demo.url);
  await settled(page);
  await page.route("**/assets/CarPage*", (route) => route.abort());
  page.removeAllListeners("pageerror"); // the lost file is meant to be one
  await page.getByRole("link", { name: "Pilot car, the whole car" }).click();
  await expect(page.getByRole("alert")).toContainText("What was kept on the shop server is safe");
  await page.unroute("**/assets/CarPage*");
  await page.getByRole("button", { name: "Load again" }).click();
  await expect(page.getByRole("group", { name: /Pilot car unfolded/ })).toBeVisible();
  await settled(page);
});
