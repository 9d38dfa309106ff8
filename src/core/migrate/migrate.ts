import type { Fault } from "../model/checker";
import type { Loose } from "./loose";

interface Kind {
  /** What the document is, for a person: "template". */
  readonly what: string;
  readonly newest: number;
  /** One pure step a version that a release wrote: the step under n leads from version n to the next of them. */
  readonly steps: Readonly<Record<number, (doc: Loose) => Loose>>;
  readonly faults: (value: unknown) => readonly Fault[];
}

export type MigratedTo<D> =
  | { readonly ok: true; readonly doc: D; readonly from: number }
  | { readonly ok: false; readonly message: string; readonly pointer: string };

const isLoose = (value: unknown): value is Loose =>
  typeof value === "object" && value !== null && !Array.isArray(value);

/**
 * Brings a stored or imported document of any version to the present one and checks it against the schema. Answers,
 * never throws: a document from a newer Wandel, or something of another kind, is told with its place.
 */
export const migrationOf =
  <D>({ what, newest, steps, faults }: Kind) =>
  (value: unknown): MigratedTo<D> => {
    if (!isLoose(value) || typeof value.schema !== "number")
      return {
        ok: false,
        pointer: "/schema",
        message: `This is not a Wandel ${what}: it has no schema version. Export one as JSON and try again.`,
      };
    if (value.schema > newest)
      return {
        ok: false,
        pointer: "/schema",
        message: `This ${what} has schema version ${value.schema}, and this Wandel reads up to ${newest}. Update Wandel first.`,
      };
    let doc: Loose = value;
    while (Number(doc.schema) < newest) {
      const step = steps[Number(doc.schema)];
      if (!step) return { ok: false, pointer: "/schema", message: `There is no schema version ${doc.schema}.` };
      doc = step(doc);
    }
    const fault = faults(doc)[0];
    if (fault)
      return {
        ok: false,
        pointer: fault.pointer,
        message: `The ${what} is damaged at ${fault.pointer || "its root"}: ${fault.message}`,
      };
    return { ok: true, doc: doc as unknown as D, from: value.schema };
  };
