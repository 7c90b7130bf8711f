import { acceptDoor, accessible, apart, endEarly, expect, keep, manyPasses, settled, test, um } from "./shop";

interface Estimate {
  mean: number;
  sd: number;
}
interface Section {
  key: string;
  name: string;
  film_um: Estimate;
  headroom_um: number;
  state: string;
}
interface Read {
  readings: unknown[];
  sections: Section[];
  study: { clear: Estimate; spend_um: Estimate };
  next: { total_um: Estimate; clear_um: Estimate }[];
}
interface Plan {
  offer: { film_um: Estimate; keeps_um: Estimate; hours: Estimate; steps: { title: string; passes: number; film_um: Estimate; minutes: number; after: { clarity: number } }[] };
  record?: { version: number };
}
interface Level {
  plan: string;
  section: string;
  hand: { passes_left: number; passes_done: number; passes_granted: number; ledger: { gone_um: Estimate; balance_um: Estimate; reserve_um: number }; rate_um: Estimate };
}

const door = "/panels/pilot-car.L-fdoor";

test("a painter reads a door, plans it and levels it", async ({ page, demo }) => {
  await page.clock.install();
  await page.goto(demo.url);
  await expect(page).toHaveTitle(/Wax Planus/);
  await accessible(page);
  await page.getByRole("link", { name: /Read 2 spots/ }).click();
  await expect(page.getByRole("heading", { name: "Pilot car" })).toBeVisible();

  // What the table says is what the API says.
  const table = async () => {
    await settled(page);
    const read = await demo.get<Read>(`${door}/read`);
    for (const s of read.sections) {
      const row = page.getByRole("row", { name: new RegExp(`^${s.name} `) });
      await expect(row).toContainText(`${um(s.film_um.mean)} ± ${um(s.film_um.sd)}`);
      await expect(row).toContainText(s.headroom_um > 0 ? um(s.headroom_um) : "none");
      await expect(row).toContainText(s.state);
    }
    const next = read.next[0];
    await expect(page.getByText(`expected ${um(next?.total_um.mean ?? 0)} ± ${um(next?.total_um.sd ?? 0)} µm`).first()).toBeVisible();
    await expect(page.getByRole("img", { name: /Film core/ })).toHaveAccessibleName(new RegExp(`clear ${um(next?.clear_um.mean ?? 0)} ± ${um(next?.clear_um.sd ?? 0)}.*spend ${um(read.study.spend_um.mean)}`));
    return read;
  };
  const before = await table();

  // Wrong input is refused with what would be right, and stays in the field.
  await keep(page, "1.2");
  await expect(page.getByRole("alert")).toContainText("mil instead of µm? As mil it is 30 µm");
  await expect(page.getByRole("textbox", { name: /Film at spot/ })).toHaveValue("1.2");
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(before.readings.length);
  await accessible(page);

  for (const [i, film] of ["166", "163", "171"].entries()) {
    await keep(page, film);
    await expect(page.getByText(new RegExp(`Reading ${before.readings.length + i + 1} kept: ${film} µm`))).toBeVisible();
  }
  await page.reload();
  const after = await table();
  expect(after.readings).toHaveLength(before.readings.length + 3);
  expect(Math.min(...after.sections.map((s) => s.headroom_um))).toBeGreaterThan(Math.min(...before.sections.map((s) => s.headroom_um)));
  await accessible(page);

  // One is struck out with a reason and stays on the panel.
  await page.getByRole("button", { name: /reading 9: 171/ }).click();
  await page.getByRole("textbox", { name: /Film at spot/ }).press("x");
  await page.getByLabel("Reason").fill("the probe sat on tape");
  await page.getByRole("button", { name: /Strike out/ }).last().click();
  await expect(page.getByText("one struck out")).toBeVisible();
  await table();

  // Plan: the figures of every step are those of the API.
  await page.getByRole("textbox", { name: /Film at spot/ }).press("p");
  await expect(page.getByRole("heading", { name: "Balanced, step by step" })).toBeVisible();
  await page.goto(`${demo.url}${door}/plan?ladder=${encodeURIComponent(manyPasses)}`);
  await expect(page.getByRole("heading", { name: "Yours, step by step" })).toBeVisible();
  await settled(page);
  const plan = await demo.get<Plan>(`${door}/plan?ladder=${encodeURIComponent(manyPasses)}`);
  const steps = page.getByRole("region", { name: "Steps" });
  for (const s of plan.offer.steps) {
    await expect(steps.getByText(s.title, { exact: true })).toBeVisible();
    await expect(steps.getByRole("img", { name: new RegExp(`after ${s.title}: takes ${um(s.film_um.mean)} ± ${um(s.film_um.sd)} µm`) })).toBeVisible();
    const lamps = steps.getByRole("img", { name: `strip lamps mirrored after ${s.title}, clarity ${s.after.clarity.toFixed(0)}` });
    await expect.poll(() => lamps.evaluate((i) => (i as HTMLImageElement).naturalWidth)).toBeGreaterThan(300);
  }
  await expect(page.locator(".totals")).toContainText(`${um(plan.offer.film_um.mean)} ± ${um(plan.offer.film_um.sd)}µm`);
  await expect(page.locator(".totals")).toContainText(`${um(plan.offer.hours.mean)} ± ${um(plan.offer.hours.sd)}h`);
  await accessible(page);
  await page.keyboard.press("Enter");

  // Level: passes left and the ledger follow every tap and every reading.
  await expect(page.getByTestId("passes-left")).toBeVisible();
  const hand = async () => {
    await settled(page);
    const level = await demo.get<Level>(`${door}/level`);
    await expect(page.getByTestId("passes-left")).toHaveText(String(level.hand.passes_left));
    const l = level.hand.ledger;
    await expect(page.getByRole("img", { name: /Film ledger/ })).toHaveAccessibleName(new RegExp(`gone ${um(l.gone_um.mean)} ± ${um(l.gone_um.sd)},.*to refine ${um(l.reserve_um)}`));
    await expect(page.getByText(`${um(l.balance_um.mean)} ± ${um(l.balance_um.sd)}`)).toBeVisible();
    return level.hand;
  };
  const start = await hand();
  expect(start.passes_left).toBe(plan.offer.steps[0]?.passes);
  await accessible(page);
  for (let i = 1; i <= 3; i++) {
    await page.keyboard.press("Space");
    await expect(page.getByRole("img", { name: new RegExp(`^${i === 1 ? "1 pass" : `${i} passes`} made`) })).toBeVisible();
    await apart(page);
  }
  const three = await hand();
  expect(three.passes_done).toBe(3);
  expect(three.passes_left).toBe(start.passes_left - 3);
  expect(three.ledger.balance_um.mean).toBeLessThan(start.ledger.balance_um.mean);

  await page.keyboard.press("r");
  await page.getByRole("textbox", { name: /Film at spot 1/ }).fill("160");
  await accessible(page);
  await page.keyboard.press("Enter");
  await expect(page.getByText("160 µm kept")).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  const corrected = await hand();
  expect(corrected.rate_um.sd / corrected.rate_um.mean).toBeLessThan(three.rate_um.sd / three.rate_um.mean);
  expect(corrected.ledger.gone_um.mean).toBeGreaterThan(three.ledger.gone_um.mean);
  await expect(page.getByText("from 1 reading after passes", { exact: false })).toBeVisible();

  await page.reload();
  await hand();
  await page.keyboard.press("u");
  await expect(page.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
  await expect(page.getByRole("list", { name: "Log of this section" })).toContainText("undone at once");
  await page.keyboard.press("d");
  await endEarly(page);
  await expect(page.getByText("Step 2 of 5")).toBeVisible();
  await hand();
});

test("two tabs at one section count every pass once", async ({ page, demo, context }) => {
  await acceptDoor(page, demo);
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByTestId("passes-left")).toBeVisible();
  await page.keyboard.press("Space");
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await other.keyboard.press("Space");
  await expect(other.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
  await page.bringToFront();
  await page.reload();
  await expect(page.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
});

test("a pass made while the stream of news is not open yet is seen", async ({ page, demo }) => {
  await acceptDoor(page, demo);
  let open = () => {};
  const gate = new Promise<void>((done) => (open = done));
  await page.route("**/events?*", async (route) => {
    await gate;
    await route.continue();
  });
  await page.reload();
  await expect(page.getByTestId("passes-left")).toBeVisible();
  await settled(page);
  const { plan, section } = await demo.get<Level>(`${door}/level`);
  const answer = await page.request.post(`${demo.url}/api${door}/log`, { data: { id: "entry-between", plan, section, step: 1, kind: "pass", person: "Tove" } });
  expect(answer.status()).toBe(201);
  open();
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
});

test("a stop is a stop", async ({ page, demo }) => {
  await acceptDoor(page, demo);
  const { plan, section } = await demo.get<Level>(`${door}/level`);
  let refused = 0;
  for (let i = 0; i < 60 && refused === 0; i++) {
    const answer = await page.request.post(`${demo.url}/api${door}/log`, { data: { id: `entry-${i}-${i}`, plan, section, step: 1, kind: "pass", person: "Tove" } });
    if (answer.status() === 409) refused = i;
  }
  expect(refused).toBeGreaterThan(3);
  await page.reload();
  await expect(page.getByText(new RegExp(`${refused} passes made, (as much as )?the plan wants`))).toBeVisible();
  await expect(page.getByTestId("passes-left")).toHaveText("0");
  await accessible(page);
  await page.keyboard.press("Space");
  await settled(page);
  expect((await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(refused);
});
