import { FAMILY_DEFAULTS, type Family } from "../model/families";
import type { ChannelId, FolderId, IdSource, LineId, TemplateId } from "../model/ids";
import { monitorOutputs } from "../model/read-rig";
import type { Rig } from "../model/rig";
import type { SessionKind } from "../model/session-kinds";
import type { FamilyStyles } from "../model/studio";
import { newLine } from "../model/tables/lines";
import { emptyTemplate, type Format, type Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { nextFreeInput, nextFreePair } from "../queries/free-inputs";
import { readMicrophone } from "../reading/read-cells";

interface StarterTrack {
  readonly name: string;
  readonly family: Family;
  /** A kind of microphone or box, by its usual words; empty when none is needed. */
  readonly microphone: string;
  readonly stereo?: true;
  /** Takes the line of the track of this name, by turns. */
  readonly sharesLineOf?: string;
  readonly note?: string;
}

export interface Starter {
  readonly id: string;
  readonly kind: SessionKind;
  readonly name: string;
  readonly says: string;
  readonly folders: readonly { readonly name: string; readonly family: Family; readonly tracks: readonly StarterTrack[] }[];
}

const track = (name: string, family: Family, microphone: string, more: Partial<StarterTrack> = {}): StarterTrack => ({ name, family, microphone, ...more });

const layers = (count: number): StarterTrack[] => Array.from({ length: count }, (_, n) => track(`Choir ${n + 1}`, "voices", "condenser", { sharesLineOf: "Lead" }));

/** Templates that ship: one or more for each kind of session. They name microphones by kind and take the inputs of whatever rig they are put on. */
export const STARTERS: readonly Starter[] = [
  {
    id: "small-band",
    kind: "band",
    name: "Small band in one room",
    says: "Drums on four microphones, bass, guitar, keys and a voice: ten inputs.",
    folders: [
      {
        name: "Percussion",
        family: "percussion",
        tracks: [track("Bass drum", "percussion", "moving coil"), track("Snare", "percussion", "moving coil"), track("Above", "percussion", "condenser", { stereo: true })],
      },
      { name: "Low strings", family: "low-strings", tracks: [track("Bass DI", "low-strings", "active DI box")] },
      { name: "Plucked strings", family: "plucked-strings", tracks: [track("Guitar", "plucked-strings", "moving coil")] },
      { name: "Keys", family: "keys", tracks: [track("Piano", "keys", "condenser", { stereo: true })] },
      { name: "Voices", family: "voices", tracks: [track("Lead voice", "voices", "condenser"), track("Second voice", "voices", "moving coil")] },
    ],
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
          track("First", "bowed-strings", "condenser"),
          track("Second", "bowed-strings", "condenser"),
          track("Third", "bowed-strings", "condenser"),
          track("Fourth", "bowed-strings", "condenser"),
        ],
      },
    ],
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
          track("Lead", "voices", "condenser"),
          track("Shadow", "voices", "condenser", { sharesLineOf: "Lead", note: "doubles the lead" }),
          track("High", "voices", "condenser", { sharesLineOf: "Lead" }),
          track("Low", "voices", "condenser", { sharesLineOf: "Lead" }),
          ...layers(4),
        ],
      },
      { name: "Backing", family: "rooms", tracks: [track("Backing", "rooms", "line", { stereo: true, note: "played in from outside; leave headroom" })] },
    ],
  },
  {
    id: "talk",
    kind: "spoken-word",
    name: "Two at a table and a guest",
    says: "Two voices in the room, one from far away, each on a track of its own.",
    folders: [
      {
        name: "Speech",
        family: "speech",
        tracks: [
          track("Host", "speech", "moving coil"),
          track("Guest", "speech", "moving coil"),
          track("Far guest", "speech", "line", { note: "their way back must not carry their own voice" }),
        ],
      },
      { name: "Room", family: "rooms", tracks: [track("Room tone", "rooms", "condenser")] },
    ],
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
        tracks: [track("Reader", "speech", "condenser"), track("Corrections", "speech", "condenser", { sharesLineOf: "Reader", note: "retakes of single sentences" })],
      },
    ],
  },
  {
    id: "alone",
    kind: "solo",
    name: "Alone with an instrument",
    says: "An instrument and a voice: open, arm, record.",
    folders: [{ name: "Takes", family: "voices", tracks: [track("Instrument", "plucked-strings", ""), track("Voice", "voices", "moving coil")] }],
  },
];

interface Making {
  readonly id: TemplateId;
  readonly name: string;
  readonly rig: Rig;
  readonly format?: Format;
  readonly styles?: FamilyStyles;
  readonly ids: IdSource;
}

const applied = (doc: Template, commands: readonly Edit[], what: string): Template => {
  const made = applyAll(doc, commands);
  if (!made.ok) throw new Error(`expected the starter ${what} to apply, got: ${made.refusal.message}`);
  return made.doc;
};

/** One track with its lines, on the first free inputs of the rig that suit it; without one where there are no more. */
const addTrack = (doc: Template, { rig, ids, styles = FAMILY_DEFAULTS }: Making, { folderId, track }: { readonly folderId: FolderId; readonly track: StarterTrack }): Template => {
  const { colour, icon } = styles[track.family];
  const base = { id: ids<ChannelId>("track"), name: track.name, note: track.note ?? "", colour: doc.folders[folderId]?.colour === colour ? null : colour, icon };
  const host = track.sharesLineOf && Object.values(doc.channels).find((channel) => channel.name === track.sharesLineOf);
  if (host && host.kind === "track")
    return applied(
      doc,
      [
        { kind: "tracks.add", tracks: [{ ...base, input: host.input, sharing: "by-turns" }], lines: [], folderId, before: null },
        { kind: "tracks.share", trackIds: [host.id], sharing: "by-turns" },
      ],
      track.name,
    );
  const microphone = readMicrophone(rig, track.microphone);
  const bare = Array.from({ length: track.stereo ? 2 : 1 }, () =>
    newLine({ id: ids<LineId>("line"), source: track.name, microphone, phantom: /condenser|active/.test(track.microphone) }),
  );
  const [left, right] = bare;
  if (!left) return doc;
  const rigInputs = right ? nextFreePair(doc, rig, [left, right]) : [nextFreeInput(doc, rig, left)];
  const lines = bare.map((line, at) => ({ ...line, portId: rigInputs?.[at]?.port.id ?? null }));
  const input = right ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const) : ({ kind: "line", lineId: left.id } as const);
  return applied(doc, [{ kind: "tracks.add", tracks: [{ ...base, input, sharing: null }], lines, folderId, before: null }], track.name);
};

/** A template made of a starter on a rig: tracks in their order take the first free inputs that suit them. */
export const makeStarter = (starter: Starter, making: Making): Template => {
  const { id, name, rig, format, ids, styles = FAMILY_DEFAULTS } = making;
  let doc = emptyTemplate({ id, name, kind: starter.kind, rigId: rig.id, mainOutputs: monitorOutputs(rig), ...(format ? { format } : {}) });
  for (const folder of starter.folders) {
    const folderId = ids<FolderId>("folder");
    doc = applied(doc, [{ kind: "folders.add", folders: [{ id: folderId, name: folder.name, colour: styles[folder.family].colour }], parentId: null }], folder.name);
    for (const entry of folder.tracks) doc = addTrack(doc, making, { folderId, track: entry });
  }
  return doc;
};

/** How many inputs a starter wants. */
export const starterInputs = (starter: Starter): number =>
  starter.folders.flatMap((folder) => folder.tracks).reduce((sum, entry) => sum + (entry.sharesLineOf ? 0 : entry.stereo ? 2 : 1), 0);
