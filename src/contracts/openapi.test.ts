import { Validator } from "@seriousme/openapi-schema-validator";
import { describe, expect, it } from "vitest";
import { demoTemplates } from "@/core/demo/templates";
import { checkerOf } from "@/core/model/checker";
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

  it("describes the documents as they are", () => {
    const { components } = JSON.parse(text);
    for (const doc of demoTemplates()) expect(checkerOf(components.schemas.Template).fits(doc)).toBe(true);
    expect(checkerOf(components.schemas.Template).fits({ ...demoTemplates()[0], lines: [] })).toBe(false);
  });
});
