import type { Page } from "@playwright/test";
import { acceptDoor, accessible, expect, settled, test } from "./shop";

const sizes = [
  { width: 1280, height: 800 },
  { width: 1024, height: 768 },
  { width: 390, height: 844 },
];

/** Texts that are cut, run into their neighbour or lie over another, as sentences. */
function misfits(page: Page): Promise<string[]> {
  return page.evaluate(() => {
    const found: string[] = [];
    const slack = 1.5;
    const says = (text: string) => `"${text.replace(/\s+/g, " ").trim().slice(0, 60)}"`;
    const hidden = (e: Element) => {
      const style = getComputedStyle(e);
      return style.visibility === "hidden" || style.display === "none" || Number(style.opacity) === 0 || style.clipPath.startsWith("inset(50%");
    };
    const clips = (v: string) => v === "hidden" || v === "clip";
    const scrolls = (v: string) => v === "auto" || v === "scroll";
    interface Text {
      text: string;
      owner: Element;
      lines: DOMRect[];
    }
    const texts: Text[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const owner = node.parentElement;
      const text = node.textContent ?? "";
      if (!owner || text.trim() === "" || ["SCRIPT", "STYLE", "TITLE", "OPTION", "NOSCRIPT"].includes(owner.tagName.toUpperCase())) continue;
      let out = false;
      for (let e: Element | null = owner; e; e = e.parentElement) out ||= hidden(e);
      if (out || owner.closest(".skip")) continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      const lines = Array.from(range.getClientRects()).filter((r) => r.width > 1 && r.height > 1);
      // A font's box may be taller than its line: what counts is the line.
      const tall = parseFloat(getComputedStyle(owner).lineHeight);
      const inLine = (r: DOMRect) => (tall > 0 && r.height > tall ? new DOMRect(r.x, r.y + (r.height - tall) / 2, r.width, tall) : r);
      if (lines.length > 0) texts.push({ text, owner, lines: lines.map(inLine) });
    }
    const wide = document.documentElement.clientWidth;
    if (document.documentElement.scrollWidth > wide + slack) found.push(`the page is ${document.documentElement.scrollWidth} px wide, the screen ${wide}`);
    // What is seen of a line after all that holds it.
    const seen = (t: Text, line: DOMRect): DOMRect | null => {
      let { left, top, right, bottom } = line;
      const onPanel = t.owner.closest("[data-mark]") !== null;
      for (let e: Element | null = t.owner; e && e !== document.body; e = e.parentElement) {
        const style = getComputedStyle(e);
        if (style.display === "contents" || (e instanceof SVGElement && e.tagName !== "svg")) continue;
        const box = e.getBoundingClientRect();
        const x = style.overflowX;
        const y = style.overflowY;
        if (scrolls(x) && (left < box.left - slack || right > box.right + slack)) {
          // A phone may scroll a wide table; elsewhere it has to fit.
          if (e.getAttribute("data-wide") !== "true" || wide > 600) found.push(`${says(t.text)} is cut at the side of a part that scrolls`);
          return null;
        }
        if (scrolls(y) && (top < box.top - slack || bottom > box.bottom + slack)) {
          if (top < box.top - slack ? e.scrollTop === 0 : e.getAttribute("data-more") !== "true") found.push(`${says(t.text)} is cut by a part that scrolls and does not say that there is more`);
          return null;
        }
        if (onPanel || style.textOverflow === "ellipsis") continue;
        if (clips(x) && (left < box.left - slack || right > box.right + slack)) found.push(`${says(t.text)} is cut at the side`);
        if (clips(y) && (top < box.top - slack || bottom > box.bottom + slack)) found.push(`${says(t.text)} is cut above or below`);
      }
      if (right > wide + slack || left < -slack) found.push(`${says(t.text)} is beside the screen`);
      return new DOMRect(left, top, right - left, bottom - top);
    };
    const shown = texts.flatMap((t) => t.lines.flatMap((line) => {
      const at = seen(t, line);
      return at ? [{ t, at }] : [];
    }));
    const inDrawing = (e: Element) => e.closest("svg") !== null && e.closest("[data-plot]") === null;
    // What stays in its place while the page scrolls lies over it on purpose.
    const stays = (e: Element | null): boolean => e !== null && (["fixed", "sticky"].includes(getComputedStyle(e).position) || stays(e.parentElement));
    const over = (e: Element) => e.closest("[role=dialog],[role=tooltip]") !== null || stays(e);
    const seenPairs = new Set<string>();
    for (let i = 0; i < shown.length; i += 1) {
      const a = shown[i];
      if (!a || inDrawing(a.t.owner) || over(a.t.owner)) continue;
      for (let j = i + 1; j < shown.length; j += 1) {
        const b = shown[j];
        if (!b || a.t === b.t || inDrawing(b.t.owner) || over(b.t.owner)) continue;
        const x = Math.min(a.at.right, b.at.right) - Math.max(a.at.left, b.at.left);
        const y = Math.min(a.at.bottom, b.at.bottom) - Math.max(a.at.top, b.at.top);
        const pair = `${says(a.t.text)} and ${says(b.t.text)}`;
        // Lines stand closer than their letters are tall: only a real part of a line counts.
        if (x > 2 && y > 0.45 * Math.min(a.at.height, b.at.height) && !seenPairs.has(pair)) {
          seenPairs.add(pair);
          found.push(`${pair} lie over one another`);
        }
        const cells = [a.t.owner.closest("td,th"), b.t.owner.closest("td,th")];
        if (cells[0] && cells[1] && cells[0] !== cells[1] && y > 6 && x > -4 && x <= 2 && !seenPairs.has(pair)) {
          seenPairs.add(pair);
          found.push(`${pair} run together`);
        }
      }
    }
    for (const e of Array.from(document.querySelectorAll("button,input,select,textarea"))) {
      const style = getComputedStyle(e);
      if (hidden(e) || e.clientWidth < 4 || e.getAttribute("aria-hidden") === "true" || (e instanceof HTMLInputElement && ["file", "checkbox"].includes(e.type))) continue;
      if (e.scrollWidth > e.clientWidth + slack && style.overflowX !== "visible") found.push(`${says(e.getAttribute("aria-label") || (e as HTMLInputElement).labels?.[0]?.textContent || e.textContent || "")}: what stands in it is wider than it`);
    }
    return [...new Set(found)];
  });
}

test("the check itself sees text that is cut, runs together or lies over another", async ({ page }) => {
  const faults = async (html: string) => {
    await page.setContent(`<body style="margin:0;font:16px sans-serif">${html}</body>`);
    return misfits(page);
  };
  expect(await faults("<p>well</p><p>and good</p>")).toEqual([]);
  expect(await faults('<div style="width:40px;overflow:hidden;white-space:nowrap">far too long for it</div>')).toEqual([expect.stringContaining("cut at the side")]);
  expect(await faults('<div style="height:30px;overflow:auto"><p style="margin:0">one</p><p style="margin:0">two</p></div>')).toEqual([expect.stringContaining("does not say that there is more")]);
  expect(await faults('<div data-more="true" style="height:30px;overflow:auto"><p style="margin:0">one</p><p style="margin:0">two</p></div>')).toEqual([]);
  expect(await faults('<p style="margin:0">under</p><p style="margin:-18px 0 0">over</p>')).toEqual([expect.stringContaining("lie over one another")]);
  expect(await faults('<table style="border-spacing:0"><tr><td style="padding:0">along creases</td><td style="padding:0">152</td></tr></table>')).toEqual([expect.stringContaining("run together")]);
  expect(await faults('<p style="margin:0 0 0 3000px">beside</p>')).not.toEqual([]);
});

const door = "/panels/pilot-car.L-fdoor";

/** Every screen of the demo, in parts that take about as long. */
const screens = {
  "the shop's screens": ["/", "/take-in", "/check", "/shelf", "/rules?car=milk-float", "/hands", "/cars/pilot-car"],
  "a car and a door": ["/cars/pilot-car/take-in", "/cars/pilot-car/plans", `${door}/look`, `${door}/read`, `${door}/plan`, `${door}/level`],
  "single stage and worn paint": ["/cars/milk-float", "/panels/milk-float.panel/look", "/panels/milk-float.panel/read", "/panels/milk-float.panel/plan", "/panels/milk-float.panel/level", "/panels/milk-float.panel/condition", "/panels/hire-saloon.bonnet/condition", "/panels/hire-saloon.bonnet/plan", "/panels/hire-saloon.bonnet/level"],
  "handing over and the shop": ["/cars/ferry-coupe/hand-over", "/cars/milk-float/hand-over", "/shop", "/find?q=door", "/cars/library-van/offers", "/cars/hire-saloon/budget", "/cars/ferry-coupe/went"],
  "other panels": ["/panels/library-van.L-quarter/look", "/panels/library-van.L-slide/plan", "/panels/pilot-car.fbumper/read", "/panels/pilot-car.bonnet/read", "/panels/pilot-car.boot/plan", "/panels/pilot-car.L-wing/plan", "/panels/pilot-car.roof/level", "/panels/ferry-coupe.L-fdoor/prove", "/panels/pilot-car.L-wing/prove"],
};

for (const mode of ["day", "booth"]) {
  for (const [part, paths] of Object.entries(screens)) {
    test(`nothing is cut, lies over another or is hard to reach: ${part}, ${mode}`, async ({ page, demo, empty }) => {
      await page.addInitScript((m) => localStorage.setItem("waxplanus.mode", m), mode);
      await acceptDoor(page, demo);
      const faults: string[] = [];
      /** Looks at a screen at every size, and at the first with the eyes of a screen reader. */
      const look = async (where: string) => {
        for (const size of [...sizes].reverse()) {
          await page.setViewportSize(size);
          await settled(page);
          await page.evaluate(() => document.fonts.ready.then(() => new Promise((drawn) => requestAnimationFrame(() => requestAnimationFrame(drawn)))));
          for (const fault of await misfits(page)) faults.push(`${where} at ${size.width}x${size.height}: ${fault}`);
        }
        await accessible(page);
      };
      for (const path of paths) {
        await page.goto(demo.url + path);
        await look(path);
      }
      if (paths.includes("/")) {
        await page.goto(empty.url);
        await look("Today, empty");
        await page.goto(`${demo.url}/take-in`);
        await page.getByRole("button", { name: /^saloon/ }).click();
        await page.keyboard.press("a");
        await page.getByRole("group", { name: "finish" }).getByRole("button", { name: "here", exact: true }).click();
        await expect(page.getByText(/clear, a guess/)).toBeVisible();
        await look("Take in, a new car");
      }
      if (paths.includes(`${door}/plan`)) {
        await page.goto(`${demo.url}${door}/plan`);
        for (const view of ["sections", "film core", "tries", "manner"]) {
          await page.getByRole("tab", { name: new RegExp(`^${view}`) }).click();
          await look(`Plan, ${view}`);
        }
        await page.goto(demo.url);
        await settled(page);
        await page.keyboard.press("?");
        await expect(page.getByRole("dialog")).toContainText("Keys on this screen");
        await look("keys");
      }
      expect(faults).toEqual([]);
    });
  }
}
