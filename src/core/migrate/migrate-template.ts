import { TEMPLATE_SCHEMA, type Template } from "../model/template";
import { templateFaults } from "../model/template-schema";
import type { Loose } from "./loose";
import { oneToTwo } from "./template-1-to-2";
import { twoToThree } from "./template-2-to-3";

/** One pure step a version: the step under n leads from version n to n + 1. */
const STEPS: Readonly<Record<number, (doc: Loose) => Loose>> = { 1: oneToTwo, 2: twoToThree };

export type Migrated = { readonly ok: true; readonly doc: Template; readonly from: number } | { readonly ok: false; readonly message: string; readonly pointer: string };

const isLoose = (value: unknown): value is Loose => typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * Brings a stored or imported document of any version to the present one and checks it against the schema.
 * Answers, never throws: a document from a newer Wandel, or something that is no template, is told with its place.
 */
export const migrateTemplate = (value: unknown): Migrated => {
  if (!isLoose(value) || typeof value.schema !== "number")
    return { ok: false, pointer: "/schema", message: "This is not a Wandel template: it has no schema version. Export one from the hand-off and try again." };
  if (value.schema > TEMPLATE_SCHEMA)
    return { ok: false, pointer: "/schema", message: `This template has schema version ${value.schema}, and this Wandel reads up to ${TEMPLATE_SCHEMA}. Update Wandel first.` };
  let doc = value;
  for (let version = value.schema; version < TEMPLATE_SCHEMA; version++) {
    const step = STEPS[version];
    if (!step) return { ok: false, pointer: "/schema", message: `There is no schema version ${version}.` };
    doc = step(doc);
  }
  const fault = templateFaults(doc)[0];
  if (fault) return { ok: false, pointer: fault.pointer, message: `The template is damaged at ${fault.pointer || "its root"}: ${fault.message}` };
  return { ok: true, doc: doc as unknown as Template, from: value.schema };
};
