import "reflect-metadata";
import { Equals, IsNotEmpty } from "class-validator";
import type { CommandKind } from "@/core/commands/command";
import { id, idOf } from "@/core/model/schema-parts";
import { SESSION_KINDS } from "@/core/model/template";
import { TEMPLATE_PARTS } from "@/core/model/template-schema";
import { Fits, Id, IdOrNull, Ids, ListOf, OneOf, Optional, Patches, Text } from "./fields";

const text = (maxLength: number) => ({ type: "string", maxLength });
const optional = (properties: Readonly<Record<string, unknown>>) => ({ type: "object", properties, additionalProperties: false, minProperties: 1 });
const SHARING = ["at-once", "by-turns"];

export class RenameTemplate {
  @Equals("template.rename") kind!: "template.rename";
  @Text(200) @IsNotEmpty() name!: string;
}

export class SetTemplate {
  @Equals("template.set") kind!: "template.set";
  @Optional() @OneOf(SESSION_KINDS) sessionKind?: string;
  @Optional() @Text(4000) note?: string;
  @Optional() @Fits(TEMPLATE_PARTS.formatChange) format?: object;
}

export class FitTemplate {
  @Equals("template.fit") kind!: "template.fit";
  @Id() rigId!: string;
  @Text(200) rigName!: string;
  @ListOf(TEMPLATE_PARTS.linePort, { min: 0 }) inputs!: object[];
  @ListOf(id, { min: 0 }) mainOutputs!: string[];
}

export class AddTracks {
  @Equals("tracks.add") kind!: "tracks.add";
  @ListOf(TEMPLATE_PARTS.newTrack) tracks!: object[];
  @ListOf(TEMPLATE_PARTS.line, { min: 0 }) lines!: object[];
  @IdOrNull() folderId!: string | null;
  @IdOrNull() before!: string | null;
}

export class SetTracks {
  @Equals("tracks.set") kind!: "tracks.set";
  @Ids() trackIds!: string[];
  @Fits(optional({ name: text(200), colour: TEMPLATE_PARTS.colour, icon: TEMPLATE_PARTS.icon, note: text(4000), output: TEMPLATE_PARTS.output })) set!: object;
}

export class MoveTracks {
  @Equals("tracks.move") kind!: "tracks.move";
  @Ids() trackIds!: string[];
  @IdOrNull() folderId!: string | null;
  @IdOrNull() before!: string | null;
}

export class RemoveTracks {
  @Equals("tracks.remove") kind!: "tracks.remove";
  @Ids() trackIds!: string[];
}

export class PairTracks {
  @Equals("tracks.pair") kind!: "tracks.pair";
  @Id() leftTrackId!: string;
  @Id() rightTrackId!: string;
}

export class SplitTrack {
  @Equals("tracks.split") kind!: "tracks.split";
  @Id() trackId!: string;
  @Id() newTrackId!: string;
}

export class TakeLines {
  @Equals("tracks.take") kind!: "tracks.take";
  @Id() trackId!: string;
  @Fits(TEMPLATE_PARTS.input) input!: object;
  @ListOf(TEMPLATE_PARTS.line, { min: 0 }) lines!: object[];
}

export class ShareLine {
  @Equals("tracks.share") kind!: "tracks.share";
  @Ids() trackIds!: string[];
  @OneOf(SHARING) sharing!: string;
}

export class SetLines {
  @Equals("lines.set") kind!: "lines.set";
  @Ids() lineIds!: string[];
  @Fits(optional(TEMPLATE_PARTS.lineFields)) set!: object;
}

export class ShiftLines {
  @Equals("lines.shift") kind!: "lines.shift";
  @Ids() lineIds!: string[];
  @Fits({ type: "number", minimum: -60, maximum: 60 }) gainDb!: number;
}

export class PatchLines {
  @Equals("lines.patch") kind!: "lines.patch";
  @ListOf(TEMPLATE_PARTS.linePort) inputs!: object[];
}

export class JoinLines {
  @Equals("lines.join") kind!: "lines.join";
  @Id() keepId!: string;
  @Id() dropId!: string;
  @OneOf(SHARING) sharing!: string;
}

export class AddFolders {
  @Equals("folders.add") kind!: "folders.add";
  @ListOf(TEMPLATE_PARTS.newFolder) folders!: object[];
  @IdOrNull() parentId!: string | null;
}

export class SetFolders {
  @Equals("folders.set") kind!: "folders.set";
  @Ids() folderIds!: string[];
  @Fits(optional({ name: text(200), colour: TEMPLATE_PARTS.colour, open: { type: "boolean" } })) set!: object;
}

export class MoveFolder {
  @Equals("folders.move") kind!: "folders.move";
  @Id() folderId!: string;
  @IdOrNull() parentId!: string | null;
  @IdOrNull() before!: string | null;
}

export class RemoveFolder {
  @Equals("folders.remove") kind!: "folders.remove";
  @Id() folderId!: string;
}

export class AcceptFindings {
  @Equals("findings.accept") kind!: "findings.accept";
  @ListOf(TEMPLATE_PARTS.acceptance) findings!: object[];
}

export class ReopenFindings {
  @Equals("findings.reopen") kind!: "findings.reopen";
  @ListOf(idOf(300)) findingIds!: string[];
}

export class RestoreDocument {
  @Equals("document.restore") kind!: "document.restore";
  @Text(400) undoes!: string;
  @Patches() patches!: object[];
}

/** The request class of every kind of command. Typed by the union: a kind without a class does not compile. */
export const COMMAND_CLASSES: { readonly [K in CommandKind]: new () => { kind: K } } = {
  "template.rename": RenameTemplate,
  "template.set": SetTemplate,
  "template.fit": FitTemplate,
  "tracks.add": AddTracks,
  "tracks.set": SetTracks,
  "tracks.move": MoveTracks,
  "tracks.remove": RemoveTracks,
  "tracks.pair": PairTracks,
  "tracks.split": SplitTrack,
  "tracks.take": TakeLines,
  "tracks.share": ShareLine,
  "lines.set": SetLines,
  "lines.shift": ShiftLines,
  "lines.patch": PatchLines,
  "lines.join": JoinLines,
  "folders.add": AddFolders,
  "folders.set": SetFolders,
  "folders.move": MoveFolder,
  "folders.remove": RemoveFolder,
  "findings.accept": AcceptFindings,
  "findings.reopen": ReopenFindings,
  "document.restore": RestoreDocument,
};

/** Names of the classes as the API description shows them; given by hand because a build shortens class names. */
export const COMMAND_CLASS_NAMES: { readonly [K in CommandKind]: string } = {
  "template.rename": "RenameTemplate",
  "template.set": "SetTemplate",
  "template.fit": "FitTemplate",
  "tracks.add": "AddTracks",
  "tracks.set": "SetTracks",
  "tracks.move": "MoveTracks",
  "tracks.remove": "RemoveTracks",
  "tracks.pair": "PairTracks",
  "tracks.split": "SplitTrack",
  "tracks.take": "TakeLines",
  "tracks.share": "ShareLine",
  "lines.set": "SetLines",
  "lines.shift": "ShiftLines",
  "lines.patch": "PatchLines",
  "lines.join": "JoinLines",
  "folders.add": "AddFolders",
  "folders.set": "SetFolders",
  "folders.move": "MoveFolder",
  "folders.remove": "RemoveFolder",
  "findings.accept": "AcceptFindings",
  "findings.reopen": "ReopenFindings",
  "document.restore": "RestoreDocument",
};
