import { type Command, HEADER, VERBS } from "@/core/commands/command";
import {
  changeSchema,
  type DocumentDescription,
  headerChangeSchema,
  newEntrySchema,
  type TableDescription,
} from "@/core/model/describe/table";
import { byOne, idOf, orNull } from "@/core/model/schema-parts";
import { KINDS, type What } from "./kinds";

type Schema = Readonly<Record<string, unknown>>;

/** As long as the longest id of any table: that of a finding. */
const anyId = idOf(300);
/** The most entries one command may name. */
const MOST = 65_536;
/** More patches than fit into the bytes of a gesture. */
const MOST_PATCHES = 1_000_000;

const listOf = (items: object, maxItems = MOST): Schema => ({ type: "array", items, minItems: 1, maxItems });
const byId = (id: object, values: object, maxProperties = MOST): Schema => ({
  type: "object",
  propertyNames: id,
  additionalProperties: values,
  minProperties: 1,
  maxProperties,
});

const PATCH: Schema = {
  type: "object",
  properties: {
    op: { enum: ["add", "replace", "remove"] },
    path: { type: "array", items: { type: "string", maxLength: 400 }, minItems: 1, maxItems: 4 },
    value: {},
  },
  required: ["op", "path"],
  additionalProperties: false,
};

/** An object of these fields and no others, those of the second kind left out as one likes. */
const fields = (needed: Schema, optional: Schema = {}): Schema => ({
  type: "object",
  properties: { ...needed, ...optional },
  required: Object.keys(needed),
  additionalProperties: false,
});

/** JSON Schema of the five verbs for one kind of document, made of its description. */
const verbsOf = (description: DocumentDescription): Readonly<Record<Command["kind"], Schema>> => {
  const tables = Object.entries(description.tables);
  /** A verb whose fields hang on the table that it names. */
  const perTable = (
    kind: Command["kind"],
    of: (table: TableDescription) => readonly [needed: Schema, optional?: Schema],
    among = tables,
    more: Readonly<Record<string, Schema>> = {},
  ): Schema =>
    byOne("table", {
      ...Object.fromEntries(
        among.map(([name, table]) => {
          const [needed, optional] = of(table);
          return [name, fields({ kind: { const: kind }, table: { const: name }, ...needed }, optional)];
        }),
      ),
      ...more,
    });
  return {
    add: perTable("add", (table) => [{ entries: listOf(newEntrySchema(table)) }, { before: orNull(anyId) }]),
    set: perTable("set", (table) => [{ values: byId(table.id, changeSchema(table)) }], tables, {
      [HEADER]: fields({
        kind: { const: "set" },
        table: { const: HEADER },
        values: byId(idOf(64), headerChangeSchema(description), 1),
      }),
    }),
    move: perTable(
      "move",
      () => [{ ids: listOf(anyId), before: orNull(anyId) }, { parent: orNull(anyId) }],
      tables.filter(([, { order }]) => order),
    ),
    remove: perTable("remove", () => [{ ids: listOf(anyId) }]),
    restore: fields(
      {
        kind: { const: "restore" },
        undoes: { type: "string", minLength: 1, maxLength: 400 },
        patches: listOf(PATCH, MOST_PATCHES),
      },
      { carries: { const: true } },
    ),
  };
};

/** By kind of document. */
export const VERB_SCHEMAS = Object.fromEntries(
  Object.entries(KINDS).map(([what, { description }]) => [what, verbsOf(description)]),
) as Readonly<Record<What, Readonly<Record<Command["kind"], Schema>>>>;

const NAMES: Readonly<Record<Command["kind"], (of: string) => string>> = {
  add: (of) => `AddTo${of}`,
  set: (of) => `SetIn${of}`,
  move: (of) => `MoveIn${of}`,
  remove: (of) => `RemoveFrom${of}`,
  restore: (of) => `Restore${of}`,
};

/** All of them under the names that the description of the service gives them. */
export const NAMED_VERBS: Readonly<Record<string, Schema>> = Object.fromEntries(
  Object.entries(VERB_SCHEMAS).flatMap(([what, schemas]) =>
    VERBS.map((verb) => [NAMES[verb](`${what.charAt(0).toUpperCase()}${what.slice(1)}`), schemas[verb]]),
  ),
);
