import { nanoid } from "nanoid";
import type { RigCommand } from "@/core/commands/rig/rig-command";
import { api, ServiceError } from "../shared/api";

/** Edits a rig from a screen that is not its own: onto its newest revision. Answers null, or why it can't be done. */
export const doInRig = async (rigId: string, commands: readonly RigCommand[]): Promise<string | null> => {
  try {
    const { revision, savedAt } = await api.loadRig(rigId);
    await api.rigs.save(rigId, { base: revision, baseSavedAt: savedAt, batch: nanoid(12), commands });
    return null;
  } catch (error) {
    if (error instanceof ServiceError) return error.message;
    throw error;
  }
};
