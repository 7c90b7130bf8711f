// Takes the pictures in docs/screenshots from the demo shop: run make build, then
// node scripts/screenshots.mjs. Needs e2e/node_modules and Debian's Chromium.
import { spawn } from "node:child_process";
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";

const { chromium } = createRequire(new URL("../e2e/package.json", import.meta.url))("@playwright/test");
const here = (path) => fileURLToPath(new URL(path, import.meta.url));
const out = here("../docs/screenshots/");
const binary = here("../bin/waxplanus");

async function serve(args) {
  const child = spawn(binary, [...args, "--addr", "127.0.0.1:0"], { stdio: ["ignore", "pipe", "inherit"] });
  const url = await new Promise((found) => child.stdout.on("data", (d) => found(/http:\/\/[\d.:]+/.exec(d.toString())?.[0])));
  return { url, stop: () => child.kill("SIGTERM") };
}

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  chromiumSandbox: process.getuid?.() !== 0,
  args: ["--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-dev-shm-usage"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
page.setDefaultTimeout(20_000);
const still = async () => {
  await page.evaluate(() => document.fonts.ready);
  await page.waitForFunction(() => document.querySelector("#main > *") && !document.querySelector(".waiting"));
  await page.waitForFunction(() => document.querySelector(".page")?.dataset.busy === "false");
  await page.waitForFunction(() => [...document.images].every((i) => i.complete && i.naturalWidth > 0));
  await page.waitForTimeout(400);
};
const shot = async (name) => {
  await still();
  await page.screenshot({ path: `${out}${name}.png` });
};

const demo = await serve(["demo", "--gauge", ""]);
const door = `${demo.url}/panels/pilot-car.L-fdoor`;
await page.goto(demo.url);
await shot("today");
await page.goto(`${demo.url}/week`);
await shot("week");
await page.goto(`${demo.url}/cars/pilot-car`);
await shot("car");
await page.goto(`${demo.url}/cars/pilot-car/take-in`);
await page.locator('[data-panel="L-fdoor"]').focus();
await page.keyboard.press("Space");
await page.getByText(/clear, a guess/).waitFor();
await shot("take-in");
await page.goto(`${door}/look`);
await shot("look");
await page.goto(`${demo.url}/cars/library-van/offers`);
await shot("offers");
await page.goto(`${door}/read`);
for (const film of ["166", "163", "170"]) {
  await page.getByRole("textbox", { name: /Film at spot/ }).fill(film);
  await page.keyboard.press("Enter");
  await page.getByText(`kept: ${film}`).waitFor();
}
await shot("read");
await page.goto(`${door}/plan`);
await shot("plan");
await page.goto(`${demo.url}/panels/harbour-estate.L-fdoor/plan`);
await shot("plan-ways");
await page.goto(`${demo.url}/cars/pilot-car/plans`);
await shot("car-plans");
await page.goto(`${demo.url}/shelf`);
await shot("shelf");
await page.goto(`${door}/plan?ladder=${encodeURIComponent("p2000@rubber*7,p2500-foam@foam-disc*2,3000@foam-disc*3,wool-medium*2,foam-fine*2")}`);
await page.getByRole("button", { name: /Use yours/ }).click();
await page.getByTestId("passes-left").waitFor();
await page.goto(`${door}/level?section=b1r0c0`);
for (let i = 0; i < 3; i++) {
  await still();
  await page.keyboard.press("Space");
}
await shot("level");
await page.goto(`${demo.url}/cars/ferry-coupe/went`);
await shot("went");
await page.goto(`${demo.url}/panels/hire-saloon.bonnet/condition`);
await shot("condition");
await page.goto(`${demo.url}/hands`);
await shot("hands");
await page.goto(`${demo.url}/panels/ferry-coupe.L-fdoor/prove`);
await shot("prove");
await page.goto(`${demo.url}/cars/ferry-coupe/hand-over`);
await page.locator(".sheet svg").nth(1).waitFor();
await shot("hand-over");
await page.goto(`${demo.url}/shop`);
await shot("shop");
demo.stop();

const { mkdtemp, rm } = await import("node:fs/promises");
const { tmpdir } = await import("node:os");
const dir = await mkdtemp(`${tmpdir()}/waxplanus-`);
const empty = await serve(["serve", "--data", dir]);
await page.goto(`${empty.url}/check`);
await page.getByRole("textbox", { name: /film in all/ }).fill("118");
await page.getByRole("group", { name: /coats of clear/ }).getByRole("button", { name: "2", exact: true }).click();
await page.getByRole("button", { name: /8 rough/ }).click();
await page.waitForTimeout(600);
await shot("quick-check");
empty.stop();
await browser.close();
await rm(dir, { recursive: true });
