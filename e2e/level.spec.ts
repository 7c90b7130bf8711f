import { acceptDoor, accessible, apart, arrived, endEarly, expect, settled, test } from "./shop";

interface Level {
  plan: string;
  section: string;
  hand: { passes_left: number; passes_done: number; passes_granted: number; passes_needed: number; locked: boolean; by_look?: { share: number; text: string } };
  log: { kind: string; person: string; section: string; struck_at?: string; reason?: string; share?: number }[];
}

const door = "/panels/pilot-car.L-fdoor";

test("two devices on one section know of each other, and see each pass", async ({ page, demo, browser }) => {
  await acceptDoor(page, demo);
  await settled(page);
  const other = await (await browser.newContext()).newPage();
  await other.goto(`${demo.url}${door}/level`);
  await expect(page.getByText("this very section on another device")).toBeVisible();
  await expect(other.getByText("this very section on another device")).toBeVisible();
  await page.keyboard.press("Space");
  await expect(other.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await other.keyboard.press("]");
  await expect(page.getByText(/is on this panel too/)).toBeVisible();
  await other.close();
  await expect(page.getByText(/is on this panel too/)).toHaveCount(0);
});

test("without a network taps are kept over a closed tab, and arrive once and in order", async ({ page, demo, context }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  await settled(page);
  const first = Number(await page.getByTestId("passes-left").textContent());
  await context.route("**/log", (route) => route.abort());
  for (let i = 1; i <= 2; i++) {
    await page.keyboard.press("Space");
    await expect(page.getByRole("alert")).toContainText(i === 1 ? "1 tap kept on this device" : "2 taps kept on this device");
    await expect(page.getByTestId("passes-left")).toHaveText(String(first - i));
    await apart(page);
  }
  await accessible(page);
  await page.close();
  expect((await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(0);
  await context.unroute("**/log");
  const again = await context.newPage();
  await again.goto(`${demo.url}${door}/level`);
  await expect(again.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
  await expect.poll(async () => (await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(2);
  await again.reload();
  await expect(again.getByTestId("passes-left")).toHaveText(String(first - 2));
  expect((await demo.get<Level>(`${door}/level`)).log.filter((e) => e.kind === "pass")).toHaveLength(2);
});

test("without a network another section is worked too, and undo takes back what was tapped last", async ({ page, demo, context }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  await settled(page);
  const passes = async () => (await demo.get<Level>(`${door}/level`)).log.filter((e) => e.kind === "pass");
  const made = page.getByRole("img", { name: /^\d+ pass(es)? made/ });
  for (const n of ["1 pass", "2 passes"]) {
    await page.keyboard.press("Space");
    await expect(made).toHaveAttribute("aria-label", new RegExp(`^${n} made`));
    await apart(page);
  }
  await arrived(page);
  const first = (await demo.get<Level>(`${door}/level`)).section;
  await context.route("**/api/**", (route) => route.abort());
  await page.keyboard.press("[");
  await expect(made).toHaveAttribute("aria-label", /^0 passes made/);
  for (const n of ["1 pass", "2 passes"]) {
    await apart(page);
    await page.keyboard.press("Space");
    await expect(made).toHaveAttribute("aria-label", new RegExp(`^${n} made`));
  }
  await page.keyboard.press("u");
  await expect(made).toHaveAttribute("aria-label", /^1 pass made/);
  await page.keyboard.press("]");
  await expect(made).toHaveAttribute("aria-label", /^2 passes made/);
  await page.keyboard.press("u");
  await expect(made).toHaveAttribute("aria-label", /^1 pass made/);
  await expect(page.getByText(/4 taps kept on this device/)).toBeVisible();
  await context.unroute("**/api/**");
  await page.getByRole("button", { name: "Send again" }).click();
  await arrived(page);
  const all = await passes();
  expect(all.map((e) => [e.section === first, Boolean(e.struck_at)])).toEqual([[true, false], [true, true], [false, false], [false, true]]);
});

test("a look at what still shines, a sound, colour in the slurry, and one pass over the stop", async ({ page, demo }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  const level = () => demo.get<Level>(`${door}/level`);
  for (let i = 1; i <= 2; i++) {
    await page.keyboard.press("Space");
    await expect(page.getByRole("img", { name: new RegExp(`^${i === 1 ? "1 pass" : "2 passes"} made`) })).toBeVisible();
    await apart(page);
  }
  await page.keyboard.press("s");
  await accessible(page);
  await page.getByRole("button", { name: "50 %", exact: true }).click();
  await expect(page.getByText(/^By the look: 50 % still shone after 2 passes/)).toBeVisible();
  await settled(page);
  const looked = await level();
  await expect(page.getByTestId("passes-left")).toHaveText(String(looked.hand.passes_left));
  expect(looked.hand.by_look?.share).toBe(0.5);
  await page.keyboard.press("u");
  await expect(page.getByText(/^By the look/)).toHaveCount(0);

  await page.keyboard.press("k");
  await expect(page.getByText(/rinse paper and panel/)).toBeVisible();
  await page.keyboard.press("p");
  await expect(page.getByText(/rinse paper and panel/)).toHaveCount(0);

  await page.keyboard.press("v");
  await expect(page.getByTestId("passes-left")).toHaveText("0");
  await expect(page.getByText(/Colour in the slurry over clear means it is through/)).toBeVisible();
  await expect(page.getByRole("button", { name: /Override/ })).toBeDisabled();
  await accessible(page);
  await page.keyboard.press("u");
  await expect(page.getByTestId("passes-left")).not.toHaveText("0");

  const { plan, section } = await level();
  for (let i = 0; i < 60; i++) {
    const data = { id: `entry-more-${i}`, plan, section, step: 1, kind: "pass", person: "Tove" };
    if (!(await page.request.post(`${demo.url}/api${door}/log`, { data })).ok()) break;
  }
  await page.reload();
  await expect(page.getByTestId("passes-left")).toHaveText("0");
  const stopped = (await level()).hand.passes_done;
  await page.getByRole("button", { name: /Override/ }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Count one pass" }).click();
  await expect(dialog.getByRole("alert")).toContainText("a reason");
  await accessible(page);
  await dialog.getByLabel("why").fill("a patch that is blocked anyway");
  await dialog.getByRole("button", { name: "Count one pass" }).click();
  await expect(page.getByRole("list", { name: "Log of this section" })).toContainText("a pass over the stop (a patch that is blocked anyway)");
  await settled(page);
  const after = await level();
  expect(after.hand.passes_done).toBe(stopped + 1);
  expect(after.hand.passes_granted).toBe(0);
});

interface Mark {
  id: string;
  outcome: string;
}

test("a run is shaved stroke by stroke, blocked pass by pass, and closed", async ({ page, demo }) => {
  await acceptDoor(page, demo);
  const section = (await demo.get<Level>(`${door}/level`)).section;
  const before = await page.request.get(`${demo.url}/api${door}/level`);
  const at = ((await before.json()) as { spots: { x_mm: number; y_mm: number }[] }).spots[0] ?? { x_mm: 300, y_mm: 700 };
  await page.request.patch(`${demo.url}/api/panels/pilot-car.L-fdoor`, { data: { sprayed_at: "2020-01-01T08:00:00Z", cure: "baked" } });
  await page.request.post(`${demo.url}/api/panels/pilot-car.L-fdoor/marks`, { data: { id: "run-to-shave", kind: "run", x_mm: at.x_mm, y_mm: at.y_mm, sizes: { size_um: 40 } } });
  await page.goto(`${demo.url}${door}/level?section=${section}`);
  await settled(page);
  await page.keyboard.press("n");
  const dialog = page.getByRole("dialog");
  const tabs = dialog.getByRole("group", { name: "Which mark" });
  if ((await tabs.count()) > 0) await tabs.getByRole("button", { name: /run/ }).last().click();
  await expect(dialog.getByRole("heading")).toHaveText("The run: shave");
  await accessible(page);
  const left = Number(await dialog.getByTestId("strokes-left").textContent());
  await page.keyboard.press("Space");
  await expect(dialog.getByTestId("strokes-left")).toHaveText(String(left - 1));
  await page.keyboard.press("u");
  await expect(dialog.getByTestId("strokes-left")).toHaveText(String(left));
  for (let i = 1; i < left; i++) {
    await page.keyboard.press("Space");
    await expect(dialog.getByTestId("strokes-left")).toHaveText(String(left - i));
  }
  await page.keyboard.press("Space");
  await expect(dialog.getByRole("heading")).toHaveText("The run: block");
  await expect(dialog.getByText("passes left")).toBeVisible();
  await page.keyboard.press("g");
  const outcome = async () => (await demo.get<{ marks: Mark[] }>(`${door}/look`)).marks.find((m) => m.id === "run-to-shave")?.outcome;
  await expect.poll(outcome).toBe("gone");
  await expect(dialog.getByRole("button", { name: /Not gone after all/ })).toBeVisible();
  await page.keyboard.press("u");
  await expect.poll(outcome).toBe("open");
});

test("a helper is offered fine grits only, and the tablet is told who it is and tells by ear", async ({ page, demo }) => {
  await page.clock.install();
  await page.addInitScript(() => {
    const tones: number[] = ((window as unknown as { tones: number[] }).tones = []);
    const make = AudioContext.prototype.createOscillator;
    AudioContext.prototype.createOscillator = function () {
      const tone = make.call(this);
      setTimeout(() => tones.push(tone.frequency.value));
      return tone;
    };
  });
  const tones = () => page.evaluate(() => (window as unknown as { tones: number[] }).tones.length);
  await acceptDoor(page, demo);
  await page.goto(`${demo.url}/hands`);
  await page.getByLabel("somebody more").fill("Nele");
  await page.getByRole("button", { name: "Take in" }).click();
  await page.getByLabel("What Nele may run").selectOption("P2500");
  await settled(page);
  await accessible(page);
  await page.reload();
  await expect(page.getByLabel("What Nele may run")).toHaveValue("P2500");

  await page.goto(`${demo.url}${door}/level`);
  await settled(page);
  await page.keyboard.press("o");
  await page.getByRole("group", { name: "Who makes the passes" }).getByRole("button", { name: "Nele" }).click();
  await accessible(page);
  await page.getByRole("checkbox", { name: /^sound/ }).check();
  await page.getByRole("button", { name: "Close" }).click();
  await expect(page.getByText(/is coarser than Nele may run, P2500 and finer/)).toBeVisible();
  await expect(page.getByRole("button", { name: /One more pass/ })).toBeDisabled();
  await page.keyboard.press("Space");
  await expect.poll(tones).toBe(2); // a stop is told twice
  await apart(page);
  expect((await demo.get<Level>(`${door}/level`)).log).toHaveLength(0);
  await page.keyboard.press("d"); // the leveller has ended the coarse step here
  await endEarly(page);
  await expect(page.getByRole("heading", { name: "P2500" })).toBeVisible();
  await expect(page.getByTestId("passes-left")).toHaveText("2");
  await page.keyboard.press("Space");
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await expect.poll(async () => (await demo.get<Level>(`${door}/level`)).log.at(-1)).toMatchObject({ kind: "pass", person: "Nele" });
  await expect.poll(tones).toBe(3);
  await expect(page.getByRole("timer")).toContainText(/of about 0:\d\d a pass|about a pass/);
});

test("back to a coarser grit wants a reading and a reason; the history keeps what was struck out", async ({ page, demo }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  await page.keyboard.press("Space");
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await apart(page);
  await page.keyboard.press("Space");
  await expect(page.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
  await expect(page.getByRole("button", { name: /Undo pass/ })).toBeEnabled();
  await page.keyboard.press("u");
  await expect(page.getByRole("img", { name: /^1 pass made/ })).toBeVisible();
  await expect(page.getByRole("button", { name: /Undo pass/ })).toBeEnabled();
  await page.keyboard.press("d");
  await endEarly(page);
  await page.getByRole("button", { name: "Coarser again" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText(/Read the film here first/)).toBeVisible();
  await expect(dialog.getByRole("button", { name: /I know/ })).toBeDisabled();
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.keyboard.press("r");
  await page.getByRole("textbox", { name: /Film at spot 1/ }).fill("165");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog").getByRole("status").or(page.getByTestId("passes-left")).first()).toBeVisible();
  await page.keyboard.press("Escape");
  await settled(page);
  await page.getByRole("button", { name: "Coarser again" }).click();
  await expect(dialog.getByText(/It fits by the readings/)).toBeVisible();
  await dialog.getByRole("button", { name: /I know/ }).click();
  await expect(dialog.getByRole("alert")).toContainText("a reason");
  await dialog.getByLabel("why").fill("peel is left in the middle");
  await dialog.getByRole("button", { name: /I know/ }).click();
  await expect(page.getByTestId("passes-left")).toHaveText("2");
  await settled(page);
  await page.keyboard.press("h");
  const rows = dialog.getByRole("row");
  await expect(rows.filter({ hasText: "struck out: undone at once" })).toHaveCount(1);
  await expect(rows.filter({ hasText: "back to this grit (peel is left in the middle)" })).toHaveCount(1);
  await expect(rows.filter({ hasText: /a pass.*±/ })).toHaveCount(1);
  await accessible(page);
  await page.keyboard.press("Escape");
  await page.keyboard.press("w");
  await expect(dialog.getByText(/is the floor/)).toBeVisible();
  await accessible(page);
});

test("readings wait for a network too, in Level and in Read, and are asked about when they do not fit", async ({ page, demo, context }) => {
  await acceptDoor(page, demo);
  const read = async () => (await demo.get<{ readings: { film_um: number }[] }>(`${door}/read`)).readings.map((r) => r.film_um);
  const before = (await read()).length;
  await settled(page);
  await context.route("**/readings", (route) => route.abort());
  await page.keyboard.press("r");
  await page.getByRole("textbox", { name: /Film at spot 1/ }).fill("165");
  await page.keyboard.press("Enter");
  await expect(page.getByText("Kept on this device until the shop server answers", { exact: false }).first()).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("alert")).toContainText("1 reading kept on this device: 165 µm");
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  await page.getByRole("textbox", { name: /Film at spot/ }).fill("16");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert")).toContainText("2 readings kept on this device: 165 µm, 16 µm");
  await accessible(page);
  expect(await read()).toHaveLength(before);
  await page.close();
  await context.unroute("**/readings");
  const again = await context.newPage();
  await again.goto(`${demo.url}${door}/level`);
  await expect.poll(async () => (await read()).includes(165)).toBe(true);
  await expect(again.getByRole("alert")).toContainText("16"); // asks whether it stands
  await again.getByRole("button", { name: "read again", exact: true }).click();
  await expect(again.getByRole("alert")).toHaveCount(0);
  expect(await read()).toHaveLength(before + 1);
});
