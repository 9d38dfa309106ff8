import { defineConfig } from "@playwright/test";

const port = Number(process.env.WANDEL_E2E_PORT ?? 3999);

/** The real interface in Debian's Chromium, against the production build. Started by `npm test -- e2e`, which names port and databases. */
export default defineConfig({
  testDir: "tests/e2e",
  outputDir: ".wandel/e2e-results",
  timeout: 60_000,
  expect: { timeout: 15_000 },
  fullyParallel: true,
  workers: 2,
  retries: 0,
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    trace: process.env.WANDEL_TRACE ? "retain-on-failure" : "off",
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: process.env.WANDEL_CHROMIUM ?? "/usr/bin/chromium-headless-shell",
      args: ["--no-sandbox", "--disable-gpu", "--disable-dev-shm-usage"],
    },
  },
  webServer: {
    command: `node scripts/serve.mjs start --port ${port}`,
    url: `http://127.0.0.1:${port}/api/health`,
    env: { DATABASE_URL: process.env.WANDEL_E2E_DATABASE_URL ?? "", WANDEL_DEMO: "1", NEXT_TELEMETRY_DISABLED: "1" },
    gracefulShutdown: { signal: "SIGTERM", timeout: 10_000 },
    timeout: 60_000,
  },
});
