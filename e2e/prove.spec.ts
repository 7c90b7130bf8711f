import { spawn, type ChildProcess } from "node:child_process";
import { accessible, arrived, expect, settled, start, test } from "./shop";

interface Proof {
  photos: { id: string; after: boolean; accepted_at?: string; reading?: { grade?: { mean: number } } }[];
  before: { source: string; grade: { mean: number } };
  after?: { source: string; grade: { mean: number } };
  wipes: { section: string; seen?: string }[];
  meters: { value: number; after: boolean }[];
  kept?: object;
  mark_sum: { open: number; left: number; gone: number };
}
interface Plan {
  record?: object;
  panel: { peel_grade: number; peel_eye: number };
}

const door = "/panels/ferry-coupe.L-fdoor";
const wing = "/panels/pilot-car.L-wing";

/** Photos of the panel as it is now, from the stand-in camera; the program makes them. */
async function camera(): Promise<{ addr: string; stop: () => void }> {
  const child: ChildProcess = spawn("../bin/waxplanus", ["camera", "--addr", "127.0.0.1:0"], { stdio: ["ignore", "pipe", "inherit"] });
  const addr = await new Promise<string>((found) => child.stdout?.on("data", (d: Buffer) => (/http:\/\/[\d.:]+\d/.exec(d.toString())?.[0] ? found(/http:\/\/[\d.:]+\d/.exec(d.toString())?.[0] ?? "") : undefined)));
  return { addr, stop: () => void child.kill() };
}

async function reflection(addr: string, grade: number): Promise<Buffer> {
  const answer = await fetch(`${addr}/camera/reflection`, { method: "POST", body: JSON.stringify({ panel: "pilot-car.L-wing", colour: "dark", peel_grade: grade, worked: [], x_mm: 0, y_mm: 0 }) });
  return Buffer.from(await answer.arrayBuffer());
}

test("a levelled door is looked at under one slider, wiped, and kept", async ({ page, demo }) => {
  await page.goto(demo.url);
  await expect(page.locator(".carline").filter({ hasText: "Ferry coupé" })).toContainText("Prove it");
  await page.goto(`${demo.url}${door}/prove`);
  await settled(page);
  await expect(page.getByRole("heading", { name: /The same lamps in the left front door/ })).toBeVisible();
  const slider = page.getByRole("slider");
  const from = Number(await slider.getAttribute("aria-valuenow"));
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("Shift+ArrowRight");
  await expect(slider).toHaveAttribute("aria-valuenow", String(from + 12));
  await accessible(page);

  // The photo, with what was found drawn in.
  await page.keyboard.press("o");
  await expect(page.getByRole("dialog")).toContainText("White: as it would be flat; blue: as seen.");
  await accessible(page);
  await page.keyboard.press("Escape");

  await page.keyboard.press("w");
  await page.getByRole("button", { name: /upper left: scratches seen/ }).click();
  await expect(page.getByRole("button", { name: /upper left: scratches seen/ })).toHaveAttribute("aria-pressed", "true");
  await accessible(page);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("button", { name: /Keep, next panel|Keep it/ })).toBeDisabled();
  await page.keyboard.press("w");
  await page.getByRole("button", { name: /upper left: nothing seen/ }).click();
  await page.keyboard.press("n");
  await expect.poll(async () => (await demo.get<Proof>(`${door}/prove`)).wipes.every((w) => w.seen === "wiped")).toBe(true);
  await page.keyboard.press("Escape");
  await expect(page.getByText(/Wiped at .*, so no oil hides scratches/)).toBeVisible();

  await page.reload();
  await settled(page);
  await page.keyboard.press("Enter");
  await expect.poll(async () => (await demo.get<Proof>(`${door}/prove`)).kept !== undefined).toBe(true);
  await page.goto(`${demo.url}${door}/prove`);
  await page.getByRole("button", { name: "Look at it again" }).click();
  await expect.poll(async () => (await demo.get<Proof>(`${door}/prove`)).kept !== undefined).toBe(false);
});

test("not good enough goes back to Plan with what is left", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/prove`);
  await settled(page);
  const was = await demo.get<Proof>(`${door}/prove`);
  await page.keyboard.press("n");
  await page.getByLabel("why (if you like)").fill("still rougher than the wing");
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/\/plan$/);
  await settled(page);
  const plan = await demo.get<Plan>(`${door}/plan`);
  expect(plan.record).toBeUndefined();
  expect(Math.abs(plan.panel.peel_grade - (was.after?.grade.mean ?? 0))).toBeLessThan(0.05);
  expect(plan.panel.peel_eye).toBe(7);
  await expect(page.getByText(/by photo/).first()).toBeVisible();
});

test("photos are dropped in, kept without a network, read another way, and take the place of the grade by eye", async ({ page, demo, context }) => {
  const eye = await camera();
  const data = await reflection(eye.addr, 4);
  eye.stop();
  await page.goto(`${demo.url}${wing}/prove`);
  await settled(page);
  await expect(page.getByText("Photograph the lamps before any work, or there is no before.").first()).toBeVisible();

  // Two at once without a network: both wait on this device, over a reload too.
  await context.setOffline(true);
  await page.getByLabel("Photos of the panel").setInputFiles([
    { name: "one.jpg", mimeType: "image/jpeg", buffer: data },
    { name: "not a photo.jpg", mimeType: "image/jpeg", buffer: Buffer.from("nothing of the kind") },
  ]);
  await expect(page.getByText(/photo 2 of 2 photos kept here, on its way/)).toBeVisible();
  await context.setOffline(false);
  await page.reload();
  await settled(page);
  await arrived(page);
  await expect(page.getByRole("button", { name: /photo 1, before, lamps: not read/ })).toBeVisible();
  await expect(page.getByRole("alert")).toContainText("not a photo.jpg: This is neither a PNG nor a JPEG picture.");
  expect((await demo.get<Proof>(`${wing}/prove`)).photos).toHaveLength(1);

  // It was looked for a card; the lamp is said instead, and a part of the photo is enough.
  await page.getByRole("button", { name: /photo 1, before, lamps: not read/ }).click();
  await expect(page.getByRole("alert")).toContainText("The scale card was not found");
  await page.getByLabel(/the scale card lies on the panel/).uncheck();
  await page.getByLabel("its name").fill("booth tubes");
  await page.getByLabel("camera to panel").fill("700");
  await page.getByLabel("mm of the panel a pixel").fill("0.12");
  await page.getByLabel("blur of the lens").fill("0.8");
  await page.getByLabel("its name").focus();
  await page.getByRole("button", { name: "mark the part to read" }).click();
  const box = await page.getByAltText(/draw a frame around/).boundingBox();
  if (!box) throw new Error("no photo");
  await page.mouse.move(box.x + box.width * 0.05, box.y + box.height * 0.05);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.95, box.y + box.height * 0.9, { steps: 4 });
  await page.mouse.up();
  await page.getByRole("button", { name: /Read again/ }).click();
  await expect(page.getByRole("dialog")).toContainText("White: as it would be flat");
  await accessible(page);
  await page.keyboard.press("a");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  const after = await demo.get<Proof>(`${wing}/prove`);
  expect(after.before.source).toBe("photo");
  const plan = await demo.get<Plan>(`${wing}/plan`);
  expect(plan.panel.peel_grade).toBeCloseTo(after.before.grade.mean, 5);
  expect(plan.panel.peel_eye).toBe(6.4);
  await page.goto(`${demo.url}${wing}/look`);
  await expect(page.getByText(/by photo \(6\.4 by eye\)/)).toBeVisible();
  // The lamp is the shop's from now on.
  expect((await demo.get<{ lamps: { name: string }[] }>("/lamps")).lamps[0]?.name).toBe("booth tubes");
});

test("the camera and the meters are pulled from, marks are closed in one go", async ({ page, filled }) => {
  const eye = await camera();
  const app = await start(["demo", "--data", `${filled} pulled`, "--gauge", "", "--camera", eye.addr]);
  const get = async <T,>(path: string) => (await (await fetch(`${app.url}/api${path}`)).json()) as T;
  try {
    await page.goto(`${app.url}${wing}/prove`);
    await settled(page);
    await page.getByRole("button", { name: /Camera/ }).click();
    await page.getByRole("button", { name: /Take it at its word/ }).click();
    await expect.poll(async () => (await get<Proof>(`${wing}/prove`)).before.source).toBe("photo");
    await expect(page.getByRole("dialog")).toHaveCount(0);
    await page.keyboard.press("k");
    const panel = await page.getByRole("group", { name: /tap where the meter stands/ }).boundingBox();
    if (!panel) throw new Error("no panel");
    await page.mouse.click(panel.x + panel.width * 0.45, panel.y + panel.height * 0.4);
    await page.getByRole("button", { name: /Read gloss with/ }).click();
    await expect.poll(async () => (await get<Proof>(`${wing}/prove`)).meters.length).toBe(1);
    await page.getByLabel("instrument").fill("own meter");
    await page.getByLabel("it shows").fill("140");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toContainText("140 is no reading of such a meter");
    await page.getByLabel("it shows").fill("91.5");
    await page.keyboard.press("Enter");
    await expect.poll(async () => (await get<Proof>(`${wing}/prove`)).meters.length).toBe(2);
    await accessible(page);
    await page.keyboard.press("Escape");
    await page.keyboard.press("m");
    await expect(page.getByRole("button", { name: "gone", pressed: true })).toHaveCount(0); // nothing is said for anybody
    await page.getByRole("button", { name: /All as they were to be worked/ }).click();
    await page.getByRole("group", { name: "nib 1" }).getByRole("button", { name: "left" }).click();
    await page.getByLabel(/why nib 1 is left/).fill("under the trim");
    await accessible(page);
    await page.getByRole("button", { name: /Close 3 marks/ }).click();
    await expect.poll(async () => (await get<Proof>(`${wing}/prove`)).mark_sum).toEqual({ open: 0, left: 1, gone: 2, softened: 0 });
    await expect(page.getByText("Left. Under the trim.")).toBeVisible();
  } finally {
    await app.stop();
    eye.stop();
  }
});

test("photos are kept as long as the rule says", async ({ page, demo }) => {
  await page.goto(`${demo.url}/shop`);
  await settled(page);
  const photos = page.getByRole("region", { name: "Photos" });
  await expect(photos).toContainText("3 photos take");
  await photos.getByLabel("after hand over, 0 for good").fill("400");
  await page.keyboard.press("Enter");
  await expect(photos).toContainText("kept 400 days after hand over");
  await photos.getByRole("button", { name: "Delete what may go" }).click();
  await expect(photos.getByRole("status")).toHaveText("0 photos deleted.");
});
