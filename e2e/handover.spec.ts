import { readFile, writeFile } from "node:fs/promises";
import { accessible, asked, expect, settled, test } from "./shop";

const coupe = "/cars/ferry-coupe/hand-over";

test("a car is handed over with its papers, closed, found again, and opened with a reason", async ({ page, demo }) => {
  await page.goto(`${demo.url}${coupe}`);
  await settled(page);
  await expect(page.getByRole("heading", { name: "Still to do" })).toBeVisible();
  const report = page.getByRole("region", { name: "Owner's report" });
  const record = page.getByRole("region", { name: "Film record" });
  await expect(report.locator("svg text").filter({ hasText: /^What was done$/ })).toBeVisible();
  await expect(report.locator("svg image")).toHaveCount(2);
  await expect(record.locator("svg text").filter({ hasText: "record 0007" })).toBeVisible();
  await accessible(page);

  // What goes in is chosen, in whose words too; the paper follows, also after a reload.
  await page.getByRole("checkbox", { name: "People and passes" }).check();
  await expect(report.locator("svg text").filter({ hasText: /^Who did it$/ })).toBeVisible();
  await page.getByRole("checkbox", { name: "Before and after" }).uncheck();
  await expect(report.locator("svg image")).toHaveCount(0);
  await page.getByRole("button", { name: "the trade's" }).click();
  await expect(report.locator("svg")).toContainText("wet paper");
  await page.keyboard.press("u");
  const care = page.getByRole("dialog");
  await care.getByRole("button", { name: "wax", exact: true }).click();
  await care.getByLabel("keep dry").fill("a day");
  await care.getByRole("button", { name: /Into the report/ }).click({ force: true }).catch(() => undefined);
  await expect(care).toContainText("numbers from 0");
  await care.getByLabel("keep dry").fill("30");
  await care.getByLabel("a line of your own").fill("Come by in June.");
  await page.keyboard.press("Enter");
  await expect(report.locator("svg")).toContainText("Come by in June.");
  await page.reload();
  await settled(page);
  await expect(report.locator("svg")).toContainText("Come by in June.");

  await page.keyboard.press("z");
  await expect(page.getByRole("dialog", { name: /Owner's report, page 1/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("f");
  const files = page.getByRole("dialog", { name: "As files" });
  await accessible(page);
  for (const link of await files.getByRole("link").all()) {
    const answer = await page.request.get(demo.url + ((await link.getAttribute("href")) ?? ""));
    expect(answer.status(), await link.textContent().then((t) => t ?? "")).toBe(200);
    expect((await answer.body()).length).toBeGreaterThan(50);
  }
  await page.keyboard.press("Escape");

  // Something is still to do: it goes as it is, and says why.
  await page.keyboard.press("Enter");
  const ask = page.getByRole("dialog");
  await expect(ask.getByRole("button", { name: /^Hand over/ })).toBeDisabled();
  await ask.getByLabel("why it goes as it is").fill("the ferry leaves at four");
  await accessible(page);
  await page.keyboard.press("Enter");
  await expect(page.getByText(/Handed over on .*the ferry leaves at four/)).toBeVisible();
  await expect(page.getByText(/sealed on/).first()).toBeVisible();
  await accessible(page);

  // Nothing is written to it, Today has let it go, and it is found by what was said of it.
  const refused = await page.request.patch(`${demo.url}/api/cars/ferry-coupe`, { data: { name: "Other" } });
  expect(refused.status()).toBe(409);
  await page.goto(demo.url);
  await settled(page);
  await expect(page.locator(".carline").filter({ hasText: "Ferry coup" })).toHaveCount(0);
  await page.keyboard.press("f");
  await expect(page.getByRole("heading", { name: "Find" })).toBeVisible();
  await page.getByRole("textbox").fill("too deep");
  await expect(page.getByRole("link", { name: /Ferry coup/ })).toBeVisible();
  await expect(page.getByText(/handed over \d/)).toBeVisible();
  await accessible(page);
  await page.getByRole("link", { name: /Ferry coup/ }).click();
  await expect(page.getByText(/film record is sealed/)).toBeVisible();
  await page.keyboard.press("Enter");

  // The owner's wish: the name goes, the film record stays.
  await asked(page, "Delete what is known of the owner");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Coupe no. 7" })).toBeVisible();
  await (await asked(page, /Open it again/)).getByLabel("why").fill("came back with a scratch");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: /^Hand over/ })).toBeVisible();
});

test("the shop shows itself on its papers, and its data is in its own hands", async ({ page, demo }, info) => {
  await page.goto(demo.url);
  await settled(page);
  await page.keyboard.press("g");
  await expect(page.getByRole("heading", { name: "Backups" })).toBeVisible();
  await accessible(page);
  await page.getByLabel("name of the shop").fill("Harbour Paint");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "am, pm" }).click();
  await page.getByRole("button", { name: "inches" }).click();
  await page.getByLabel("days are written").selectOption("mdy");
  await expect(page.locator(".who .n")).toHaveText(/ [ap]m$/);
  await page.getByLabel("air dried breathes").fill("400");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").first()).toContainText(/0 to 365/);

  // A copy of the whole shop, checked; and all of it looked through.
  await page.getByRole("button", { name: "Copy the whole shop now" }).click();
  const backups = page.getByRole("region", { name: "Backups" });
  await expect(backups.getByText("by hand")).toBeVisible();
  await backups.getByRole("button", { name: "Check it" }).first().click();
  await expect(backups.getByRole("status")).toContainText("can be put back: 7 cars");
  await page.getByRole("button", { name: "Look the shop through" }).click();
  await expect(page.getByText(/Everything is as it should be/)).toBeVisible();

  // A car goes out as a file; one that is no car is refused, and the car comes back beside itself.
  const file = info.outputPath("coupe.zip");
  await writeFile(file, await (await page.request.get(`${demo.url}/api/cars/ferry-coupe/file`)).body());
  const letter = info.outputPath("letter.zip");
  await writeFile(letter, "Dear painter");
  const choose = page.getByLabel("File of a car");
  await choose.setInputFiles(letter);
  await expect(page.getByRole("region", { name: "A car from a file" }).getByRole("alert")).toContainText("Nothing of it was kept");
  await choose.setInputFiles(file);
  const dialog = page.getByRole("dialog", { name: /Ferry coup/ });
  await expect(dialog).toContainText("All of it is here already.");
  await accessible(page);
  await dialog.getByRole("button", { name: /As a new car beside it/ }).click();
  await expect(page).toHaveURL(/\/hand-over$/);
  await expect(page.getByRole("region", { name: "Film record" }).locator("svg")).toContainText("Harbour Paint");
  await expect(page.getByRole("region", { name: "Film record" }).locator("svg")).toContainText("0.98 in");
  expect((await demo.get<{ total: number }>("/cars")).total).toBe(8);
  expect((await readFile(file)).subarray(0, 2).toString()).toBe("PK");

  await page.goto(`${demo.url}/api`);
  await expect(page.getByRole("heading", { name: "The contract" })).toBeVisible();
  await page.locator("#getHandover summary").click();
  await expect(page.locator("#getHandover pre").first()).toBeVisible();
});
