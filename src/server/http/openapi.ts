import { WHATS } from "@/contracts/kinds";
import "reflect-metadata";
import { targetConstructorToSchema } from "class-validator-jsonschema";
import {
  ChainsQuery,
  CommandsRequest,
  CreateRigRequest,
  CreateTemplateRequest,
  DelayQuery,
  DeleteQuery,
  EmptyBinQuery,
  ExportQuery,
  HistoryQuery,
  ImportRequest,
  KeepVersionRequest,
  LevelsQuery,
  ListQuery,
  NewerQuery,
  PathsQuery,
  PreviewQuery,
  RawQuery,
  SessionsQuery,
  StartSessionRequest,
  StorageQuery,
  UsesQuery,
} from "@/contracts/requests";
import { NAMED_VERBS } from "@/contracts/verb-schemas";
import { type DocumentDescription, documentSchema } from "@/core/model/describe/table";
import { RIG } from "@/core/model/rig";
import { STUDIO } from "@/core/model/studio";
import { TEMPLATE } from "@/core/model/template";
import { MOST_PATHS } from "@/core/routing/paths";

type SchemaObject = Readonly<Record<string, unknown>>;

const schemaOf = (type: new () => object): SchemaObject => targetConstructorToSchema(type as never, {}) as SchemaObject;
const propertiesOf = (type: new () => object): SchemaObject => (schemaOf(type).properties ?? {}) as SchemaObject;
const ref = (name: string) => ({ $ref: `#/components/schemas/${name}` });
const body = (schema: object, type = "application/json") => ({ required: true, content: { [type]: { schema } } });
const answer = (description: string, schema?: object, type = "application/json") => ({
  description,
  ...(schema ? { content: { [type]: { schema } } } : {}),
});
const problem = (description: string) => answer(description, ref("Problem"), "application/problem+json");
const idParameter = { name: "id", in: "path", required: true, schema: { type: "string" } };

const revisionParameter = {
  name: "revision",
  in: "path",
  required: true,
  schema: { type: "integer", minimum: 1, maximum: 2_147_483_647 },
};

const queryParameters = (type: new () => object) => {
  const required = (schemaOf(type).required ?? []) as readonly string[];
  return Object.entries(propertiesOf(type)).map(([name, schema]) => ({
    name,
    in: "query",
    required: required.includes(name),
    schema,
  }));
};

const object = (properties: SchemaObject) => ({ type: "object", properties, required: Object.keys(properties) });
const list = (items: SchemaObject) => ({ type: "array", items });
const remark = object({
  message: { type: "string" },
  row: { type: ["integer", "null"] },
  column: { type: ["integer", "null"] },
});
const remarks = { type: "array", items: remark };
const saved = object({ revision: { type: "integer" }, savedAt: { type: "string", format: "date-time" } });
/** `newer` is there when others saved between the base and this. */
const savedOn = { ...saved, properties: { ...saved.properties, newer: { type: "array", items: { type: "object" } } } };
const state = object({ ...saved.properties, document: ref("Template") });
const anything = { type: "object" };
const newerAnswer = object({
  head: { type: "integer" },
  sinceSavedAt: { type: ["string", "null"], format: "date-time" },
  newer: { type: "array", items: { type: "object" } },
  more: { type: "boolean" },
});

/**
 * A schema as those who make clients of it read it: kinds that are told apart by `if` and `then` as one of several
 * objects, each whole. Both take the same values, since each kind is told apart by a constant.
 */
export const forClients = (schema: unknown): unknown => {
  if (Array.isArray(schema)) return schema.map(forClients);
  if (typeof schema !== "object" || schema === null) return schema;
  const { allOf, ...rest } = schema as { readonly allOf?: readonly { readonly then?: unknown }[] };
  return Array.isArray(allOf) && allOf.every((one) => "then" in one)
    ? { oneOf: allOf.map(({ then }) => forClients(then)) }
    : Object.fromEntries(Object.entries({ ...rest, ...(allOf ? { allOf } : {}) }).map(([k, v]) => [k, forClients(v)]));
};

/** A document as a part of the description: what names it as a schema of its own is left out. */
const documentPart = (description: DocumentDescription): SchemaObject => {
  const { $schema: _draft, $id: _id, ...part } = documentSchema(description);
  return forClients(part) as SchemaObject;
};

const components = () => ({
  schemas: {
    Template: documentPart(TEMPLATE),
    Rig: documentPart(RIG),
    Studio: documentPart(STUDIO),
    ...(forClients(NAMED_VERBS) as SchemaObject),
    CreateTemplateRequest: schemaOf(CreateTemplateRequest),
    CreateRigRequest: schemaOf(CreateRigRequest),
    CommandsRequest: schemaOf(CommandsRequest),
    KeepVersionRequest: schemaOf(KeepVersionRequest),
    StartSessionRequest: schemaOf(StartSessionRequest),
    Report: object({ understood: remarks, guessed: remarks, leftOut: remarks }),
    Problem: object({
      type: { type: "string" },
      title: { type: "string" },
      status: { type: "integer" },
      detail: { type: "string" },
    }),
  },
});

const importForm = {
  type: "object",
  properties: { file: { type: "string", format: "binary" }, ...propertiesOf(ImportRequest) },
  required: ["file"],
};

const templatePaths = {
  "/api/templates": {
    get: {
      summary: "The library, newest change first",
      parameters: queryParameters(ListQuery),
      responses: { 200: answer("A page of templates", anything), 400: problem("Malformed query") },
    },
    post: {
      summary: "Make an empty template, or a copy of one",
      requestBody: body(ref("CreateTemplateRequest")),
      responses: {
        201: answer("The new template", state),
        400: problem("Malformed"),
        404: problem("No such rig or template"),
      },
    },
  },
  "/api/templates/import": {
    post: {
      summary: "Make a template of an input list or of a template document",
      parameters: queryParameters(PreviewQuery),
      requestBody: body(importForm, "multipart/form-data"),
      responses: {
        200: answer(
          "What it would become",
          object({
            columns: { type: "array" },
            rows: { type: "array" },
            questions: { type: "array" },
            outside: { type: "array" },
            source: { type: "array" },
            balance: { type: "object" },
            fatal: { type: "array" },
            sheets: { type: "array" },
            report: ref("Report"),
          }),
        ),
        201: answer(
          "Made",
          object({ template: object({ id: { type: "string" }, name: { type: "string" } }), report: ref("Report") }),
        ),
        413: problem("The file is too large"),
        415: problem("Not multipart"),
        422: problem("The file can't be read"),
      },
    },
  },
  "/api/templates/{id}": {
    parameters: [idParameter],
    get: {
      summary: "The head of a template",
      responses: { 200: answer("The document and its revision", state), 404: problem("No such template") },
    },
    delete: {
      summary: "Take a template out of the library",
      parameters: queryParameters(DeleteQuery),
      responses: { 204: answer("Gone; it can be brought back"), 404: problem("No such template") },
    },
  },
  "/api/templates/{id}/restore": {
    parameters: [idParameter],
    post: {
      summary: "Bring a deleted template back",
      responses: {
        200: answer(
          "The template, and the name of its rig where that came back with it",
          object({ rigBroughtBack: { type: ["string", "null"] }, ...state.properties }),
        ),
        404: problem("None deleted with this id"),
      },
    },
  },
  "/api/templates/{id}/commands": {
    parameters: [idParameter],
    post: {
      summary: "Apply commands to the head, all or none, and keep the result as a revision",
      requestBody: body(ref("CommandsRequest")),
      responses: {
        200: answer("Saved, on the newest revision; newer tells what came between it and the base", savedOn),
        400: problem("Malformed"),
        404: problem("No such template"),
        409: problem(
          "It can't be done on the newest revision: newer says what came after its base; or the data are of another past: parted",
        ),
        413: problem("Too large"),
        415: problem("Not JSON"),
        422: problem("A command was refused"),
      },
    },
  },
  "/api/templates/{id}/newer": {
    parameters: [idParameter],
    get: {
      summary: "Revisions after a given one",
      parameters: queryParameters(NewerQuery),
      responses: { 200: answer("What is newer, and the newest revision", newerAnswer), 404: problem("Not there") },
    },
  },
  "/api/templates/{id}/life": {
    parameters: [idParameter],
    get: {
      summary: "Its versions, the sessions it was copied for, what branched off, and what it came from",
      responses: { 200: answer("Its life", anything), 404: problem("No such template") },
    },
  },
  "/api/templates/{id}/versions": {
    parameters: [idParameter],
    post: {
      summary: "Keep a revision under a name; the same revision again changes its name and note",
      requestBody: body(ref("KeepVersionRequest")),
      responses: {
        201: answer("The version", anything),
        400: problem("Malformed"),
        404: problem("No such template or revision"),
        422: problem("The name is taken"),
      },
    },
  },
  "/api/templates/{id}/versions/{revision}": {
    parameters: [idParameter, revisionParameter],
    delete: {
      summary: "Take the name off a version; the revision stays",
      responses: { 204: answer("It has no name any more"), 404: problem("No such version") },
    },
  },
  "/api/templates/{id}/revisions": {
    parameters: [idParameter],
    get: {
      summary: "What was done to it, newest first, with who and when",
      parameters: queryParameters(HistoryQuery),
      responses: { 200: answer("A page of gestures", anything), 404: problem("No such template") },
    },
  },
  "/api/templates/{id}/revisions/{revision}": {
    parameters: [idParameter, revisionParameter],
    get: {
      summary: "A revision as it was, in today's shape",
      responses: { 200: answer("The document", state), 404: problem("No such template or revision") },
    },
  },
  "/api/templates/{id}/lessons": {
    parameters: [idParameter],
    get: {
      summary: "What its sessions that are done changed alike, each with its count and the edits that take it over",
      responses: {
        200: answer(
          "What they taught",
          object({ revision: { type: "integer" }, sessions: { type: "integer" }, lessons: list(anything) }),
        ),
        404: problem("No such template"),
      },
    },
  },
  "/api/bin": {
    get: {
      summary: "What was deleted, newest first, with when and by whom",
      responses: { 200: answer("The bin", object({ binned: list(anything) })) },
    },
    delete: {
      summary: "Remove for good what was deleted up to a time; nothing brings that back",
      parameters: queryParameters(EmptyBinQuery),
      responses: {
        200: answer("How many went", object({ gone: { type: "integer" } })),
        400: problem("Malformed query"),
      },
    },
  },
  "/api/sessions": {
    get: {
      summary: "Sessions by date, newest first",
      parameters: queryParameters(SessionsQuery),
      responses: { 200: answer("A page of sessions", anything), 400: problem("Malformed query") },
    },
    post: {
      summary: "Start a session: a copy of a template for a date, without what it does not need",
      requestBody: body(ref("StartSessionRequest")),
      responses: {
        201: answer("The session", state),
        400: problem("Malformed"),
        404: problem("No such template or revision"),
        422: problem("It can't be started so"),
      },
    },
  },
  "/api/templates/{id}/findings": {
    parameters: [idParameter],
    get: {
      summary: "What the checks say of the head",
      responses: { 200: answer("Findings", anything), 404: problem("No such template") },
    },
  },
  "/api/templates/{id}/flow": {
    parameters: [idParameter],
    get: {
      summary: "How the channels of the head are routed: nodes, threads, and the order of the sound",
      responses: {
        200: answer(
          "The flow",
          object({
            revision: { type: "integer" },
            flow: object({ nodes: list(anything), threads: list(anything), order: list({ type: "string" }) }),
          }),
        ),
        404: problem("No such template"),
      },
    },
  },
  "/api/templates/{id}/paths": {
    parameters: [idParameter],
    get: {
      summary: `Every way of the sound between two channels of the head, step by step, in data and in words; up to ${MOST_PATHS} of them written out`,
      parameters: queryParameters(PathsQuery),
      responses: {
        200: answer(
          "The ways",
          object({
            revision: { type: "integer" },
            ways: object({ count: { type: "integer" }, paths: list(anything) }),
          }),
        ),
        400: problem("Malformed query"),
        404: problem("No such template or channel"),
      },
    },
  },
  "/api/templates/{id}/delay": {
    parameters: [idParameter],
    get: {
      summary:
        "How late everybody hears themself in the head: every way by person and part against its target, and who hears themself twice",
      parameters: queryParameters(DelayQuery),
      responses: {
        200: answer(
          "The delay",
          object({
            revision: { type: "integer" },
            delay: object({ paths: list(anything), heardTwice: list(anything) }),
          }),
        ),
        400: problem("Malformed query"),
        404: problem("No such template"),
      },
    },
  },
  "/api/templates/{id}/low-latency": {
    parameters: [idParameter],
    get: {
      summary:
        "The fewest processors to leave off while recording so that all are on time, every rate by every buffer, and the load",
      responses: {
        200: answer(
          "What would help",
          object({
            revision: { type: "integer" },
            lowLatency: object({ off: list(anything), table: list(anything), load: anything }),
          }),
        ),
        404: problem("No such template"),
      },
    },
  },
  "/api/templates/{id}/levels": {
    parameters: [idParameter],
    get: {
      summary:
        "The gain plan of every line, and how loud every channel and cue is, alike and unlike, with what contributes most",
      parameters: queryParameters(LevelsQuery),
      responses: {
        200: answer(
          "The levels",
          object({
            revision: { type: "integer" },
            levels: object({ lines: list(anything), channels: list(anything), cues: list(anything) }),
          }),
        ),
        400: problem("Malformed query"),
        404: problem("No such template"),
      },
    },
  },
  "/api/templates/{id}/storage": {
    parameters: [idParameter],
    get: {
      summary: "What an evening takes of the disk, and how long a take can be until a plain WAV file ends",
      parameters: queryParameters(StorageQuery),
      responses: {
        200: answer(
          "The storage",
          object({
            revision: { type: "integer" },
            storage: object({ bytesPerSecond: { type: "number" }, tracks: list(anything), passes: list(anything) }),
          }),
        ),
        400: problem("Malformed query"),
        404: problem("No such template"),
      },
    },
  },
  "/api/templates/{id}/chains": {
    parameters: [idParameter],
    get: {
      summary:
        "The chain of a channel of the head, in data and in words, with responses and what it needs of the rig; or all that have one, short",
      parameters: queryParameters(ChainsQuery),
      responses: {
        200: answer("The chain, or the chains", object({ revision: { type: "integer" } })),
        400: problem("Malformed query"),
        404: problem("No such template or channel"),
      },
    },
  },
  "/api/studio/uses": {
    get: {
      summary: "How many templates something is dyed in with a dye that the studio added",
      parameters: queryParameters(UsesQuery),
      responses: {
        200: answer("How many", object({ colour: { type: "string" }, templates: { type: "integer" } })),
        400: problem("Malformed query"),
      },
    },
  },
  "/api/chains": {
    get: {
      summary: "The chains that the studio keeps, with their processors and bands",
      responses: { 200: answer("The chains", object({ revision: { type: "integer" }, chains: list(anything) })) },
    },
  },
  "/api/templates/{id}/export": {
    parameters: [idParameter],
    get: {
      summary: "The head in an open format",
      parameters: queryParameters(ExportQuery),
      responses: {
        200: { description: "The file", content: { "text/csv": {}, "application/json": {}, "application/pdf": {} } },
        400: problem("Unknown format"),
        404: problem("No such template"),
      },
    },
  },
};

const commandsPath = (what: string) => ({
  post: {
    summary: `Apply commands to the head of ${what}, all or none, and keep the result as a revision`,
    requestBody: body(ref("CommandsRequest")),
    responses: {
      200: answer("Saved, on the newest revision; newer tells what came between it and the base", savedOn),
      400: problem("Malformed"),
      404: problem("Not there"),
      409: problem(
        "It can't be done on the newest revision: newer says what came after its base; or the data are of another past: parted",
      ),
      422: problem("A command was refused"),
    },
  },
});

const newerPath = {
  get: {
    summary: "Revisions after a given one",
    parameters: queryParameters(NewerQuery),
    responses: { 200: answer("What is newer, and the newest revision", newerAnswer), 404: problem("Not there") },
  },
};
const rigState = object({ ...saved.properties, document: ref("Rig") });

const schemaPaths = Object.fromEntries(
  WHATS.map((what) => [
    `/api/schema/${what}`,
    {
      get: {
        summary: `JSON Schema of a ${what} document`,
        responses: { 200: answer("The schema", { type: "object" }, "application/schema+json") },
      },
    },
  ]),
);

const rigPaths = {
  "/api/rigs": {
    get: { summary: "The rigs of the studio", responses: { 200: answer("Rigs", anything) } },
    post: {
      summary: "Make an empty rig, or a copy of one",
      requestBody: body(ref("CreateRigRequest")),
      responses: { 201: answer("The new rig", rigState), 400: problem("Malformed"), 404: problem("No such rig") },
    },
  },
  "/api/rigs/import": {
    post: {
      summary: "Make a rig of a rig document",
      requestBody: body(
        {
          type: "object",
          properties: { file: { type: "string", format: "binary" }, key: propertiesOf(ImportRequest).key },
          required: ["file"],
        },
        "multipart/form-data",
      ),
      responses: {
        201: answer("Made", rigState),
        413: problem("The file is too large"),
        422: problem("The file can't be read"),
      },
    },
  },
  "/api/rigs/{id}": {
    parameters: [idParameter],
    get: {
      summary: "The head of a rig",
      responses: { 200: answer("The rig and its revision", rigState), 404: problem("No such rig") },
    },
    delete: {
      summary: "Take a rig out of the studio",
      parameters: queryParameters(DeleteQuery),
      responses: { 204: answer("Gone"), 404: problem("No such rig"), 422: problem("Templates stand on it") },
    },
  },
  "/api/rigs/{id}/restore": {
    parameters: [idParameter],
    post: {
      summary: "Bring a deleted rig back",
      responses: { 200: answer("The rig and its revision", rigState), 404: problem("None deleted with this id") },
    },
  },
  "/api/rigs/{id}/commands": { parameters: [idParameter], ...commandsPath("a rig") },
  "/api/rigs/{id}/newer": { parameters: [idParameter], ...newerPath },
  "/api/rigs/{id}/export": {
    parameters: [idParameter],
    get: {
      summary: "The rig as JSON, or as it is stored",
      parameters: queryParameters(RawQuery),
      responses: { 200: answer("The file", ref("Rig")), 404: problem("No such rig") },
    },
  },
  "/api/rigs/{id}/touches": {
    parameters: [idParameter],
    get: {
      summary: "The templates that stand on a rig",
      responses: { 200: answer("Templates with the ports of their lines", anything), 404: problem("No such rig") },
    },
  },
};

const studioPaths = {
  "/api/studio": {
    get: {
      summary: "Rooms, people and defaults",
      responses: { 200: answer("The studio", object({ ...saved.properties, document: ref("Studio") })) },
    },
  },
  "/api/studio/commands": commandsPath("the studio"),
  "/api/studio/newer": newerPath,
};

/** The description of the service, made of the very classes that its requests are held to. */
export const openApi = (): object => ({
  openapi: "3.1.0",
  info: {
    title: "Wandel",
    version: "1",
    description:
      "Tracking templates: lines on a rig become named, coloured tracks. Whatever the database can't do just now is answered 503 with retry-after; what grows beyond a limit 413 or 422 with the limit.",
  },
  paths: {
    "/api/health": {
      get: {
        summary: "Whether server and database are up",
        responses: { 200: answer("Both are"), 503: problem("The database is away") },
      },
    },
    "/api/changes": {
      get: {
        summary:
          "Every saved revision as it happens, as server-sent events: change with kind, id and revision (of a template also on: its rig; and gone, when it was deleted or brought back), away, or again when some may have been missed",
        responses: { 200: answer("The stream", { type: "string" }, "text/event-stream") },
      },
    },
    "/api/openapi.json": { get: { summary: "This description", responses: { 200: answer("OpenAPI 3.1", anything) } } },
    ...schemaPaths,
    ...rigPaths,
    ...studioPaths,
    ...templatePaths,
  },
  components: components(),
});
