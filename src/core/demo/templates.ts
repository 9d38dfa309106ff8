import { planImport } from "../formats/input-list/plan-import";
import { readInputList } from "../formats/input-list/read-input-list";
import {
  type ChainProcessorId,
  type ChannelId,
  type ControlId,
  type FolderId,
  type IdSource,
  sequentialIds,
  type TemplateId,
} from "../model/ids";
import { monitorOutputs } from "../model/read-rig";
import { tracksOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { SessionKind } from "../model/session-kinds";
import { entriesOf } from "../model/table";
import { newProcessor } from "../model/tables/chain-processors";
import { emptyTemplate, type Template } from "../model/template";
import { putInsert } from "../planning/chain-plans";
import { duplicateTracks } from "../planning/duplicate";
import type { Edit } from "../planning/edits/edit";
import type { Planned } from "../planning/gesture";
import { monitorTracks } from "../planning/monitor-plans";
import { planPasses } from "../planning/pass-plans";
import { blend, duck, recordSeveralWays } from "../planning/weave-plans";
import { recordable } from "../queries/track-order";
import { applied, beside, cue, lateLimiter, monitoredDirect, withHeadroom } from "./hear";
import { duoRig, wholeMill } from "./rigs";
import { demoStudio } from "./studio";
import { chainNamed, woven } from "./weave";

/**
 * The Nine as the engineer wrote them down. The clarinet's active ribbon was left without phantom: the checks tell it.
 */
const NINE = `Input,Source,Microphone,Phantom,Player,Folder,Colour,Note
1,Bass drum,Low moving-coil,no,Pell Marrow,Percussion,madder,inside the shell
2,Frame drum,Moving-coil 1,no,Pell Marrow,Percussion,madder,
3,Snare,Moving-coil 2,no,Pell Marrow,Percussion,madder,
4,Shaker table,Moving-coil 3,no,Pell Marrow,Percussion,madder,
5-6,Above,Small condenser pair,yes,Pell Marrow,Percussion,madder,
7,Double bass DI,DI box active,yes,Bram Teller,Low strings,walnut,
8,Double bass,Large condenser A,yes,Bram Teller,Low strings,walnut,blend with the DI
11-12,Cimbalom,Passive ribbon pair,no,Juno Ashby,Strings,weld,no phantom
9,Fiddle,Clip-on condenser 1,yes,Wynn Solari,Strings,weld,
13-14,Accordion,Moving-coil 4 + Moving-coil 5,no,Odile Farr,Keys,verdigris,
E1,Clarinet,Active ribbon,no,Kester Blom,Winds,ochre,
10,Trumpet,Moving-coil 6,no,Mab Tregarth,Winds,ochre,
E2,Sousaphone,Clip-on condenser 2,yes,Hob Linley,Winds,ochre,
E3,Lead voice,Large condenser B,yes,Ilse Varga,Voices,cochineal,
E4,Second voice,Boundary condenser,yes,Juno Ashby,Voices,cochineal,
`;

const POCKET = `Input,Source,Microphone,Phantom,Player,Colour,Note
1,Guitar,,no,Nadia Okonjo-Reyes,weld,straight in at instrument level
2,Voice,Moving-coil 1,no,Nadia Okonjo-Reyes,cochineal,
`;

/**
 * One singer on the good preamp, over a harp that was recorded before. Her other thirteen tracks take the same line by
 * turns.
 */
const LULLABY = `Input,Track,Source,Microphone,Phantom,Player,Folder,Colour,Note
13,Lead,Voice,Large condenser A,yes,Ilse Varga,Voice,cochineal,the one that tells the story
1-2,Backing,Harp,,no,,Backing,slate,played in from outside; leave headroom
`;

const PARTS = ["Shadow", "Harmony high", "Harmony low", ...Array.from({ length: 10 }, (_, n) => `Choir ${n + 1}`)];

/** A radio play. One of the actors is written down for two rooms: the checks tell it. */
const GHOST = `Input,Source,Microphone,Phantom,Player,Folder,Colour,Position,Note
1,Ferryman,Large condenser A,yes,Hob Linley,Actors,saffron,Wheelhouse,
2,Widow,Large condenser B,yes,Ilse Varga,Actors,saffron,Wheelhouse,
3,Boy,Clip-on condenser 1,yes,Kester Blom,Actors,saffron,Wheelhouse,
9,Narrator,Boundary condenser,yes,Juno Ashby,Narration,cochineal,Booth,dry
LB1,Far guest,,no,Far guest,Guest,woad,,comes in over the line; their way back must not carry their own voice
5-6,Foley table,Small condenser pair,yes,Tom Hallgarth,Foley,madder,Loft,two microphones
E1,Foley steps,Active ribbon,yes,Tom Hallgarth,Foley,madder,Wheelhouse,gravel tray
`;

interface FromList {
  readonly id: string;
  readonly name: string;
  readonly kind: SessionKind;
  readonly rig: Rig;
  readonly list: string;
  readonly ids: IdSource;
}

/** A template made of an input list. Throws when the list can't be read: the lists here are ours. */
export const templateFromList = ({ id, name, kind, rig, list, ids }: FromList): Template => {
  const read = readInputList(list);
  if (!read.ok) throw new Error(`expected a readable list for ${name}, got: ${read.message}`);
  return applied(
    emptyTemplate({ id: id as TemplateId, name, kind, rigId: rig.id, mainOutputs: monitorOutputs(rig) }),
    planImport(read.list, rig, ids).edits,
  );
};

const trackNamed = (doc: Template, name: string): ChannelId => {
  const found = tracksOf(doc).find((track) => track.name === name);
  if (!found) throw new Error(`expected a track ${name}, got none`);
  return found.id;
};

/** An effect in the chain of a return, fully wet. */
const effect =
  (kind: "reverb" | "delay", into: string, settings: Readonly<Record<string, string | number>>) =>
  (_doc: Template, found: (name: string) => ChannelId, ids: IdSource): Planned => ({
    ok: true,
    gesture: {
      edits: [
        {
          kind: "entries.add",
          entries: {
            processors: [
              newProcessor(kind, {
                ...settings,
                id: ids<ChainProcessorId>("processor"),
                channelId: found(into),
              } as never) as never,
            ],
          },
        },
      ],
    },
  });

const lullaby = (): Template => {
  const ids = sequentialIds();
  let doc = templateFromList({
    id: "harp-and-lullaby",
    name: "Harp & Lullaby",
    kind: "voice-over-backing",
    rig: wholeMill,
    list: LULLABY,
    ids,
  });
  const folderId = entriesOf(doc.folders)[0]?.id ?? null;
  const choir: FolderId = ids<FolderId>("folder");
  doc = applied(doc, [
    { kind: "entries.add", entries: { folders: [{ id: choir, name: "Choir", colour: null, parentId: folderId }] } },
  ]);
  for (const name of PARTS) {
    const made = duplicateTracks(doc, wholeMill, { trackIds: [trackNamed(doc, "Lead")], input: "by-turns", ids });
    const copy = made.trackIds[0];
    if (!made.planned.ok || !copy) throw new Error("expected the lead to be duplicated, got a refusal");
    doc = applied(doc, [
      ...made.planned.gesture.edits,
      { kind: "entries.set", table: "channels", ids: [copy], set: { name, note: "" } },
      {
        kind: "entries.move",
        table: "channels",
        ids: [copy],
        parent: name.startsWith("Choir") ? choir : folderId,
        before: null,
      },
    ]);
  }
  return woven(
    doc,
    {
      sums: ["Voice", "Choir", "Backing"],
      channels: [
        { kind: "return", name: "Plate", colour: "logwood", into: "Voice" },
        { kind: "return", name: "Echo", colour: "indigo", into: "Voice" },
      ],
      sends: [
        { to: "Plate", from: ["Lead", "Shadow", "Harmony high", "Harmony low", "Choir"], levelDb: -14 },
        { to: "Echo", from: ["Lead"], levelDb: -20 },
      ],
      trims: { Backing: -6 },
      chains: { Lead: "Any voice, first take", Choir: "Any voice, first take" },
      acts: [
        effect("reverb", "Plate", { decayS: 2.2, installed: "Mill plate", version: "1.4" }),
        effect("delay", "Echo", { timeMs: 310, feedbackPercent: 25 }),
        // Looks ahead: through the computer it would make her late.
        lateLimiter("Lead"),
        withHeadroom(wholeMill),
        beside("talkback"),
        cue(wholeMill, { people: ["Ilse Varga"], more: 2 }),
        monitoredDirect(wholeMill, "Lead", ...PARTS),
        (now, _found, made) =>
          planPasses(now, {
            trackIds: recordable(now)
              .filter(({ name }) => name !== "Backing")
              .map(({ id }) => id),
            inputs: 1,
            takeMinutes: 4,
            takes: 3,
            anew: true,
            ids: made,
          }),
      ],
    },
    ids,
  );
};

const ghost = (): Template => {
  const ids = sequentialIds();
  const doc = templateFromList({
    id: "ferrymans-ghost",
    name: "The Ferryman's Ghost",
    kind: "spoken-word",
    rig: wholeMill,
    list: GHOST,
    ids,
  });
  // Where a microphone stands is, in this play, the room it is played in.
  const rooms = entriesOf(doc.lines).flatMap((line): Edit[] =>
    line.position
      ? [{ kind: "entries.set", table: "lines", ids: [line.id], set: { room: line.position, position: "" } }]
      : [],
  );
  const beds = ids<FolderId>("folder");
  const bed = (name: string, note: string) => ({
    id: ids<ChannelId>("track"),
    name,
    note,
    colour: null,
    icon: null,
    input: { kind: "none" } as const,
    sharing: null,
  });
  const laid: readonly Edit[] = [
    { kind: "entries.add", entries: { folders: [{ id: beds, name: "Beds", colour: "slate" }] } },
    {
      kind: "tracks.add",
      tracks: [bed("Music bed", "from the archive"), bed("River", "atmosphere, three minutes")],
      lines: [],
      folderId: beds,
      before: null,
    },
  ];
  const written = applied(doc, [
    ...rooms,
    ...laid,
    { kind: "settings.set", set: { note: "River and music are played in at the mix. The narrator is recorded dry." } },
  ]);
  return woven(
    written,
    {
      sums: ["Actors", "Narration", "Foley"],
      channels: [
        { kind: "bus", name: "Telephone", colour: "woad", feeds: ["Far guest"] },
        { kind: "bus", name: "Speech", colour: "saffron", feeds: ["Actors", "Narration", "Telephone"] },
        { kind: "return", name: "River bank", colour: "logwood" },
      ],
      sends: [{ to: "River bank", from: ["Ferryman", "Widow", "Boy", "Foley table", "Foley steps"], levelDb: -18 }],
      trims: { Foley: -4 },
      chains: {
        Telephone: "Telephone",
        Ferryman: "Any voice, first take",
        Widow: "Any voice, first take",
        Boy: "Any voice, first take",
      },
      acts: [
        effect("reverb", "River bank", { decayS: 1.1, preDelayMs: 8 }),
        (now, found, made) =>
          recordSeveralWays(now, demoStudio, {
            trackId: found("Narrator"),
            chainIds: [chainNamed("Close speech"), chainNamed("Telephone")],
            ids: made,
          }),
        (now, found, made) =>
          duck(now, {
            channelIds: [found("Music bed"), found("River")],
            underIds: [found("Ferryman"), found("Widow"), found("Boy")],
            depthText: "9",
            ids: made,
          }),
        withHeadroom(wholeMill),
        beside("talkback"),
        cue(wholeMill, { people: ["Hob Linley", "Ilse Varga", "Kester Blom"], name: "Actors" }),
        cue(wholeMill, { people: ["Juno Ashby"], name: "Narrator" }),
        cue(wholeMill, { people: ["Tom Hallgarth"], name: "Foley" }),
        cue(wholeMill, { people: ["Far guest"], name: "Far guest", hearing: "far" }),
        monitoredDirect(wholeMill, "Ferryman", "Widow", "Boy", "Foley table", "Narrator"),
        // The same voice through two chains is recorded, and heard once.
        (now) =>
          monitorTracks(now, wholeMill, {
            trackIds: tracksOf(now).flatMap(({ id, name }) => (name.startsWith("Narrator ") ? [id] : [])),
            monitor: "off",
          }),
      ],
    },
    ids,
  );
};

const SECTIONS: readonly (readonly [string, number, string, string])[] = [
  ["Sopranos", 24, "condenser", "cochineal"],
  ["Altos", 24, "condenser", "logwood"],
  ["Tenors", 20, "condenser", "saffron"],
  ["Basses", 20, "condenser", "walnut"],
  ["Strings", 24, "clip-on condenser", "lichen"],
  ["Winds", 16, "condenser", "woad"],
];

/**
 * A cantata with a microphone for every desk: far more lines than the mill has inputs, as a list that was sent by
 * somebody else.
 */
const cantata = (): Template => {
  const rows = SECTIONS.flatMap(([section, count, microphone, colour]) =>
    Array.from({ length: count }, (_, n) => `${section.replace(/s$/, "")} ${n + 1},${microphone},${section},${colour}`),
  );
  const inputs = [
    ...Array.from({ length: 14 }, (_, n) => String(n + 1)),
    ...Array.from({ length: 8 }, (_, n) => `E${n + 1}`),
  ];
  const ids = sequentialIds();
  const list = `Input,Source,Microphone,Folder,Colour\n${rows.map((row, at) => `${inputs[at] ?? at + 19},${row}`).join("\n")}\n`;
  const doc = templateFromList({
    id: "flood-cantata",
    name: "The Flood Cantata",
    kind: "band",
    rig: wholeMill,
    list,
    ids,
  });
  const folded = applied(doc, [
    {
      kind: "entries.set",
      table: "folders",
      ids: entriesOf(doc.folders)
        .slice(1)
        .map((folder) => folder.id),
      set: { open: false },
    },
  ]);
  const sung = SECTIONS.slice(0, 3).flatMap(([section, count]) =>
    Array.from({ length: count }, (_, n) => `${section.replace(/s$/, "")} ${n + 1}`),
  );
  return woven(
    folded,
    {
      sums: SECTIONS.map(([section]) => section),
      channels: [{ kind: "return", name: "Nave", colour: "slate" }],
      sends: [{ to: "Nave", from: sung, levelDb: -15 }],
      trims: Object.fromEntries(SECTIONS.map(([section]) => [section, -14])),
      acts: [
        effect("reverb", "Nave", { decayS: 3.4, preDelayMs: 35 }),
        withHeadroom(wholeMill),
        beside("talkback"),
        cue(wholeMill, { people: ["Nadia Okonjo-Reyes"], name: "Conductor", more: 0 }),
      ],
    },
    ids,
  );
};

/** Families into buses of their own, two rooms beside them: the voices and the solo instruments ring out. */
const nine = (): Template => {
  const ids = sequentialIds();
  const doc = templateFromList({
    id: "tidewrack-nine",
    name: "The Tidewrack Nine",
    kind: "band",
    rig: wholeMill,
    list: NINE,
    ids,
  });
  return woven(
    doc,
    {
      sums: ["Percussion", "Low strings", "Strings", "Keys", "Winds", "Voices"],
      channels: [
        { kind: "return", name: "Plate", colour: "logwood" },
        { kind: "return", name: "Stair chamber", colour: "slate" },
      ],
      sends: [
        { to: "Plate", from: ["Lead voice", "Second voice"], levelDb: -12, tap: "before" },
        { to: "Stair chamber", from: ["Fiddle", "Accordion", "Clarinet"], levelDb: -15 },
      ],
      faders: { Percussion: -3 },
      chains: {
        "Lead voice": "Ilse, lead voice",
        "Second voice": "Any voice, first take",
        Fiddle: "Fiddle, close",
        "Double bass DI": "Double bass blend",
      },
      acts: [
        effect("reverb", "Plate", { installed: "Mill plate", version: "1.4" }),
        (now, found, made) =>
          putInsert(now, wholeMill, { loopId: "stair-loop", channelIds: [found("Stair chamber")], ids: made }),
        (now, found, made) =>
          blend(now, {
            channelIds: [found("Double bass DI"), found("Double bass")],
            name: "Bass",
            balance: ["60 %", "40 %"],
            ids: made,
          }),
        (_now, found, made) => ({
          ok: true,
          gesture: {
            edits: [
              {
                kind: "controls.add",
                control: { id: made<ControlId>("control"), name: "All but voices", colour: "slate" },
                channelIds: ["Percussion", "Low strings", "Strings", "Keys", "Winds"].map(found),
              },
            ],
          },
        }),
        withHeadroom(wholeMill),
        beside("click"),
        beside("talkback"),
        cue(wholeMill, {
          people: ["Ilse Varga"],
          back: { Percussion: 15, "Low strings": 14, Keys: 9, Winds: 16, Plate: 9 },
        }),
        // Mixed in the interface while the computer plays her back as well: she hears herself twice, and the checks
        // tell it.
        cue(wholeMill, {
          people: ["Juno Ashby"],
          mixedIn: "interface",
          back: { Percussion: 12, Keys: 9, Winds: 14, Plate: 11, "Stair chamber": 24 },
        }),
        cue(wholeMill, {
          people: ["Pell Marrow", "Bram Teller"],
          back: { Strings: 14, Keys: 12, Winds: 18, Voices: 10 },
        }),
        cue(wholeMill, {
          people: ["Wynn Solari", "Odile Farr", "Kester Blom", "Mab Tregarth", "Hob Linley"],
          name: "Winds and fiddle",
          back: { Percussion: 10, "Low strings": 8, Strings: 10, Voices: 12, "Stair chamber": 18 },
        }),
        monitoredDirect(wholeMill, "Lead voice", "Cimbalom", "Accordion", "Clarinet", "Trumpet", "Sousaphone"),
      ],
    },
    ids,
  );
};

/** The engineer alone, who hears herself on the headphones of the pocket interface. */
const pocket = (): Template => {
  const ids = sequentialIds();
  const doc = templateFromList({
    id: "pocket-sketch",
    name: "Pocket sketch",
    kind: "solo",
    rig: duoRig,
    list: POCKET,
    ids,
  });
  // At 48 kHz she would hear her voice after 5 ms: the pocket interface has no mixer of its own.
  const fast = applied(doc, [{ kind: "settings.set", set: { format: { sampleRateHz: 96000 } } }]);
  return woven(fast, { sums: [], acts: [cue(duoRig, { people: ["Nadia Okonjo-Reyes"], more: 0 })] }, ids);
};

/** The templates that a new library starts with. */
export const demoTemplates = (): readonly Template[] => [cantata(), pocket(), ghost(), lullaby(), nine()];
