import { studioEngine } from "../../commands/studio-engine";
import type { EntryOf } from "../../model/describe/fields";
import { STUDIO, type Studio, type StudioTables } from "../../model/studio";
import { type EntryEdit, type EntryPlanners, entryEdits } from "./entry-edits";
import { editingOf } from "./plan-edits";

export type StudioEdit = EntryEdit<Omit<EntryOf<typeof STUDIO.header>, "name">, StudioTables>;

/** Everything that people do to the studio. */
export const studioEditing = editingOf<Studio, StudioEdit>(studioEngine, {
  ...(entryEdits<Studio>(STUDIO) as EntryPlanners<Studio, StudioEdit>),
});
