import { defineConfig } from "vitest/config";

const alias = { "@": new URL("./src", import.meta.url).pathname };

export default defineConfig({
  resolve: { alias },
  test: {
    projects: [
      { resolve: { alias }, test: { name: "unit", include: ["src/{core,ui,contracts,workers}/**/*.test.ts"], testTimeout: 30_000 } },
      { test: { name: "commands", include: ["scripts/**/*.test.mjs"], fileParallelism: false, testTimeout: 40_000 } },
      { resolve: { alias }, test: { name: "integration", include: ["src/{server,app}/**/*.test.ts"], fileParallelism: false, testTimeout: 20_000 } },
    ],
  },
});
