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
