import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import postcss, { type Rule } from "postcss";
import { describe, expect, it } from "vitest";
import { COLOUR_NAMES, contrast } from "@/core/model/colours";
import { CLOTH, NIGHT } from "./tokens";

const SURFACES = { cloth: CLOTH, night: NIGHT } as const;
const UI = join(import.meta.dirname, "..");

/** WCAG 2: text of the size that we have needs 4.5 : 1, marks that carry meaning 3 : 1. */
const TEXT = 4.5;
const MARK = 3;

const TEXT_COLOURS = ["ink", "soft", "act", "problem", "hint", "well"] as const;
const GROUNDS = ["ground", "raised", "sunk"] as const;
const PAIRS = [
  ...TEXT_COLOURS.flatMap((text) => GROUNDS.map((ground) => [text, ground] as const)),
  ["act-ink", "act"],
  ["ink", "act-wash"],
  ["soft", "act-wash"],
  ["act", "act-wash"],
  ["ink", "problem-wash"],
  ["problem", "problem-wash"],
  ["ink", "hint-wash"],
  ["hint", "hint-wash"],
] as const;

const hexOf = (surface: keyof typeof SURFACES, token: string): string => SURFACES[surface][`--${token}`] ?? "";

const rules = readdirSync(UI, { recursive: true, encoding: "utf8" })
  .filter((file) => file.endsWith(".css"))
  .flatMap((file) => {
    const found: { file: string; rule: Rule }[] = [];
    postcss.parse(readFileSync(join(UI, file), "utf8")).walkRules((rule) => void found.push({ file, rule }));
    return found;
  })
  .filter(({ rule }) => !(rule.parent?.type === "atrule" && "params" in rule.parent && rule.parent.params === "print"));

const tokenOf = (rule: Rule, ...properties: readonly string[]): string | undefined => {
  let token: string | undefined;
  rule.walkDecls((decl) => {
    const found = properties.includes(decl.prop) ? /^var\(--([a-z-]+)\)/.exec(decl.value) : null;
    if (found) token = found[1];
  });
  return token;
};

describe.each(["cloth", "night"] as const)("on %s", (surface) => {
  it.each(PAIRS)("%s is read on %s", (text, ground) =>
    expect(contrast(hexOf(surface, text), hexOf(surface, ground))).toBeGreaterThanOrEqual(TEXT),
  );

  it.each(COLOUR_NAMES)("what is written on %s is read", (colour) =>
    expect(contrast(hexOf(surface, `on-${colour}`), hexOf(surface, `dye-${colour}`))).toBeGreaterThanOrEqual(TEXT),
  );

  it("what has the keys is seen: its ring stands out from every ground", () => {
    for (const ground of GROUNDS)
      expect(contrast(hexOf(surface, "act"), hexOf(surface, ground))).toBeGreaterThanOrEqual(MARK);
  });

  it("every rule that sets both text and ground sets a pair that is read", () => {
    const poor = rules.flatMap(({ file, rule }) => {
      const [text, ground] = [tokenOf(rule, "color"), tokenOf(rule, "background", "background-color")];
      const [a, b] = [hexOf(surface, text ?? ""), hexOf(surface, ground ?? "")];
      return a && b && contrast(a, b) < TEXT
        ? [`${file} ${rule.selector}: ${text} on ${ground} ${contrast(a, b).toFixed(2)}`]
        : [];
    });
    expect(poor).toEqual([]);
  });
});

it("text takes its colour from the tokens that were tried here, and from nothing else", () => {
  const known = [...TEXT_COLOURS, "act-ink", "ground", "raised"] as readonly string[];
  const strange = rules.flatMap(({ file, rule }) => {
    const found: string[] = [];
    rule.walkDecls("color", ({ value }) => {
      const token = /^var\(--([a-z-]+)\)$/.exec(value)?.[1];
      if (
        !["inherit", "transparent", "currentColor", "HighlightText", "CanvasText"].includes(value) &&
        !(token && known.includes(token))
      )
        found.push(`${file} ${rule.selector}: ${value}`);
    });
    return found;
  });
  expect(strange).toEqual([]);
});
