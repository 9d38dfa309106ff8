import { type ChildProcess, spawn } from "node:child_process";
import { createServer } from "node:net";
import { expect } from "@playwright/test";

export const freePort = () =>
  new Promise<number>((resolve) => {
    const server = createServer();
    server.listen(0, "127.0.0.1", () => {
      const address = server.address();
      server.close(() => resolve(typeof address === "object" && address ? address.port : 0));
    });
  });

/** A server of a test's own, which may be killed and worn out. */
export const startServer = async (
  port: number,
  databaseUrl = process.env.WANDEL_E2E_SPARE_DATABASE_URL ?? "",
  answers = 200,
): Promise<ChildProcess> => {
  const child = spawn(process.execPath, ["scripts/serve.mjs", "start", "--port", String(port)], {
    stdio: "ignore",
    env: { ...process.env, DATABASE_URL: databaseUrl, WANDEL_DEMO: "1" },
  });
  await expect
    .poll(
      async () =>
        fetch(`http://127.0.0.1:${port}/api/health`)
          .then(({ status }) => status)
          .catch(() => 0),
      { timeout: 30_000 },
    )
    .toBe(answers);
  return child;
};
