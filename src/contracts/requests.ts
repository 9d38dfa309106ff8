import "reflect-metadata";
import { ArrayMaxSize, ArrayNotEmpty, IsArray, IsInt, IsNotEmpty, IsObject, Max, Min } from "class-validator";
import { JSONSchema } from "class-validator-jsonschema";
import { MEANINGS } from "@/core/formats/input-list/columns";
import { SESSION_KINDS } from "@/core/model/template";
import { COMMAND_CLASS_NAMES } from "./commands";
import { Id, ListOf, OneOf, Optional, Text } from "./fields";
import { PARTS_CLASS_NAMES } from "./parts-commands";

export class CreateTemplateRequest {
  @Optional() @Text(200) @IsNotEmpty() name?: string;
  @Optional() @OneOf(SESSION_KINDS) kind?: string;
  @Optional() @Id() rigId?: string;
  /** A template to copy; the copy keeps kind, rig and everything else. */
  @Optional() @Id() copyOf?: string;
  /** A starter to begin with, on the rig that is named. */
  @Optional() @Id() starter?: string;
}

export class CreateRigRequest {
  @Optional() @Text(200) @IsNotEmpty() name?: string;
  /** A rig to copy. */
  @Optional() @Id() copyOf?: string;
}

export class CommandsRequest {
  @IsInt() @Min(1) base!: number;
  /** Chosen by the sender: a batch that was saved although its answer got lost is recognised by it. */
  @Optional() @Id() batch?: string;
  @IsArray()
  @ArrayNotEmpty()
  @ArrayMaxSize(500)
  @IsObject({ each: true })
  @JSONSchema({
    items: {
      oneOf: [...new Set([...Object.values(COMMAND_CLASS_NAMES), ...Object.values(PARTS_CLASS_NAMES)])].map((name) => ({ $ref: `#/components/schemas/${name}` })),
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
  @Optional() @Id() rigId?: string;
  @Optional() @Text(200) @IsNotEmpty() name?: string;
  @Optional() @OneOf(SESSION_KINDS) kind?: string;
  /** The meaning of each column, in order, when the one found is to be corrected. */
  @Optional() @ArrayMaxSize(200) @ListOf({ enum: MEANINGS }) columns?: string[];
}

export class ExportQuery {
  @OneOf(["csv", "json", "pdf"]) format!: "csv" | "json" | "pdf";
}

export class NewerQuery {
  @IsInt() @Min(0) @Max(2_000_000_000) since!: number;
}
