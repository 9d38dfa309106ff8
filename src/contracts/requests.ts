import "reflect-metadata";
import { ArrayNotEmpty, IsArray, IsInt, IsNotEmpty, IsNumber, IsObject, Max, Min } from "class-validator";
import { JSONSchema } from "class-validator-jsonschema";
import { IMPORT_CHOICES, type ImportChoices } from "@/core/formats/input-list/import-choices";
import { MEANINGS } from "@/core/formats/input-list/meanings";
import { SESSION_KINDS } from "@/core/model/session-kinds";
import { SESSION } from "@/core/model/template";
import { ASKED, type Asked } from "@/core/queries/at-work";
import { SAMPLE_RATES_HZ } from "@/core/units/hertz";
import { Fits, Id, OneOf, Optional, Text } from "./fields";
import { NAMED_VERBS } from "./verb-schemas";

/** The largest number of a revision; the database keeps it in 31 bits. */
const MOST_REVISION = 2_147_483_647;

export class CreateTemplateRequest {
  /**
   * Chosen by the sender: when the answer got lost and the same is sent again, the same template is answered and no
   * second one is made.
   */
  @Optional() @Id() key?: string;
  @Optional() @Text(200) @IsNotEmpty() name?: string;
  @Optional() @OneOf(SESSION_KINDS) kind?: string;
  /**
   * Needed where there is a rig. In a studio that has none yet, one that fits is made of the devices that ship with it.
   */
  @Optional() @Id() rigId?: string;
  /** A template to copy; the copy keeps kind, rig and everything else. */
  @Optional() @Id() copyOf?: string;
  /** Which revision of it; the newest where nothing is said. */
  @Optional() @IsInt() @Min(1) @Max(MOST_REVISION) copyRevision?: number;
  /** A session becomes a template: without its date, what was recorded and the gains as they were set. */
  @Optional() @OneOf([true, false]) asTemplate?: boolean;
  /** A starter to begin with, on the rig that is named. */
  @Optional() @Id() starter?: string;
}

/** A version: which revision, and what it is called. */
export class KeepVersionRequest {
  /** The newest where nothing is said. */
  @Optional() @IsInt() @Min(1) @Max(MOST_REVISION) revision?: number;
  @Text(100) @IsNotEmpty() name!: string;
  @Optional() @Text(4000) note?: string;
  /** What was tried with it: "plugged in once, all heard". */
  @Optional() @Text(400) tried?: string;
  @Optional() @Text(80) by?: string;
}

/** A session: a copy of a template for a date, without what it does not need. */
export class StartSessionRequest {
  /** As for a template. */
  @Optional() @Id() key?: string;
  @Id() templateId!: string;
  /** Of which revision; the newest where nothing is said. */
  @Optional() @IsInt() @Min(1) @Max(MOST_REVISION) revision?: number;
  @Text(200) @IsNotEmpty() name!: string;
  @Fits(SESSION.date.schema) date!: string;
  @Optional() @Text(200) place?: string;
  /** Another rig than the template's. */
  @Optional() @Id() rigId?: string;
  /** Who comes. */
  @Optional() @Fits(SESSION.people.schema) people?: string[];
  /** Folders that are not needed: they go with all that only they used. */
  @Optional()
  @Fits({ type: "array", items: { type: "string", minLength: 1, maxLength: 64 }, maxItems: 400 })
  drop?: string[];
  @Optional() @Text(80) by?: string;
}

export class HistoryQuery {
  /** Only those before this revision. */
  @Optional() @IsInt() @Min(1) @Max(MOST_REVISION) before?: number;
  /** Words that must be found in what was done, or in who did it. */
  @Optional() @Text(200) query?: string;
}

/** Written down in the checker, as all patterns are. */
const UTC = "^[0-9]{4}-[0-9]{2}-[0-9]{2}T[0-9]{2}:[0-9]{2}:[0-9]{2}\\.[0-9]{3}Z$";

export class DeleteQuery {
  /** Who deletes it: told in the bin. */
  @Optional() @Text(80) by?: string;
}

export class EmptyBinQuery {
  /** Only what was deleted up to this time, as the bin told it: ISO 8601 in UTC. */
  @Fits({ type: "string", pattern: UTC, maxLength: 24 }) upTo!: string;
}

export class SessionsQuery {
  @Optional() @Text(200) query?: string;
  @Optional() @Text(200) cursor?: string;
}

export class CreateRigRequest {
  /** As for a template. */
  @Optional() @Id() key?: string;
  @Optional() @Text(200) @IsNotEmpty() name?: string;
  /** A rig to copy. */
  @Optional() @Id() copyOf?: string;
}

export class CommandsRequest {
  @IsInt() @Min(1) @Max(MOST_REVISION) base!: number;
  /**
   * Chosen by the sender: a batch that was saved although its answer got lost is recognised by it. The same one with
   * other commands is refused.
   */
  @Id() batch!: string;
  /**
   * When the base was saved, as it was told: a base of the same number that came to be at another time (the data were
   * restored from before) is none to build on.
   */
  @Optional() @Text(40) baseSavedAt?: string;
  /** What a person would call all of it together; without it, the commands are named one by one. */
  @Optional() @Text(400) name?: string;
  /** Who made it: the name of a device or person, kept with the revision and told to the others. */
  @Optional() @Text(80) by?: string;
  /** The version of gestures that the sender's are written in. A window of another age is told so. */
  @Optional() @IsInt() @Min(1) @Max(1_000_000) made?: number;
  @IsArray()
  @ArrayNotEmpty()
  @IsObject({ each: true })
  @JSONSchema({
    items: {
      oneOf: Object.keys(NAMED_VERBS).map((name) => ({ $ref: `#/components/schemas/${name}` })),
      discriminator: { propertyName: "kind" },
    } as never,
  })
  commands!: object[];
}

export class ListQuery {
  @Optional() @Text(200) query?: string;
  @Optional() @OneOf(SESSION_KINDS) kind?: string;
  @Optional() @Text(200) cursor?: string;
}

export class ImportRequest {
  /** As for a new template: the same file sent again under one key is read once. */
  @Optional() @Id() key?: string;
  @Optional() @Id() rigId?: string;
  @Optional() @Text(200) @IsNotEmpty() name?: string;
  @Optional() @OneOf(SESSION_KINDS) kind?: string;
  /** The meaning of each column, in order, when the one found is to be corrected. */
  @Optional() @Fits({ type: "array", items: { enum: MEANINGS }, minItems: 1, maxItems: 256 }) columns?: string[];
  /** What was answered, switched off and set in the preview. */
  @Optional() @Fits(IMPORT_CHOICES) choices?: ImportChoices;
}

export class ExportQuery {
  /** `raw`: the document as it is stored, readable or not. */
  @OneOf(["csv", "json", "pdf", "raw"]) format!: "csv" | "json" | "pdf" | "raw";
}

export class PreviewQuery {
  /** Tells what would come of it, and stores nothing. */
  @Optional() @OneOf(["true", "false"]) preview?: "true" | "false";
}

export class RawQuery {
  @Optional() @OneOf(["json", "raw"]) format?: "json" | "raw";
}

export class NewerQuery {
  @IsInt() @Min(0) @Max(MOST_REVISION) since!: number;
}

export class PathsQuery {
  /** Ids of channels. */
  @Id() from!: string;
  @Id() to!: string;
}

export class DelayQuery {
  /** Another rate and buffer than the template's, for this answer only. */
  @Optional() @OneOf(SAMPLE_RATES_HZ) rateHz?: number;
  @Optional() @IsInt() @Min(1) @Max(65_536) buffer?: number;
}

export class LevelsQuery {
  /** While recording, as mixed, or for a copy to listen to; while recording where nothing is said. */
  @Optional() @OneOf(ASKED) asked?: Asked;
}

export class StorageQuery {
  /** How long the evening is, and how often each thing is taken; else as the template says. */
  @Optional() @IsNumber() @Min(0.1) @Max(100) hours?: number;
  @Optional() @IsInt() @Min(1) @Max(999) takes?: number;
}

export class UsesQuery {
  /** The id of a dye that the studio added. */
  @Id() colour!: string;
}

export class ChainsQuery {
  /** The id of a channel; without it all that have a chain are told, short. */
  @Optional() @Id() channel?: string;
}
