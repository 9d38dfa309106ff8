import { FAMILY_DEFAULTS, type Family } from "../model/families";
import type { ChannelId, FolderId, IdSource, LineId, TemplateId } from "../model/ids";
import { monitorOutputs, rigInputsOf } from "../model/read-rig";
import type { Rig } from "../model/rig";
import type { SessionKind } from "../model/session-kinds";
import { type FamilyStyles, newStudio, type Studio } from "../model/studio";
import { newLine } from "../model/tables/lines";
import { emptyTemplate, type Format, type Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { linesByPort, nextFreeInput, nextFreePair } from "../queries/free-inputs";
import { readMicrophone } from "../reading/read-cells";
import { madeWhole, type Whole } from "./whole";

interface StarterTrack {
  readonly name: string;
  readonly family: Family;
  /** A kind of microphone or box, by its usual words; empty when none is needed. */
  readonly microphone: string;
  readonly stereo?: true;
  /** Takes the line of the track of this name, by turns. */
  readonly sharesLineOf?: string;
  readonly note?: string;
  /** Who is heard on it, by what they do. */
  readonly player?: string;
  /** Comes in from the far end of a line: on a loop-back of the rig where it has one. */
  readonly far?: true;
  /** Played from a file: takes no input. */
  readonly laid?: true;
}

export interface Starter {
  readonly id: string;
  readonly kind: SessionKind;
  readonly name: string;
  readonly says: string;
  readonly folders: readonly {
    readonly name: string;
    readonly family: Family;
    readonly tracks: readonly StarterTrack[];
  }[];
  readonly whole: Whole;
}

const track = (name: string, family: Family, microphone: string, more: Partial<StarterTrack> = {}): StarterTrack => ({
  name,
  family,
  microphone,
  ...more,
});

const LAYERS = ["Choir 1", "Choir 2", "Choir 3", "Choir 4"];
const layers = (): StarterTrack[] => LAYERS.map((name) => track(name, "voices", "condenser", { sharesLineOf: "Lead" }));

/**
 * Templates that ship: one or more for each kind of session. They name microphones by kind and take the inputs of
 * whatever rig they are put on.
 */
export const STARTERS: readonly Starter[] = [
  {
    id: "small-band",
    kind: "band",
    name: "Small band in one room",
    says: "Drums on four microphones, bass, guitar, keys and two voices: family buses, a plate, a cue for each player.",
    folders: [
      {
        name: "Percussion",
        family: "percussion",
        tracks: [
          track("Bass drum", "percussion", "moving coil", { player: "Drummer" }),
          track("Snare", "percussion", "moving coil", { player: "Drummer" }),
          track("Above", "percussion", "condenser", { stereo: true, player: "Drummer" }),
        ],
      },
      {
        name: "Low strings",
        family: "low-strings",
        tracks: [track("Bass DI", "low-strings", "active DI box", { player: "Bassist" })],
      },
      {
        name: "Plucked strings",
        family: "plucked-strings",
        tracks: [track("Guitar", "plucked-strings", "moving coil", { player: "Guitarist" })],
      },
      {
        name: "Keys",
        family: "keys",
        tracks: [track("Piano", "keys", "condenser", { stereo: true, player: "Pianist" })],
      },
      {
        name: "Voices",
        family: "voices",
        tracks: [
          track("Lead voice", "voices", "condenser", { player: "Singer" }),
          track("Second voice", "voices", "moving coil", { player: "Second singer" }),
        ],
      },
    ],
    whole: {
      sums: ["Percussion", "Low strings", "Plucked strings", "Keys", "Voices"],
      chains: { "Bass DI": "low", Guitar: "plucked", "Lead voice": "voice", "Second voice": "voice" },
      room: { name: "Plate", decayS: 1.8, from: ["Lead voice", "Second voice", "Snare"] },
      click: true,
      passes: [
        {
          name: "Basics",
          tracks: ["Bass drum", "Snare", "Above", "Bass DI", "Guitar", "Piano", "Lead voice"],
          takeMinutes: 5,
          takes: 4,
        },
        { name: "Voices", tracks: ["Lead voice", "Second voice"], takeMinutes: 5, takes: 5 },
      ],
    },
  },
  {
    id: "string-quartet",
    kind: "band",
    name: "Four players around a pair",
    says: "A pair in front of the room and a support for each player: six inputs.",
    folders: [
      { name: "Room", family: "rooms", tracks: [track("Main pair", "rooms", "condenser", { stereo: true })] },
      {
        name: "Supports",
        family: "bowed-strings",
        tracks: [
          track("First", "bowed-strings", "condenser", { player: "First player" }),
          track("Second", "bowed-strings", "condenser", { player: "Second player" }),
          track("Third", "bowed-strings", "condenser", { player: "Third player" }),
          track("Fourth", "bowed-strings", "condenser", { player: "Fourth player" }),
        ],
      },
    ],
    whole: {
      sums: ["Supports"],
      chains: {},
      room: { name: "Hall", decayS: 2.4, from: ["Main pair"] },
      passes: [
        { name: "Movement", tracks: ["Main pair", "First", "Second", "Third", "Fourth"], takeMinutes: 12, takes: 3 },
      ],
    },
  },
  {
    id: "voice-layers",
    kind: "voice-over-backing",
    name: "One voice in layers",
    says: "One microphone, nine tracks by turns, over a finished backing.",
    folders: [
      {
        name: "Voice",
        family: "voices",
        tracks: [
          track("Lead", "voices", "condenser", { player: "Singer" }),
          track("Shadow", "voices", "condenser", { sharesLineOf: "Lead", note: "doubles the lead" }),
          track("High", "voices", "condenser", { sharesLineOf: "Lead" }),
          track("Low", "voices", "condenser", { sharesLineOf: "Lead" }),
          ...layers(),
        ],
      },
      {
        name: "Backing",
        family: "rooms",
        tracks: [track("Backing", "rooms", "line", { stereo: true, note: "played in from outside; leave headroom" })],
      },
    ],
    whole: {
      sums: ["Voice", "Backing"],
      chains: { Lead: "voice" },
      room: { name: "Plate", decayS: 1.8, from: ["Voice"] },
      passes: [
        { name: "Backing", tracks: ["Backing"], takeMinutes: 5, takes: 1 },
        ...["Lead", "Shadow", "High", "Low", ...LAYERS].map((name) => ({
          name,
          tracks: [name],
          takeMinutes: 5,
          takes: 4,
        })),
      ],
    },
  },
  {
    id: "talk",
    kind: "spoken-word",
    name: "Two at a table and a guest",
    says: "Two voices in the room, one from far away, a music bed that ducks under the two; nobody is the echo of the guest.",
    folders: [
      {
        name: "Speech",
        family: "speech",
        tracks: [
          track("Host", "speech", "moving coil", { player: "Host" }),
          track("Guest", "speech", "moving coil", { player: "Guest" }),
          track("Far guest", "speech", "line", {
            player: "Far guest",
            far: true,
            note: "their way back must not carry their own voice",
          }),
        ],
      },
      { name: "Room", family: "rooms", tracks: [track("Room tone", "rooms", "condenser")] },
      {
        name: "Beds",
        family: "keys",
        tracks: [track("Music bed", "keys", "", { laid: true, note: "played from a file" })],
      },
    ],
    whole: {
      sums: ["Speech", "Beds"],
      chains: { Host: "speech", Guest: "speech", "Far guest": "line" },
      room: null,
      duck: { what: ["Music bed"], under: ["Host", "Guest"], by: "9" },
      far: "Far guest",
      passes: [
        { name: "Talk", tracks: ["Host", "Guest", "Far guest", "Room tone"], takeMinutes: 45, takes: 1 },
        { name: "Room tone", tracks: ["Room tone"], takeMinutes: 1, takes: 1 },
      ],
    },
  },
  {
    id: "reader",
    kind: "spoken-word",
    name: "One reader",
    says: "A microphone, a spare of the same line, nothing else.",
    folders: [
      {
        name: "Speech",
        family: "speech",
        tracks: [
          track("Reader", "speech", "condenser", { player: "Reader" }),
          track("Corrections", "speech", "condenser", { sharesLineOf: "Reader", note: "retakes of single sentences" }),
        ],
      },
    ],
    whole: {
      sums: ["Speech"],
      chains: { Reader: "speech", Corrections: "speech" },
      room: null,
      passes: [
        { name: "Reading", tracks: ["Reader"], takeMinutes: 30, takes: 2 },
        { name: "Corrections", tracks: ["Corrections"], takeMinutes: 5, takes: 4 },
      ],
    },
  },
  {
    id: "alone",
    kind: "solo",
    name: "Alone with an instrument",
    says: "An instrument and a voice: open, arm, record.",
    folders: [
      {
        name: "Takes",
        family: "voices",
        tracks: [
          track("Instrument", "plucked-strings", "moving coil", { player: "Player" }),
          track("Voice", "voices", "moving coil", { player: "Player" }),
        ],
      },
    ],
    whole: {
      sums: ["Takes"],
      chains: { Instrument: "plucked", Voice: "voice" },
      room: { name: "Room", decayS: 1.2, from: ["Instrument", "Voice"] },
      passes: [
        { name: "Together", tracks: ["Instrument", "Voice"], takeMinutes: 5, takes: 5 },
        { name: "Voice alone", tracks: ["Voice"], takeMinutes: 5, takes: 3 },
      ],
    },
  },
];

interface Making {
  readonly id: TemplateId;
  readonly name: string;
  readonly rig: Rig;
  readonly format?: Format;
  readonly styles?: FamilyStyles;
  readonly studio?: Studio;
  readonly ids: IdSource;
}

const applied = (doc: Template, edits: readonly Edit[], what: string): Template => {
  const made = applyAll(doc, edits);
  if (!made.ok) throw new Error(`expected the starter ${what} to apply, got: ${made.refusal.message}`);
  return made.doc;
};

/** One track with its lines, on the first free inputs of the rig that suit it; without one where there are no more. */
const addTrack = (
  doc: Template,
  { rig, ids, styles = FAMILY_DEFAULTS }: Making,
  { folderId, track }: { readonly folderId: FolderId; readonly track: StarterTrack },
): Template => {
  const { colour, icon } = styles[track.family];
  const base = {
    id: ids<ChannelId>("track"),
    name: track.name,
    note: track.note ?? "",
    colour: doc.folders[folderId]?.colour === colour ? null : colour,
    icon,
  };
  const host = track.sharesLineOf && Object.values(doc.channels).find((channel) => channel.name === track.sharesLineOf);
  if (host && host.kind === "track")
    return applied(
      doc,
      [
        {
          kind: "tracks.add",
          tracks: [{ ...base, input: host.input, sharing: "by-turns" }],
          lines: [],
          folderId,
          before: null,
        },
        { kind: "entries.set", table: "channels", ids: [host.id], set: { sharing: "by-turns" } },
      ],
      track.name,
    );
  if (track.laid)
    return applied(
      doc,
      [
        {
          kind: "tracks.add",
          tracks: [{ ...base, input: { kind: "none" }, sharing: null }],
          lines: [],
          folderId,
          before: null,
        },
      ],
      track.name,
    );
  const microphone = readMicrophone(rig, track.microphone);
  const bare = Array.from({ length: track.stereo ? 2 : 1 }, () =>
    newLine({
      id: ids<LineId>("line"),
      source: track.name,
      player: track.player ?? "",
      microphone,
      phantom: /condenser|active/.test(track.microphone),
    }),
  );
  const [left, right] = bare;
  if (!left) return doc;
  const loopBack = track.far
    ? rigInputsOf(rig).find((rigInput) => rigInput.loopBack && !linesByPort(doc).has(rigInput.port.id))
    : undefined;
  const rigInputs = loopBack
    ? [loopBack]
    : right
      ? nextFreePair(doc, rig, [left, right])
      : [nextFreeInput(doc, rig, left)];
  const lines = bare.map((line, at) => ({ ...line, portId: rigInputs?.[at]?.port.id ?? null }));
  const input = right
    ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const)
    : ({ kind: "line", lineId: left.id } as const);
  return applied(
    doc,
    [{ kind: "tracks.add", tracks: [{ ...base, input, sharing: null }], lines, folderId, before: null }],
    track.name,
  );
};

/**
 * A template made of a starter on a rig: tracks in their order take the first free inputs that suit them, and it is
 * summed, heard and planned as far as the rig goes.
 */
export const makeStarter = (starter: Starter, making: Making): Template => {
  const { id, name, rig, format, ids, studio = newStudio("The studio"), styles = FAMILY_DEFAULTS } = making;
  let doc = emptyTemplate({
    id,
    name,
    kind: starter.kind,
    rigId: rig.id,
    mainOutputs: monitorOutputs(rig),
    ...(format ? { format } : {}),
  });
  for (const folder of starter.folders) {
    const folderId = ids<FolderId>("folder");
    doc = applied(
      doc,
      [
        {
          kind: "entries.add",
          entries: { folders: [{ id: folderId, name: folder.name, colour: styles[folder.family].colour }] },
        },
      ],
      folder.name,
    );
    for (const entry of folder.tracks) doc = addTrack(doc, making, { folderId, track: entry });
  }
  return madeWhole(doc, starter.whole, { rig, studio, ids });
};

/** How many inputs a starter wants. */
export const starterInputs = (starter: Starter): number =>
  starter.folders
    .flatMap((folder) => folder.tracks)
    .reduce((sum, entry) => sum + (entry.sharesLineOf || entry.laid ? 0 : entry.stereo ? 2 : 1), 0);
