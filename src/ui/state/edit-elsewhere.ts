import { nanoid } from "nanoid";
import { GESTURE_VERSION } from "@/core/commands/gesture-version";
import type { Editing } from "@/core/planning/edits/plan-edits";
import { ServiceError } from "../shared/api";
import type { Remote } from "./saver";

interface Elsewhere<D, E extends { readonly kind: string }> {
  readonly remote: Pick<Remote<D>, "load" | "save">;
  readonly editing: Editing<D, E>;
  readonly id: string;
}

/**
 * Edits a document from a screen that is not its own: onto its newest revision, which may be newer than what the screen
 * shows.
 */
export const editElsewhere = async <D, E extends { readonly kind: string }>(
  { remote, editing, id }: Elsewhere<D, E>,
  edits: readonly E[],
): Promise<void> => {
  const { revision, savedAt, document } = await remote.load(id);
  const planned = editing.plan(document, edits);
  if (!planned.ok) throw new ServiceError(422, planned.refusal.message);
  const name = (planned.names[0] ?? "").slice(0, 400);
  await remote.save(id, {
    base: revision,
    baseSavedAt: savedAt,
    batch: nanoid(12),
    made: GESTURE_VERSION,
    name,
    commands: planned.commands,
  });
};
