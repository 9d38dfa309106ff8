import { spawnSync } from "node:child_process";
import { mkdtemp, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { Validator as SchemaValidator } from "@cfworker/json-schema";
import { Validator } from "@seriousme/openapi-schema-validator";
import { generate } from "openapi-typescript-codegen";
import { describe, expect, it } from "vitest";
import { demoTemplates } from "@/core/demo/templates";
import { openApi } from "@/server/http/openapi";

const text = JSON.stringify(openApi());

const referencesIn = (value: unknown): readonly string[] =>
  typeof value !== "object" || value === null
    ? []
    : Object.entries(value).flatMap(([key, inner]) =>
        key === "$ref" && typeof inner === "string" ? [inner] : referencesIn(inner),
      );

const at = (document: unknown, reference: string): unknown =>
  reference
    .slice(2)
    .split("/")
    .reduce<unknown>((place, key) => (place as Readonly<Record<string, unknown>> | undefined)?.[key], document);

describe("the description of the service", () => {
  it("is a valid one of OpenAPI 3.1, by a validator that knows nothing of us", async () => {
    const validator = new Validator();
    const { valid, errors } = await validator.validate(JSON.parse(text));
    expect({ valid, errors: errors ?? [] }).toEqual({ valid: true, errors: [] });
    expect(validator.version).toBe("3.1");
  });

  it("tells of one that is none", async () => {
    const { paths: _paths, ...rest } = JSON.parse(text.replaceAll('"responses"', '"answers"'));
    const { valid } = await new Validator().validate({ ...rest, paths: { "no-slash": { fetch: 1 } } });
    expect(valid).toBe(false);
  });

  it("stands by itself: whatever it refers to is in it", () => {
    const document = JSON.parse(text);
    const all = referencesIn(document);
    expect(all.length).toBeGreaterThan(20);
    expect(all.filter((reference) => !reference.startsWith("#/") || at(document, reference) === undefined)).toEqual([]);
  });

  it("describes the documents as they are, for a validator that knows nothing of us", () => {
    const { components } = JSON.parse(text);
    const validator = new SchemaValidator(components.schemas.Template, "2020-12", true);
    for (const doc of demoTemplates()) expect(validator.validate(doc).valid).toBe(true);
    expect(validator.validate({ ...demoTemplates()[0], lines: [] }).valid).toBe(false);
  });
});

/** What somebody would write who knows the service only by its description. */
const USE = `
import { type AddToTemplate, type CommandsRequest, DefaultService, type SetInTemplate } from "./client";
const gain: SetInTemplate = { kind: "set", table: "lines", values: { "line-1": { gainDb: 32 } } };
const folder: AddToTemplate = {
  kind: "add",
  table: "folders",
  entries: [{ id: "f", name: "Strings", colour: null, parentId: null, open: true, busId: null }],
};
const asked: CommandsRequest = { base: 1, batch: "b", commands: [gain, folder] };
export const saved = DefaultService.postApiTemplatesCommands("t", asked);
`;

const compiled = async (use: string) => {
  const folder = await mkdtemp(join(tmpdir(), "wandel-client-"));
  await generate({ input: JSON.parse(text), output: join(folder, "client"), httpClient: "fetch" });
  await writeFile(join(folder, "use.ts"), use);
  const options = { strict: true, noEmit: true, module: "esnext", moduleResolution: "bundler", types: [] };
  await writeFile(
    join(folder, "tsconfig.json"),
    JSON.stringify({ compilerOptions: { ...options, target: "es2022", lib: ["ES2023", "DOM"] } }),
  );
  const { status, stdout } = spawnSync("node_modules/.bin/tsc", ["-p", folder], { encoding: "utf8" });
  await rm(folder, { recursive: true });
  return { status, stdout };
};

describe("a client generated of the description", () => {
  it("compiles, with what is written for it", async () =>
    expect(await compiled(USE)).toEqual({ status: 0, stdout: "" }));

  it("takes no field that a table has not", async () => {
    const { status, stdout } = await compiled(USE.replace("gainDb", "volume"));
    expect([status !== 0, stdout]).toEqual([true, expect.stringContaining("volume")]);
  });
});
