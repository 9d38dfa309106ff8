import { SAMPLE_RATES_HZ } from "../units/hertz";
import { COLOUR_NAMES } from "./colours";
import { ICONS } from "./families";
import { MOST } from "./limits";
import { MICROPHONE_KINDS } from "./rig";
import { byKind, faultsOf, id, idOf, object, orNull, table, text } from "./schema-parts";
import { BIT_DEPTHS, MAIN_LAYOUTS, SESSION_KINDS, TEMPLATE_SCHEMA } from "./template";

const colour = { anyOf: [{ enum: COLOUR_NAMES }, { type: "string", pattern: "^own-[a-z0-9-]{1,40}$" }, { type: "null" }] };

const microphone = orNull(byKind({ shelf: { microphoneId: id, name: text(200) }, named: { name: text(200), type: orNull({ enum: MICROPHONE_KINDS }) } }));

const output = byKind({ channel: { channelId: id }, hardware: { portIds: { type: "array", items: id, minItems: 1, maxItems: 16 } }, nowhere: {} });

const input = byKind({ none: {}, line: { lineId: id }, pair: { leftId: id, rightId: id } });

const format = { sampleRateHz: { enum: SAMPLE_RATES_HZ }, bitDepth: { enum: BIT_DEPTHS }, mainLayout: { enum: MAIN_LAYOUTS }, meetsPicture: { type: "boolean" } };
/** What a command may change of a line, and the line itself. */
const lineFields = {
  source: text(200),
  microphone,
  phantom: { type: "boolean" },
  pad: { type: "boolean" },
  polarityInverted: { type: "boolean" },
  gainDb: orNull({ type: "number", minimum: -60, maximum: 120 }),
  player: text(200),
  room: text(200),
  position: text(400),
};
const line = object({ id, portId: orNull(id), requestedInput: orNull(text(40)), ...lineFields });
const acceptance = object({ id: idOf(300), cause: text(64), reason: text(1000) });
const icon = orNull({ enum: ICONS });
const sharing = { enum: ["at-once", "by-turns", null] };
const channelBase = { id, name: text(200), note: text(4000), output };
const { output: _output, ...withoutOutput } = channelBase;
const newTrack = object({ ...withoutOutput, colour, icon, input, sharing });

/** Parts of the schema that commands carry as well. */
export const TEMPLATE_PARTS = {
  line,
  lineFields,
  acceptance,
  input,
  microphone,
  output,
  colour,
  icon,
  newTrack: { ...newTrack, properties: { ...newTrack.properties, output, folderId: orNull(id) } },
  newFolder: object({ id, name: text(200), colour }),
  formatChange: { ...object(format), required: [] },
  linePort: object({ lineId: id, portId: orNull(id), requestedInput: orNull(text(40)) }),
  patch: {
    type: "object",
    properties: { op: { enum: ["add", "replace", "remove"] }, path: { type: "array", items: { type: ["string", "integer"] }, minItems: 1, maxItems: 12 }, value: {} },
    required: ["op", "path"],
    additionalProperties: false,
  },
} as const;

/** JSON Schema (draft 2020-12) of a template document of the present version. Served and documented as it stands here. */
export const TEMPLATE_JSON_SCHEMA = {
  $schema: "https://json-schema.org/draft/2020-12/schema",
  $id: "urn:wandel:template:3",
  title: "Wandel template",
  ...object({
    schema: { const: TEMPLATE_SCHEMA },
    id,
    name: { type: "string", minLength: 1, maxLength: 200 },
    kind: { enum: SESSION_KINDS },
    rigId: id,
    format: object(format),
    note: text(4000),
    lines: table(line, MOST.lines),
    channels: table(
      byKind({ track: { ...channelBase, colour, icon, folderId: orNull(id), order: { type: "integer", minimum: 0 }, input, sharing }, main: channelBase }),
      MOST.tracks + 1,
    ),
    folders: table(object({ id, name: text(200), parentId: orNull(id), order: { type: "integer", minimum: 0 }, colour, open: { type: "boolean" } }), MOST.folders),
    accepted: table(acceptance, MOST.accepted),
  }),
};

/** Where a value departs from the template schema. Empty when it is a template document. */
export const templateFaults = faultsOf(TEMPLATE_JSON_SCHEMA);
