import { plainTexts } from "@/core/reading/plain-text";
import { Failure } from "../services/failure";

/** How deep objects and lists of a body may lie in one another: three times what any document of ours needs. */
const MOST_DEPTH = 48;

/**
 * How deep brackets lie in one another in a text of JSON, those in strings left aside. One walk, stopped where it is
 * too deep: nothing is made of the text before.
 */
export const isTooDeep = (text: string): boolean => {
  let depth = 0;
  let inString = false;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    if (inString) {
      if (code === 0x5c) at++;
      else if (code === 0x22) inString = false;
    } else if (code === 0x22) inString = true;
    else if (code === 0x5b || code === 0x7b) {
      if (++depth > MOST_DEPTH) return true;
    } else if (code === 0x5d || code === 0x7d) depth--;
  }
  return false;
};

/** A body of JSON as a value, its texts made plain. */
export const readBody = (text: string): unknown => {
  if (isTooDeep(text))
    throw new Failure(
      400,
      "Too deep",
      `The JSON has lists or objects more than ${MOST_DEPTH} deep in one another; nothing here has.`,
    );
  try {
    return plainTexts(JSON.parse(text) as unknown);
  } catch {
    throw new Failure(400, "Malformed JSON", "The body is no valid JSON.");
  }
};
