import { wheelhouseCart } from "../demo/rigs";
import type { Colour } from "../model/colours";
import { type ChannelId, type FolderId, type LineId, sequentialIds, type TemplateId } from "../model/ids";
import { findRigInput, monitorOutputs } from "../model/read-rig";
import type { Rig } from "../model/rig";
import { newLine } from "../model/tables/lines";
import { emptyTemplate, type Template } from "../model/template";
import type { Edit } from "../planning/edits/edit";
import { applyAll } from "../planning/edits/template-editing";
import { readMicrophone } from "../reading/read-cells";
import type { Decibels } from "../units/decibels";

interface TrackOptions {
  /** One label, or two for stereo; a label the rig lacks is kept as asked for. */
  readonly input?: string | readonly [string, string];
  readonly microphone?: string;
  readonly phantom?: boolean;
  readonly folder?: string;
  readonly player?: string;
  readonly room?: string;
  readonly gainDb?: Decibels;
  readonly colour?: Colour;
  readonly note?: string;
}

/**
 * Builds templates for tests: `aTemplate().track("Fiddle", {input: "9"}).build()`. Ids are in sequence: track-1,
 * line-1, folder-1.
 */
export class TemplateBuilder {
  private readonly ids = sequentialIds();
  private readonly commands: Edit[] = [];
  private readonly folders = new Map<string, FolderId>();

  constructor(readonly rig: Rig) {}

  folder(name: string, colour: Colour | null = null): this {
    const id = this.ids<FolderId>("folder");
    this.folders.set(name, id);
    this.commands.push({ kind: "entries.add", entries: { folders: [{ id, name, colour }] } });
    return this;
  }

  track(name: string, options: TrackOptions = {}): this {
    const labels =
      options.input === undefined ? [null] : typeof options.input === "string" ? [options.input] : options.input;
    const lines = labels.map((label) => {
      const rigInput = label === null ? null : findRigInput(this.rig, label);
      return newLine({
        id: this.ids<LineId>("line"),
        source: name,
        microphone: readMicrophone(this.rig, options.microphone ?? ""),
        portId: rigInput?.port.id ?? null,
        requestedInput: rigInput ? null : label,
        phantom: options.phantom ?? false,
        player: options.player ?? "",
        room: options.room ?? "",
        gainDb: options.gainDb ?? null,
      });
    });
    const [left, right] = lines;
    const input =
      left && right
        ? ({ kind: "pair", leftId: left.id, rightId: right.id } as const)
        : left
          ? ({ kind: "line", lineId: left.id } as const)
          : ({ kind: "none" } as const);
    const track = {
      id: this.ids<ChannelId>("track"),
      name,
      note: options.note ?? "",
      colour: options.colour ?? null,
      icon: null,
      input,
      sharing: null,
    };
    this.commands.push({
      kind: "tracks.add",
      tracks: [track],
      lines,
      folderId: (options.folder && this.folders.get(options.folder)) || null,
      before: null,
    });
    return this;
  }

  /** A second track on a line that is there. */
  trackOnLine(name: string, lineId: string): this {
    const track = {
      id: this.ids<ChannelId>("track"),
      name,
      note: "",
      colour: null,
      icon: null,
      input: { kind: "line", lineId: lineId as LineId } as const,
      sharing: null,
    };
    this.commands.push({ kind: "tracks.add", tracks: [track], lines: [], folderId: null, before: null });
    return this;
  }

  does(command: Edit): this {
    this.commands.push(command);
    return this;
  }

  build(): Template {
    const empty = emptyTemplate({
      id: "template-1" as TemplateId,
      name: "Evening",
      kind: "band",
      rigId: this.rig.id,
      mainOutputs: monitorOutputs(this.rig),
    });
    const made = applyAll(empty, this.commands);
    if (!made.ok) throw new Error(`expected the template to build, got: ${made.refusal.message}`);
    return made.doc;
  }
}

export const aTemplate = (rig: Rig = wheelhouseCart): TemplateBuilder => new TemplateBuilder(rig);
