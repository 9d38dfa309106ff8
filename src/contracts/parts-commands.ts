import "reflect-metadata";
import { Equals, IsNotEmpty } from "class-validator";
import type { RigCommandKind } from "@/core/commands/rig/rig-command";
import type { StudioCommand } from "@/core/commands/studio/apply-studio";
import { idOf } from "@/core/model/schema-parts";
import { Fits, Id, IdOrNull, ListOf, Patches, Text } from "./fields";

const partId = idOf(140);

/** Parts are held to the schema of their table by the commands themselves, which know the table; here only their shape is. */
const part = { type: "object", properties: { id: partId }, required: ["id"] };
const table = { type: "string", minLength: 1, maxLength: 40 };

export class RenameDocument {
  @Equals("document.rename") kind!: "document.rename";
  @Text(200) @IsNotEmpty() name!: string;
}

export class SetSettings {
  @Equals("settings.set") kind!: "settings.set";
  @Fits({ type: "object", minProperties: 1, maxProperties: 20 }) set!: object;
}

export class AddParts {
  @Equals("parts.add") kind!: "parts.add";
  @Fits({ type: "object", minProperties: 1, additionalProperties: { type: "array", maxItems: 2048, items: part } }) parts!: object;
}

export class SetParts {
  @Equals("parts.set") kind!: "parts.set";
  @Fits(table) table!: string;
  @ListOf(partId) ids!: string[];
  @Fits({ type: "object", minProperties: 1, maxProperties: 40 }) set!: object;
}

export class RemoveParts {
  @Equals("parts.remove") kind!: "parts.remove";
  @Fits(table) table!: string;
  @ListOf(partId) ids!: string[];
}

export class RestoreParts {
  @Equals("document.restore") kind!: "document.restore";
  @Text(400) undoes!: string;
  @Patches() patches!: object[];
}

export class StripRig {
  @Equals("rig.strip") kind!: "rig.strip";
}

export class NamePorts {
  @Equals("ports.name") kind!: "ports.name";
  @ListOf({ type: "object", properties: { portId: partId, name: { type: "string", maxLength: 60 } }, required: ["portId", "name"], additionalProperties: false }) names!: object[];
}

export class PlugLink {
  @Equals("links.plug") kind!: "links.plug";
  @Id() linkId!: string;
  @IdOrNull() deviceId!: string | null;
}

export const STUDIO_COMMAND_CLASSES: { readonly [K in StudioCommand["kind"]]: new () => { kind: K } } = {
  "document.rename": RenameDocument,
  "settings.set": SetSettings,
  "parts.add": AddParts,
  "parts.set": SetParts,
  "parts.remove": RemoveParts,
  "document.restore": RestoreParts,
};

export const RIG_COMMAND_CLASSES: { readonly [K in RigCommandKind]: new () => { kind: K } } = {
  ...STUDIO_COMMAND_CLASSES,
  "rig.strip": StripRig,
  "ports.name": NamePorts,
  "links.plug": PlugLink,
};

/** Names of the classes as the API description shows them; given by hand because a build shortens class names. */
export const PARTS_CLASS_NAMES: { readonly [K in RigCommandKind]: string } = {
  "document.rename": "RenameDocument",
  "settings.set": "SetSettings",
  "parts.add": "AddParts",
  "parts.set": "SetParts",
  "parts.remove": "RemoveParts",
  "document.restore": "RestoreParts",
  "rig.strip": "StripRig",
  "ports.name": "NamePorts",
  "links.plug": "PlugLink",
};
