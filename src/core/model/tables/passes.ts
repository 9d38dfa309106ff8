import { addTitled } from "../describe/calls";
import { type EntryOf, flag, name, numberFrom, referenceOrNull, references, text } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { ChannelId, CueId, FolderId, PassId } from "../ids";
import { MOST } from "../limits";

const TRACKS = { to: "channels", kinds: ["track"], most: MOST.tracks } as const;

const FIELDS = {
  name: name(200, {
    word: "the name",
    needed: "A pass needs a name, for example what is sung in it.",
  }),
  /** Tracks that are armed together. */
  trackIds: references<ChannelId>({ ...TRACKS, dangling: "arms a track that is not there" }, { word: "what is armed" }),
  /** Tracks that are parked while it runs. */
  parkedIds: references<ChannelId>(
    { ...TRACKS, dangling: "parks a track that is not there" },
    { word: "what is parked" },
  ),
  /** Cues that are used; none means all of them. */
  cueIds: references<CueId>(
    { to: "cues", dangling: "uses a cue that is not there", most: MOST.cues },
    { word: "the cues" },
  ),
  /** The family that is open on the screen while it runs. */
  openFolderId: referenceOrNull<FolderId>(
    { to: "folders", dangling: "opens a folder that is not there" },
    { word: "the open folder" },
  ),
  /** Minutes of takes: how long each is by how many there will be. */
  takeMinutes: numberFrom<number>({ min: 0.1, max: 600, initial: 4 }, { word: "the length of a take" }),
  takes: numberFrom<number>({ min: 1, max: 999, whole: true, initial: 3 }, { word: "the number of takes" }),
  /** The one that runs now. */
  running: flag({ on: "running", off: "waiting" }, { word: "the pass that runs", apart: true }),
  /** It was recorded, of a session. */
  ran: flag(
    { on: "recorded", off: "not recorded" },
    {
      word: "what was recorded",
      says: (who: string, ran: boolean) =>
        `${who.charAt(0).toUpperCase()}${who.slice(1)} ${ran ? "was" : "was not"} recorded`,
    },
  ),
  note: text(4000, { word: "the note" }),
};

/** Which tracks are armed together, in the order in which they are recorded. */
export const PASSES = described({
  one: "pass",
  many: "passes",
  most: MOST.passes,
  fields: FIELDS,
  order: { within: null },
  unique: [{ key: (pass: Pass) => (pass.running ? "runs" : null), says: () => "two passes run at once" }],
  called: (pass: Pass) => pass.name,
  calls: { added: addTitled("pass", "passes") },
});

export interface Pass extends EntryOf<typeof FIELDS> {
  readonly id: PassId;
  readonly order: string;
}

export type NewPass = Omit<Pass, "order">;

/** A pass with what it begins with where nothing is said. */
export const newPass = (given: Partial<NewPass> & Pick<Pass, "id" | "name">): NewPass =>
  newEntry(PASSES, given) as unknown as NewPass;
