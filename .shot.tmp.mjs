import { chromium } from "@playwright/test";
const [path, out, w = "1280", h = "800", scheme = "light", js = ""] = process.argv.slice(2);
const browser = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
const page = await (await browser.newContext({ viewport: { width: +w, height: +h }, colorScheme: scheme, reducedMotion: "reduce" })).newPage();
page.on("console", (m) => m.type() === "error" && console.log("console:", m.text().slice(0, 300)));
await page.goto("http://127.0.0.1:4850" + path);
await page.locator("html[data-ready]").waitFor({ state: "attached" });
await page.waitForTimeout(2500);
if (js) { await eval(`(async()=>{${js}})()`); await page.waitForTimeout(1500); }
await page.screenshot({ path: out });
await browser.close();
