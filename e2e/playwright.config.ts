import { defineConfig } from "@playwright/test";

const root = typeof process.getuid === "function" && process.getuid() === 0;

export default defineConfig({
  testDir: ".",
  timeout: 300_000,
  expect: { timeout: 30_000 },
  workers: 2,
  fullyParallel: true,
  retries: 0,
  outputDir: "test-results",
  use: {
    viewport: { width: 1280, height: 800 },
    // Not that of the machine: times are the shop's, whatever the device says.
    timezoneId: "America/St_Johns",
    trace: "off",
    launchOptions: {
      executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium",
      chromiumSandbox: !root,
      args: [
        "--disable-quic",
        "--no-first-run",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--disable-dev-shm-usage",
        "--host-resolver-rules=MAP * ~NOTFOUND, EXCLUDE 127.0.0.1, EXCLUDE localhost",
      ],
    },
  },
});
