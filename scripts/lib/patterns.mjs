import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { hashOf, ROOT, readState, writeState } from "./shell.mjs";

// The search runs in this process: no program is fetched or started for it.
process.env.RECHECK_BACKEND = "pure";

const sourcesBelow = (folder) =>
  readdirSync(folder, { withFileTypes: true, recursive: true }).flatMap((entry) =>
    entry.isFile() && /\.(tsx?|mjs)$/.test(entry.name) && !/\.(test|bench)\./.test(entry.name) ? [join(entry.parentPath, entry.name)] : [],
  );

/** Patterns that were found safe before. */
const STATE = "patterns.json";

/** Every pattern written down in a source, and every one that is made of a string: that one nobody can look at beforehand. */
const patternsIn = (node, found = []) => {
  if (Array.isArray(node)) for (const inner of node) patternsIn(inner, found);
  else if (typeof node === "object" && node !== null) {
    if (node.type === "RegExpLiteral") found.push({ pattern: node.pattern, flags: node.flags });
    if (node.type === "NewExpression" && node.callee?.value === "RegExp") found.push({ pattern: null, flags: "" });
    for (const inner of Object.values(node)) patternsIn(inner, found);
  }
  return found;
};

/** Exact where that can be had in seconds, and so the same on a busy machine as on a quiet one; drawn by chance only where it can't. */
const judged = async (check, pattern, flags) => {
  const exact = await check(pattern, flags, { timeout: 4000, checker: "automaton" });
  return exact.status === "unknown" ? check(pattern, flags, { timeout: 60_000, checker: "fuzz" }) : exact;
};

/** Patterns whose time can grow beyond the length of a text, each with the file it stands in and a text that shows it. */
export const slowPatterns = async (folders = ["src", "scripts"]) => {
  // Asked for only now: a fresh checkout has no packages yet when this file is read.
  const [{ check }, { parse }] = await Promise.all([import("recheck"), import("@swc/core")]);
  const complaints = [];
  const known = new Set(readState(STATE) ?? []);
  const safe = [];
  let checked = 0;
  for (const file of folders.flatMap((folder) => sourcesBelow(join(ROOT, folder)))) {
    const where = relative(ROOT, file);
    const source = await parse(readFileSync(file, "utf8"), { syntax: "typescript", tsx: file.endsWith("x"), decorators: true });
    for (const { pattern, flags } of patternsIn(source)) {
      checked++;
      if (pattern === null) {
        complaints.push(`${where}: a pattern made of a string can't be checked; write it down or search without one`);
        continue;
      }
      const mark = hashOf([pattern, "/", flags]).slice(0, 16);
      if (known.has(mark)) {
        safe.push(mark);
        continue;
      }
      const { status, complexity, attack } = await judged(check, pattern, flags);
      if (status === "safe") safe.push(mark);
      else complaints.push(`${where}: /${pattern}/${flags} is ${complexity?.summary ?? status}${attack ? `, for example on ${attack.pattern.slice(0, 120)}` : ""}`);
    }
  }
  writeState(STATE, [...new Set(safe)]);
  return { checked, complaints };
};
