import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { brotliDecompressSync, gunzipSync } from "node:zlib";
import { afterAll, expect, it } from "vitest";
import { packStatic, tellCalledOnLoad } from "./build.mjs";

const folder = mkdtempSync(join(tmpdir(), "wandel-chunks-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

it("scripts of pages say once that their functions are called on load; what is no script stays as it is", () => {
  mkdirSync(join(folder, "deeper"));
  for (const name of ["one.js", "deeper/two.js", "style.css"]) writeFileSync(join(folder, name), "was there\n");
  tellCalledOnLoad(folder);
  tellCalledOnLoad(folder);
  const said = "//# allFunctionsCalledOnLoad\nwas there\n";
  expect(["one.js", "deeper/two.js", "style.css"].map((name) => readFileSync(join(folder, name), "utf8"))).toEqual([
    said,
    said,
    "was there\n",
  ]);
});

it("scripts and styles lie packed beside themselves, whole; fonts, which are packed already, do not", async () => {
  writeFileSync(join(folder, "font.woff2"), "was there\n");
  await packStatic(folder);
  for (const name of ["one.js", "deeper/two.js", "style.css"]) {
    const plain = readFileSync(join(folder, name));
    expect(brotliDecompressSync(readFileSync(join(folder, `${name}.br`)))).toEqual(plain);
    expect(gunzipSync(readFileSync(join(folder, `${name}.gz`)))).toEqual(plain);
  }
  expect(existsSync(join(folder, "font.woff2.br"))).toBe(false);
});
