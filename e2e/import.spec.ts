import { writeFile } from "node:fs/promises";
import { accessible, expect, test } from "./shop";

const door = "/panels/pilot-car.L-fdoor";

interface Read {
  readings: { film_um: number; source: string; placed?: boolean }[];
}

test("a file of readings is shown before it is kept, and adds nothing twice", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  const before = (await demo.get<Read>(`${door}/read`)).readings.length;
  const open = async (file: string) => {
    await page.getByRole("button", { name: /import a file/ }).click();
    await page.getByLabel("File of readings").setInputFiles(file);
  };
  await open("files/gauge-left-bench.csv");
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByRole("heading")).toHaveText("6 rows, 2 to look at");
  await expect(dialog).toContainText("semicolon between columns, decimal comma");
  await expect(dialog).toContainText("Row 5: 1.2 µm is thinner than any paint");
  await expect(dialog).toContainText('no panel of this car is called "side rear l"');
  await expect(dialog).toContainText("Nothing is kept until you say so");
  await accessible(page);
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(before);

  await dialog.getByRole("button", { name: /Keep 4, leave out 2/ }).click();
  await expect(dialog.getByRole("heading")).toHaveText("4 readings kept");
  await dialog.getByRole("button", { name: /Back to the panel/ }).click();
  const kept = (await demo.get<Read>(`${door}/read`)).readings;
  expect(kept).toHaveLength(before + 4);
  expect(kept.slice(-4).map((r) => r.film_um)).toEqual([163.5, 165, 169.2, 171]);
  await expect(page.getByRole("button", { name: /reading \d+: 163.5 µm/ })).toBeVisible();

  await open("files/gauge-left-bench.csv");
  await expect(dialog.getByRole("button", { name: /Nothing new/ })).toBeDisabled();
  await expect(dialog).toContainText("4 rows kept before");
  await page.keyboard.press("Escape");
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(before + 4);
});

test("mil, a column chosen by hand, and files that are none", async ({ page, demo }, info) => {
  await page.goto(`${demo.url}${door}/read`);
  await page.getByRole("button", { name: /import a file/ }).click();
  const dialog = page.getByRole("dialog");
  const give = async (name: string, content: string | Buffer) => {
    const file = info.outputPath(name);
    await writeFile(file, content);
    await page.getByLabel("File of readings").setInputFiles(file);
  };
  await give("empty.csv", "");
  await expect(dialog.getByRole("alert")).toContainText("empty");
  await give("picture.csv", Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0xff, 0xfe]));
  await expect(dialog.getByRole("alert")).toContainText("not UTF-8");
  await give("mil.csv", "x,y,depth\n200,600,6.5\n700,600,6.7\n");
  await expect(dialog.getByRole("alert")).toContainText("No column looks like film");
  await dialog.getByLabel("Column of film").selectOption("depth");
  await expect(dialog.getByRole("button", { name: /Keep 2/ })).toBeEnabled();
  await give("mil.csv", "x,y,film\n200,600,6.5\n700,600,6.7\n");
  await expect(dialog).toContainText("film, mil");
  await expect(dialog.getByRole("row", { name: /165/ })).toBeVisible();
  await dialog.getByRole("button", { name: "change columns" }).click();
  await dialog.getByLabel("Unit of film").selectOption("um");
  await expect(dialog).toContainText("chosen by hand");
  await expect(dialog.getByRole("row", { name: /6\.5/ })).toBeVisible();
});
