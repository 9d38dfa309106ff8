import type { ChannelId } from "../model/ids";
import type { Band } from "../model/tables/bands";
import type { Processor } from "../model/tables/chain-processors";
import { processorName } from "../model/tables/processor-names";
import type { SideChain } from "../model/tables/side-chains";
import type { Template } from "../model/template";
import { bandsOf, processorsOf, sideChainsOf, stepsOf } from "../queries/chains";
import { counted } from "../units/counted";
import { formatDb, formatLevel } from "../units/decibels";
import { formatHz } from "../units/hertz";

const number = (value: number): string => String(Math.round(value * 100) / 100).replace("-", "−");

type Said = {
  readonly [K in Processor["kind"]]: (
    processor: Extract<Processor, { readonly kind: K }>,
    bands: readonly Pick<Band, "bypassed">[],
  ) => string;
};

/** The settings of each kind that say most, in real units. */
const SETTINGS: Said = {
  gain: ({ gainDb, turned }) => [formatDb(gainDb), ...(turned ? ["polarity inverted"] : [])].join(", "),
  filter: ({ frequencyHz, slopeDb, crossover }) =>
    `${formatHz(frequencyHz)}, ${slopeDb} dB/oct${crossover ? ", crossover" : ""}`,
  equaliser: (_equaliser, bands) => counted(bands.filter(({ bypassed }) => !bypassed).length, "band"),
  gate: ({ thresholdDb, rangeDb }) => `below ${formatDb(thresholdDb)}, up to ${formatDb(rangeDb)} off`,
  compressor: ({ thresholdDb, ratio }) => `${number(ratio)} : 1, ${formatDb(thresholdDb)}`,
  "de-esser": ({ frequencyHz, rangeDb }) => `above ${formatHz(frequencyHz)}, up to ${formatDb(rangeDb)} off`,
  limiter: ({ ceilingDb }) => `ceiling ${formatDb(ceilingDb)}`,
  saturation: ({ driveDb }) => `drive ${formatDb(driveDb)}`,
  amplifier: ({ driveDb, cabinet }) => [`drive ${formatDb(driveDb)}`, ...(cabinet ? [cabinet] : [])].join(", "),
  tuner: ({ referenceHz }) => `A at ${formatHz(referenceHz)}`,
  delay: ({ timeMs, feedbackPercent }) =>
    `${number(timeMs)} ms${feedbackPercent ? `, ${number(feedbackPercent)} % back` : ""}`,
  reverb: ({ decayS, preDelayMs }) => `${number(decayS)} s, after ${number(preDelayMs)} ms`,
  insert: ({ sendPortIds, returnPortIds }) =>
    sendPortIds.length && returnPortIds.length ? "out and back through the interface" : "not plugged in",
  split: ({ firstDb, secondDb }) => `${formatLevel(firstDb)} beside ${formatLevel(secondDb)}`,
  notes: ({ transposeSemitones, lowestNote, highestNote }) =>
    [
      ...(transposeSemitones ? [`${transposeSemitones > 0 ? "+" : ""}${number(transposeSemitones)} semitones`] : []),
      `notes ${lowestNote} to ${highestNote}`,
    ].join(", "),
  other: ({ note }) => note,
};

/** The settings of a processor that say most: "2.5 : 1 above −20 dB". */
export const settingsInWords = (processor: Processor, bands: readonly Pick<Band, "bypassed">[]): string =>
  (SETTINGS[processor.kind] as (processor: Processor, bands: readonly Pick<Band, "bypassed">[]) => string)(
    processor,
    bands,
  );

const USE_WORDS = {
  always: "",
  "not-while-recording": "not while recording",
  "listening-copy": "only in a listening copy",
} as const;

/** When a processor does not do what it is set to. */
export const stateInWords = ({
  bypassed,
  use,
  wetPercent,
}: Pick<Processor, "bypassed" | "use" | "wetPercent">): readonly string[] => [
  ...(bypassed ? ["bypassed"] : []),
  ...(USE_WORDS[use] ? [USE_WORDS[use]] : []),
  ...(wetPercent < 100 ? [`${number(wetPercent)} % wet`] : []),
];

/** The band that a detector hears: "200 Hz–4 kHz"; empty where it hears all. */
export const bandInWords = ({ lowHz, highHz }: Pick<SideChain, "lowHz" | "highHz">): string => {
  if (lowHz !== null && highHz !== null) return `${formatHz(lowHz)}–${formatHz(highHz)}`;
  if (lowHz !== null) return `above ${formatHz(lowHz)}`;
  return highHz !== null ? `below ${formatHz(highHz)}` : "";
};

/** What steers a processor, in words: "steered by Narrator, 200 Hz–4 kHz". */
export const steeredInWords = (doc: Template, processor: Processor): string => {
  const sides = sideChainsOf(doc, processor.id);
  if (!sides.length) return "";
  const bands = [...new Set(sides.map(bandInWords).filter(Boolean))];
  return `steered by ${sides.map(({ fromId }) => doc.channels[fromId]?.name || "a channel without a name").join(", ")}${bands.length ? `, ${bands.join(" and ")}` : ""}`;
};

export interface ProcessorWords {
  readonly title: string;
  readonly detail: string;
}

const inWords = (doc: Template, processor: Processor): ProcessorWords => ({
  title: processorName(processor),
  detail: [
    settingsInWords(processor, bandsOf(doc, processor.id)),
    ...stateInWords(processor),
    steeredInWords(doc, processor),
  ]
    .filter(Boolean)
    .join(", "),
});

/** A whole chain in words, step by step; what lies in a split says on which side of it. */
export const chainInWords = (doc: Template, channelId: ChannelId): readonly ProcessorWords[] =>
  stepsOf(processorsOf(doc, channelId)).flatMap(({ processor, first, second }) => {
    const branch = (side: string, of: readonly Processor[]): readonly ProcessorWords[] =>
      of.length
        ? of.map((one) => {
            const said = inWords(doc, one);
            return { title: said.title, detail: [`${side} branch`, said.detail].filter(Boolean).join(", ") };
          })
        : [{ title: `${side === "first" ? "First" : "Second"} branch`, detail: "as it comes" }];
    return [
      inWords(doc, processor),
      ...(processor.kind === "split" ? [...branch("first", first), ...branch("second", second)] : []),
    ];
  });
