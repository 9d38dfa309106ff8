export const PERFORMER_KINDS = ["voice", "wind", "percussion", "strings", "keys", "none"] as const;
export type PerformerKind = (typeof PERFORMER_KINDS)[number];
export const PERFORMER_NAMES: Readonly<Record<PerformerKind, string>> = {
  voice: "Voice and speech",
  wind: "Wind and brass",
  percussion: "Percussion",
  strings: "Bowed and plucked strings",
  keys: "Keys",
  none: "Does not perform",
};
