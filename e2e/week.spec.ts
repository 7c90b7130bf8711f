import { accessible, expect, settled, test } from "./shop";

interface Week {
  now: string;
  text: string;
  tasks: { key: string; title: string; person: string; start: string; end: string; put: boolean; car: string }[];
  cars: { id: string; name: string; late: boolean; due_at?: string; chain: string[] }[];
}

test("the week is planned from an empty shop on, held to a promise, moved by keys and pulled by hand", async ({ page, empty: shop, request }) => {
  await page.goto(`${shop.url}/week`);
  await settled(page);
  await expect(page.getByText("Nobody works here yet")).toBeVisible();
  const taken = await request.post(`${shop.url}/api/cars`, { data: { name: "Dinghy trailer", body: "loose", colour: "light", painter: "Nele", width_mm: 900, height_mm: 600, groups: [{ keys: ["panel"], facts: { origin: "here", coats: 4 } }] } });
  expect(taken.status()).toBe(201);
  await page.goto(`${shop.url}/`);
  await settled(page);
  await expect(page.getByRole("complementary", { name: "The day" })).toContainText("Nele");
  await expect(page.getByRole("complementary", { name: "The day" })).toContainText("Dinghy trailer: wash");
  await page.keyboard.press("w");
  await settled(page);
  await expect(page.getByText("No car has a date")).toBeVisible();
  await accessible(page);

  // A promise that cannot be kept is told; one that can is.
  await page.getByRole("button", { name: /Dinghy trailer: done/ }).click();
  await page.keyboard.press("d");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("promised for");
  await dialog.getByRole("button", { name: /Promise it/ }).click();
  await expect(dialog).toBeHidden();
  await settled(page);
  await expect(page.getByText("Everything promised fits")).toBeVisible();

  // By keys: along the chain, to a task, and it is put to another time.
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("m");
  await expect(dialog).toContainText("who does it");
  await page.keyboard.press("Escape");
  await expect(dialog).toBeHidden();

  // Pulled before what it comes after it is refused with why, and stays.
  const before = await shop.get<Week>("/week");
  const level = before.tasks.find((t) => t.title === "Level");
  if (!level) throw new Error("nothing is levelled");
  const refused = await request.post(`${shop.url}/api/week/moves`, { data: { task: level.key, person: "Nele", at: before.tasks[0]?.start, by: "Nele" } });
  expect(refused.status()).toBe(409);
  expect(((await refused.json()) as { detail: string }).detail).toContain("comes after");
  const block = page.locator("[data-task]").first();
  const box = await block.boundingBox();
  if (!box) throw new Error("no block is drawn");
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2 + 60, box.y + box.height / 2, { steps: 4 });
  await page.mouse.up();
  await settled(page);
  await expect.poll(async () => (await shop.get<Week>("/week")).tasks.some((t) => t.put)).toBe(true);
  const moved = (await shop.get<Week>("/week")).tasks.find((t) => t.put);
  expect(moved && moved.start > (before.tasks.find((t) => t.key === moved.key)?.start ?? "")).toBe(true);
  await page.reload();
  await settled(page);
  await expect(page.getByText(/not where (it was|they were) planned before/)).toBeVisible();
  await page.keyboard.press("n");
  await settled(page);
});

test("hours of people and of the shop are typed, wrong ones are named, and the week follows", async ({ page, demo: shop }) => {
  await page.goto(`${shop.url}/hands`);
  await settled(page);
  await page.getByRole("button", { name: /When Tove works/ }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("hours of their own").check();
  await dialog.getByLabel("Hours on Monday").fill("later");
  await dialog.getByRole("button", { name: /Keep/ }).click();
  await expect(dialog).toContainText("The hours of Monday cannot be read");
  for (const day of ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday"]) await dialog.getByLabel(`Hours on ${day}`).fill("");
  await dialog.getByRole("button", { name: /Keep/ }).click();
  await expect(dialog).toBeHidden();
  await settled(page);
  await expect(page.getByRole("button", { name: /When Tove works: no hours/ })).toBeVisible();
  await page.goto(`${shop.url}/week`);
  await settled(page);
  await expect(page.getByText("Tove works at no time")).toBeVisible();
  expect((await shop.get<Week>("/week")).tasks.every((t) => t.person !== "Tove")).toBe(true);
  await page.goto(`${shop.url}/shop`);
  await settled(page);
  const hours = page.getByRole("region", { name: "Hours of the shop" });
  await hours.getByLabel("usually as warm as").fill("400");
  await hours.getByRole("button", { name: "Keep the hours" }).click();
  await expect(hours).toContainText("°C warm");
  await hours.getByLabel("usually as warm as").fill("12");
  await hours.getByLabel("Hours on Saturday").fill("9-13");
  await hours.getByRole("button", { name: /Keep/ }).click();
  await settled(page);
  await expect(page.getByRole("region", { name: "Hours of the shop" }).getByLabel("Hours on Saturday")).toHaveValue("09:00-13:00");
});
