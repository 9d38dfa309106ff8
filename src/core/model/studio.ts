import { COLOURS, type Colour, type OwnColourId } from "./colours";
import { type EntryOf, name } from "./describe/fields";
import { emptyTables } from "./describe/table";
import { FAMILIES, FAMILY_DEFAULTS, FAMILY_LEVELS, type Family, type Icon } from "./families";
import type { BandId, ChainId, ChainProcessorId, FamilyWordId, ListHabitId, PersonId, RoomId, StudioId } from "./ids";
import { SESSION_KINDS, type SessionKind } from "./session-kinds";
import type { Table } from "./table";
import { CHAINS, type Chain, KEPT_BANDS, KEPT_PROCESSORS, type KeptBand, type KeptProcessor } from "./tables/chains";
import { FAMILY_STYLES, type FamilyStyle } from "./tables/family-styles";
import { TAUGHT_WORDS, type TaughtWord } from "./tables/family-words";
import { HIDDEN_STARTERS, type HiddenStarter } from "./tables/hidden-starters";
import { KIND_DEFAULTS, type KindDefaults } from "./tables/kind-defaults";
import { LIST_HABITS, type ListHabit } from "./tables/list-habits";
import { OWN_COLOURS, type OwnColour } from "./tables/own-colours";
import { PEOPLE, type Person } from "./tables/people";
import { ROOMS, type Room } from "./tables/rooms";
import { TARGETS, type Target } from "./tables/targets";

export const STUDIO_SCHEMA = 6;
export const STUDIO_ID = "studio" as StudioId;

/** A studio: rooms, people and defaults, described once. */
export const STUDIO = {
  what: "studio",
  schema: STUDIO_SCHEMA,
  header: {
    name: name(200, { word: "the name" }),
    /** How tracks are named from what they record. */
    namePattern: name(200, { word: "the naming pattern" }),
  },
  tables: {
    rooms: ROOMS,
    people: PEOPLE,
    colours: OWN_COLOURS,
    families: FAMILY_STYLES,
    kinds: KIND_DEFAULTS,
    targets: TARGETS,
    hiddenStarters: HIDDEN_STARTERS,
    chains: CHAINS,
    processors: KEPT_PROCESSORS,
    bands: KEPT_BANDS,
    taughtWords: TAUGHT_WORDS,
    listHabits: LIST_HABITS,
  },
} as const;

export interface StudioTables {
  readonly rooms: Table<RoomId, Room>;
  readonly people: Table<PersonId, Person>;
  readonly colours: Table<OwnColourId, OwnColour>;
  readonly families: Table<Family, FamilyStyle>;
  readonly kinds: Table<SessionKind, KindDefaults>;
  readonly targets: Table<Target["id"], Target>;
  readonly hiddenStarters: Table<string, HiddenStarter>;
  readonly chains: Table<ChainId, Chain>;
  readonly processors: Table<ChainProcessorId, KeptProcessor>;
  readonly bands: Table<BandId, KeptBand>;
  readonly taughtWords: Table<FamilyWordId, TaughtWord>;
  readonly listHabits: Table<ListHabitId, ListHabit>;
}
export type StudioTable = keyof StudioTables;

export interface Studio extends EntryOf<typeof STUDIO.header>, StudioTables {
  readonly schema: typeof STUDIO_SCHEMA;
  readonly id: StudioId;
}

export const DEFAULT_NAME_PATTERN = "{source} {microphone}";

/** Milliseconds of the dry path by kind of performer. */
export const DEFAULT_TARGETS_MS: Readonly<Record<Target["id"], number>> = {
  voice: 3,
  wind: 5,
  percussion: 6,
  strings: 8,
  keys: 10,
};

const byId = <T extends { readonly id: string }>(items: readonly T[]) =>
  Object.fromEntries(items.map((item) => [item.id, item]));

/** A family as the house has it. */
export const newFamilyStyle = (id: Family): FamilyStyle => ({
  id,
  colour: FAMILY_DEFAULTS[id].colour,
  icon: FAMILY_DEFAULTS[id].icon,
  ...FAMILY_LEVELS[id],
  folder: "",
  bus: "",
  place: FAMILIES.indexOf(id) + 1,
  chainId: null,
  sendTo: "",
  sendDb: null,
});

/** A studio of which nothing is known yet, with the defaults of the house. */
export const newStudio = (name: string): Studio => ({
  schema: STUDIO_SCHEMA,
  id: STUDIO_ID,
  name,
  namePattern: DEFAULT_NAME_PATTERN,
  ...(emptyTables(STUDIO) as unknown as StudioTables),
  families: byId(FAMILIES.map((id) => newFamilyStyle(id))) as Studio["families"],
  kinds: byId(
    SESSION_KINDS.map((id) => ({ id, sampleRateHz: 48000 as const, bitDepth: 24 as const, meetsPicture: false })),
  ) as Studio["kinds"],
  targets: byId(Object.entries(DEFAULT_TARGETS_MS).map(([id, ms]) => ({ id, ms }))) as Studio["targets"],
});

export type FamilyStyles = Readonly<Record<Family, { readonly colour: Colour; readonly icon: Icon }>>;

/** What a colour is called: by its own name where the studio added it. */
export const colourName = (colour: Colour, own: readonly OwnColour[] = []): string =>
  colour in COLOURS ? colour : (own.find((candidate) => candidate.id === colour)?.name ?? "a dye of another studio");
