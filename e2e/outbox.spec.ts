import { acceptDoor, apart, arrived, expect, keep, settled, test } from "./shop";

const door = "/panels/pilot-car.L-fdoor";
const roof = "/panels/library-van.roof";

interface Level {
  log: { id: string; kind: string }[];
  hand: { passes_done: number };
}
interface Read {
  readings: { film_um: number }[];
}
interface Look {
  marks: { kind: string; photo: boolean }[];
}

test("a tap answered with a fault of the server is kept, said and sent again", async ({ page, demo }) => {
  await page.clock.install();
  await acceptDoor(page, demo);
  await settled(page);
  let asked = 0;
  await page.route("**/log", (route) => {
    asked += 1;
    return route.fulfill({ status: 500, contentType: "application/problem+json", body: JSON.stringify({ type: "about:blank", title: "failed", status: 500, detail: "The shop server failed over this." }) });
  });
  await page.keyboard.press("Space");
  await expect(page.getByRole("alert")).toContainText("The shop server failed over this. 1 tap kept on this device. Sent again until it arrives.");
  await expect(page.getByText("not saved on the shop server")).toBeVisible();
  await apart(page);
  await page.keyboard.press("Space");
  await expect(page.getByRole("alert")).toContainText("2 taps kept on this device");
  await page.clock.fastForward(4_100);
  await expect.poll(() => asked, "it is tried again by itself").toBeGreaterThan(2);
  await page.reload();
  await expect(page.getByRole("alert"), "it outlives the page").toContainText("2 taps kept on this device");
  expect((await demo.get<Level>(`${door}/level`)).log).toHaveLength(0);
  await page.unroute("**/log");
  await page.getByRole("button", { name: "Send again" }).click();
  await arrived(page);
  await expect(page.getByRole("alert")).toHaveCount(0);
  await expect(page.getByRole("img", { name: /^2 passes made/ })).toBeVisible();
  expect((await demo.get<Level>(`${door}/level`)).hand.passes_done).toBe(2);
});

test("what is not answered in time is kept and sent again", async ({ page, demo }) => {
  await page.clock.install();
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  const before = (await demo.get<Read>(`${door}/read`)).readings.length;
  let asked = false;
  await page.route("**/readings", () => {
    asked = true; // and never an answer
  });
  await keep(page, "166");
  await expect.poll(() => asked).toBe(true);
  await page.clock.fastForward(20_500);
  await expect(page.getByRole("alert")).toContainText("does not answer. 1 reading kept on this device: 166 µm");
  await page.unroute("**/readings");
  await page.getByRole("button", { name: "Send again" }).click();
  await arrived(page);
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(before + 1);
});

test("one queue keeps the order of marks and their photos, and a fault of one panel does not hold up another", async ({ page, demo }) => {
  await page.goto(`${demo.url}${roof}/look`);
  await settled(page);
  const fails = (url: RegExp) => page.route(url, (route) => route.fulfill({ status: 503, body: "busy" }));
  await fails(/library-van\.roof\/marks$/);
  await page.keyboard.press("s");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "scratch 1" })).toBeVisible();
  await page.getByLabel("Photo of the mark").setInputFiles({ name: "scratch.png", mimeType: "image/png", buffer: picture() });
  await expect(page.getByRole("alert")).toContainText("1 tap, 1 photo kept on this device");
  // A reading of another panel goes through.
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  await keep(page, "166");
  await expect(page.getByText("kept: 166 µm")).toBeVisible();
  await expect(page.getByRole("alert")).toContainText("1 tap, 1 photo kept on this device");
  await page.unroute(/library-van\.roof\/marks$/);
  // It may have sent them by itself just now, and the key is gone with the fault.
  await page.getByRole("button", { name: "Send again" }).click({ timeout: 5000 }).catch(() => undefined);
  await arrived(page);
  expect((await demo.get<Look>(`${roof}/look`)).marks).toMatchObject([{ kind: "scratch", photo: true }]);
});

test("the unit changes what is shown and loses nothing that was typed; times are the shop's", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  await page.getByRole("textbox", { name: /Film at spot/ }).fill("16");
  await page.getByRole("button", { name: /films in µm/ }).click();
  await expect(page.getByRole("columnheader", { name: "film, mil" })).toBeVisible();
  await expect(page.getByRole("textbox", { name: /Film at spot.*mil/ })).toHaveValue("16");
  await page.goto(`${demo.url}/take-in`);
  await page.getByLabel("name", { exact: true }).fill("Half typed");
  await page.getByRole("button", { name: /films in mil/ }).click();
  await expect(page.getByRole("button", { name: /films in µm/ })).toBeVisible();
  await expect(page.getByLabel("name", { exact: true })).toHaveValue("Half typed");

  await page.goto(`${demo.url}/shop`);
  await page.getByLabel("Times are shown in").selectOption("Europe/Lisbon");
  const there = () => new Date().toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit", timeZone: "Europe/Lisbon" });
  await expect.poll(async () => [there(), there()].includes((await page.locator(".who .n").textContent()) ?? "")).toBe(true);
  expect((await demo.get<{ time_zone: string }>("/shop")).time_zone).toBe("Europe/Lisbon");
});

test("a reading entered twice while it is under way counts once, and the next one counts too", async ({ page, demo }) => {
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  const before = (await demo.get<Read>(`${door}/read`)).readings.length;
  let open = () => {};
  const gate = new Promise<void>((done) => (open = done));
  await page.route("**/readings", async (route) => {
    await gate;
    await route.continue();
  });
  await keep(page, "166");
  await page.keyboard.press("Enter");
  await keep(page, "163");
  open();
  await arrived(page);
  expect((await demo.get<Read>(`${door}/read`)).readings.slice(before).map((r) => r.film_um)).toEqual([166, 163]);
});

test("a browser that refuses its database keeps taps in the page and says so", async ({ page, demo }) => {
  await page.addInitScript(() => {
    IDBFactory.prototype.open = () => {
      throw new DOMException("no database here", "SecurityError");
    };
  });
  await page.goto(`${demo.url}${door}/read`);
  await settled(page);
  const before = (await demo.get<Read>(`${door}/read`)).readings.length;
  await page.route("**/readings", (route) => route.abort());
  await keep(page, "166");
  await keep(page, "163");
  await expect(page.getByRole("alert")).toContainText("2 readings kept by this page only, as the browser has no room for more: 166 µm, 163 µm");
  await expect(page.getByRole("alert")).toContainText("Leave this page open until they arrive.");
  const asks = page.waitForEvent("dialog");
  const leaving = page.close({ runBeforeUnload: true });
  await (await asks).dismiss();
  await leaving;
  await page.unroute("**/readings");
  await page.getByRole("button", { name: "Send again" }).click();
  await arrived(page);
  expect((await demo.get<Read>(`${door}/read`)).readings).toHaveLength(before + 2);
});

test("what an earlier version had kept on the device arrives", async ({ page, demo }) => {
  await acceptDoor(page, demo);
  const level = await demo.get<{ section: string; people: string[] }>(`${door}/level`);
  const { next } = await demo.get<{ next: { x_mm: number; y_mm: number }[] }>(`${door}/read`);
  await page.route("**/api/**", (route) => route.abort());
  await page.goto(`${demo.url}/mark.svg`);
  await page.evaluate(
    async ({ panel, van, section, at }) => {
      localStorage.setItem(`waxplanus.look.${van}`, JSON.stringify({ waiting: [{ do: "add", id: "mark-of-old", body: { id: "mark-of-old", kind: "nib", x_mm: 300, y_mm: 300 } }] }));
      await new Promise<void>((done, fail) => {
        const ask = indexedDB.open("waxplanus", 1);
        ask.onupgradeneeded = () => ask.result.createObjectStore("taps", { keyPath: "id" });
        ask.onerror = () => fail(ask.error ?? new Error("no database"));
        ask.onsuccess = () => {
          const put = ask.result.transaction("taps", "readwrite");
          put.objectStore("taps").put({ id: "tap-of-old", panel, made: Date.now() - 60_000, section, step: 1, kind: "pass", person: "Tomke" });
          put.objectStore("taps").put({ id: "reading-of-old", what: "reading", panel, made: Date.now() - 90_000, ...at, film: 164, unit: "um", phase: "total" });
          put.oncomplete = () => done();
        };
      });
    },
    { panel: "pilot-car.L-fdoor", van: "library-van.roof", section: level.section, at: { x_mm: next[0]?.x_mm ?? 0, y_mm: next[0]?.y_mm ?? 0 } },
  );
  await page.unroute("**/api/**");
  await page.goto(demo.url);
  await expect.poll(async () => (await demo.get<Level>(`${door}/level`)).log.map((e) => e.id)).toEqual(["tap-of-old"]);
  await expect.poll(async () => (await demo.get<{ readings: { id: string }[] }>(`${door}/read`)).readings.map((r) => r.id)).toContain("reading-of-old");
  await expect.poll(async () => (await demo.get<{ marks: { id: string }[] }>(`${roof}/look`)).marks.map((m) => m.id)).toEqual(["mark-of-old"]);
  await arrived(page);
});

/** A grey PNG of 8 x 8 pixels. */
function picture(): Buffer {
  return Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAgAAAAICAAAAADhZOFXAAAADklEQVR4nGNogAIGyhgAgIQgAQ2AJGEAAAAASUVORK5CYII=", "base64");
}
