/**
 * States of SQL (PostgreSQL 15, appendix A) in which the database can't do what it is asked, whoever asks: connection
 * lost (08), read-only (25006), no room, memory or connections left (53), stopping, starting or out of time (57), its
 * disk does not answer or its files are damaged (58, XX001, XX002), or others were in the way (40, 55P03).
 */
const STATES = /^(?:08...|25006|40001|40P01|53...|55P03|57...|58...|XX00[12])$/;
const SYSTEM = /^(?:ECONNREFUSED|ECONNRESET|ENOTFOUND|EPIPE|ETIMEDOUT|EHOSTUNREACH|ENOSPC|EAI_AGAIN)$/;
const WORDS =
  /Connection terminated|timeout exceeded when trying to connect|connection timeout|query read timeout|client has encountered a connection error|Client was closed/i;

/**
 * Whether an error means that the database can't do it now (away, starting, full, refusing), as against a mistake of
 * ours or of who asked.
 */
export const isDatabaseAway = (error: unknown): boolean => {
  for (let at: unknown = error; at instanceof Error; at = at.cause) {
    const code = "code" in at ? String(at.code) : "";
    if (STATES.test(code) || SYSTEM.test(code) || WORDS.test(at.message)) return true;
    if (at instanceof AggregateError && at.errors.some(isDatabaseAway)) return true;
  }
  return false;
};

const codeOf = (error: unknown): string => {
  for (let at: unknown = error; at instanceof Error; at = at.cause)
    if ("code" in at && typeof at.code === "string") return at.code;
  return "";
};

/** A sentence for what keeps the database from doing it. */
export const whyAway = (error: unknown): string => {
  const code = codeOf(error);
  if (code === "53100" || code === "ENOSPC")
    return "The database's disk is full, so nothing can be saved. Make room on it; what is in the window is kept and saved then.";
  if (code === "55P03" || code === "40001" || code === "40P01")
    return "Others are at the same thing just now. It is tried again by itself; what is in the window is kept.";
  if (code === "57014" || code === "53300")
    return "The database has too much to do just now. It is tried again by itself; what is in the window is kept.";
  if (code === "25006")
    return "The database can only be read just now. What is in the window is kept and saved when it can be written again.";
  return "The database can't be reached. What is in the window is kept and saved when it is back.";
};

/** Whether a row could not be added because another has its key, by the name of that key or any. */
export const isTaken = (error: unknown, key?: string): boolean => {
  for (let at: unknown = error; at instanceof Error; at = at.cause)
    if ("code" in at && at.code === "23505")
      return key === undefined || ("constraint" in at && String(at.constraint).includes(key));
  return false;
};

/**
 * What is written down of an error: its kinds, codes and sentences, never the values of a query, in which there are
 * documents.
 */
export const withoutValues = (error: unknown): unknown => {
  if (!(error instanceof Error)) return typeof error === "string" ? error.slice(0, 2000) : error;
  const parts: string[] = [];
  for (let at: unknown = error; at instanceof Error && parts.length < 5; at = at.cause) {
    const code = "code" in at ? ` ${String(at.code)}` : "";
    const [first = ""] = (at.message.startsWith("Failed query:") ? "a query failed" : at.message).split("\n");
    parts.push(`${at.name}${code}: ${first.slice(0, 500)}`);
  }
  const where = (error.stack ?? "")
    .split("\n")
    .filter((line) => line.trimStart().startsWith("at "))
    .slice(0, 12);
  return [parts.join(" ← "), ...where].join("\n");
};
