import type { ChannelId, CueId, FolderId, LineId, PassId, TemplateId } from "../model/ids";
import { linesOf } from "../model/read-template";
import type { Rig } from "../model/rig";
import type { Studio } from "../model/studio";
import type { Line } from "../model/tables/lines";
import type { OwnColour } from "../model/tables/own-colours";
import type { Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import type { Read } from "./reads";

export type Severity = "problem" | "hint";

/** Where a finding is: a thing, and the field of it that is meant. */
export type Place =
  | { readonly kind: "line"; readonly id: LineId; readonly field: "input" | "phantom" | "microphone" | "room" | "gain" }
  | { readonly kind: "track"; readonly id: ChannelId; readonly field: "name" | "input" | "colour" }
  /** Any channel, by how it is routed and mixed. */
  | {
      readonly kind: "channel";
      readonly id: ChannelId;
      readonly field: "output" | "sends" | "fader" | "name" | "chain";
    }
  /** A cue: what is heard in it, where it goes out, or who hears it. */
  | { readonly kind: "cue"; readonly id: CueId; readonly field: "delay" | "sources" | "output" | "people" | "level" }
  /** A pass: what it arms, or how long its takes are. */
  | { readonly kind: "pass"; readonly id: PassId; readonly field: "tracks" | "takes" }
  | { readonly kind: "folder"; readonly id: FolderId; readonly field: "name" | "colour" }
  | {
      readonly kind: "template";
      readonly id: TemplateId;
      readonly field: "name" | "format" | "buffer" | "disk" | "rig";
    };

export interface Fix {
  /** What it does, as a button says it. */
  readonly label: string;
  readonly edits: readonly Edit[];
}

export interface Finding {
  /** Stays the same while the same rule speaks of the same things. */
  readonly id: string;
  readonly rule: string;
  readonly severity: Severity;
  /** A sentence for a person: what, where, and what it means. */
  readonly message: string;
  readonly places: readonly Place[];
  readonly fixes: readonly Fix[];
  /** Of several that are alike: each of them, as it would be told by itself. */
  readonly members?: readonly Finding[];
}

/** What checks look at. The other rigs of the studio are there so that a fix can offer one that fits. */
export interface CheckContext {
  readonly doc: Template;
  readonly rig: Rig;
  /** The rig that the template names is not here; `rig` is one without devices. */
  readonly rigMissing?: boolean;
  readonly otherRigs: readonly Rig[];
  /** Dyes that the studio added. */
  readonly ownColours?: readonly OwnColour[];
  /** What the studio says of people, targets and how loud families play; without it as a new studio does. */
  readonly studio?: Studio;
}

/** One rule: judgement, not law. What must always hold is refused by commands. */
export interface Check {
  readonly id: string;
  readonly why: string;
  /**
   * What of a template it hangs on, besides the rig and the studio: for as long as nothing of that changes it has the
   * same to say.
   */
  readonly reads: readonly Read[];
  /**
   * A rule that says of each line what it has to say; by these fields of its entry a line changes nothing but what is
   * said of itself.
   */
  readonly ofLine?: { readonly reads: readonly Read[]; say(context: CheckContext, line: Line): readonly Finding[] };
  /** Looks at nothing of the rig, and has its say when the rig is not here as well. */
  readonly withoutRig?: true;
  check(context: CheckContext): readonly Finding[];
}

/**
 * A finding, known by its rule and what it is about: the first of its places, as against what it clashes with, or a
 * thing that is named.
 */
export const finding = (
  rule: string,
  { about, ...rest }: Omit<Finding, "id" | "rule"> & { readonly about?: string },
): Finding => ({
  id: `${rule}:${about ?? rest.places[0]?.id ?? ""}`,
  rule,
  ...rest,
});

/** A rule that goes through the lines, one after the other; of most of them it has nothing to say. */
export const overLines = (rule: Omit<Check, "check"> & Required<Pick<Check, "ofLine">>): Check => ({
  ...rule,
  check: (context) => linesOf(context.doc).flatMap((line) => rule.ofLine.say(context, line)),
});

/** How many findings are problems, and how many are hints. */
export const countFindings = (
  findings: readonly Pick<Finding, "severity">[],
): { readonly problems: number; readonly hints: number } => {
  const problems = findings.filter((finding) => finding.severity === "problem").length;
  return { problems, hints: findings.length - problems };
};
