export const SESSION_KINDS = ["band", "voice-over-backing", "spoken-word", "solo"] as const;
export type SessionKind = (typeof SESSION_KINDS)[number];
export const SESSION_KIND_NAMES: Readonly<Record<SessionKind, string>> = { band: "Band", "voice-over-backing": "Voice over backing", "spoken-word": "Spoken word", solo: "Solo" };

export const BIT_DEPTHS = [16, 24, 32] as const;
export type BitDepth = (typeof BIT_DEPTHS)[number];
export const MAIN_LAYOUTS = ["mono", "stereo", "5.1"] as const;

/** Pan laws by what each side has in the middle, in dB. */
export const PAN_LAWS_DB = [-3, -4.5, -6, 0] as const;
export type PanLawDb = (typeof PAN_LAWS_DB)[number];
