import "reflect-metadata";
import { Equals, IsNotEmpty } from "class-validator";
import { type Command, HEADER, VERBS } from "@/core/commands/command";
import {
  changeSchema,
  type DocumentDescription,
  headerChangeSchema,
  newEntrySchema,
  type TableDescription,
} from "@/core/model/describe/table";
import { RIG } from "@/core/model/rig";
import { idOf } from "@/core/model/schema-parts";
import { STUDIO } from "@/core/model/studio";
import { TEMPLATE } from "@/core/model/template";
import { type Decorate, FitsTable, ListOf, OneOf, Optional, OrNull, Patches, Text } from "./fields";

/** As long as the longest id of any table: that of a finding. */
const anyId = idOf(300);

type VerbClass = new () => { kind: string };

/**
 * A class of fields that are decorated by what a description says, under the name that the description of the service
 * gives it.
 */
const classOf = (name: string, fields: Readonly<Record<string, readonly Decorate[]>>): VerbClass => {
  const made = class {
    kind!: string;
  };
  Object.defineProperty(made, "name", { value: name });
  for (const [field, decorators] of Object.entries(fields))
    for (const decorate of decorators) decorate(made.prototype, field);
  return made;
};

const perTable = (
  description: DocumentDescription,
  schema: (table: TableDescription) => object,
): Readonly<Record<string, object>> =>
  Object.fromEntries(Object.entries(description.tables).map(([name, table]) => [name, schema(table)]));

const listOf = (items: object) => ({ type: "array", items, minItems: 1, maxItems: 65_536 });
const byId = (id: object, values: object) => ({
  type: "object",
  propertyNames: id,
  additionalProperties: values,
  minProperties: 1,
  maxProperties: 65_536,
});

/** The request classes of the five verbs for one kind of document, made of its description. */
const verbClasses = (description: DocumentDescription): Readonly<Record<Command["kind"], VerbClass>> => {
  const { what, tables } = description;
  const of = `${what.charAt(0).toUpperCase()}${what.slice(1)}`;
  const names = Object.keys(tables);
  const kind = (verb: Command["kind"]): readonly Decorate[] => [Equals(verb)];
  const table = (which: readonly string[]): readonly Decorate[] => [OneOf(which)];
  const before = [Optional(), OrNull(anyId)];
  return {
    add: classOf(`AddTo${of}`, {
      kind: kind("add"),
      table: table(names),
      entries: [FitsTable(perTable(description, (entry) => listOf(newEntrySchema(entry))))],
      before,
    }),
    set: classOf(`SetIn${of}`, {
      kind: kind("set"),
      table: table([...names, HEADER]),
      values: [
        FitsTable({
          ...perTable(description, (entry) => byId(entry.id, changeSchema(entry))),
          [HEADER]: { ...byId(idOf(64), headerChangeSchema(description)), maxProperties: 1 },
        }),
      ],
    }),
    move: classOf(`MoveIn${of}`, {
      kind: kind("move"),
      table: table(names.filter((name) => tables[name]?.order)),
      ids: [ListOf(anyId, { most: 65_536 })],
      parent: [Optional(), OrNull(anyId)],
      before: [OrNull(anyId)],
    }),
    remove: classOf(`RemoveFrom${of}`, {
      kind: kind("remove"),
      table: table(names),
      ids: [ListOf(anyId, { most: 65_536 })],
    }),
    restore: classOf(`Restore${of}`, {
      kind: kind("restore"),
      undoes: [Text(400), IsNotEmpty()],
      patches: [Patches()],
    }),
  };
};

/** By kind of document. */
export const VERB_CLASSES = {
  template: verbClasses(TEMPLATE),
  rig: verbClasses(RIG),
  studio: verbClasses(STUDIO),
} as const;

export const ALL_VERB_CLASSES: readonly VerbClass[] = Object.values(VERB_CLASSES).flatMap((classes) =>
  VERBS.map((verb) => classes[verb]),
);
