import { parse } from "@/contracts/validate";
import { plainText, plainTexts } from "@/core/reading/plain-text";
import { type Database, database } from "../db/database";
import { accept } from "../services/accept";
import { CLIENT_HEADER, onBehalfOf } from "../services/asking";
import { Failure } from "../services/failure";
import { readBody } from "../tasks/json-body";
import { answerTo, needJson, needShort, refuseForeign } from "./answer";
import { readBytes } from "./read-body";

export interface Call {
  readonly request: Request;
  readonly url: URL;
  readonly db: Database;
  readonly params: Readonly<Record<string, string>>;
  /** Aborted when the client has gone. */
  readonly signal: AbortSignal;
}

export const json = (body: unknown, init: ResponseInit = {}): Response =>
  Response.json(body, { ...init, headers: { "cache-control": "no-store", ...init.headers } });

/** An answer that is JSON already. */
export const jsonText = (body: string, init: ResponseInit = {}): Response =>
  new Response(body, {
    ...init,
    headers: { "content-type": "application/json", "cache-control": "no-store", ...init.headers },
  });

/** Ids of ours are short; anything else names nothing here, and is not taken to the database. */
const plainParams = (params: Readonly<Record<string, string>>): Readonly<Record<string, string>> => {
  const plain = plainTexts(params);
  needShort(Object.values(plain));
  return plain;
};

/** The number of a revision in an address; anything else names none. */
export const numbered = (text = ""): number => {
  const number = /^[1-9]\d{0,9}$/.test(text) ? Number(text) : 0;
  if (number < 1 || number > 2_147_483_647)
    throw new Failure(404, "No such revision", "Revisions are numbered from 1 on.");
  return number;
};

type Handler = (call: Call) => Promise<Response>;

/**
 * Makes a route of a handler: params and database at hand, every error answered as application/problem+json in one
 * place.
 */
export const route =
  (handler: Handler) =>
  async (request: Request, context: { readonly params: Promise<Record<string, string>> }): Promise<Response> => {
    try {
      refuseForeign(request.method, (name) => request.headers.get(name));
      const call = {
        request,
        url: new URL(request.url),
        db: database(),
        params: plainParams((await context.params) ?? {}),
        signal: request.signal,
      };
      return await onBehalfOf(request.headers.get(CLIENT_HEADER), () => handler(call));
    } catch (error) {
      const { body, ...init } = answerTo(error);
      return new Response(body, init);
    }
  };

/** What makes a thing is a few words. */
const MOST_SMALL_BYTES = 64 * 1024;

/** A body of JSON as text, not looked into yet. */
export const readJsonText = async (request: Request, most: number): Promise<string> => {
  needJson(request.headers.get("content-type"));
  return Buffer.from(await readBytes(request, most)).toString();
};

/** A small body of JSON as a value. */
export const readJson = async (request: Request): Promise<unknown> =>
  readBody(await readJsonText(request, MOST_SMALL_BYTES));

/**
 * Query parameters held to a request class; whole numbers where the class asks for them. One that is given twice is
 * refused: nobody can tell which is meant.
 */
export const readQuery = <T extends object>(
  type: new () => T,
  url: URL,
  { numbers = [] }: { readonly numbers?: readonly string[] } = {},
): T => {
  const names = [...url.searchParams.keys()];
  const twice = names.find((name, at) => names.indexOf(name) < at);
  if (twice !== undefined || names.length > 20)
    throw new Failure(
      400,
      "Malformed request",
      `The query gives ${twice === undefined ? "too many things" : `${plainText(twice).slice(0, 40)} twice`}.`,
      {
        errors: [{ pointer: `/${plainText(twice ?? "").slice(0, 40)}`, detail: "given twice" }],
      },
    );
  const entries = [...url.searchParams].map(([key, value]) => [
    plainText(key),
    numbers.includes(key) ? Number(value) : plainText(value),
  ]);
  return accept(parse(type, Object.fromEntries(entries)));
};
