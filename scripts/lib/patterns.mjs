import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join, relative } from "node:path";
import { ROOT } from "./shell.mjs";

// The search runs in this process: no program is fetched or started for it.
process.env.RECHECK_BACKEND = "pure";

const sourcesBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true }).flatMap((entry) =>
    entry.isFile() && /\.(tsx?|mjs)$/.test(entry.name) && !/\.(test|bench)\./.test(entry.name)
      ? [join(entry.parentPath, entry.name)]
      : [],
  );

/**
 * Patterns that were found safe before, and what judged them. Kept with the sources: another machine judges only what
 * is new to it, and another judge everything.
 */
const LIST = join(ROOT, "scripts/lib/safe-patterns.json");

const knownSafe = (by) => {
  const list = existsSync(LIST) ? JSON.parse(readFileSync(LIST, "utf8")) : { by: "nobody" };
  return new Set(list.by === by ? list.safe : []);
};

/** To be committed with the pattern that is new in it. */
const keepSafe = (by, safe, known) => {
  if (safe.size === known.size && [...safe].every((pattern) => known.has(pattern))) return;
  writeFileSync(LIST, `${JSON.stringify({ by, safe: [...safe].sort() }, null, 2)}\n`);
};

/**
 * Every pattern written down in a source, and every one that is made of a string: that one nobody can look at
 * beforehand.
 */
const patternsIn = (node, found = []) => {
  if (Array.isArray(node)) for (const inner of node) patternsIn(inner, found);
  else if (typeof node === "object" && node !== null) {
    if (node.type === "RegExpLiteral") found.push({ pattern: node.pattern, flags: node.flags });
    if (node.type === "NewExpression" && node.callee?.value === "RegExp") found.push({ pattern: null, flags: "" });
    for (const inner of Object.values(node)) patternsIn(inner, found);
  }
  return found;
};

/**
 * Exact where that can be had in seconds, and so the same on a busy machine as on a quiet one; drawn by chance only
 * where it can't.
 */
const judged = async (check, pattern, flags) => {
  const exact = await check(pattern, flags, { timeout: 4000, checker: "automaton" });
  return exact.status === "unknown" ? check(pattern, flags, { timeout: 60_000, checker: "fuzz" }) : exact;
};

/**
 * Patterns whose time can grow beyond the length of a text, each with the file it stands in and a text that shows it.
 */
export const slowPatterns = async (folders = ["src", "scripts"]) => {
  // Asked for only now: a fresh checkout has no packages yet when this file is read.
  const [{ check }, { parse }] = await Promise.all([import("recheck"), import("@swc/core")]);
  const complaints = [];
  const by = `recheck ${JSON.parse(readFileSync(join(ROOT, "node_modules/recheck/package.json"), "utf8")).version}`;
  const known = knownSafe(by);
  const safe = new Set();
  let checked = 0;
  for (const file of folders.flatMap((folder) => sourcesBelow(join(ROOT, folder)))) {
    const where = relative(ROOT, file);
    const source = await parse(readFileSync(file, "utf8"), {
      syntax: "typescript",
      tsx: file.endsWith("x"),
      decorators: true,
    });
    for (const { pattern, flags } of patternsIn(source)) {
      checked++;
      if (pattern === null) {
        complaints.push(`${where}: a pattern made of a string can't be checked; write it down or search without one`);
        continue;
      }
      const written = `/${pattern}/${flags}`;
      if (known.has(written)) {
        safe.add(written);
        continue;
      }
      const { status, complexity, attack } = await judged(check, pattern, flags);
      if (status === "safe") safe.add(written);
      else
        complaints.push(
          `${where}: ${written} is ${complexity?.summary ?? status}${attack ? `, for example on ${attack.pattern.slice(0, 120)}` : ""}`,
        );
    }
  }
  keepSafe(by, safe, known);
  return { checked, complaints };
};
