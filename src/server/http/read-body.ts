import { setImmediate } from "node:timers/promises";
import { Failure } from "../services/failure";

/** After so many bytes others get their turn, however fast the body comes in. */
const MOST_AT_ONCE = 256 * 1024;

/**
 * The parts of a body as they come in, up to a limit and no byte more: one that is longer is refused, whatever length
 * it announced.
 */
export async function* bodyParts(request: Request, most: number, what = "The body"): AsyncGenerator<Uint8Array, void> {
  const tooLarge = () => new Failure(413, "Too large", `${what} is larger than ${most / 1024 / 1024} MiB.`);
  if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge();
  const reader = request.body?.getReader();
  if (!reader) return;
  let [length, turn, whole] = [0, MOST_AT_ONCE, false];
  try {
    for (;;) {
      const { done, value } = await reader.read();
      whole = done;
      if (done) return;
      length += value.byteLength;
      if (length > most) throw tooLarge();
      yield value;
      if (length < turn) continue;
      turn = length + MOST_AT_ONCE;
      await setImmediate();
    }
  } finally {
    if (!whole) await reader.cancel().catch(() => {});
  }
}

export const readBytes = async (request: Request, most: number): Promise<Uint8Array> => {
  const parts: Uint8Array[] = [];
  for await (const part of bodyParts(request, most)) parts.push(part);
  return Buffer.concat(parts);
};
