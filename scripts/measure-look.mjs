// Prints how quickly Look answers a tap and how quickly a car loads, with 300
// marks on the panels of one car: run make build, then node scripts/measure-look.mjs.
// Needs e2e/node_modules and Debian's Chromium. Nothing is asserted.
import { spawn } from "node:child_process";
import { createRequire } from "node:module";
import { fileURLToPath } from "node:url";

const { chromium } = createRequire(new URL("../e2e/package.json", import.meta.url))("@playwright/test");
const binary = fileURLToPath(new URL("../bin/waxplanus", import.meta.url));
const child = spawn(binary, ["demo", "--addr", "127.0.0.1:0"], { stdio: ["ignore", "pipe", "inherit"] });
const url = await new Promise((found) => child.stdout.on("data", (d) => found(/http:\/\/[\d.:]+/.exec(d.toString())?.[0])));
const json = async (path, body) => {
  const answer = await fetch(`${url}/api${path}`, body ? { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) } : {});
  return { ok: answer.ok, data: await answer.json() };
};

const car = (await json("/cars/pilot-car")).data;
const panels = car.panels.slice(0, 14);
let marks = 0;
const kinds = ["nib", "nib", "nib", "nib", "scratch", "pit"];
for (let i = 0; marks < 300 && i < 5000; i++) {
  // Half of them on the door that is looked at, the others over the car.
  const p = i % 2 ? panels[7] : panels[i % panels.length];
  const spot = { x_mm: ((i * 0.618) % 1) * p.width_mm, y_mm: ((i * 0.414) % 1) * p.height_mm };
  if ((await json(`/panels/${p.id}/marks`, { id: `measure-${i}`, kind: kinds[i % kinds.length], ...spot })).ok) marks++;
}

const browser = await chromium.launch({
  executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
  chromiumSandbox: process.getuid?.() !== 0,
  args: ["--disable-quic", "--no-first-run", "--disable-background-networking", "--disable-component-update", "--disable-sync", "--disable-dev-shm-usage"],
});
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const figures = (name, ms) => {
  const s = [...ms].sort((a, b) => a - b);
  console.log(`${name}: least ${s[0].toFixed(0)}, middle ${s[s.length >> 1].toFixed(0)}, most ${s.at(-1).toFixed(0)} ms over ${s.length}`);
};

const loads = [];
for (let i = 0; i < 6; i++) {
  await page.goto("about:blank");
  const from = performance.now();
  await page.goto(`${url}/cars/pilot-car`);
  await page.locator("[data-panel]").first().waitFor();
  loads.push(performance.now() - from);
}
figures(`the car with ${marks} new marks, from asking for the page to its panels drawn`, loads);

await page.goto(`${url}/panels/${panels[7].id}/look`);
await page.locator("[data-mark]").first().waitFor();
await page.waitForFunction(() => document.querySelector(".page")?.dataset.busy === "false");
const shown = await page.locator("[data-mark]").count();
const taps = [];
const saves = [];
for (let i = 0; i < 30; i++) {
  const waited = page.waitForResponse((r) => r.url().endsWith("/marks"));
  const ms = await page.evaluate(
    async ([x, y]) => {
      const svg = document.querySelector('svg[aria-label*="Tap to place"]');
      const box = svg.getBoundingClientRect();
      const at = { clientX: box.x + x * box.width, clientY: box.y + y * box.height, bubbles: true };
      const count = document.querySelector('[data-testid="nibs"]');
      const before = count.textContent;
      const from = performance.now();
      svg.dispatchEvent(new PointerEvent("pointerdown", at));
      svg.dispatchEvent(new PointerEvent("pointerup", at));
      svg.dispatchEvent(new MouseEvent("click", at));
      while (count.textContent === before) await new Promise((done) => requestAnimationFrame(done));
      await new Promise((done) => requestAnimationFrame(done));
      return performance.now() - from;
    },
    [0.3 + (i % 6) * 0.05, 0.5 + (i % 5) * 0.04],
  );
  taps.push(ms);
  const from = performance.now();
  await waited;
  saves.push(ms + performance.now() - from);
}
figures(`a tap with ${shown} marks on this panel, to the count and the mark on the screen`, taps);
figures("the same, to its verdict from the shop server", saves);
await browser.close();
child.kill("SIGTERM");
