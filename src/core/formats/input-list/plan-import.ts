import { type Colour, UNCOLOURED } from "../../model/colours";
import { FAMILY_DEFAULTS, type Family, type Icon } from "../../model/families";
import { type FamilyAround, guessFamily } from "../../model/guess-family";
import type { ChannelId, CueId, FolderId, IdSource, LineId, TemplateId } from "../../model/ids";
import type { MicrophoneChoice } from "../../model/microphone-choice";
import { phantomAttitude } from "../../model/microphone-kinds";
import { findRigInput, loopBackCounted, noSuchInput, rigInputOf } from "../../model/read-rig";
import type { Rig } from "../../model/rig";
import type { FamilyStyles } from "../../model/studio";
import { type Line, newLine } from "../../model/tables/lines";
import { emptyTemplate } from "../../model/template";
import type { Edit, NewFolder, NewTrack } from "../../planning/edits/edit";
import { proposeInputs, type Seeking } from "../../planning/propose-inputs";
import { fullName } from "../../reading/full-names";
import { readMicrophone } from "../../reading/read-cells";
import { keyOfRow } from "./changes";
import { FOLDER_SEPARATOR, type InputList, type ListRow, type Remark, type Side } from "./list-types";

interface PlannedTrack {
  readonly row: number;
  readonly track: NewTrack;
  readonly lines: readonly Line[];
  /** Path of its folder, joined; empty when it lies in none. */
  readonly folder: string;
  /** The dye it shows, its own or that of its folder. */
  readonly colour: Colour;
  /** What could not be placed, for a person; null when all is well. */
  readonly trouble: string | null;
  readonly family: Family | null;
}

export interface ImportPlan {
  readonly edits: readonly Edit[];
  readonly tracks: readonly PlannedTrack[];
  readonly guessed: readonly Remark[];
  readonly leftOut: readonly Remark[];
}

const NO_WORDS: ReadonlyMap<string, Family> = new Map();

const keyOf = (path: readonly string[]): string => path.join("\n").toLowerCase();

const attitude = (rig: Rig, choice: MicrophoneChoice | null) => {
  if (choice?.kind === "shelf") return rig.microphones[choice.microphoneId]?.phantom ?? null;
  return choice?.type ? phantomAttitude(choice.type) : null;
};

const toLine = (side: Side, { rig, ids }: { readonly rig: Rig; readonly ids: IdSource }): Line => {
  const microphone = readMicrophone(rig, side.microphone);
  const rigInput = side.input === null ? null : findRigInput(rig, side.input);
  return newLine({
    ...side.values,
    id: ids<LineId>("line"),
    microphone,
    portId: rigInput?.port.id ?? null,
    requestedInput: rigInput ? null : side.input,
    phantom: side.saysPhantom ? (side.values.phantom ?? false) : attitude(rig, microphone) === "needs",
  });
};

/** What decides the family of a source besides its own name, and what is done besides what the list says. */
interface Known {
  readonly styles: FamilyStyles;
  /** Names of all sources of the list. */
  readonly names?: readonly string[];
  readonly words?: ReadonlyMap<string, Family>;
  /** By the key of a row: families that a person chose in the preview. */
  readonly families?: Readonly<Record<string, Family>>;
  /** Lines without an input are put on free ones that fit. */
  readonly propose?: boolean;
  /** Short forms of names are written in full. */
  readonly inFull?: boolean;
  /** Names of outputs that become places to listen at: a cue each. */
  readonly places?: readonly string[];
}

const familyDefaults = (
  name: string,
  { styles, ...around }: Known & Pick<FamilyAround, "folder" | "microphone">,
): { readonly colour: Colour; readonly icon: Icon } | null => {
  const family = guessFamily(name, around);
  return family && styles[family];
};

const familyOf = (row: Pick<ListRow, "name" | "folder"> & Partial<ListRow>, known: Known): Family | null =>
  guessFamily(row.name, {
    ...known,
    folder: row.folder.at(-1) ?? "",
    microphone: row.sides?.[0].microphone ?? "",
  });

/**
 * The icon of a track that a list says none for: that of its family, by name, folder, microphone and the sources beside
 * it; or a plug.
 */
export const guessedIcon = (
  row: { readonly name: string; readonly folder: readonly string[]; readonly microphone?: string },
  names?: readonly string[],
): Icon => {
  const { name, folder, microphone = "" } = row;
  const family = guessFamily(name, { folder: folder.at(-1) ?? "", microphone, ...(names ? { names } : {}) });
  return family ? FAMILY_DEFAULTS[family].icon : "line";
};

interface Folders {
  readonly byKey: ReadonlyMap<string, { readonly id: FolderId; readonly colour: Colour | null }>;
  readonly edits: readonly Edit[];
}

/** The list that a table keeps under a key, made when it is first asked for. */
const listed = <T>(table: Map<string, T[]>, key: string): T[] => {
  const found = table.get(key) ?? [];
  table.set(key, found);
  return found;
};

/**
 * Folders in the order in which the list names them. A folder whose tracks all have one colour takes it; without
 * colours its family decides.
 */
const planFolders = (rows: readonly ListRow[], ids: IdSource, known: Known): Folders => {
  const byKey = new Map<string, { readonly id: FolderId; readonly colour: Colour | null }>();
  const inFolder = new Map<string, ListRow[]>();
  for (const row of rows) listed(inFolder, keyOf(row.folder)).push(row);
  /**
   * By the folder they lie in: one command makes all that lie in the same one, and comes after the one that makes that.
   */
  const byParent = new Map<string, NewFolder[]>();
  for (const { folder } of rows) {
    for (let depth = 1; depth <= folder.length; depth++) {
      const path = folder.slice(0, depth);
      if (byKey.has(keyOf(path))) continue;
      const members = inFolder.get(keyOf(path)) ?? [];
      const colours = new Set(members.map((row) => row.colour));
      const [only] = colours;
      const name = path.at(-1) ?? "";
      const uncoloured = members.every((row) => row.colour === null);
      const made: NewFolder = {
        id: ids<FolderId>("folder"),
        name,
        colour: uncoloured
          ? (familyDefaults(name, { styles: known.styles, words: known.words ?? NO_WORDS })?.colour ?? null)
          : colours.size === 1 && only
            ? only
            : null,
      };
      byKey.set(keyOf(path), made);
      listed(byParent, keyOf(path.slice(0, -1))).push(made);
    }
  }
  return {
    byKey,
    edits: [...byParent].map(([parent, folders]) => ({
      kind: "entries.add",
      entries: { folders: folders.map((folder) => ({ ...folder, parentId: byKey.get(parent)?.id ?? null })) },
    })),
  };
};

const trouble = (lines: readonly Line[], rig: Rig): string | null => {
  const dangling = lines.flatMap((line) => line.requestedInput ?? []);
  const loopBack = dangling.find((word) => loopBackCounted(rig, word));
  if (loopBack !== undefined) return noSuchInput(rig, loopBack);
  if (dangling.length) return `${rig.name} has no input ${dangling.join(" and ")}`;
  const rigInput = lines.map((line) => rigInputOf(rig, line.portId)).find((candidate) => candidate?.occupied);
  return rigInput ? `input ${rigInput.label} carries the ${rigInput.fedBy?.device.name}` : null;
};

interface Planning {
  readonly rig: Rig;
  readonly ids: IdSource;
  readonly folders: Folders;
  readonly known: Known;
}

const planTrack = (
  row: ListRow,
  { rig, ids, folders, known, key, lines }: Planning & { readonly key: string; readonly lines: readonly Line[] },
): PlannedTrack => {
  const [left, right] = lines;
  const folder = folders.byKey.get(keyOf(row.folder));
  const family = known.families?.[key] ?? familyOf(row, known);
  const style = family && known.styles[family];
  const inherited = folder?.colour ?? null;
  const own = row.colour ?? (known.families?.[key] || !inherited ? (style?.colour ?? null) : null);
  const input =
    left && right
      ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const)
      : left
        ? ({ kind: "line", lineId: left.id } as const)
        : ({ kind: "none" } as const);
  const colour = own === inherited ? null : own;
  return {
    row: row.row,
    lines,
    folder: row.folder.join(FOLDER_SEPARATOR),
    colour: colour ?? inherited ?? UNCOLOURED,
    trouble: trouble(lines, rig),
    family,
    track: {
      id: ids<ChannelId>("track"),
      name: known.inFull ? fullName(row.name) : row.name,
      note: row.note,
      colour,
      icon: row.icon === undefined ? (style?.icon ?? "line") : row.icon,
      input,
      sharing: null,
    },
  };
};

/** The lines of all rows; those without an input on free ones that fit, where that is wanted. */
const linesOfAll = (
  rows: readonly ListRow[],
  { rig, ids, propose }: { readonly rig: Rig; readonly ids: IdSource; readonly propose: boolean },
): readonly (readonly Line[])[] => {
  const lines = rows.map((row) => row.sides.map((side) => toLine(side, { rig, ids })));
  if (!propose) return lines;
  const empty = emptyTemplate({ id: "new" as TemplateId, name: "", kind: "band", rigId: rig.id });
  const isOpen = (own: readonly Line[]): boolean => own.every((line) => !line.portId && !line.requestedInput);
  const seeking = lines
    .map((own) => own as unknown as Seeking)
    .filter((own) => isOpen(own) || own.every((line) => line.portId));
  const given = proposeInputs(empty, rig, seeking);
  const byLine = new Map(seeking.map((own, at) => [own[0].id, given[at] ?? []]));
  return lines.map((own) =>
    isOpen(own)
      ? own.map((line, side) => ({ ...line, portId: byLine.get(own[0]?.id ?? line.id)?.[side]?.port.id ?? null }))
      : own,
  );
};

/** A cue for each output of the list that somebody listens on. */
const placeEdits = (places: readonly string[], ids: IdSource): readonly Edit[] =>
  places.length
    ? [
        {
          kind: "entries.add",
          entries: {
            cues: places.map((name) => ({
              id: ids<CueId>("cue"),
              name: name.slice(0, 200),
              people: [],
              portIds: [],
              hearing: /wedge|floor|fill|speaker|lautsprecher|spia|retour/i.test(name)
                ? ("loudspeaker" as const)
                : ("headphones" as const),
              mixedIn: "computer" as const,
              room: "",
            })),
          },
        },
      ]
    : [];

/** All tracks in one act, each into its folder, in the order of the list. */
const addCommands = (planned: readonly PlannedTrack[], rows: readonly ListRow[], folders: Folders): readonly Edit[] => [
  {
    kind: "tracks.add",
    tracks: planned.map(({ track }, at) => ({
      ...track,
      folderId: folders.byKey.get(keyOf(rows[at]?.folder ?? []))?.id ?? null,
    })),
    lines: planned.flatMap((track) => track.lines),
    folderId: null,
    before: null,
  },
];

/**
 * Turns the rows of a list into edits of a template on a rig: folders first, then tracks with their lines on the inputs
 * they name. An input the rig lacks is kept as asked for, so that nothing is lost and the checks tell it.
 */
export const planImport = (
  list: InputList,
  rig: Rig,
  ids: IdSource,
  { styles = FAMILY_DEFAULTS, words = NO_WORDS, ...more }: Partial<Known> = {},
): ImportPlan => {
  const known: Known = { ...more, styles, words, names: list.rows.map((row) => row.name) };
  const folders = planFolders(list.rows, ids, known);
  const keys = keyOfRow(list.rows);
  const lines = linesOfAll(list.rows, { rig, ids, propose: known.propose ?? false });
  const tracks = list.rows.map((row, at) =>
    planTrack(row, { rig, ids, folders, known, key: keys[at] ?? "", lines: lines[at] ?? [] }),
  );
  const noPhantom = list.rows.some((row) => row.sides.some((side) => !side.saysPhantom));
  const noColour = list.rows.filter((row) => row.colour === null).length;
  const note = (message: string, row: number | null = null): Remark => ({ message, row, column: null });
  return {
    edits: [...folders.edits, ...addCommands(tracks, list.rows, folders), ...placeEdits(known.places ?? [], ids)],
    tracks,
    guessed: [
      ...(noPhantom
        ? [note("The list says nothing of phantom: it is on for condensers and active boxes, off for the rest.")]
        : []),
      ...(noColour
        ? [note(`${noColour} ${noColour === 1 ? "row has" : "rows have"} no colour: the family of the source decides.`)]
        : []),
    ],
    leftOut: tracks.flatMap((track) =>
      track.trouble
        ? [note(`Row ${track.row}: ${track.track.name}: ${track.trouble}. The line is kept as it is.`, track.row)]
        : [],
    ),
  };
};
