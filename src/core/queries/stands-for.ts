import { plain } from "../model/families";
import { perText } from "../model/per-document";

/** Words of what stands before its family on purpose, and of buses that are for the others of it. */
const IN_FRONT = ["lead", "solo", "narrator", "main", "soliste", "haupt"];
const FOR_OTHERS = ["backing", "choir", "bv", "bvs", "bgv", "harmony", "harmonies", "chorus", "chor", "layers"];

/** Whether a name tells of what stands in front of the others of its family, and whether of those others. */
export const standsFor = perText((name: string): { readonly inFront: boolean; readonly others: boolean } => {
  const words = plain(name).split(" ");
  return {
    inFront: words.some((word) => IN_FRONT.includes(word)),
    others: words.some((word) => FOR_OTHERS.includes(word)),
  };
});
