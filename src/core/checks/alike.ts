import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { counted } from "../units/counted";
import type { CheckContext, Finding, Place } from "./finding";

/** From so many on, findings of one rule are told as one. */
const FROM = 4;

/** What is told of several, after their number; where nothing is said here, what each rule is about. */
const WORDS: Readonly<Record<string, readonly [one: string, many: string, says: string]>> = {
  "port-not-on-rig": ["line", "lines", "ask for inputs this rig has not"],
  "line-without-port": ["line", "lines", "have no input yet"],
  "level-not-accepted": ["line", "lines", "are on inputs that do not take their level"],
  "connector-not-accepted": ["line", "lines", "are on sockets that do not take their plug"],
  "phantom-missing": ["line", "lines", "need 48 V and do not get it by themselves"],
  "phantom-endangers": ["passive ribbon", "passive ribbons", "stand under 48 V"],
  "phantom-on-line": ["line source", "line sources", "have their phantom on"],
  "shared-port": ["line", "lines", "are on inputs that others have"],
  "shared-line": ["line", "lines", "are taken by several tracks, and nobody has said how"],
  "stereo-not-neighbours": ["stereo track", "stereo tracks", "are not on neighbouring inputs"],
  "track-name": ["track", "tracks", "have names that files can't carry"],
  "document-name": ["folder", "folders", "have names that a disk does not take"],
  "gain-misfits": ["line", "lines", "come at a level that does not suit their preamp"],
  "gain-out-of-range": ["line", "lines", "ask for a gain that their preamp has not"],
  "too-strong": ["line", "lines", "are louder than what takes them"],
  "pair-unlike": ["stereo track", "stereo tracks", "have two sides that are not alike"],
  "polarity-differs": ["stereo track", "stereo tracks", "have one side inverted"],
  "nothing-feeds": ["bus or return", "buses and returns", "are fed by nothing"],
  "beyond-full-scale": ["channel or cue", "channels and cues", "would likely peak beyond full scale where they leave"],
  "hears-late": ["way", "ways", "come late to those who play"],
  "hears-twice": ["line", "lines", "are heard twice by those who play them"],
  "cue-without-output": ["cue", "cues", "have no output"],
  "processor-missing": ["processor", "processors", "are asked for and not installed as asked for"],
  "colour-clash": ["pair of folders", "pairs of folders", "can't be told apart by their dyes"],
};

/** Places of many are named up to here. */
const MOST_PLACES = 20;

const together = (members: readonly Finding[]): Finding => {
  const [first] = members as readonly [Finding, ...Finding[]];
  const [one, many, says] = WORDS[first.rule] ?? ["thing", "things", `are told of the same: ${first.message}`];
  const places: readonly Place[] = members.flatMap((member) => member.places.slice(0, 1)).slice(0, MOST_PLACES);
  return {
    id: `${first.rule}:${first.severity}:alike`,
    rule: first.rule,
    severity: first.severity,
    message: `${counted(members.length, one, many)} ${says}.`,
    places,
    fixes: [],
    members,
  };
};

/** Findings with those that are alike as one, which stands where the first of them stood. Linear. */
export const alikeAsOne = (findings: readonly Finding[]): readonly Finding[] => {
  const groups = new Map<string, Finding[]>();
  for (const finding of findings) {
    const key = `${finding.rule} ${finding.severity}`;
    const there = groups.get(key);
    if (there) there.push(finding);
    else groups.set(key, [finding]);
  }
  return [...groups.values()].flatMap((group) => (group.length >= FROM ? [together(group)] : group));
};

/** What putting all of some findings right comes to: one act, and how many of them it clears. */
export interface FixAll {
  readonly edits: readonly Edit[];
  readonly cleared: number;
}

type Look = (context: CheckContext) => readonly Finding[];

const clearedBy = (look: Look, context: CheckContext, members: readonly Finding[]): number => {
  const left = new Set(look(context).map(({ id }) => id));
  return members.filter(({ id }) => !left.has(id)).length;
};

/** All first fixes at once, as they are offered; null where one stands in the way of another. */
const atOnce = (look: Look, context: CheckContext, members: readonly Finding[]): FixAll | null => {
  const edits = members.flatMap(({ fixes: [fix] }) => fix?.edits ?? []);
  const done = applyAll(context.doc, edits);
  if (!done.ok) return null;
  const before = look(context).length;
  const after = look({ ...context, doc: done.doc });
  const cleared = clearedBy(() => after, context, members);
  return cleared === members.filter(({ fixes }) => fixes.length > 0).length && after.length === before - cleared
    ? { edits, cleared }
    : null;
};

/** One after the other, each fix looked up anew from what the ones before left. */
const inTurn = (look: Look, context: CheckContext, members: readonly Finding[]): FixAll => {
  const edits: Edit[] = [];
  let now = context;
  for (const { id } of members) {
    const [fix] = look(now).find((one) => one.id === id)?.fixes ?? [];
    const done = fix ? applyAll(now.doc, fix.edits) : null;
    if (!fix || !done?.ok) continue;
    edits.push(...fix.edits);
    now = { ...now, doc: done.doc };
  }
  return { edits, cleared: clearedBy(look, now, members) };
};

/** More than this are not put right in turn in one act. */
const MOST_IN_TURN = 256;

/**
 * Puts all of some alike findings right in one act, each by its first fix. Where the fixes do not stand in each other's
 * way they are done as they are offered; else one after the other, up to 256 of them. `look` says what is wrong with a
 * template.
 */
export const fixAlike = (look: Look, context: CheckContext, members: readonly Finding[]): FixAll =>
  atOnce(look, context, members) ?? inTurn(look, context, members.slice(0, MOST_IN_TURN));
