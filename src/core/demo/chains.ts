import type { BandId, ChainId, ChainProcessorId, IdSource } from "../model/ids";
import { sequentialIds } from "../model/ids";
import type { Studio } from "../model/studio";
import { newBand } from "../model/tables/bands";
import { newProcessor } from "../model/tables/chain-processors";
import { newChain } from "../model/tables/chains";
import type { ProcessorKind } from "../model/tables/processor-settings";
import { studioEditing } from "../planning/edits/studio-editing";

type Setting = string | number | boolean;
type Banded = Readonly<Record<string, Setting>>;
type Step = readonly [ProcessorKind, Readonly<Record<string, Setting>>, ...Banded[]];

const bell = (frequencyHz: number, gainDb: number, q: number): Banded => ({ shape: "bell", frequencyHz, gainDb, q });
const highPass = (frequencyHz: number): Step => ["filter", { pass: "high-pass", frequencyHz, slopeDb: 12 }];

/** Chains that Mossgate Mill keeps: for people, and for what is recorded there often. */
const CHAINS: readonly (readonly [name: string, note: string, ...Step[]])[] = [
  [
    "Ilse, lead voice",
    "close, with the large condenser",
    highPass(80),
    ["compressor", { thresholdDb: -20, ratio: 2.5, kneeDb: 6, rangeDb: 12 }],
    ["equaliser", { delaySamples: 64 }, bell(240, -3, 1.1), bell(3000, -4, 1.4), bell(9500, 3.5, 0.8)],
    [
      "de-esser",
      {
        frequencyHz: 6500,
        thresholdDb: -28,
        rangeDb: 6,
        use: "not-while-recording",
        installed: "House de-esser",
        version: "1.4",
        from: "the folder of the house",
      },
    ],
  ],
  ["Any voice, first take", "", highPass(90), ["compressor", { thresholdDb: -18, ratio: 2, kneeDb: 6, rangeDb: 10 }]],
  [
    "Fiddle, close",
    "",
    ["equaliser", {}, bell(480, -2, 1.2), bell(2800, -3, 1)],
    ["compressor", { thresholdDb: -16, ratio: 2, kneeDb: 8, rangeDb: 8 }],
  ],
  [
    "Close speech",
    "dry room, near",
    ["gate", { thresholdDb: -48, ratio: 2, rangeDb: 12 }],
    highPass(90),
    ["de-esser", { frequencyHz: 6000, thresholdDb: -30, rangeDb: 6 }],
    ["limiter", { ceilingDb: -3 }],
  ],
  [
    "Telephone",
    "a voice from far away",
    ["filter", { pass: "high-pass", frequencyHz: 400, slopeDb: 24 }],
    ["filter", { pass: "low-pass", frequencyHz: 3200, slopeDb: 24 }],
    ["saturation", { driveDb: 9 }],
  ],
  [
    "Double bass blend",
    "",
    highPass(40),
    ["gain", { turned: true }],
    ["compressor", { thresholdDb: -18, ratio: 3, kneeDb: 6, rangeDb: 10 }],
  ],
];

const kept = (ids: IdSource) =>
  CHAINS.map(([name, note, ...steps]) => {
    const chain = newChain({ id: ids<ChainId>("chain"), name, note });
    const made = steps.map(([kind, settings, ...bands]) => {
      const id = ids<ChainProcessorId>("kept-processor");
      const { channelId: _channel, ...processor } = newProcessor(kind, {
        ...settings,
        id,
        channelId: "",
      } as never) as unknown as Readonly<Record<string, unknown>>;
      return {
        processor: { ...processor, id, chainId: chain.id },
        bands: bands.map((band) => newBand({ ...band, id: ids<BandId>("kept-band"), processorId: id } as never)),
      };
    });
    return { chain, processors: made.map(({ processor }) => processor), bands: made.flatMap((one) => one.bands) };
  });

/** A studio with the chains of the house. Throws where they can't be kept: what is written here is ours. */
export const withChains = (studio: Studio): Studio => {
  const all = kept(sequentialIds());
  const done = studioEditing.applyAll(studio, [
    {
      kind: "entries.add",
      entries: {
        chains: all.map(({ chain }) => chain),
        processors: all.flatMap(({ processors }) => processors),
        bands: all.flatMap(({ bands }) => bands) as never,
      },
    },
  ]);
  if (!done.ok) throw new Error(`expected the chains to be kept, got: ${done.refusal.message}`);
  return done.doc;
};
