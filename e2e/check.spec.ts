import { accessible, expect, settled, test } from "./shop";

interface Read {
  readings: { film_um: number }[];
  panel: { coats: number; aim: string; under: string };
}

test("quick check: an answer with each touch, and kept as a car with what was said", async ({ page, empty }) => {
  await page.goto(empty.url);
  await settled(page);
  await page.keyboard.press("q");
  await expect(page.getByText("Type what the gauge shows.")).toBeVisible();
  const film = page.getByRole("textbox", { name: /film in all/ });
  const answer = page.getByRole("region", { name: "The answer" });
  const coats = (n: string) => page.getByRole("group", { name: /coats of clear · C/ }).getByRole("button", { name: new RegExp(`^(✓ )?${n}$`) });
  await film.fill("130");
  await expect(answer.getByText("tight", { exact: true }).first()).toBeVisible();
  await coats("3").click();
  await expect(answer).toContainText("Flat can be done.");
  await expect(answer).toContainText("less than 1 in 1000 that it goes through");
  await expect(answer).toContainText("clear 51 to 87 µm, most likely 68");
  await settled(page);
  await accessible(page);
  // Thin clear: no empty page, but ways with their states; one of them is taken.
  await coats("2").click();
  await page.getByRole("button", { name: /8 rough/ }).click();
  await expect(answer).toContainText("Flat is too much for this film.");
  await expect(answer).toContainText(/The owner agrees to \d+ µm/);
  await answer.getByRole("button", { name: /Nibs only/ }).click();
  await expect(answer).toContainText("Nibs out can be done.");
  // Wrong input says what would be right.
  await film.fill("4000");
  await expect(answer.getByRole("alert")).toContainText("goes from 0 to 3000 µm");
  await film.fill("128");
  await film.press("Enter");
  await film.fill("132");
  await film.press("Enter");
  await expect(page.getByText(/mean 130/)).toBeVisible();
  await page.getByRole("button", { name: /Keep as a car/ }).click();
  await expect(page).toHaveURL(/\/panels\/.*\/read$/);
  await settled(page);
  const panel = /panels\/([^/]+)\/read/.exec(page.url())?.[1] ?? "";
  const read = await empty.get<Read>(`/panels/${panel}/read`);
  expect(read.readings.map((r) => r.film_um)).toEqual([128, 132]);
  expect(read.panel).toMatchObject({ coats: 2, aim: "nibs", under: "unknown" });
});
