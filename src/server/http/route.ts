import type { Problem } from "@/contracts/answers";
import { type FieldError, type Parsed, parse } from "@/contracts/validate";
import { plainText, plainTexts } from "@/core/reading/plain-text";
import { type Database, database, isDatabaseAway } from "../db/database";
import { Failure } from "../services/failure";

export interface Call {
  readonly request: Request;
  readonly url: URL;
  readonly db: Database;
  readonly params: Readonly<Record<string, string>>;
}

const problem = (body: Omit<Problem, "type">, headers: HeadersInit = {}): Response =>
  new Response(JSON.stringify({ type: "about:blank", ...body }), {
    status: body.status,
    headers: { "content-type": "application/problem+json", "cache-control": "no-store", ...headers },
  });

export const json = (body: unknown, init: ResponseInit = {}): Response => Response.json(body, { ...init, headers: { "cache-control": "no-store", ...init.headers } });

const answer = (error: unknown): Response => {
  if (error instanceof Failure) return problem({ title: error.title, status: error.status, detail: error.message, ...error.extra });
  if (isDatabaseAway(error))
    return problem(
      { title: "The database is away", status: 503, detail: "The database can't be reached. What is in the window is kept and saved when it is back." },
      { "retry-after": "2" },
    );
  console.error(error);
  return problem({ title: "Something went wrong", status: 500, detail: "The server could not do this, and has written down why. What is in the window is kept." });
};

/** A page of another origin must not write here, though the browser would send what it posts. */
const refuseForeign = (request: Request): void => {
  const origin = request.headers.get("origin");
  const host = request.headers.get("x-forwarded-host") ?? request.headers.get("host");
  if (request.method === "GET" || !origin || !host) return;
  if (origin === "null" || new URL(origin).host !== host) throw new Failure(403, "From another page", "Only pages of this Wandel may change its library.");
};

type Handler = (call: Call) => Promise<Response>;

/** Makes a route of a handler: params and database at hand, every error answered as application/problem+json in one place. */
export const route =
  (handler: Handler) =>
  async (request: Request, context: { readonly params: Promise<Record<string, string>> }): Promise<Response> => {
    try {
      refuseForeign(request);
      return await handler({ request, url: new URL(request.url), db: database(), params: plainTexts((await context.params) ?? {}) });
    } catch (error) {
      return answer(error);
    }
  };

const malformed = (errors: readonly FieldError[]): Failure =>
  new Failure(
    400,
    "Malformed request",
    errors
      .map((error) => `${error.pointer}: ${error.detail}`)
      .slice(0, 3)
      .join("; "),
    { errors },
  );

export const accept = <T>(parsed: Parsed<T>): T => {
  if (!parsed.ok) throw malformed(parsed.errors);
  return parsed.value;
};

/** Largest JSON body: a template of a few thousand lines, several times over. */
const MOST_BYTES = 8 * 1024 * 1024;

export const readJson = async (request: Request): Promise<unknown> => {
  if (!/^application\/json\b/.test(request.headers.get("content-type") ?? "")) throw new Failure(415, "Not JSON", "Send the body as application/json.");
  const text = await request.text();
  if (text.length > MOST_BYTES) throw new Failure(413, "Too large", `The body is larger than ${MOST_BYTES / 1024 / 1024} MiB.`);
  try {
    return plainTexts(JSON.parse(text));
  } catch {
    throw new Failure(400, "Malformed JSON", "The body is no valid JSON.");
  }
};

/** Query parameters held to a request class; whole numbers where the class asks for them. */
export const readQuery = <T extends object>(type: new () => T, url: URL, { numbers = [] }: { readonly numbers?: readonly string[] } = {}): T => {
  const entries = [...url.searchParams].map(([key, value]) => [key, numbers.includes(key) ? Number(value) : plainText(value)]);
  return accept(parse(type, Object.fromEntries(entries)));
};
