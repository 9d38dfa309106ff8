import type { SampleRateHz } from "../units/hertz";
import { COLOURS, type Colour, type OwnColour, type OwnColourId } from "./colours";
import { FAMILIES, FAMILY_DEFAULTS, type Family, type Icon } from "./families";
import type { PersonId, RoomId, StudioId } from "./ids";
import type { Table } from "./rig";
import { type BitDepth, SESSION_KINDS, type SessionKind } from "./template";

export const STUDIO_SCHEMA = 1;
export const STUDIO_ID = "studio" as StudioId;

export interface Room {
  readonly id: RoomId;
  readonly name: string;
  /** What it is like: "dry", "large live room". */
  readonly note: string;
  readonly order: number;
}

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

export interface Person {
  readonly id: PersonId;
  readonly name: string;
  /** "Fiddle", "engineer". */
  readonly does: string;
  readonly performs: PerformerKind;
  readonly note: string;
  readonly order: number;
}

/** Dye and icon that new tracks of a family get. */
export interface FamilyStyle {
  readonly id: Family;
  readonly colour: Colour;
  readonly icon: Icon;
}

/** What a new template of a kind starts with. */
export interface KindDefaults {
  readonly id: SessionKind;
  readonly sampleRateHz: SampleRateHz;
  readonly bitDepth: BitDepth;
  readonly meetsPicture: boolean;
}

/** A starter that the studio does not want to see. */
export interface HiddenStarter {
  readonly id: string;
}

/** How late a performer of a kind may hear themself, dry path. */
export interface Target {
  readonly id: Exclude<PerformerKind, "none">;
  readonly ms: number;
}

export interface Studio {
  readonly schema: typeof STUDIO_SCHEMA;
  readonly id: StudioId;
  readonly name: string;
  readonly rooms: Table<RoomId, Room>;
  readonly people: Table<PersonId, Person>;
  readonly colours: Table<OwnColourId, OwnColour>;
  readonly families: Table<Family, FamilyStyle>;
  readonly kinds: Table<SessionKind, KindDefaults>;
  readonly targets: Table<Target["id"], Target>;
  readonly hiddenStarters: Table<string, HiddenStarter>;
  /** How tracks are named from what they record. */
  readonly namePattern: string;
}

export const STUDIO_TABLES = ["rooms", "people", "colours", "families", "kinds", "targets", "hiddenStarters"] as const;
export type StudioTable = (typeof STUDIO_TABLES)[number];

export const DEFAULT_NAME_PATTERN = "{source} {microphone}";

/** Milliseconds of the dry path by kind of performer. */
export const DEFAULT_TARGETS_MS: Readonly<Record<Target["id"], number>> = { voice: 3, wind: 5, percussion: 6, strings: 8, keys: 10 };

const byId = <T extends { readonly id: string }>(items: readonly T[]) => Object.fromEntries(items.map((item) => [item.id, item]));

/** A studio of which nothing is known yet, with the defaults of the house. */
export const newStudio = (name: string): Studio => ({
  schema: STUDIO_SCHEMA,
  id: STUDIO_ID,
  name,
  rooms: {},
  people: {},
  colours: {},
  families: byId(FAMILIES.map((id) => ({ id, colour: FAMILY_DEFAULTS[id].colour, icon: FAMILY_DEFAULTS[id].icon }))) as Studio["families"],
  kinds: byId(SESSION_KINDS.map((id) => ({ id, sampleRateHz: 48000 as const, bitDepth: 24 as const, meetsPicture: false }))) as Studio["kinds"],
  targets: byId(Object.entries(DEFAULT_TARGETS_MS).map(([id, ms]) => ({ id, ms }))) as Studio["targets"],
  hiddenStarters: {},
  namePattern: DEFAULT_NAME_PATTERN,
});

export type FamilyStyles = Readonly<Record<Family, { readonly colour: Colour; readonly icon: Icon }>>;

/** What a dye is called: by its own name where the studio added it. */
export const colourName = (colour: Colour, own: readonly OwnColour[] = []): string => (colour in COLOURS ? colour : (own.find((candidate) => candidate.id === colour)?.name ?? "a dye of another studio"));
