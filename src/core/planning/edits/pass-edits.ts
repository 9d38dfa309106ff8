import { type Command, type Refusal, refuse } from "../../commands/command";
import { fieldWords } from "../../commands/naming";
import type { PassId } from "../../model/ids";
import { entriesOf } from "../../model/table";
import { newPass, PASSES, type Pass } from "../../model/tables/passes";
import type { Template } from "../../model/template";
import { counted } from "../../units/counted";
import { type Planners, toAll } from "./edit";
import { firstOf, goneFrom, tooMany } from "./refusals";

const countPasses = (doc: Template, ids: readonly PassId[]): string =>
  ids.length === 1 && ids[0] ? (doc.passes[ids[0]]?.name ?? "a pass") : counted(ids.length, "pass", "passes");

const missing = (doc: Template, ids: readonly PassId[]): Refusal | null =>
  ids.length ? goneFrom(doc.passes, ids, "pass") : refuse("empty", "", "No pass was named. Select one or more.");

const named = (name: string | undefined): Refusal | null =>
  name === undefined || name.trim() ? null : refuse("empty", "", "A pass needs a name, for example what is sung in it.");

/** No pass runs while another does: those that do are stopped. */
const stopping = (doc: Template): readonly Command[] => {
  const running = entriesOf<Pass>(doc.passes).filter((pass) => pass.running);
  return running.length
    ? [
        {
          kind: "set",
          table: "passes",
          values: toAll(
            running.map(({ id }) => id),
            { running: false },
          ),
        },
      ]
    : [];
};

export const passEdits: Planners<"passes"> = {
  "passes.add": {
    plan: (doc, { passes, before }) =>
      firstOf(
        () => (passes.length ? null : refuse("empty", "", "Nothing to add: say what is recorded in it.")),
        () => passes.map(({ name }) => named(name)).find((refusal) => refusal !== null) ?? null,
        () => tooMany(doc, { passes }),
      ) ?? [{ kind: "add", table: "passes", entries: passes.map((pass) => newPass({ ...pass, name: pass.name.trim(), running: false })), before }],
    name: (_doc, { passes }) => (passes.length === 1 ? `Add the pass ${passes[0]?.name.trim()}` : `Add ${passes.length} passes`),
  },
  "passes.set": {
    plan: (doc, { passIds, set }) =>
      firstOf(
        () => missing(doc, passIds),
        () => named(set.name),
      ) ?? [{ kind: "set", table: "passes", values: toAll(passIds, set.name === undefined ? set : { ...set, name: set.name.trim() }) }],
    name: (doc, { passIds, set }) =>
      set.name === undefined ? `Set ${fieldWords(PASSES.fields, Object.keys(set))} of ${countPasses(doc, passIds)}` : `Rename ${countPasses(doc, passIds)} to ${set.name.trim()}`,
  },
  "passes.move": {
    plan: (doc, { passIds, before }) =>
      firstOf(
        () => missing(doc, passIds),
        () => (before ? goneFrom(doc.passes, [before], "pass") : null),
      ) ?? [{ kind: "move", table: "passes", ids: passIds, before }],
    name: (doc, { passIds }) => `Move ${countPasses(doc, passIds)}`,
  },
  "passes.remove": {
    plan: (doc, { passIds }) => missing(doc, passIds) ?? [{ kind: "remove", table: "passes", ids: passIds }],
    name: (doc, { passIds }) => `Remove ${countPasses(doc, passIds)}`,
  },
  "passes.run": {
    plan: (doc, { passId }) => {
      if (passId === null) return stopping(doc);
      const refusal = missing(doc, [passId]);
      if (refusal) return refusal;
      return doc.passes[passId]?.running ? [] : [...stopping(doc), { kind: "set", table: "passes", values: { [passId]: { running: true } } }];
    },
    name: (doc, { passId }) => (passId === null ? "Run no pass" : `Run ${doc.passes[passId]?.name ?? "a pass"}`),
  },
};
