import type { Problem } from "@/contracts/answers";
import { parse } from "@/contracts/validate";
import { MOST } from "@/core/model/limits";
import { plainText, plainTexts } from "@/core/reading/plain-text";
import { isDatabaseAway, whyAway, withoutValues } from "../db/away";
import { type Database, database } from "../db/database";
import { accept } from "../services/accept";
import { Failure } from "../services/failure";
import { readBody } from "../tasks/json-body";
import { readBytes } from "./read-body";

export interface Call {
  readonly request: Request;
  readonly url: URL;
  readonly db: Database;
  readonly params: Readonly<Record<string, string>>;
  /** Aborted when the client has gone. */
  readonly signal: AbortSignal;
}

const problem = (body: Omit<Problem, "type">, headers: HeadersInit = {}): Response =>
  new Response(JSON.stringify({ type: "about:blank", ...body }), {
    status: body.status,
    headers: { "content-type": "application/problem+json", "cache-control": "no-store", ...headers },
  });

export const json = (body: unknown, init: ResponseInit = {}): Response => Response.json(body, { ...init, headers: { "cache-control": "no-store", ...init.headers } });

/** An answer that is JSON already. */
export const jsonText = (body: string, init: ResponseInit = {}): Response =>
  new Response(body, { ...init, headers: { "content-type": "application/json", "cache-control": "no-store", ...init.headers } });

const answer = (error: unknown): Response => {
  if (error instanceof Failure)
    return problem({ title: error.title, status: error.status, detail: error.message, ...error.extra }, error.status === 503 ? { "retry-after": "2" } : {});
  if (isDatabaseAway(error)) return problem({ title: "The database can't do it now", status: 503, detail: whyAway(error) }, { "retry-after": "2" });
  console.error(withoutValues(error));
  return problem({ title: "Something went wrong", status: 500, detail: "The server could not do this, and has written down why. What is in the window is kept." });
};

const hostOf = (origin: string): string | null => {
  try {
    return new URL(origin).host;
  } catch {
    return null;
  }
};

/** A page of another origin must not write here, though the browser would send what it posts. */
const refuseForeign = (request: Request): void => {
  const origin = request.headers.get("origin");
  const host = request.headers.get("host");
  if (request.method === "GET" || request.method === "HEAD" || !origin || !host) return;
  if (hostOf(origin) !== host.toLowerCase()) throw new Failure(403, "From another page", "Only pages of this Wandel may change its library.");
};

/** Ids of ours are short; anything else names nothing here, and is not taken to the database. */
const plainParams = (params: Readonly<Record<string, string>>): Readonly<Record<string, string>> => {
  const plain = plainTexts(params);
  if (Object.values(plain).some((value) => value.length > 200)) throw new Failure(404, "No such thing", "Nothing here has an id as long as this.");
  return plain;
};

type Handler = (call: Call) => Promise<Response>;

/** Makes a route of a handler: params and database at hand, every error answered as application/problem+json in one place. */
export const route =
  (handler: Handler) =>
  async (request: Request, context: { readonly params: Promise<Record<string, string>> }): Promise<Response> => {
    try {
      refuseForeign(request);
      return await handler({ request, url: new URL(request.url), db: database(), params: plainParams((await context.params) ?? {}), signal: request.signal });
    } catch (error) {
      return answer(error);
    }
  };

/** Largest JSON body: the largest gesture, and what is told around it. */
const MOST_BYTES = MOST.gestureBytes + 64 * 1024;
/** What makes a thing is a few words. */
const MOST_SMALL_BYTES = 64 * 1024;

/** A body of JSON as text, not looked into yet. */
export const readJsonText = async (request: Request, most = MOST_BYTES): Promise<string> => {
  if (!/^application\/json\b/.test(request.headers.get("content-type") ?? "")) throw new Failure(415, "Not JSON", "Send the body as application/json.");
  return Buffer.from(await readBytes(request, most)).toString();
};

/** A small body of JSON as a value. */
export const readJson = async (request: Request): Promise<unknown> => readBody(await readJsonText(request, MOST_SMALL_BYTES));

/** Query parameters held to a request class; whole numbers where the class asks for them. One that is given twice is refused: nobody can tell which is meant. */
export const readQuery = <T extends object>(type: new () => T, url: URL, { numbers = [] }: { readonly numbers?: readonly string[] } = {}): T => {
  const names = [...url.searchParams.keys()];
  const twice = names.find((name, at) => names.indexOf(name) < at);
  if (twice !== undefined || names.length > 20)
    throw new Failure(400, "Malformed request", `The query gives ${twice === undefined ? "too many things" : `${plainText(twice).slice(0, 40)} twice`}.`, {
      errors: [{ pointer: `/${plainText(twice ?? "").slice(0, 40)}`, detail: "given twice" }],
    });
  const entries = [...url.searchParams].map(([key, value]) => [plainText(key), numbers.includes(key) ? Number(value) : plainText(value)]);
  return accept(parse(type, Object.fromEntries(entries)));
};
