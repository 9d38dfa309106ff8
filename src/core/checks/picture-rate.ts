import { formatRate, SAMPLE_RATES_HZ } from "../units/hertz";
import { type Check, type Fix, finding } from "./finding";

const PICTURE_HZ = 48000;

export const pictureRate: Check = {
  id: "picture-rate",
  why: "Sound for picture runs at 48 kHz or a multiple of it; anything else must be converted, or drifts.",
  withoutRig: true,
  reads: ["format"],
  check: ({ doc }) => {
    const { meetsPicture, sampleRateHz } = doc.format;
    if (!meetsPicture || sampleRateHz % PICTURE_HZ === 0) return [];
    const to = (rate: (typeof SAMPLE_RATES_HZ)[number]): Fix => ({
      label: `Set the rate to ${formatRate(rate)}`,
      edits: [{ kind: "settings.set", set: { format: { sampleRateHz: rate } } }],
    });
    const nearest = [...SAMPLE_RATES_HZ]
      .filter((rate) => rate % PICTURE_HZ === 0)
      .sort((a, b) => Math.abs(a - sampleRateHz) - Math.abs(b - sampleRateHz))[0];
    return [
      finding("picture-rate", {
        severity: "problem",
        message: `This meets picture, and ${formatRate(sampleRateHz)} is no multiple of 48 kHz.`,
        places: [{ kind: "template", id: doc.id, field: "format" }],
        fixes: [
          ...(nearest ? [to(nearest)] : []),
          {
            label: "It does not meet picture",
            edits: [{ kind: "settings.set", set: { format: { meetsPicture: false } } }],
          },
        ],
      }),
    ];
  },
};
