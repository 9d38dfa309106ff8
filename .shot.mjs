import { chromium } from "playwright-core";
const [path, out, scheme = "light", size = "1280x800", act = ""] = process.argv.slice(2);
const [width, height] = size.split("x").map(Number);
const b = await chromium.launch({ executablePath: "/usr/bin/chromium", args: ["--no-sandbox", "--disable-gpu"] });
const c = await b.newContext({ viewport: { width, height }, colorScheme: scheme });
const p = await c.newPage();
p.on("pageerror", (e) => console.log("PAGEERROR", e.message));
p.on("console", (m) => m.type() === "error" && console.log("CONSOLE", m.text().slice(0, 300)));
await p.goto(`http://127.0.0.1:3000${path}`);
await p.waitForTimeout(2500);
if (act) { await eval(`(async () => { ${act} })()`); await p.waitForTimeout(900); }
await p.screenshot({ path: out });
await b.close();
