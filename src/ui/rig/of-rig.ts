import type { RigTouches } from "@/contracts/answers";
import type { Told } from "../state/changes";

/**
 * Whether what is told may change which templates stand on a rig, or what is wrong with them. An edit of a template on
 * another rig does not, unless it stood on this one before.
 */
export const isOfRig = (told: Told, rigId: string, { templates }: RigTouches): boolean =>
  told === "again" ||
  (typeof told === "object" &&
    told.kind === "template" &&
    (told.on === undefined || told.on === rigId || templates.some(({ id }) => id === told.id)));
