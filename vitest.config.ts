import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";

const alias = { "@": new URL("./src", import.meta.url).pathname };

const LONG = Boolean(process.env.WANDEL_LONG);

export default defineConfig({
  resolve: { alias },
  test: {
    // As many as there are cores: by itself one is kept free, which of two is half.
    maxWorkers: availableParallelism(),
    projects: [
      // Not apart from each other: what the files read in is compiled once and stays warm. None keeps anything in a module that another could find.
      {
        resolve: { alias },
        test: {
          name: "unit",
          include: ["src/{core,ui,contracts,workers}/**/*.test.ts"],
          isolate: false,
          testTimeout: LONG ? 1_800_000 : 120_000,
        },
      },
      // Whole screens on a stand-in for the service, in a document that lays nothing out.
      {
        resolve: { alias },
        test: {
          name: "screens",
          include: ["src/ui/**/*.test.tsx"],
          environment: "happy-dom",
          setupFiles: ["src/ui/testing/light-dom.ts"],
          isolate: false,
          testTimeout: 30_000,
        },
      },
      { test: { name: "commands", include: ["scripts/**/*.test.mjs"], fileParallelism: false, testTimeout: 40_000 } },
      {
        resolve: { alias },
        test: {
          name: "integration",
          include: ["src/{server,app}/**/*.test.ts"],
          fileParallelism: false,
          isolate: false,
          testTimeout: LONG ? 1_800_000 : 20_000,
        },
      },
    ],
  },
});
