import type { ChannelId } from "../model/ids";
import { lineName } from "../model/line-name";
import { linesOfTrack, microphoneName, trackOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Track } from "../model/tables/channels";
import type { Template } from "../model/template";
import { inputText } from "../queries/cells";
import { counted } from "../units/counted";
import { blankOr, dropEnds } from "../units/ends";
import { type Planned, planned, unplanned } from "./gesture";

export const NAME_TOKENS = ["source", "microphone", "player", "input", "folder", "number"] as const;
type NameToken = (typeof NAME_TOKENS)[number];

const joined = (values: readonly string[]): string => [...new Set(values.filter(Boolean))].join(" + ");

const valuesOf = (
  doc: Template,
  rig: Rig,
  { track, number }: { readonly track: Track; readonly number: number },
): Readonly<Record<NameToken, string>> => {
  const lines = linesOfTrack(doc, track);
  return {
    source: joined(lines.map((line) => line.source)) || (lines[0] ? lineName(lines[0], [track]) : track.name),
    microphone: joined(lines.map((line) => microphoneName(rig, line.microphone))),
    player: joined(lines.map((line) => line.player)),
    input: inputText(doc, rig, track),
    folder: (track.folderId && doc.folders[track.folderId]?.name) || "",
    number: String(number),
  };
};

/** Whether a pattern has a part in braces. */
export const hasToken = (pattern: string): boolean => /\{[^{}]{1,40}\}/.test(pattern);

/**
 * The name a pattern gives: each token in braces becomes what the track has of it; what it has not leaves no gap. Null
 * when a token is unknown.
 */
const fill = (pattern: string, values: Readonly<Record<string, string>>): string | null => {
  let unknown = false;
  const text = pattern.replace(/\{([^{}]{0,40})\}/g, (_all, token: string) => {
    const value = values[token.trim().toLowerCase()];
    if (value === undefined) unknown = true;
    return value ?? "";
  });
  return unknown
    ? null
    : dropEnds(
        text
          .replace(/\s+/g, " ")
          .replace(/\( ?\)|\[ ?\]/g, "")
          .replace(/\s+/g, " "),
        blankOr(",–-"),
      );
};

/** The first and the last names that a pattern would give, one a line, or why it gives none. */
export const namesPreview = (
  doc: Template,
  rig: Rig,
  request: { readonly trackIds: readonly ChannelId[]; readonly pattern: string },
): string => {
  const plan = nameByPattern(doc, rig, request);
  if (!plan.ok) return plan.message;
  const names = plan.gesture.edits.flatMap((edit) =>
    edit.kind === "entries.set" && edit.table === "channels" && edit.ids[0]
      ? [`${trackOf(doc, edit.ids[0])?.name ?? ""} → ${edit.set.name ?? ""}`]
      : [],
  );
  const kept = request.trackIds.length - names.length;
  const shown = names.length > 6 ? [...names.slice(0, 3), `… ${names.length - 5} more …`, ...names.slice(-2)] : names;
  return [
    ...shown,
    ...(kept > 0
      ? [`${counted(kept, "track")} of which nothing is known ${kept === 1 ? "keeps its name" : "keep their names"}`]
      : []),
  ].join("\n");
};

/**
 * Names tracks by a pattern such as `{source} {microphone}`. Names that come out alike are numbered; a track of which
 * nothing is known keeps its name.
 * @example "{source}, {player}" // "Fiddle, Wynn Solari"
 */
export const nameByPattern = (
  doc: Template,
  rig: Rig,
  { trackIds, pattern }: { readonly trackIds: readonly ChannelId[]; readonly pattern: string },
): Planned => {
  if (!hasToken(pattern))
    return unplanned(
      `A pattern needs a part that differs from track to track: ${NAME_TOKENS.map((token) => `{${token}}`).join(", ")}.`,
    );
  const used = new Map<string, number>();
  const named: { readonly id: ChannelId; readonly name: string }[] = [];
  for (const [at, id] of trackIds.entries()) {
    const track = trackOf(doc, id);
    if (!track) continue;
    const base = fill(pattern, valuesOf(doc, rig, { track, number: at + 1 }));
    if (base === null)
      return unplanned(`A pattern knows these parts: ${NAME_TOKENS.map((token) => `{${token}}`).join(", ")}.`);
    if (!base) continue;
    const count = (used.get(base.toLowerCase()) ?? 0) + 1;
    used.set(base.toLowerCase(), count);
    named.push({ id, name: count > 1 ? `${base} ${count}` : base });
  }
  if (!named.length) return unplanned("Nothing is known of these tracks that the pattern asks for.");
  return planned(
    named.map(({ id, name }) => ({ kind: "entries.set", table: "channels", ids: [id], set: { name } })),
    `Name ${counted(named.length, "track")} by pattern`,
  );
};
