import type { Problem } from "@/contracts/answers";
import { isDatabaseAway, whyAway, withoutValues } from "../db/away";
import { Failure } from "../services/failure";

/** An answer before it is put on the wire, whichever way it goes there. */
export interface PlainAnswer {
  readonly status: number;
  readonly headers: Readonly<Record<string, string>>;
  readonly body: string;
}

export const NOT_KEPT = { "cache-control": "no-store" } as const;

const problem = (body: Omit<Problem, "type">, headers: Readonly<Record<string, string>> = {}): PlainAnswer => ({
  status: body.status,
  headers: { "content-type": "application/problem+json", ...NOT_KEPT, ...headers },
  body: JSON.stringify({ type: "about:blank", ...body }),
});

/**
 * Errors become answers here and nowhere else: what a person must be told, that the database is away, or that something
 * is wrong with us.
 */
export const answerTo = (error: unknown): PlainAnswer => {
  if (error instanceof Failure)
    return problem(
      { title: error.title, status: error.status, detail: error.message, ...error.extra },
      error.status === 503 ? { "retry-after": "2" } : {},
    );
  if (isDatabaseAway(error))
    return problem(
      { title: "The database can't do it now", status: 503, detail: whyAway(error) },
      { "retry-after": "2" },
    );
  console.error(withoutValues(error));
  return problem({
    title: "Something went wrong",
    status: 500,
    detail: "The server could not do this, and has written down why. What is in the window is kept.",
  });
};

const hostOf = (origin: string): string | null => {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
};

/**
 * A page of another origin must not write here, though the browser would send what it posts; nor may it have anything
 * read, as a picture in it would set heavy work going. Browsers say where a request comes from; what is no browser says
 * nothing, and is let in.
 */
export const refuseForeign = (method: string, header: (name: string) => string | null): void => {
  const [origin, host, site] = [header("origin"), header("host"), header("sec-fetch-site")];
  if (site === "cross-site" || site === "same-site")
    throw new Failure(403, "From another page", "Only pages of this Wandel may ask its service.");
  if (method === "GET" || method === "HEAD" || !origin || !host) return;
  if (hostOf(origin) !== host.toLowerCase())
    throw new Failure(403, "From another page", "Only pages of this Wandel may change its library.");
};

export const needJson = (contentType: string | null): void => {
  if (!/^application\/json\b/.test(contentType ?? ""))
    throw new Failure(415, "Not JSON", "Send the body as application/json.");
};

/** Ids of ours are short; anything else names nothing here, and is not taken to the database. */
export const needShort = (values: readonly string[]): void => {
  if (values.some((value) => value.length > 200))
    throw new Failure(404, "No such thing", "Nothing here has an id as long as this.");
};
