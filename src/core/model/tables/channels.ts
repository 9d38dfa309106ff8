import { COLOUR_NAMES, COLOUR_OR_NULL, type Colour } from "../colours";
import { choice, closed, type EntryOf, referenceOrNull, text } from "../describe/fields";
import { described } from "../describe/table";
import { ICONS, type Icon } from "../families";
import type { ChannelId, FolderId, LineId, PortId } from "../ids";
import { MOST } from "../limits";
import { byKind, id } from "../schema-parts";

export type TrackInput =
  | { readonly kind: "none" }
  | { readonly kind: "line"; readonly lineId: LineId }
  | { readonly kind: "pair"; readonly leftId: LineId; readonly rightId: LineId };

export type Output =
  | { readonly kind: "channel"; readonly channelId: ChannelId }
  | { readonly kind: "hardware"; readonly portIds: readonly PortId[] }
  | { readonly kind: "nowhere" };

/** How tracks that take the same line do so: recorded together, or one after the other. Null while nobody has said. */
export type Sharing = "at-once" | "by-turns" | null;

export const MAIN_ID = "main" as ChannelId;

/** The lines a track takes, left before right. */
export const inputLineIds = (input: TrackInput): readonly LineId[] => {
  switch (input.kind) {
    case "none":
      return [];
    case "line":
      return [input.lineId];
    case "pair":
      return [input.leftId, input.rightId];
    default:
      return input satisfies never;
  }
};

/** What a track takes once some of its lines are gone: a pair becomes the side that is left. */
const withoutLines = (input: TrackInput, gone: ReadonlySet<string>): TrackInput => {
  const [left] = inputLineIds(input).filter((lineId) => !gone.has(lineId));
  return left ? { kind: "line", lineId: left } : { kind: "none" };
};

const INPUT_PARTS = {
  word: "the input",
  column: { id: "input", heading: "Input", seat: 70, width: 58, inspected: 30, fills: ["emptied"] },
  list: {
    meaning: "input",
    heading: "Input",
    words: "input, inputs, in, ch, chan, channel, no, nr, number, #, input no, input number, channel number, kanal, eingang, kanalnummer, entree, canal, voie, n",
    always: 10,
  },
} as const;

/** Whether a track takes one line or two: not a field of its own, but how many lines its input has. */
export const LAYOUT_COLUMN = {
  column: { id: "layout", heading: "Mono or stereo", seat: 40, width: 32, quiet: true, fills: ["copied"] },
  list: { meaning: "format", heading: "Format", says: "Mono or stereo", words: "format, mono stereo, layout, width, stereo", always: 60 },
} as const;

const COLOUR_PARTS = {
  word: "the colour",
  column: { id: "colour", heading: "Colour", seat: 20, width: 28, inspected: 90, quiet: true, fills: ["copied", "emptied"] },
  list: { meaning: "colour", heading: "Colour", words: "colour, color, dye, farbe, couleur", always: 90 },
} as const;

const ICON_PARTS = {
  word: "the icon",
  column: { id: "icon", heading: "Icon", seat: 10, width: 32, inspected: 100, quiet: true, fills: ["copied", "emptied"] },
  list: { meaning: "icon", heading: "Icon", words: "icon, symbol, icone" },
} as const;

const FOLDER_PARTS = {
  word: "the folder",
  column: { id: "folder", heading: "Folder", seat: 120, width: 92, inspected: 110, fills: ["copied", "emptied"] },
  list: {
    meaning: "folder",
    heading: "Folder",
    words: "folder, group, family, section, ordner, gruppe, familie, dossier, groupe, famille",
    always: 80,
  },
} as const;

const OUTPUT = byKind({ channel: { channelId: id }, hardware: { portIds: { type: "array", items: id, minItems: 1, maxItems: 16 } }, nowhere: {} });
const INPUT = byKind({ none: {}, line: { lineId: id }, pair: { leftId: id, rightId: id } });

const FIELDS = {
  name: text(200, {
    word: "the name",
    column: { id: "name", heading: "Track", seat: 30, width: 140, fills: ["copied", "counted"] },
    list: { meaning: "track", heading: "Track", says: "Track name", words: "track, track name, spur, spurname, piste, nom de piste", always: 20 },
    searched: true,
  }),
  note: text(4000, {
    word: "the note",
    column: { id: "note", heading: "Note", seat: 160, width: 100, inspected: 140, fills: ["copied", "counted", "emptied"] },
    list: {
      meaning: "note",
      heading: "Note",
      words: "note, notes, remark, remarks, comment, comments, bemerkung, bemerkungen, anmerkung, notiz, kommentar, remarque, remarques, commentaire",
      always: 100,
    },
    searched: true,
  }),
  output: closed<Output>(
    {
      schema: OUTPUT,
      samples: [{ kind: "nowhere" }, { kind: "channel", channelId: MAIN_ID }],
      references: [
        {
          to: "channels",
          kinds: ["main"],
          astray: "is routed to something that is not there",
          ids: (output: Output) => (output.kind === "channel" ? [output.channelId] : []),
          without: () => ({ value: { kind: "channel", channelId: MAIN_ID } }),
        },
      ],
    },
    { word: "the output" },
  ),
};

const TRACK_FIELDS = {
  /** Null: the colour of the folder. */
  colour: closed<Colour | null, typeof COLOUR_PARTS>({ schema: COLOUR_OR_NULL, initial: null, samples: [null, ...COLOUR_NAMES] }, COLOUR_PARTS),
  icon: choice<Icon | null, typeof ICON_PARTS>([...ICONS, null], ICON_PARTS),
  folderId: referenceOrNull<FolderId, typeof FOLDER_PARTS>({ to: "folders", astray: "lies in a folder that is not there" }, FOLDER_PARTS),
  input: closed<TrackInput, typeof INPUT_PARTS>(
    {
      schema: INPUT,
      samples: [{ kind: "none" }],
      references: [
        {
          to: "lines",
          astray: "takes a line that is not there",
          ids: inputLineIds,
          without: (input: TrackInput, gone: ReadonlySet<string>) => ({ value: withoutLines(input, gone) }),
        },
      ],
    },
    INPUT_PARTS,
  ),
  sharing: choice<Sharing>(["at-once", "by-turns", null], { word: "how the line is shared" }),
};

/** Everything that carries audio after the lines. */
export const CHANNELS = described({
  one: "track",
  many: "tracks",
  // The main bus is one of them and no track.
  most: MOST.tracks + 1,
  fields: FIELDS,
  kinds: {
    track: TRACK_FIELDS,
    main: {},
  },
  order: { within: "folderId", kinds: ["track"] },
  single: { kind: "main", id: MAIN_ID, says: "there is not exactly one main bus" },
  rules: [
    (channel: Channel) => (channel.kind === "main" && channel.output.kind === "channel" ? "the main bus is routed to a channel" : null),
    (channel: Channel) =>
      channel.kind === "track" && channel.input.kind === "pair" && channel.input.leftId === channel.input.rightId ? `${channel.name} takes one line as left and right` : null,
  ],
  called: (channel: Channel) => channel.name || "a track without a name",
});

interface ChannelBase extends EntryOf<typeof FIELDS> {
  readonly id: ChannelId;
}

export interface Track extends ChannelBase, EntryOf<typeof TRACK_FIELDS> {
  readonly kind: "track";
  readonly order: string;
}

/** The last bus; nothing after it but outputs. */
export interface Main extends ChannelBase {
  readonly kind: "main";
}

export type Channel = Track | Main;
