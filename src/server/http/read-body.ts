import { Failure } from "../services/failure";

/** Reads a body up to a limit, and no byte more: one that is longer is refused while it comes in, whatever length it announced. */
export const readBytes = async (request: Request, most: number, what = "The body"): Promise<Uint8Array> => {
  const tooLarge = () => new Failure(413, "Too large", `${what} is larger than ${most / 1024 / 1024} MiB.`);
  if (Number(request.headers.get("content-length") ?? 0) > most) throw tooLarge();
  const reader = request.body?.getReader();
  if (!reader) return new Uint8Array();
  const chunks: Uint8Array[] = [];
  let length = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    length += value.byteLength;
    if (length > most) {
      await reader.cancel().catch(() => {});
      throw tooLarge();
    }
    chunks.push(value);
  }
  return Buffer.concat(chunks);
};
