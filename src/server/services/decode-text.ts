import iconv from "iconv-lite";
import { plainText } from "@/core/reading/plain-text";

export type Decoded = { readonly ok: true; readonly text: string } | { readonly ok: false; readonly message: string };

/**
 * By its byte order mark. (iconv-lite rather than the TextDecoder of Node 20, which takes Windows-1252 for Latin-1 and
 * loses dashes and quotes.)
 */
const encodingOf = (bytes: Uint8Array): string | null => {
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return "utf16-le";
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return "utf16-be";
  return null;
};

const tryUtf8 = (bytes: Uint8Array): string | null => {
  try {
    return new TextDecoder("utf-8", { fatal: true }).decode(bytes);
  } catch {
    return null;
  }
};

/**
 * Text out of a file: UTF-16 by its byte order mark, else UTF-8 where it is valid, else Windows-1252. A file with zero
 * bytes or many control characters is not text.
 */
export const decodeText = (bytes: Uint8Array): Decoded => {
  const wide = encodingOf(bytes);
  const text = wide
    ? iconv.decode(Buffer.from(bytes), wide)
    : (tryUtf8(bytes) ?? iconv.decode(Buffer.from(bytes), "windows-1252"));
  // biome-ignore lint/suspicious/noControlCharactersInRegex: control characters are just what is looked for
  const strange = text.match(/[\u0000-\u0008\u000e-\u001f]/g)?.length ?? 0;
  if (text.includes("\u0000") || strange > text.length / 100)
    return {
      ok: false,
      message: "This is no text file. Save the list as CSV or as text parted by tabs, and drop that.",
    };
  return { ok: true, text: plainText(text) };
};
