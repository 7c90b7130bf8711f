import { accessible, asked, expect, settled, test } from "./shop";

interface Went {
  text: string;
  lines: { what: string; name: string; said_min?: number; took_text: string }[];
}

test("a car goes against what was promised, a time is said by keys, taken back, and taught", async ({ page, demo }) => {
  const went = () => demo.get<Went>("/cars/ferry-coupe/went");
  await page.goto(`${demo.url}/cars/ferry-coupe`);
  await settled(page);
  await page.keyboard.press("w");
  await settled(page);
  await expect(page.getByText((await went()).text, { exact: true })).toBeVisible();
  for (const name of ["Hours", "Film", "Ready", "Price"]) await expect(page.getByRole("region", { name, exact: true })).toContainText("promised");
  await expect(page.getByRole("region", { name: "Hours", exact: true }).getByRole("img")).toHaveAttribute("aria-label", /h done, ends at .*, promised/);
  await accessible(page);

  // The first line that nobody timed is chosen; one further, and its time said.
  await page.keyboard.press("ArrowDown");
  const name = await page.locator('button[aria-pressed="true"]').innerText();
  const ask = await asked(page, /Say how long it took/);
  await expect(ask).toContainText(name);
  const time = ask.getByLabel("minutes, or hours as 1:40");
  await time.fill("soon");
  await page.keyboard.press("Enter");
  await expect(ask).toContainText("hours and minutes, such as 1:40");
  await time.fill("1:10");
  await ask.getByLabel("who did it").selectOption("Tove");
  await page.keyboard.press("Enter");
  await expect(ask).toBeHidden();
  const line = page.getByRole("row", { name: new RegExp(`^${name} `) });
  await expect(line).toContainText("70 min");
  await expect(line).toContainText("As Tove said");
  await page.reload();
  await settled(page);
  await expect(line).toContainText("70 min");

  await line.getByRole("button").click();
  const again = await asked(page, /Say how long it took/);
  await again.getByRole("button", { name: "Take back what was said" }).click();
  await expect(again).toBeHidden();
  await expect(line).not.toContainText("As Tove said");
  expect((await went()).lines.find((l) => l.name === name)?.said_min).toBeUndefined();

  await page.goto(`${demo.url}/hands`);
  await settled(page);
  await expect(page.getByRole("region", { name: "Pace" })).toContainText(/Washing, masking, looking and the rest take .* 3 pieces of work timed/);

  // Who does what, and what an hour of theirs costs.
  await page.getByRole("button", { name: /^When Issa works/ }).click();
  const hours = page.getByRole("dialog");
  await hours.getByLabel("an hour costs the shop").fill("a lot");
  await hours.getByRole("button", { name: /Keep/ }).click();
  await expect(hours).toContainText("What an hour costs is a number, such as 48");
  await hours.getByLabel("an hour costs the shop").fill("41");
  await hours.getByLabel("level", { exact: true }).check();
  await hours.getByRole("button", { name: /Keep/ }).click();
  await expect(hours).toBeHidden();
  await expect(page.getByRole("button", { name: /^When Issa works/ })).toContainText("41 € an hour; not for plan, runs, hand over");
});
