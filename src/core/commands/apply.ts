import type { Template } from "../model/template";
import { TEMPLATE_JSON_SCHEMA, templateFaults } from "../model/template-schema";
import type { Command } from "./command";
import { engineOf } from "./engine";
import { findingHandlers } from "./finding-handlers";
import { folderHandlers } from "./folder-handlers";
import { brokenInvariants } from "./invariants";
import { lineHandlers } from "./line-handlers";
import { doubledPlaces, settlePlaces } from "./places";
import { restoreHandler } from "./restore-handler";
import { type StandingRules, standing } from "./standing";
import { templateHandlers } from "./template-handlers";
import { trackHandlers } from "./track-handlers";

const rules: StandingRules<Template> = {
  tables: ["lines", "channels", "folders", "accepted"],
  faults: templateFaults,
  broken: (doc) => [...brokenInvariants(doc), ...doubledPlaces(doc)],
  ruled: { lines: ["id", "portId", "requestedInput"], channels: ["id", "kind", "output", "folderId", "order", "input"], folders: ["id", "parentId", "order"], accepted: ["id"] },
};

/** Every edit of a template. */
export const templateEngine = engineOf<Template, Command>(
  {
    ...templateHandlers,
    ...trackHandlers,
    ...lineHandlers,
    ...folderHandlers,
    ...findingHandlers,
    "document.restore": restoreHandler({ ...rules, schema: TEMPLATE_JSON_SCHEMA, settle: settlePlaces }),
  },
  standing(rules),
);

export const COMMAND_KINDS = templateEngine.kinds;

/**
 * Does one command: a pure function of document and command. A command that changes nothing returns the same document.
 * A command that can't be done answers with a refusal; nothing is thrown and nothing half done.
 */
export const apply = templateEngine.apply;

/** Does several commands as one gesture: all or none. The inverse undoes them together. */
export const applyAll = templateEngine.applyAll;

/** Whether a command could be done, by the very code that would do it. */
export const canApply = templateEngine.canApply;
