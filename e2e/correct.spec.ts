import { accessible, apart, expect, settled, test } from "./shop";

interface Condition {
  condition: { swirls?: string; dead?: string; gone: number };
}
interface Plan {
  offers: { gone?: number; film_um: { mean: number } }[];
  correct?: { gone: number; packages: { ladder: string }[] };
}

const roof = "/panels/hire-saloon.roof";
const bonnet = "/panels/hire-saloon.bonnet";

test("a swirled roof is compared, planned by the share that shall go, and the lamp shows what is left", async ({ page, demo }) => {
  // Read it first, so that a plan can be judged.
  for (let n = 0; n < 8; ) {
    const { next } = await demo.get<{ next: { x_mm: number; y_mm: number }[] }>(`${roof}/read`);
    if (next.length === 0) break;
    for (const at of next) {
      const answer = await page.request.post(`${demo.url}/api${roof}/readings`, { data: { id: `reading-swirls-${n}`, x_mm: at.x_mm, y_mm: at.y_mm, film: 118 + (n % 3), unit: "um", phase: "total" } });
      expect(answer.status(), await answer.text()).toBe(201);
      n++;
    }
  }
  expect((await page.request.patch(`${demo.url}/api${roof}`, { data: { aim: "polish" } })).status()).toBe(200);

  await page.goto(`${demo.url}${roof}/look`);
  await settled(page);
  await page.keyboard.press("w");
  await expect(page.getByRole("heading", { name: /One lamp in the paint: which is it\?/ })).toBeVisible();
  await expect(page.getByText("Wash it and hold one lamp at arm's length").first()).toBeVisible();
  await accessible(page);
  await page.keyboard.press("3");
  await expect(page.getByRole("button", { name: "swirls medium", exact: true })).toHaveAttribute("aria-pressed", "true");
  await page.getByRole("button", { name: /8 in 10 gone/ }).click();
  await page.keyboard.press("n"); // water does not bring the gloss back
  await page.getByRole("button", { name: "dead layer heavy" }).click();
  await page.getByRole("button", { name: /^Keep for the roof/ }).click();
  await expect(page.getByRole("alert")).toContainText("Water does not bring the gloss back");
  await page.keyboard.press("6");
  await page.getByRole("button", { name: /^Keep for the roof/ }).click();
  await expect(page.getByRole("button", { name: /Kept: on to Plan/ })).toBeVisible();
  const { condition } = await demo.get<Condition>(`${roof}/condition`);
  expect(condition).toMatchObject({ swirls: "medium", dead: "none", gone: 0.8 });
  await page.reload();
  await expect(page.getByRole("button", { name: "swirls medium", exact: true })).toHaveAttribute("aria-pressed", "true");
  await accessible(page);

  await page.getByRole("button", { name: /Kept: on to Plan/ }).click();
  await expect(page.getByRole("slider")).toHaveAttribute("aria-valuenow", "80");
  const eighty = await demo.get<Plan>(`${roof}/plan`);
  expect(Math.min(...eighty.offers.map((o) => o.gone ?? 0))).toBeGreaterThanOrEqual(0.8);
  await expect(page.getByRole("img", { name: /one lamp mirrored as it is/ })).toBeVisible();
  await accessible(page);
  await page.getByRole("slider").press("End");
  await expect.poll(async () => (await demo.get<Plan>(`${roof}/plan`)).correct?.gone).toBe(0.99);
  const all = await demo.get<Plan>(`${roof}/plan`);
  expect(all.offers[0]?.film_um.mean).toBeGreaterThan(eighty.offers[0]?.film_um.mean ?? 0);
  // A square of the way on screen shows half of the swirls still there: they are deeper than was said.
  await page.getByRole("button", { name: "try it on a square first" }).click();
  await page.getByRole("dialog").getByRole("button", { name: "half" }).click();
  await accessible(page);
  await page.getByRole("button", { name: /Keep what it shows/ }).click();
  await expect(page.getByRole("dialog").getByText(/by a try square/)).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  const taught = await demo.get<{ condition: { learned?: boolean; swirls_um: { median_um: number } } }>(`${roof}/condition`);
  expect(taught.condition.learned).toBe(true);
  expect(taught.condition.swirls_um.median_um).toBeGreaterThan(0.8);
  await page.getByRole("list", { name: "Packages" }).getByRole("button").first().click();
  await expect(page.getByText(/step by step/)).toBeVisible();
  await expect(page.getByRole("slider")).toBeVisible();
});

test("panels that lie alike are said to look alike at once", async ({ page, demo }) => {
  await page.goto(`${demo.url}${bonnet}/condition`);
  await settled(page);
  await page.keyboard.press("5");
  await page.keyboard.press("l");
  await expect(page.getByRole("button", { name: /Kept: on to Plan/ })).toBeVisible();
  const { condition } = await demo.get<Condition>("/panels/hire-saloon.roof/condition");
  expect(condition).toMatchObject({ swirls: "heavy", dead: "light" });
});

interface Level {
  hand: { passes_needed: number; swirls: string; cooling?: { seconds: number } };
  log: { id: string; kind: string; share?: number }[];
}

test("the bonnet is polished: it gets warm, and what is left of the first section sets the cycles of the others", async ({ page, demo }) => {
  const other = async () => {
    const { sections } = await demo.get<{ sections: { key: string }[] }>(`${bonnet}/level`);
    return demo.get<Level>(`${bonnet}/level?section=${encodeURIComponent(sections.at(-1)?.key ?? "")}`);
  };
  const planned = (await other()).hand.passes_needed;
  await page.clock.install();
  await page.goto(`${demo.url}${bonnet}/level`);
  await settled(page);
  await expect(page.getByText(/95 % of the swirls shall go here/)).toBeVisible();
  for (let made = 1; made <= 2; made++) {
    await page.keyboard.press("Space");
    await apart(page);
    await expect(page.getByRole("img", { name: new RegExp(`^${made} pass(es)? made`) })).toBeVisible();
    await settled(page);
  }
  await page.keyboard.press("s");
  await expect(page.getByRole("dialog")).toContainText("How many swirls are left?");
  await accessible(page);
  await page.getByRole("dialog").getByRole("button", { name: "35 %" }).click();
  await expect(page.getByText(/By 1 look they are/)).toBeVisible();
  await expect(page.getByText(/^Warm, \d+ s/)).toBeVisible();
  expect((await other()).hand.passes_needed).toBeGreaterThan(planned);
  await page.reload();
  await expect(page.getByText(/By 1 look they are/)).toBeVisible();
  await page.keyboard.press("h");
  await expect(page.getByRole("dialog")).toContainText("35 % of the swirls left");
  await page.getByRole("button", { name: "Close" }).click();
  await page.keyboard.press("u");
  await expect(page.getByText(/tell what is left of them/)).toBeVisible();
  expect((await other()).hand.passes_needed).toBe(planned);
});

test("a square is struck out with what it taught; a part that looks worse gets cycles of its own", async ({ page, demo }) => {
  const flap = "/panels/milk-float.panel";
  const learned = async () => (await demo.get<{ condition: { learned?: boolean } }>(`${flap}/condition`)).condition.learned;
  expect(await learned()).toBe(true);
  await page.goto(`${demo.url}${flap}/plan`);
  await page.getByRole("tab", { name: /^tries/ }).click();
  await page.getByRole("button", { name: "strike out" }).click();
  await page.getByRole("dialog").getByRole("textbox").fill("taped over the wrong half");
  await page.getByRole("dialog").getByRole("button", { name: /^Strike/ }).click();
  await expect(page.getByText("taped over the wrong half")).toBeVisible();
  expect(await learned()).toBeUndefined();

  await page.goto(`${demo.url}${flap}/condition`);
  await settled(page);
  const parts = async () => (await demo.get<{ condition: { parts: { swirls?: string }[] } }>(`${flap}/condition`)).condition.parts;
  await page.keyboard.press("z");
  await page.keyboard.press("4");
  await expect(page.getByRole("button", { name: /^Keep for the /, exact: false }).first()).toBeEnabled();
  await accessible(page);
  await page.keyboard.press("Enter");
  await expect.poll(async () => (await parts()).map((p) => p.swirls)).toEqual(["heavy"]);
  await page.goto(`${demo.url}${flap}/plan`);
  await expect(page.getByText(/\d+ % gone by the same steps/)).toBeVisible();
  await page.goto(`${demo.url}${flap}/condition`);
  await settled(page);
  await page.keyboard.press("z");
  await page.getByRole("button", { name: "It looks as the rest" }).click();
  await expect.poll(parts).toEqual([]);
});
