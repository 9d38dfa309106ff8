import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { readFile, writeFile } from "node:fs/promises";
import { join } from "node:path";
import { promisify } from "node:util";
import { brotliCompress, constants, gzip } from "node:zlib";
import { hashOf, must, ROOT, readState, say, writeState } from "./shell.mjs";

const NEXT = join(ROOT, "node_modules/next/dist/bin/next");
const ESBUILD = join(ROOT, "node_modules/.bin/esbuild");

const filesBelow = (path) =>
  existsSync(path)
    ? readdirSync(path, { withFileTypes: true }).flatMap((entry) =>
        entry.isDirectory() ? filesBelow(join(path, entry.name)) : [join(path, entry.name)],
      )
    : [];

/** A stamp of everything that goes into a build. Tests do not. */
const sourceStamp = () => {
  const files = ["src", "public"]
    .flatMap((folder) => filesBelow(join(ROOT, folder)))
    .filter((file) => !/\.(test|bench)\.tsx?$/.test(file));
  const settings = [
    "package-lock.json",
    "next.config.ts",
    "tsconfig.json",
    "tsconfig.base.json",
    "postcss.config.mjs",
    "scripts/lib/build.mjs",
  ].map((file) => join(ROOT, file));
  return hashOf([...files.sort(), ...settings].flatMap((file) => [file.slice(ROOT.length), readFileSync(file)]));
};

/** The worker threads of the server are a bundle of their own: half a second. */
export const buildTasks = (to = ".next/tasks.mjs") =>
  must(
    ESBUILD,
    [
      "src/workers/tasks.worker.ts",
      "--bundle",
      "--platform=node",
      "--format=esm",
      "--packages=external",
      "--target=node20",
      "--jsx=automatic",
      `--outfile=${to}`,
    ],
    {
      quiet: true,
    },
  );

/** V8's comment for a file whose functions are called as it is loaded. */
const CALLED_ON_LOAD = "//# allFunctionsCalledOnLoad\n";

/**
 * Says of each script of a page that its functions are called as it is loaded. Each is a list of functions that only
 * the last script calls, so that a browser that compiles what it sees called compiles nothing beside the loading, keeps
 * nothing of it, and compiles one by one while a person waits: a fifth to a third of the main thread's work until a
 * page answers, also when it is opened again. To other browsers it is a comment.
 */
export const tellCalledOnLoad = (folder) => {
  for (const file of filesBelow(folder).filter((each) => each.endsWith(".js"))) {
    const text = readFileSync(file, "utf8");
    if (!text.startsWith(CALLED_ON_LOAD)) writeFileSync(file, CALLED_ON_LOAD + text);
  }
};

const packings = [
  {
    ending: "br",
    pack: (bytes) =>
      promisify(brotliCompress)(bytes, {
        params: { [constants.BROTLI_PARAM_QUALITY]: 10, [constants.BROTLI_PARAM_SIZE_HINT]: bytes.length },
      }),
  },
  { ending: "gz", pack: (bytes) => promisify(gzip)(bytes, { level: 9 }) },
];

/**
 * Lays what is sent to every window packed beside it: smaller than what can be packed while somebody waits, and packed
 * once. Two seconds.
 */
export const packStatic = async (folder) => {
  const files = filesBelow(folder).filter((file) => /\.(js|css)$/.test(file));
  await Promise.all(
    files.map(async (file) => {
      const bytes = await readFile(file);
      for (const { ending, pack } of packings) await writeFile(`${file}.${ending}`, await pack(bytes));
    }),
  );
};

/** Builds when the sources are not those of the last whole build. */
export const ensureBuild = async () => {
  const stamp = sourceStamp();
  const before = readState("build.json");
  if (before?.stamp === stamp && existsSync(join(ROOT, ".next/BUILD_ID")) && existsSync(join(ROOT, ".next/tasks.mjs")))
    return;
  say("Building …");
  // A checkout that was built before is worked on, and will be built again.
  const again = before ? "1" : "";
  await must(process.execPath, [NEXT, "build"], {
    quiet: true,
    env: { NEXT_TELEMETRY_DISABLED: "1", NODE_ENV: "production", WANDEL_BUILDS_AGAIN: again },
  });
  tellCalledOnLoad(join(ROOT, ".next/static/chunks"));
  await packStatic(join(ROOT, ".next/static"));
  await buildTasks();
  writeState("build.json", { stamp });
};
