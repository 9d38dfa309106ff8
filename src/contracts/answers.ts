import type { Finding } from "@/core/checks/finding";
import type { Command } from "@/core/commands/command";
import type {
  Balance,
  Column,
  Mark,
  OutsideBlock,
  Question,
  Report,
  SourceRow,
} from "@/core/formats/input-list/list-types";
import type { Lesson } from "@/core/lessons/lessons";
import type { Colour } from "@/core/model/colours";
import type { Family } from "@/core/model/families";
import type { LineId, PortId, RigId, TemplateId } from "@/core/model/ids";
import type { Rig } from "@/core/model/rig";
import type { SessionKind } from "@/core/model/session-kinds";
import type { Studio } from "@/core/model/studio";
import type { SessionState, Template } from "@/core/model/template";

/** What the service answers with. Shared by the routes and the windows; dates are ISO 8601 in UTC. */
export interface TemplateSummary {
  readonly id: TemplateId;
  readonly name: string;
  readonly kind: SessionKind;
  readonly rig: { readonly id: RigId; readonly name: string };
  readonly rateAndDepth: string;
  readonly inputs: number;
  readonly tracks: number;
  readonly selvedge: readonly Colour[];
  readonly tags: readonly string[];
  /** Null where it is not judged: yet, or not at all. */
  readonly problems: number | null;
  readonly hints: number | null;
  /** Why it can't be judged as it is; null where it is judged, or will be in a moment. */
  readonly unjudged: string | null;
  readonly changedAt: string;
  readonly revision: number;
  /** Why it can't be opened; null for one that can. */
  readonly unreadable: string | null;
}

export interface TemplateList {
  readonly templates: readonly TemplateSummary[];
  /** For the next page; null on the last. */
  readonly cursor: string | null;
  readonly total: number;
}

/** A template that was brought back, with the name of its rig where that was deleted as well and came back with it. */
export type BroughtBack = TemplateState & { readonly rigBroughtBack: string | null };

export interface TemplateState {
  readonly revision: number;
  readonly savedAt: string;
  readonly document: Template;
}

/** A revision that came after the base of a stale save. */
export interface Newer {
  readonly revision: number;
  readonly savedAt: string;
  readonly batch: string | null;
  readonly names: readonly string[];
  /** Who made it, as they told; empty where nobody was asked. */
  readonly by: string;
  /** Of the first revision of a copy: of what it is one. */
  readonly origin: { readonly kind: string; readonly id: string; readonly revision: number } | null;
  readonly commands: readonly Command[];
}

export interface NewerAnswer {
  /**
   * The newest revision here. One below what a window knows means that the data were restored from before, or started
   * afresh.
   */
  readonly head: number;
  /** When the revision that was asked from was saved here; null when there is none of that number. */
  readonly sinceSavedAt: string | null;
  readonly newer: readonly Newer[];
  /** Whether there are more than were answered; ask again from the last of them. */
  readonly more: boolean;
}

export interface Saved {
  readonly revision: number;
  readonly savedAt: string;
}

/** What a batch became that was put on the newest revision, with what came between it and its base. */
export interface SavedOn extends Saved {
  /** Of the document that was saved: the window holds its own to it. */
  readonly hash: string;
  readonly newer?: readonly Newer[];
}

export interface RigSummary {
  readonly id: RigId;
  readonly name: string;
  readonly inputs: number;
  readonly devices: number;
  readonly templates: number;
  readonly revision: number;
  readonly unreadable: string | null;
}

export interface RigList {
  readonly rigs: readonly RigSummary[];
}

export interface RigState {
  readonly revision: number;
  readonly savedAt: string;
  readonly document: Rig;
}

/** The templates that stand on a rig, with the ports their lines are on. */
export interface RigTouches {
  readonly revision: number;
  /** How many there are; those that were changed last are looked at one by one. */
  readonly total: number;
  readonly templates: readonly {
    readonly id: TemplateId;
    readonly name: string;
    readonly lines: readonly { readonly id: LineId; readonly portId: PortId | null }[];
    readonly problems: number;
    readonly hints: number;
  }[];
}

export interface StudioState {
  readonly revision: number;
  readonly savedAt: string;
  readonly document: Studio;
}

export interface FindingsAnswer {
  readonly revision: number;
  readonly findings: readonly Finding[];
}

export interface PreviewRow {
  /** By which a cell that is set in the preview is sent back. */
  readonly key: string;
  readonly row: number;
  /** All rows of the file that it was made of. */
  readonly from: readonly number[];
  readonly inputs: readonly string[];
  readonly track: string;
  readonly source: string;
  readonly microphone: string;
  readonly phantom: boolean;
  readonly polarity: boolean;
  readonly pad: boolean;
  readonly layout: "mono" | "stereo";
  readonly player: string;
  readonly folder: string;
  readonly colour: Colour;
  readonly family: Family | null;
  readonly note: string;
  /** What is not sure of its cells, and how. */
  readonly marks: readonly Mark[];
  /** Why it could not be placed as asked; null when it was. */
  readonly trouble: string | null;
}

export interface ImportPreview {
  readonly name: string;
  readonly rigId: RigId;
  /** How the cells of the file stand apart, in words. */
  readonly by: string;
  /** The sheets of a spreadsheet and the one that is read; none of a text. */
  readonly sheets: readonly string[];
  readonly sheet: number;
  readonly columns: readonly Column[];
  /** By which what was corrected is remembered; empty where the list has no headings. */
  readonly headings: string;
  /** The columns are taken as they were corrected in a list of the same headings. */
  readonly remembered: boolean;
  readonly rows: readonly PreviewRow[];
  readonly questions: readonly Question[];
  readonly outside: readonly OutsideBlock[];
  readonly source: readonly SourceRow[];
  readonly balance: Balance;
  /** What stands in the way of using it at all, for a person. */
  readonly fatal: readonly string[];
  readonly report: Report;
}

export interface Imported {
  readonly template: { readonly id: TemplateId; readonly name: string };
  readonly report: Report;
}

/** RFC 9457. `newer` comes with 409, `errors` point to fields. */
export interface Problem {
  readonly type: string;
  readonly title: string;
  readonly status: number;
  readonly detail: string;
  readonly errors?: readonly { readonly pointer: string; readonly detail: string }[];
  readonly newer?: readonly Newer[];
  readonly head?: number;
  readonly parted?: boolean;
  /** Window and server are of different age. */
  readonly renewed?: boolean;
}

/** How many templates use a dye that the studio added. */
export interface ColourUses {
  readonly colour: string;
  readonly templates: number;
}

/** A revision that was kept under a name. */
export interface Version {
  readonly revision: number;
  readonly name: string;
  readonly note: string;
  readonly tried: string;
  readonly by: string;
  /** When it was kept, and when what it names was saved. */
  readonly at: string;
  readonly savedAt: string;
}

/** A session as it is listed. */
export interface SessionSummary {
  readonly id: string;
  readonly name: string;
  readonly date: string;
  readonly place: string;
  readonly state: SessionState;
  readonly selvedge: readonly Colour[];
  readonly inputs: number;
  readonly tracks: number;
  readonly rig: { readonly id: string; readonly name: string };
  /** What it is a copy of; null where that is not known. */
  readonly from: { readonly id: string; readonly name: string; readonly revision: number } | null;
  readonly revision: number;
}

export interface SessionList {
  readonly sessions: readonly SessionSummary[];
  readonly cursor: string | null;
}

/** What became of a template: its versions, sessions, and what branched off. */
export interface Life {
  readonly id: string;
  readonly name: string;
  /** The newest revision, and when it was saved. */
  readonly head: number;
  readonly savedAt: string;
  /** When the first revision was saved. */
  readonly beganAt: string;
  readonly versions: readonly Version[];
  readonly sessions: readonly SessionSummary[];
  /** Templates that began as a copy of this one. */
  readonly descendants: readonly {
    readonly id: string;
    readonly name: string;
    readonly revision: number;
    readonly at: string;
  }[];
  /** What this one began as a copy of. */
  readonly ancestor: {
    readonly id: string;
    readonly name: string;
    readonly revision: number;
    readonly gone: boolean;
  } | null;
}

/** A gesture as it was saved. */
export interface Done {
  readonly revision: number;
  readonly savedAt: string;
  readonly names: readonly string[];
  readonly by: string;
  /** The name it was kept under, where it was. */
  readonly version: string | null;
}

export interface HistoryAnswer {
  readonly head: number;
  readonly done: readonly Done[];
  /** Ask again with this as `before`; null when that was all. */
  readonly before: number | null;
}

export interface LessonsAnswer {
  readonly revision: number;
  /** Sessions that are done and were counted, and those that were not, as they are too many or too large. */
  readonly sessions: number;
  readonly uncounted: number;
  readonly lessons: readonly Lesson[];
  /** How many differences of each session could be carried back, by its id. */
  readonly differences: Readonly<Record<string, number>>;
}

/** A revision as it was. */
export interface RevisionState extends TemplateState {
  /** The newest one, and the name this one was kept under. */
  readonly head: number;
  readonly version: string | null;
}

/** What was deleted and can be brought back. */
export interface Binned {
  readonly kind: "template" | "session" | "rig";
  readonly id: string;
  readonly name: string;
  readonly at: string;
  /** Who deleted it, where they told. */
  readonly by: string;
}

export interface BinAnswer {
  readonly binned: readonly Binned[];
}
