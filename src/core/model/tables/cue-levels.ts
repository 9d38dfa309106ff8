import { choiceFrom, type EntryOf, flagOn, level, numberFrom, partOf } from "../describe/fields";
import { described, newEntry } from "../describe/table";
import type { ChannelId, CueId, CueLevelId } from "../ids";
import { MOST } from "../limits";
import { FADER_DB, PAN } from "./channel-fields";
import type { Tap } from "./sends";

const FIELDS = {
  cueId: partOf<CueId>(
    { to: "cues", dangling: "is a level in a cue that is not there", brings: true },
    { word: "the cue", apart: true },
  ),
  sourceId: partOf<ChannelId>(
    { to: "channels", dangling: "brings a channel that is not there into a cue", brings: true },
    { word: "what is heard", apart: true },
  ),
  levelDb: level({ ...FADER_DB, initial: -12 }, { word: "the level" }),
  pan: numberFrom<number>(PAN, { word: "the pan" }),
  /** Before the fader of the channel, as cues mostly are, or after it. */
  tap: choiceFrom<Tap>(["before", "after"], { word: "whether it is before or after the fader" }),
  on: flagOn({ on: "on", off: "off" }, { word: "the switch" }),
};

/** How loud each channel is in each cue. Levels of cues live here only. */
export const CUE_LEVELS = described({
  one: "cue level",
  many: "cue levels",
  most: MOST.cueLevels,
  fields: FIELDS,
  unique: [{ key: (at: CueLevel) => `${at.cueId} ${at.sourceId}`, says: () => "a channel is in one cue twice" }],
  called: () => null,
});

export interface CueLevel extends EntryOf<typeof FIELDS> {
  readonly id: CueLevelId;
}

/** A level that is on, with what it begins with where nothing is said. */
export const newCueLevel = (given: Partial<CueLevel> & Pick<CueLevel, "id" | "cueId" | "sourceId">): CueLevel =>
  newEntry(CUE_LEVELS, given) as unknown as CueLevel;
