import { templateEngine } from "../../commands/template-engine";
import type { Template } from "../../model/template";
import { channelEdits } from "./channel-edits";
import type { Edit } from "./edit";
import { findingEdits } from "./finding-edits";
import { folderEdits } from "./folder-edits";
import { lineEdits } from "./line-edits";
import { editingOf } from "./plan-edits";
import { sendEdits } from "./send-edits";
import { templateEdits } from "./template-edits";
import { trackEdits } from "./track-edits";

/** Everything that people do to a template. */
export const templateEditing = editingOf<Template, Edit>(templateEngine, {
  ...templateEdits,
  ...trackEdits,
  ...lineEdits,
  ...folderEdits,
  ...channelEdits,
  ...sendEdits,
  ...findingEdits,
});

export const EDIT_KINDS = templateEditing.kinds;

export const { apply, applyAll, canDo } = templateEditing;
