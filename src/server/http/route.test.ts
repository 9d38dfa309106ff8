import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { ListQuery, NewerQuery } from "@/contracts/requests";
import { Failure } from "../services/failure";
import { json, readJson, readQuery, route } from "./route";

const call = (handler: Parameters<typeof route>[0], init: RequestInit = {}) =>
  route(handler)(new Request("http://127.0.0.1:3000/api/x", init), { params: Promise.resolve({ id: "a" }) });
const throws = (error: unknown) => call(() => Promise.reject(error));

beforeEach(() => {
  vi.stubEnv("DATABASE_URL", process.env.WANDEL_TEST_DATABASE_URL ?? "postgres://127.0.0.1:1/none");
  vi.spyOn(console, "error").mockImplementation(() => {});
});
afterEach(() => {
  vi.unstubAllEnvs();
  vi.restoreAllMocks();
});

describe("the one place where errors become answers", () => {
  it("hands params and address to the handler", async () => {
    const answer = await call(async ({ params, url }) => json({ id: params.id, path: url.pathname }));
    expect([answer.status, answer.headers.get("cache-control"), await answer.json()]).toEqual([
      200,
      "no-store",
      { id: "a", path: "/api/x" },
    ]);
  });

  it("a failure keeps its status, title and places", async () => {
    const answer = await throws(new Failure(422, "No", "Because.", { errors: [{ pointer: "/x", detail: "y" }] }));
    expect([answer.status, answer.headers.get("content-type"), await answer.json()]).toEqual([
      422,
      "application/problem+json",
      { type: "about:blank", title: "No", status: 422, detail: "Because.", errors: [{ pointer: "/x", detail: "y" }] },
    ]);
  });

  it("a database that is away is 503, with when to come again", async () => {
    const answer = await throws(
      new Error("query failed", { cause: Object.assign(new Error("refused"), { code: "ECONNREFUSED" }) }),
    );
    expect([answer.status, answer.headers.get("retry-after")]).toEqual([503, "2"]);
  });

  it("a bug is 500, written down, and its detail kept to ourselves", async () => {
    const answer = await throws(new Error("secret of the house"));
    expect(answer.status).toBe(500);
    expect(JSON.stringify(await answer.json())).not.toContain("secret");
    expect(console.error).toHaveBeenCalled();
  });

  it.each([
    ["cross-site", 403],
    ["same-site", 403],
    ["same-origin", 200],
    ["none", 200],
  ])("what a page of %s has read is answered %d", async (site, status) => {
    let read = 0;
    const answer = await call(
      async () => {
        read++;
        return json({});
      },
      { headers: { "sec-fetch-site": site } },
    );
    expect([answer.status, read]).toEqual([status, status === 200 ? 1 : 0]);
  });

  it.each([
    ["https://elsewhere.example", 403],
    ["null", 403],
    ["http://127.0.0.1:3000", 200],
  ])("a write from %s is answered %d", async (origin, status) => {
    const answer = await call(async () => json({}), { method: "POST", headers: { origin, host: "127.0.0.1:3000" } });
    expect(answer.status).toBe(status);
  });
});

describe("bodies and queries", () => {
  const failure = async (act: () => unknown): Promise<Failure> => {
    try {
      await act();
    } catch (error) {
      if (error instanceof Failure) return error;
      throw error;
    }
    throw new Error("expected a failure, got none");
  };
  const request = (body: string, type = "application/json") =>
    new Request("http://127.0.0.1/", { method: "POST", body, headers: { "content-type": type } });

  it("JSON by its type only, well formed, and not too large", async () => {
    expect(await readJson(request('{"a":1}', "application/json; charset=utf-8"))).toEqual({ a: 1 });
    expect((await failure(() => readJson(request("{}", "text/plain")))).status).toBe(415);
    expect((await failure(() => readJson(request("{")))).status).toBe(400);
    expect((await failure(() => readJson(request(`"${"x".repeat(9 * 1024 * 1024)}"`)))).status).toBe(413);
  });

  it("text that no database keeps is made plain before anything sees it", async () => {
    expect(await readJson(request('{"name":"Sna\\u0000re","notes":["\\ud800"]}'))).toEqual({
      name: "Snare",
      notes: ["\ufffd"],
    });
    expect(readQuery(ListQuery, new URL("http://x/?query=sna%00re")).query).toBe("snare");
    const answered = await route(({ params }) => Promise.resolve(json(params)))(
      new Request("http://127.0.0.1:3000/api/x"),
      { params: Promise.resolve({ id: "a\u0000b" }) },
    );
    expect(await answered.json()).toEqual({ id: "ab" });
  });

  it("a query is held to its class, numbers as numbers", async () => {
    expect(readQuery(NewerQuery, new URL("http://x/?since=3"), { numbers: ["since"] }).since).toBe(3);
    expect(
      (await failure(() => readQuery(NewerQuery, new URL("http://x/?since=three"), { numbers: ["since"] }))).extra
        .errors?.[0]?.pointer,
    ).toBe("/since");
  });
});
