import { enablePatches, produceWithPatches } from "immer";
import type { Template } from "../model/template";
import type { Applied, Command, CommandKind, Patch, Refusal } from "./command";
import { folderHandlers } from "./folder-handlers";
import type { Handler } from "./handler";
import { lineHandlers } from "./line-handlers";
import { restoreHandlers } from "./restore-handler";
import { templateHandlers } from "./template-handlers";
import { trackHandlers } from "./track-handlers";

enablePatches();

const HANDLERS: { readonly [K in CommandKind]: Handler<K> } = { ...templateHandlers, ...trackHandlers, ...lineHandlers, ...folderHandlers, ...restoreHandlers };

export const COMMAND_KINDS = Object.keys(HANDLERS) as readonly CommandKind[];

const handlerOf = <K extends CommandKind>(command: { readonly kind: K }): Handler<K> => HANDLERS[command.kind];

/** Whether a command could be done, by the very code that would do it. */
export const canApply = (doc: Template, command: Command): Refusal | null => handlerOf(command).check(doc, command as never);

/** What a person would call a command on this document. */
export const commandName = (doc: Template, command: Command): string => handlerOf(command).name(doc, command as never);

const toPatch = (patch: { op: Patch["op"]; path: (string | number)[]; value?: unknown }): Patch =>
  patch.op === "remove" ? { op: patch.op, path: patch.path } : { op: patch.op, path: patch.path, value: patch.value };

/**
 * Does one command: a pure function of document and command. A command that changes nothing returns the same document.
 * A command that can't be done answers with a refusal; nothing is thrown and nothing half done.
 */
export const apply = (doc: Template, command: Command): Applied => {
  const refusal = canApply(doc, command);
  if (refusal) return { ok: false, refusal };
  const name = commandName(doc, command);
  const [next, patches, inverse] = produceWithPatches(doc, (draft) => handlerOf(command).edit(draft, command as never));
  return { ok: true, doc: next, patches: patches.map(toPatch), inverse: inverse.map(toPatch), name };
};

/** Does several commands as one gesture: all or none. The inverse undoes them together. */
export const applyAll = (doc: Template, commands: readonly Command[]): Applied => {
  let result: Applied = { ok: true, doc, patches: [], inverse: [], name: "" };
  for (const command of commands) {
    const step = apply(result.doc, command);
    if (!step.ok) return step;
    result = { ok: true, doc: step.doc, patches: [...result.patches, ...step.patches], inverse: [...step.inverse, ...result.inverse], name: result.name || step.name };
  }
  return result;
};
