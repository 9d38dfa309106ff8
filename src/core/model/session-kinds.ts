export const SESSION_KINDS = ["band", "voice-over-backing", "spoken-word", "solo"] as const;
export type SessionKind = (typeof SESSION_KINDS)[number];
export const SESSION_KIND_NAMES: Readonly<Record<SessionKind, string>> = {
  band: "Band",
  "voice-over-backing": "Voice over backing",
  "spoken-word": "Spoken word",
  solo: "Solo",
};

export const BIT_DEPTHS = [16, 24, 32] as const;
export type BitDepth = (typeof BIT_DEPTHS)[number];
export const MAIN_LAYOUTS = ["mono", "stereo", "5.1"] as const;

/**
 * What a take is written as: a plain WAV file, one of the two kinds that go on past 4 GiB, or plain WAV files one after
 * the other.
 */
export const FILE_TYPES = ["wav", "rf64", "split"] as const;
export type FileType = (typeof FILE_TYPES)[number];
export const FILE_TYPE_NAMES: Readonly<Record<FileType, string>> = {
  wav: "WAV",
  rf64: "RF64 (BW64)",
  split: "WAV, in parts",
};

/** Pan laws by what each side has in the centre, in dB. */
export const PAN_LAWS_DB = [-3, -4.5, -6, 0] as const;
export type PanLawDb = (typeof PAN_LAWS_DB)[number];
