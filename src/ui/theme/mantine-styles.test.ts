import { readdirSync, readFileSync } from "node:fs";
import { build } from "esbuild";
import { describe, expect, it } from "vitest";

/** Components of the package that are left in a bundle of all screens, by the styles that they look for. */
const used = async (): Promise<ReadonlySet<string>> => {
  const files = readdirSync("src/ui", { recursive: true, encoding: "utf8" }).filter(
    (file) => file.endsWith(".tsx") && !file.includes(".test."),
  );
  const { metafile } = await build({
    stdin: {
      contents: files.map((file, at) => `import * as s${at} from "./src/ui/${file}"; console.log(s${at});`).join("\n"),
      resolveDir: ".",
      loader: "tsx",
    },
    bundle: true,
    splitting: true,
    minify: true,
    write: false,
    metafile: true,
    outdir: "nowhere",
    format: "esm",
    jsx: "automatic",
    loader: { ".css": "empty" },
    external: ["next/*", "react", "react-dom", "recharts", "@tabler/icons-react"],
    logLevel: "error",
  });
  const kept = Object.values(metafile.outputs).flatMap(({ inputs }) =>
    Object.entries(inputs).flatMap(([file, { bytesInOutput }]) => (bytesInOutput > 0 ? [file] : [])),
  );
  return new Set(
    kept.flatMap((file) => /@mantine\/core\/.*\/([A-Za-z]+)\.module\.(?:css\.)?mjs$/.exec(file)?.[1] ?? []),
  );
};

describe("styles of components", () => {
  it("are there for every component that is used, for no other, and in the order of the package", async () => {
    const listed = [...readFileSync("src/ui/theme/mantine-styles.ts", "utf8").matchAll(/styles\/([A-Z]\w*)\.css/g)].map(
      ([, name]) => name ?? "",
    );
    const all = readFileSync("node_modules/@mantine/core/styles.css", "utf8");
    const place = (name: string) =>
      all.indexOf(readFileSync(`node_modules/@mantine/core/styles/${name}.css`, "utf8").trim());
    expect(listed).toEqual([...(await used())].sort((a, b) => place(a) - place(b)));
    expect(listed.map(place).every((at) => at >= 0)).toBe(true);
  }, 60_000);
});
