import { accessible, asked, expect, settled, test } from "./shop";

interface Cars {
  cars: { id: string; name: string }[];
  total: number;
  others: number;
}

test("a car is found by the beginning of a word of its name", async ({ page, demo }) => {
  const all = await demo.get<Cars>("/cars");
  await page.goto(demo.url);
  await settled(page);
  await expect(page.locator(".carline")).toHaveCount(all.total);
  await page.keyboard.press("/");
  await page.getByLabel("Find a car by its name").fill("esta");
  await expect(page.locator(".carline")).toHaveCount(1);
  await expect(page.locator(".carline")).toContainText("Harbour estate");
  await page.getByLabel("Find a car by its name").fill("zebra");
  await expect(page.getByText(/No car in the shop has a name whose words begin with “zebra”/)).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: "Show all cars in the shop" }).click();
  await expect(page.locator(".carline")).toHaveCount(all.total);
});

test("a car that is handed over leaves Today and is found again, also when it was the last", async ({ page, empty, browser }) => {
  const car = { name: "Quay van", body: "panel-van", colour: "light", painter: "Tove", groups: [] };
  const made = await page.request.post(`${empty.url}/api/cars`, { data: car });
  expect(made.status(), await made.text()).toBe(201);
  const { id } = (await made.json()) as { id: string };
  await page.goto(empty.url);
  await expect(page.locator(".carline")).toHaveCount(1);

  // Another device hands it over: this page hears of it.
  const other = await (await browser.newContext()).newPage();
  await other.goto(`${empty.url}/cars/${id}/hand-over`);
  await (await asked(other, /^Hand over/)).getByRole("button", { name: "Hand over" }).click();
  await expect(other.getByText(/^Handed over on /)).toBeVisible();
  await other.close();
  await expect(page.getByRole("heading", { name: /No cars in\./ })).toBeVisible();
  await accessible(page);

  await page.getByRole("button", { name: /1 car handed over/ }).click();
  await expect(page.locator(".carline")).toContainText("Quay van");
  await expect(page.locator(".carline")).toContainText(/handed over/);
  await page.getByRole("link", { name: "Quay van", exact: true }).click();
  await page.getByRole("button", { name: /^Its papers/ }).click();
  await (await asked(page, "Open it again")).getByLabel("why").fill("came back with a scratch");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Hand over/ })).toBeVisible();
  expect((await empty.get<Cars>("/cars")).total).toBe(1);
});

test("Today hears of what was done on a car", async ({ page, demo }) => {
  await page.goto(demo.url);
  await settled(page);
  const line = page.locator(".carline").filter({ hasText: "Harbour estate" });
  await expect(line).toHaveCount(1);
  const { cars } = await demo.get<Cars>("/cars");
  const id = cars.find((c) => c.name === "Harbour estate")?.id ?? "";
  const answer = await page.request.patch(`${demo.url}/api/cars/${id}`, { data: { name: "Jetty estate" } });
  expect(answer.status(), await answer.text()).toBe(200);
  await expect(page.locator(".carline").filter({ hasText: "Jetty estate" })).toHaveCount(1);
  await expect(line).toHaveCount(0);
});
