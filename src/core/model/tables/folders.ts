import { COLOUR_NAMES, COLOUR_OR_NULL, type Colour } from "../colours";
import { addTitled, dyed } from "../describe/calls";
import { closed, type EntryOf, flagOn, referenceOrNull, text } from "../describe/fields";
import { type Around, described } from "../describe/table";
import type { ChannelId, FolderId } from "../ids";
import { MOST } from "../limits";

const FIELDS = {
  name: text(200, {
    word: "the name",
    searched: true,
    needed: "A folder needs a name. Type one, or press Esc to keep the old one.",
  }),
  parentId: referenceOrNull<FolderId>(
    { to: "folders", dangling: "lies in a folder that is not there" },
    { word: "the place" },
  ),
  colour: closed<Colour | null>(
    { schema: COLOUR_OR_NULL, initial: null, samples: [null, ...COLOUR_NAMES] },
    { word: "the colour", says: dyed },
  ),
  open: flagOn(
    { on: "open", off: "folded" },
    { word: "what is folded", says: (who: string, open: boolean) => `${open ? "Unfold" : "Fold"} ${who}` },
  ),
  /** The bus that it sums into; null when it does not sum. */
  busId: referenceOrNull<ChannelId>(
    { to: "channels", kinds: ["bus"], dangling: "sums into a bus that is not there" },
    { word: "what it sums into", apart: true },
  ),
};

/** Folders hold tracks and folders. */
export const FOLDERS = described({
  one: "folder",
  many: "folders",
  most: MOST.folders,
  fields: FIELDS,
  order: { within: "parentId" },
  unique: [
    {
      key: (folder: Folder) => folder.busId,
      says: (folder: Folder) => `${folder.name} and another folder sum into one bus`,
    },
  ],
  nested: { by: "parentId", depth: MOST.depth },
  called: (folder: Folder) => folder.name,
  calls: {
    added: addTitled("folder"),
    moved: (
      [first]: readonly Folder[],
      { who, parent }: { readonly who: string; readonly parent: string | null },
      around: Around,
    ) =>
      first?.parentId === parent
        ? `Move the folder ${first.name}`
        : `Put the folder ${who} ${parent ? `in ${around.entry("folders", parent)?.name}` : "outside the others"}`,
  },
});

export interface Folder extends EntryOf<typeof FIELDS> {
  readonly id: FolderId;
  readonly order: string;
}
