import { SAMPLE_RATES_HZ } from "../units/hertz";
import { COLOUR_NAMES } from "./colours";
import { FAMILIES, ICONS } from "./families";
import { faultsOf, id, named, number, object, table, text, whole } from "./schema-parts";
import { PERFORMER_KINDS, STUDIO_SCHEMA, type StudioTable } from "./studio";
import { BIT_DEPTHS, SESSION_KINDS } from "./template";

const order = whole(0, 10_000);
const ownColour = { type: "string", pattern: "^own-[a-z0-9-]{1,40}$" };
const hex = { type: "string", pattern: "^#[0-9a-f]{6}$" };

const ENTRIES: Readonly<Record<StudioTable, object>> = {
  rooms: object({ id, name: named(80), note: text(400), order }),
  people: object({ id, name: named(120), does: text(120), performs: { enum: PERFORMER_KINDS }, note: text(400), order }),
  colours: object({ id: ownColour, name: named(40), cloth: hex, night: hex }),
  families: object({ id: { enum: FAMILIES }, colour: { anyOf: [{ enum: COLOUR_NAMES }, ownColour] }, icon: { enum: ICONS } }),
  kinds: object({ id: { enum: SESSION_KINDS }, sampleRateHz: { enum: SAMPLE_RATES_HZ }, bitDepth: { enum: BIT_DEPTHS }, meetsPicture: { type: "boolean" } }),
  targets: object({ id: { enum: PERFORMER_KINDS.filter((kind) => kind !== "none") }, ms: number(0.5, 100) }),
  hiddenStarters: object({ id }),
};

/** JSON Schema (draft 2020-12) of the studio document of the present version. */
export const STUDIO_JSON_SCHEMA = {
  $schema: "https://json-schema.org/draft/2020-12/schema",
  $id: "urn:wandel:studio:1",
  title: "Wandel studio",
  ...object({
    schema: { const: STUDIO_SCHEMA },
    id,
    name: named(),
    ...Object.fromEntries(Object.entries(ENTRIES).map(([name, entry]) => [name, table(entry)])),
    namePattern: named(200),
  }),
};

export const studioFaults = faultsOf(STUDIO_JSON_SCHEMA);
