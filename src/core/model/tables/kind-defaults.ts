import { formatRate, SAMPLE_RATES_HZ, type SampleRateHz } from "../../units/hertz";
import { choice, type EntryOf, flag, YES_NO } from "../describe/fields";
import { described } from "../describe/table";
import { BIT_DEPTHS, type BitDepth, SESSION_KINDS, type SessionKind } from "../session-kinds";

const FIELDS = {
  sampleRateHz: choice<SampleRateHz>(SAMPLE_RATES_HZ, {
    word: "the rate",
    cell: { heading: "Sample rate", width: 150, names: formatRate },
  }),
  bitDepth: choice<BitDepth>(BIT_DEPTHS, {
    word: "the depth",
    cell: {
      heading: "Bit depth",
      width: 130,
      names: (depth: BitDepth) => (depth === 32 ? "32 bit float" : `${depth} bit`),
    },
  }),
  meetsPicture: flag(YES_NO, { word: "picture", cell: { heading: "For picture" } }),
};

/** What a new template of a kind starts with. */
export const KIND_DEFAULTS = described({
  one: "kind of session",
  many: "kinds of sessions",
  most: SESSION_KINDS.length,
  ids: "fixed",
  id: { enum: SESSION_KINDS },
  fields: FIELDS,
  called: (kind: KindDefaults) => kind.id.replaceAll("-", " "),
});

export interface KindDefaults extends EntryOf<typeof FIELDS> {
  readonly id: SessionKind;
}
