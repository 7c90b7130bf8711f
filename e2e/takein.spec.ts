import { accessible, expect, settled, test } from "./shop";

interface Panel {
  key: string;
  origin: string;
  coats: number;
  aim: string;
  substrate: string;
  width_mm: number;
  past: string[];
  sprayed_at?: string;
}
interface Car {
  id: string;
  name: string;
  owner_words: string;
  cost_limit: number;
  panels: Panel[];
  tellings: { title: string; said_at?: string }[];
  checklist: { task: string; done_at?: string; person?: string }[];
}

test("a car is taken in by keyboard, its panels said alike many at once", async ({ page, empty }) => {
  await page.goto(`${empty.url}/take-in`);
  await expect(page.getByLabel("name", { exact: true })).toBeFocused();
  await page.keyboard.type("Ferry estate");
  await page.keyboard.press("Tab");
  await page.keyboard.type("Runa");
  await page.keyboard.press("Tab");
  await page.keyboard.press("3");
  await expect(page.getByRole("group", { name: "estate unfolded, nose to the left" })).toBeVisible();
  await settled(page);

  // Arrows go to neighbours, Space takes in hand.
  await page.locator('[data-panel="roof"]').focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.locator('[data-panel="tailgate"]')).toBeFocused();
  await page.keyboard.press("Space");
  await page.locator('[data-panel="R-rdoor"]').focus();
  await page.keyboard.press("Space");
  await expect(page.locator(".badge")).toHaveText("2");
  await page.getByRole("button", { name: "elsewhere" }).press("Enter");
  await page.getByRole("group", { name: "coats of clear" }).getByRole("button", { name: "2" }).press("Enter");
  await page.getByRole("button", { name: "match" }).press("Enter");
  await page.getByRole("button", { name: "repaired" }).press("Enter");
  await expect(page.getByText("52 ± 10µm")).toBeVisible();
  await expect(page.getByText(/tight on a guess/)).toBeVisible();
  await page.keyboard.press("a");
  await expect(page.locator(".badge")).toHaveText("13");
  await page.getByRole("button", { name: "factory" }).press("Enter");
  await page.getByRole("button", { name: "polish only" }).press("Enter");
  await expect(page.getByRole("button", { name: /elsewhere, 2 coats, match: / })).toBeVisible();
  await page.getByLabel("in the owner's words").fill("It looks patchy in the sun.");
  await page.getByLabel("may cost up to").fill("900");
  await page.getByLabel("may cost up to").press("Enter");
  await accessible(page);
  await page.keyboard.press("Escape"); // away to Today: nothing is lost
  await expect(page.getByRole("heading", { name: /No cars in/ })).toBeVisible();
  await page.getByRole("button", { name: /take in|Take in/ }).first().click();
  await expect(page.getByLabel("in the owner's words")).toHaveValue("It looks patchy in the sun.");
  await page.getByRole("button", { name: /Take in Enter/ }).press("Enter");
  await expect(page).toHaveURL(/\/cars\//);

  const [made] = (await empty.get<{ cars: Car[] }>("/cars")).cars;
  const car = await empty.get<Car>(`/cars/${made?.id ?? ""}`);
  const of = (key: string) => car.panels.find((p) => p.key === key);
  expect(of("tailgate")).toMatchObject({ origin: "elsewhere", coats: 2, aim: "match", past: ["repaired"] });
  expect(of("R-rdoor")).toMatchObject({ origin: "elsewhere", aim: "match" });
  expect(of("bonnet")).toMatchObject({ origin: "factory", aim: "polish" });
  expect(car).toMatchObject({ owner_words: "It looks patchy in the sun.", cost_limit: 900 });
  await expect(page.getByText("21 marks")).toHaveCount(0);
});

test("sizes and drawings of one's own, with what is wrong said", async ({ page, empty }) => {
  await page.goto(`${empty.url}/take-in`);
  await page.getByLabel("name", { exact: true }).fill("Long saloon");
  await page.getByLabel("who works on it").fill("Tove");
  await page.getByRole("button", { name: /^saloon/ }).click();
  await page.getByRole("textbox", { name: "long mm" }).fill("9000");
  await page.getByRole("textbox", { name: "long mm" }).press("Enter");
  await expect(page.getByRole("alert")).toContainText("has to be 3754 to 5210 mm");
  await page.getByRole("textbox", { name: "long mm" }).fill("4900");
  await page.getByRole("textbox", { name: "long mm" }).press("Enter");
  await expect(page.getByText(/Drawn as 4900 × 1820 × 1432 mm/)).toBeVisible();
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page).toHaveURL(/\/cars\//);

  await page.goto(`${empty.url}/take-in`);
  await page.getByRole("button", { name: /your own outline/ }).click();
  const choose = (name: string, text: string) => page.getByLabel("SVG file of outlines").setInputFiles({ name, mimeType: "image/svg+xml", buffer: Buffer.from(text) });
  await choose("knot.svg", '<svg><path id="a" d="M0 0L90 90L90 0L0 90z"/></svg>');
  await expect(page.getByRole("alert")).toContainText("knot.svg: the outline of the a crosses itself");
  await choose("hatch.svg", '<svg><script>1</script><rect id="Boat hatch" width="90" height="50"/><path d="M5 25L85 25" data-role="crease"/></svg>');
  await expect(page.getByText("Script content was dropped: a script element.")).toBeVisible();
  await page.getByLabel("name", { exact: true }).fill("Boat");
  await page.getByLabel("who works on it").fill("Tove");
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page.getByRole("alert")).toContainText("scale of the drawing is not known");
  await page.getByLabel("width of Boat hatch").fill("900");
  await page.getByLabel("width of Boat hatch").press("Enter");
  await expect(page.getByText(/Scale 10 mm a unit/)).toBeVisible();
  await accessible(page);
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page).toHaveURL(/\/cars\//); // the heading is there before the car is in
  await expect(page.getByRole("heading", { name: "Boat" })).toBeVisible();
  const { cars } = await empty.get<{ cars: Car[] }>("/cars");
  const boat = await empty.get<Car>(`/cars/${cars[1]?.id ?? ""}`);
  expect(boat.panels).toHaveLength(1);
  expect(boat.panels[0]).toMatchObject({ key: "boat-hatch", width_mm: 900 });
});

test("what was said can be said anew, the owner is told, the list is ticked", async ({ page, demo }) => {
  await page.goto(`${demo.url}/cars/pilot-car`);
  await settled(page);
  await page.keyboard.press("t");
  await expect(page).toHaveURL(/take-in/);
  const first = await demo.get<Car>("/cars/pilot-car");
  const title = first.tellings[0]?.title ?? "";
  await expect(page.getByText(title)).toBeVisible();
  await settled(page);
  await page.keyboard.press("y");
  await expect(page.getByRole("button", { name: `${title} said` })).toBeVisible();
  await page.getByLabel(/Strip wax and oils/).click();
  await expect(page.getByLabel(/Strip wax and oils/)).toBeChecked();
  await expect(page.getByText(/Tove \d\d:\d\d/)).toBeVisible();
  await page.locator('[data-panel="roof"]').focus();
  await page.keyboard.press("Space");
  await page.getByRole("button", { name: "match", exact: true }).click();
  await expect(page.getByText("The roof and left front wing.")).toBeVisible();
  await page.getByLabel("in the owner's words").fill("No dust at all.");
  await page.getByRole("button", { name: /Keep the words/ }).click();
  await expect(page.getByRole("button", { name: /To the car/ })).toBeVisible();
  await page.reload();
  await expect(page.getByRole("button", { name: `${title} said` })).toBeVisible();
  await expect(page.getByLabel(/Strip wax and oils/)).toBeChecked();
  const car = await demo.get<Car>("/cars/pilot-car");
  expect(car.owner_words).toBe("No dust at all.");
  expect(car.panels.find((p) => p.key === "roof")?.aim).toBe("match");
  expect(car.tellings.filter((t) => t.said_at)).toHaveLength(1);

  // Another car of this kind starts from what is known of this one.
  await page.goto(`${demo.url}/take-in`);
  await page.getByLabel("name", { exact: true }).fill("Second pilot");
  await page.getByLabel("who works on it").fill("Issa");
  await page.getByRole("button", { name: /^saloon/ }).click();
  await page.getByLabel("its panels are known like those of").selectOption("pilot-car");
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page.getByRole("heading", { name: "Second pilot" })).toBeVisible();
  await expect.poll(async () => (await demo.get<{ cars: Car[] }>("/cars")).cars.length, "taken in").toBe(8);
  const { cars: all } = await demo.get<{ cars: Car[] }>("/cars");
  const second = await demo.get<Car>(`/cars/${all.at(-1)?.id ?? ""}`);
  expect(second.panels.find((p) => p.key === "L-fdoor")).toMatchObject({ origin: "here", coats: 3, aim: "flat" });
  expect(second.panels.find((p) => p.key === "L-fdoor")?.sprayed_at).toBeUndefined();
});

test("a day typed without a time counts from noon, and one picked by mouse is said", async ({ page, empty }) => {
  await page.goto(`${empty.url}/take-in`);
  await page.getByLabel("name", { exact: true }).fill("Two dates");
  await page.getByLabel("who works on it").fill("Tove");
  await page.getByRole("button", { name: /^saloon/ }).click();
  const toggle = async (key: string) => {
    await page.locator(`[data-panel="${key}"]`).focus();
    await page.keyboard.press("Space");
  };
  await toggle("bonnet");
  await page.getByRole("button", { name: "here", exact: true }).click();
  await page.getByLabel("sprayed", { exact: true }).first().click();
  await page.keyboard.type("05012026");
  await page.getByLabel("name", { exact: true }).click();
  await toggle("bonnet");
  await toggle("roof");
  await page.getByRole("button", { name: "here", exact: true }).click();
  await page.getByRole("button", { name: /Choose date/ }).click();
  await page.getByRole("button", { name: "Previous month" }).dispatchEvent("click");
  const day = page.getByRole("gridcell", { name: "15", exact: true });
  await expect(day, "the month has slid in").toHaveCount(1);
  await day.click();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: /Take in Enter/ }).click();
  await expect(page).toHaveURL(/\/cars\//);
  const [made] = (await empty.get<{ cars: Car[] }>("/cars")).cars;
  const car = await empty.get<Car>(`/cars/${made?.id ?? ""}`);
  const sprayed = (key: string) => new Date(car.panels.find((p) => p.key === key)?.sprayed_at ?? 0);
  expect(sprayed("bonnet").toISOString().slice(0, 10)).toBe("2026-01-05");
  expect(sprayed("roof").getTime()).toBeLessThan(Date.now());
  expect(sprayed("roof").getTime()).toBeGreaterThan(Date.now() - 70 * 86_400_000);
});
