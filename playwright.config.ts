import { defineConfig } from "@playwright/test";
import { rmSync } from "node:fs";

const port = Number(process.env.CUCHARA_TEST_PORT ?? 4790);
const data = ".build/e2e-data";
// CI starts on fresh demo data; the workers load this file again and must leave it alone.
if (process.env.CI && process.env.TEST_WORKER_INDEX === undefined) rmSync(data, { recursive: true, force: true });

export default defineConfig({
  testDir: "tests/e2e",
  workers: 1,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"], ["json", { outputFile: ".build/screens.json" }]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
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
        "--use-gl=angle",
        "--use-angle=swiftshader",
        "--enable-unsafe-swiftshader",
      ],
    },
  },
  webServer: {
    command: "node scripts/demo.mjs",
    url: `http://127.0.0.1:${port}/api/health`,
    timeout: 300_000,
    reuseExistingServer: !process.env.CI,
    env: { PORT: String(port), HOST: "127.0.0.1", CUCHARA_DEMO_DATA: data },
  },
});
