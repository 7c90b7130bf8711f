import { accessible, asked, expect, settled, test } from "./shop";

interface Offers {
  offers: { name: string; head: string; hours_text: string; price_text: string; state: string }[];
  taken?: { text: string };
}

test("an owner is offered a car four ways, takes one by keys, and it is planned so", async ({ page, demo }) => {
  const of = await demo.get<Offers>("/cars/library-van/offers");
  await page.goto(`${demo.url}/cars/library-van`);
  await settled(page);
  await page.keyboard.press("p");
  await settled(page);
  for (const o of of.offers) {
    const column = page.getByRole("region", { name: o.head });
    await expect(column).toContainText(o.hours_text);
    await expect(column).toContainText(o.price_text.replace(" ", ""));
    await expect(column.getByRole("img").first()).toHaveJSProperty("complete", true);
  }
  await accessible(page);

  // Hours hidden, and shown again; the third one chosen.
  await page.keyboard.press("h");
  await expect(page.getByText("hours of work")).toHaveCount(0);
  await page.keyboard.press("h");
  await page.keyboard.press("3");
  await expect(page.getByRole("button", { name: /Owner takes 3/ })).toBeVisible();
  const ask = await asked(page, /Owner takes 3/);
  await expect(ask).toContainText(of.offers[2]?.hours_text ?? "?");
  await ask.getByRole("button", { name: /Owner takes it/ }).click();
  await expect(ask).toBeHidden();
  await expect(page.getByText(/^Taken on /)).toContainText(of.offers[2]?.head ?? "?");
  await page.reload();
  await settled(page);
  await expect(page.getByText(/^Taken on /)).toBeVisible();
  expect((await demo.get<Offers>("/cars/library-van/offers")).taken?.text).toContain(of.offers[2]?.hours_text);

  // The sheet opens as a PDF of its own.
  const sheet = await page.request.get(`${demo.url}/api/cars/library-van/offersheet/offers.pdf`);
  expect(sheet.headers()["content-type"]).toBe("application/pdf");
});

test("the best use of the owner's hours, made the aims of the panels; goods are counted and run out", async ({ page, demo }) => {
  await page.goto(`${demo.url}/cars/hire-saloon/budget`);
  await settled(page);
  await expect(page.getByText(/The next best: /)).toBeVisible();
  const gained = page.getByRole("img", { name: /of 100 of the gain/ });
  const before = await gained.getAttribute("aria-label");
  await page.keyboard.press("n");
  await expect(gained).not.toHaveAttribute("aria-label", before ?? "");
  await accessible(page);

  // A moulding covers the roof of this one: other panels come first.
  const roof = page.getByRole("row", { name: /^Roof/ });
  await roof.getByRole("button", { name: "faces up" }).click();
  await accessible(page);
  await page.keyboard.press("5");
  await expect(roof).toContainText("covered");
  // The control that was pressed has the focus again, and leaves Enter to the page.
  await expect(page.getByRole("dialog")).toHaveCount(0);
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/cars\/hire-saloon\/plans$/);

  await page.goto(`${demo.url}/shelf`);
  await settled(page);
  await page.keyboard.press("g");
  const ask = page.getByRole("dialog");
  await ask.getByLabel("thing").selectOption({ label: "P1500 wet paper, 14 here" });
  await ask.getByRole("button", { name: "were used" }).click();
  await ask.getByLabel("how much").fill("99");
  await ask.getByRole("button", { name: /Keep it/ }).click();
  await expect(ask.getByText(/count them again/)).toBeVisible();
  await ask.getByLabel("how much").fill("2");
  await page.keyboard.press("Enter");
  await expect(ask.getByRole("status")).toContainText("12 here");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("region", { name: "What runs out, and when" })).toContainText("P1500 wet paper");
  await accessible(page);
});
