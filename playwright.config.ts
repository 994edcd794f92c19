import { defineConfig } from "@playwright/test";
import { rmSync } from "node:fs";
import { benches } from "./tests/e2e/benches";

// CI starts on fresh demo data; the workers load this file again and must leave it alone.
if (process.env.CI && process.env.TEST_WORKER_INDEX === undefined)
  for (const { data } of benches) rmSync(data, { recursive: true, force: true });

export default defineConfig({
  testDir: "tests/e2e",
  workers: benches.length,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"], ["json", { outputFile: ".build/screens.json" }]],
  use: {
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--no-first-run",
        // The pages of a program live in one process, which knows its script: to start one for each cost more than the page.
        "--renderer-process-limit=1",
        // Drawn by the processor: there is no graphics card, and playing one is slower than doing without.
        "--disable-gpu",
        "--enable-unsafe-swiftshader",
      ],
    },
  },
  webServer: benches.map(({ port, data }) => ({
    command: "node scripts/demo.mjs",
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 300_000,
    reuseExistingServer: !process.env.CI,
    env: { PORT: String(port), HOST: "127.0.0.1", CUCHARA_DEMO_DATA: data, CUCHARA_DEMO: "plain" },
  })),
});
