import { accessible, expect, keep, test } from "./shop";

interface Car {
  id: string;
  next: { panel_id: string };
}
interface Read {
  readings: { x_mm: number; film_um: number }[];
}

test("a shop of one's own starts empty and takes a loose panel in", async ({ page, empty }) => {
  await page.goto(empty.url);
  await expect(page.getByRole("heading", { name: /No cars in\.\s*Take the first one in\./ })).toBeVisible();
  await accessible(page);
  await page.keyboard.press("c");
  await page.getByLabel("name", { exact: true }).fill("Milk float flap");
  await page.getByRole("button", { name: /^loose panel/ }).click();
  await page.getByLabel("wide").fill("20");
  await page.getByLabel("wide").press("Enter");
  await expect(page.getByRole("alert")).toContainText("each side has to be 100 to 3000 mm");
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page.getByRole("alert").last()).toContainText("1 to 40 letters");
  await accessible(page);
  // A reload in the middle loses nothing.
  await page.reload();
  await expect(page.getByLabel("name", { exact: true })).toHaveValue("Milk float flap");
  await page.getByLabel("who works on it").fill("Issa");
  await page.getByLabel("wide").fill("900");
  await page.getByLabel("wide").press("Enter");
  await page.getByRole("button", { name: /^loose panel: nothing said/ }).click();
  await page.getByRole("button", { name: "factory" }).click();
  await page.getByRole("button", { name: "flat", exact: true }).click();
  await expect(page.getByText(/clear, a guess/)).toBeVisible();
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page.getByRole("heading", { name: "Milk float flap" })).toBeVisible();
  await expect(page).toHaveURL(/\/cars\//);
  await accessible(page);

  // Nothing is drawn before it is known; then one reading by keyboard at a place of one's own.
  await page.keyboard.press("Enter");
  await expect(page.getByText("The film is not drawn before it is known.")).toBeVisible();
  const field = page.getByRole("textbox", { name: /Film at spot 1/ });
  await field.press("m");
  const where = async () => Number(/At (\d+)/.exec((await page.getByText(/Arrows move it 10 mm/).textContent()) ?? "")?.[1]);
  const from = await where();
  for (let i = 0; i < 3; i++) await field.press("ArrowRight");
  await field.press("Shift+ArrowRight");
  expect(await where(), "fast keys lose no step").toBe(from + 31);
  await keep(page, "118");
  await expect(page.getByText("kept: 118 µm")).toBeVisible();
  const [car] = (await empty.get<{ cars: Car[] }>("/cars")).cars;
  const read = await empty.get<Read>(`/panels/${car?.next.panel_id ?? ""}/read`);
  expect(read.readings).toHaveLength(1);
  await expect(page.getByRole("img", { name: /Film core/ })).toBeVisible();

  // A place off the paint is said so, and the reading there is refused.
  await page.getByRole("group", { name: /loose panel, 900 by 600/ }).click({ position: { x: 4, y: 4 } });
  await expect(page.getByText(/is outside the loose panel/)).toBeVisible();
  await keep(page, "120");
  await expect(page.getByRole("alert")).toContainText("outside the loose panel");
  await expect(page.getByRole("textbox", { name: /Film at spot/ })).toHaveValue("120");

  await page.getByRole("button", { name: /factory, peel/ }).click();
  await page.getByRole("dialog").getByLabel(/Coats of clear/).fill("eleven");
  await expect(page.getByRole("dialog").getByRole("alert")).toContainText("whole number from 0 to 10");
  await page.keyboard.press("Escape");
});

test("what is not there says so", async ({ page, demo }) => {
  await page.goto(`${demo.url}/panels/none/read`);
  await expect(page.getByRole("alert")).toContainText("nothing of that name on record");
  await page.goto(`${demo.url}/cars/none`);
  await expect(page.getByRole("alert")).toContainText("nothing of that name on record");
});
