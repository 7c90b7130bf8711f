import type { APIRequestContext } from "@playwright/test";
import { accessible, expect, settled, test, type Shop } from "./shop";

interface Hand {
  step: number;
  passes_left: number;
  passes_granted: number;
  passes_needed: number;
  read_after: number;
  state: string;
  headline: string;
  ways: { code: string; text: string; rest?: string }[];
}
interface Level {
  plan: string;
  section: string;
  sections: { key: string; done: boolean; state?: string }[];
  steps: { kind: string }[];
  spots: { x_mm: number; y_mm: number; total_um?: { mean: number } }[];
  hand?: Hand;
}
interface Plan {
  basis: string;
  refusal?: { ways: { code: string; head: string; state?: string; floor_um?: number }[] };
  offers: { name: string; state: string }[];
  agreed?: { floor_um: number; person: string };
}

/** A thin door in an empty shop, read at six spots. */
async function thinDoor(request: APIRequestContext, shop: Shop, facts: object, film: number): Promise<string> {
  const post = async (path: string, data: object, method: "post" | "patch" = "post") => {
    const answer = await request[method](`${shop.url}/api${path}`, { data });
    expect(answer.status(), await answer.text()).toBeLessThan(300);
    return (await answer.json()) as { id: string };
  };
  const car = await post("/cars", { name: "Harbour estate", body: "saloon", colour: "dark", painter: "Runa" });
  await post(`/cars/${car.id}/panels`, { keys: ["L-fdoor"], facts }, "patch");
  const door = `/panels/${car.id}.L-fdoor`;
  for (let i = 0; i < 6; i++) {
    const { next } = await shop.get<{ next: { x_mm: number; y_mm: number }[] }>(`${door}/read`);
    await post(`${door}/readings`, { id: `reading-spot-${i}`, x_mm: next[0]?.x_mm, y_mm: next[0]?.y_mm, film: film + (i % 3), unit: "um", phase: "total" });
  }
  return door;
}

test("a shut door: every way on by its key, the owner agrees, it is planned and taken back", async ({ page, empty }) => {
  const door = await thinDoor(page.request, empty, { origin: "elsewhere", coats: 2, aim: "flat", peel_grade: 8, under: "over" }, 158);
  await page.goto(`${empty.url}${door}/plan`);
  await settled(page);
  await expect(page.getByRole("region", { name: "As things are" })).toContainText("that less than 40 stays");
  const agree = page.getByRole("button", { name: /Owner agrees to \d+/ });
  await expect(agree).toHaveAttribute("aria-pressed", "true");
  await accessible(page);
  const nibs = page.getByRole("button", { name: /Nibs only .*at each/ });
  await page.keyboard.press((await nibs.locator(".kc").textContent()) ?? "");
  await expect(nibs).toHaveAttribute("aria-pressed", "true");
  await page.keyboard.press("1");
  await expect(page.getByText(/Say to the owner/)).toBeVisible();
  // The key waits for a name; a reason that says nothing is refused with what is wanted.
  const key = page.getByRole("button", { name: /Agreed, plan with/ });
  await expect(key).toBeDisabled();
  await page.getByRole("textbox", { name: "who agreed" }).fill("Mrs Holm");
  await page.getByRole("textbox", { name: "why" }).fill("ok");
  await key.click();
  await expect(page.getByRole("alert")).toContainText("why less may stay");
  await page.getByRole("textbox", { name: "why" }).fill("rather flat than thick");
  await key.click();
  await expect(page.getByText(/Mrs Holm agreed on .* rather flat than thick/)).toBeVisible();
  const plan = await empty.get<Plan>(`${door}/plan`);
  expect(plan.refusal).toBeUndefined();
  expect(plan.offers[0]?.state).toBe("tight");
  await page.reload();
  await settled(page);
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByRole("button", { name: /Owner agrees to \d+/ })).toBeVisible();
});

test("a tight plan is worked to its end: passes as told, readings as asked, a section's end planned anew", async ({ page, empty }) => {
  const door = await thinDoor(page.request, empty, { origin: "elsewhere", coats: 2, aim: "flat", peel_grade: 6, under: "new" }, 150);
  const plan = await empty.get<Plan>(`${door}/plan`);
  const accepted = await page.request.post(`${empty.url}/api${door}/plan`, { data: { basis: plan.basis, ladder: plan.offers[0]?.name } });
  expect(accepted.status(), await accepted.text()).toBe(201);
  let n = 0;
  const log = async (level: Level, kind: string, more: object = {}) => {
    const answer = await page.request.post(`${empty.url}/api${door}/log`, { data: { id: `entry-way-${n++}`, plan: level.plan, section: level.section, step: level.hand?.step, kind, person: "Runa", ...more } });
    expect(answer.status(), `${kind}: ${await answer.text()}`).toBe(201);
  };
  let read = 0;
  for (let i = 0; i < 200; i++) {
    const level = await empty.get<Level>(`${door}/level`);
    const hand = level.hand;
    if (!hand) break;
    // The list and the section in hand never differ about a state.
    expect(level.sections.find((s) => s.key === level.section)?.state).toBe(hand.state);
    if (hand.passes_needed === 0) await log(level, "done");
    else if (hand.passes_granted === 0) {
      expect(hand.ways.length, hand.headline).toBeGreaterThan(0);
      const way = hand.ways.find((w) => w.rest !== undefined);
      if (way) await log(level, "rest", { rest: way.rest });
      else await log(level, "done");
    } else if (hand.read_after === 0) {
      const spot = level.spots[0];
      read++;
      const answer = await page.request.post(`${empty.url}/api${door}/readings`, { data: { id: `reading-way-${n++}`, x_mm: spot?.x_mm, y_mm: spot?.y_mm, film: spot?.total_um?.mean, unit: "um", phase: "total" } });
      expect(answer.status(), await answer.text()).toBe(201);
    } else await log(level, "pass");
  }
  const end = await empty.get<Level>(`${door}/level`);
  expect(end.sections.every((s) => s.done)).toBe(true);
  expect(read).toBeLessThan(end.sections.length);
  await page.goto(`${empty.url}${door}/level`);
  await expect(page.getByText("All steps are done here.")).toBeVisible();
});
