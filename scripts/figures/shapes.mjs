import { rmSync } from "node:fs";
import { join } from "node:path";
import { pathToFileURL } from "node:url";
import { LOCAL, must, ROOT } from "../lib/shell.mjs";

/** The builders of large templates that tests and benchmarks use, as a module for this run. */
const built = async () => {
  const out = join(LOCAL, "shapes.mjs");
  await must(
    join(ROOT, "node_modules/.bin/esbuild"),
    [
      "scripts/figures/shapes-source.ts",
      "--bundle",
      "--platform=node",
      "--format=esm",
      "--tsconfig=tsconfig.json",
      `--outfile=${out}`,
      "--log-level=error",
    ],
    {
      quiet: true,
    },
  );
  try {
    return await import(pathToFileURL(out).href);
  } finally {
    rmSync(out, { force: true });
  }
};

/**
 * Templates at the limits of what is taken, each in one of them: their names, and their documents as they are stored.
 */
export const shapesAtLimits = async ({ small = false } = {}) => {
  const { shapes } = await built();
  return Object.entries(shapes(small)).map(([name, doc]) => ({ name, text: JSON.stringify(doc), doc }));
};
