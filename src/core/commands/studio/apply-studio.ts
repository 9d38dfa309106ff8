import { colourFault } from "../../model/colours";
import { MOST } from "../../model/limits";
import { entriesOf } from "../../model/rig";
import { STUDIO_TABLES, type Studio, type StudioTable } from "../../model/studio";
import { STUDIO_JSON_SCHEMA, studioFaults } from "../../model/studio-schema";
import { engineOf } from "../engine";
import { type PartsCommand, type PartsRules, partsHandlers } from "../parts";
import { restoreHandler } from "../restore-handler";
import { standing } from "../standing";

export type StudioCommand = PartsCommand<StudioTable>;

const twice = (names: readonly string[]): string | undefined => {
  const seen = new Set<string>();
  return names.find((name) => seen.size === seen.add(name.trim().toLowerCase()).size);
};

/** What must hold of the studio: names are given once, dyes stand out on both surfaces, and what refers to an own dye finds it. */
export const brokenStudio = (studio: Studio): readonly string[] => {
  const [room, person, colour] = [studio.rooms, studio.people, studio.colours].map((table) => twice(entriesOf<{ name: string }>(table).map((entry) => entry.name)));
  return [
    ...STUDIO_TABLES.flatMap((table) => (Object.keys(studio[table]).length > MOST.parts ? [`it holds more than ${MOST.parts} ${table}`] : [])),
    ...STUDIO_TABLES.flatMap((table) => Object.entries(studio[table]).flatMap(([key, entry]) => (entry.id === key ? [] : [`${key} holds another part`]))),
    ...(room ? [`there are two rooms called ${room}`] : []),
    ...(person ? [`there are two people called ${person}`] : []),
    ...(colour ? [`there are two dyes called ${colour}`] : []),
    ...entriesOf(studio.colours).flatMap((own) => {
      const fault = colourFault(own.cloth, "cloth") ?? colourFault(own.night, "night");
      return fault ? [`${own.name}: ${fault}`] : [];
    }),
    ...entriesOf(studio.families).flatMap((family) => (family.colour.startsWith("own-") && !studio.colours[family.colour as never] ? [`the dye of ${family.id} is not there`] : [])),
  ];
};

const rules: PartsRules<Studio, StudioTable> = {
  what: "studio",
  tables: STUDIO_TABLES,
  words: { rooms: "room", people: "person", colours: "colour", families: "family", kinds: "kind of session", targets: "target", hiddenStarters: "hidden starter" },
  fields: {
    does: "the part",
    performs: "the kind of performer",
    note: "the note",
    cloth: "the colour on cloth",
    night: "the colour on night",
    colour: "the dye",
    icon: "the icon",
    sampleRateHz: "the rate",
    bitDepth: "the depth",
    meetsPicture: "picture",
    ms: "the target",
    namePattern: "the naming pattern",
    order: "the place",
  },
  settings: ["namePattern"],
  faults: studioFaults,
  broken: brokenStudio,
  repair: (draft) => {
    for (const family of entriesOf(draft.families)) if (family.colour.startsWith("own-") && !draft.colours[family.colour as never]) family.colour = "slate";
  },
  nameOf: (_studio, table, part) =>
    "name" in part && typeof part.name === "string" ? part.name : table === "families" || table === "kinds" || table === "targets" ? part.id.replaceAll("-", " ") : null,
};

/** Every edit of the studio: its rooms, people and defaults. */
export const studioEngine = engineOf<Studio, StudioCommand>(
  {
    ...partsHandlers(rules),
    "document.restore": restoreHandler<Studio>({ ...rules, schema: STUDIO_JSON_SCHEMA }),
  },
  standing<Studio>(rules),
);
