import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as changesRoute from "@/app/api/changes/route";
import * as rigCommandsRoute from "@/app/api/rigs/[id]/commands/route";
import * as rigExportRoute from "@/app/api/rigs/[id]/export/route";
import * as rigNewerRoute from "@/app/api/rigs/[id]/newer/route";
import * as rigRoute from "@/app/api/rigs/[id]/route";
import * as touchesRoute from "@/app/api/rigs/[id]/touches/route";
import * as rigImportRoute from "@/app/api/rigs/import/route";
import * as rigsRoute from "@/app/api/rigs/route";
import * as rigSchemaRoute from "@/app/api/schema/rig/route";
import * as studioSchemaRoute from "@/app/api/schema/studio/route";
import * as studioCommandsRoute from "@/app/api/studio/commands/route";
import * as studioNewerRoute from "@/app/api/studio/newer/route";
import * as studioRoute from "@/app/api/studio/route";
import * as templatesRoute from "@/app/api/templates/route";
import { rigFaults } from "@/core/model/rig-schema";
import { studioFaults } from "@/core/model/studio-schema";
import { add, remove, set } from "@/core/testing/verbs";
import { closeStreams } from "@/server/services/changes";
import { closeTestDatabase, openTestDatabase } from "@/server/testing/test-database";

beforeAll(async () => {
  await openTestDatabase();
});
afterAll(closeTestDatabase);

type Route = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;
const call = (route: Route, path = "/", init: RequestInit = {}, params: Record<string, string> = {}) =>
  route(new Request(`http://127.0.0.1:3000${path}`, init), { params: Promise.resolve(params) });
const post = (body: unknown): RequestInit => ({
  method: "POST",
  headers: { "content-type": "application/json" },
  body: JSON.stringify(body),
});
const send = (id: string, base: number, ...commands: readonly object[]) =>
  call(rigCommandsRoute.POST, "/", post({ base, batch: fresh(), commands }), { id });
const upload = (text: string): RequestInit => {
  const form = new FormData();
  form.set("file", new File([text], "rig.json"));
  return { method: "POST", body: form };
};

let serial = 0;
/** A name for a batch that no other has. */
const fresh = (): string => `batch-${serial++}`;
const copy = async (copyOf = "wheelhouse-cart") =>
  (await call(rigsRoute.POST, "/api/rigs", post({ copyOf, name: `Copy ${Date.now()} ${serial++}` }))).json();

describe("rigs over the service", () => {
  it("are made, copied, read, changed and told apart from what is newer", async () => {
    const made = await call(rigsRoute.POST, "/api/rigs", post({ name: `Fresh ${Date.now()}` }));
    expect([made.status, (await made.clone().json()).document.devices]).toEqual([201, {}]);
    expect(made.headers.get("location")).toBe(`/api/rigs/${(await made.json()).document.id}`);
    const { document } = await copy();
    const saved = await send(document.id, 1, set("ports", "brindle:in:1", { name: "Wall" }));
    expect([saved.status, (await saved.json()).revision]).toEqual([200, 2]);
    const { newer } = await (await call(rigNewerRoute.GET, "/?since=1", {}, { id: document.id })).json();
    expect(newer).toMatchObject([{ revision: 2, names: ["Rename Brindle 16 input 1 to Wall"] }]);
    expect(
      (await (await call(rigRoute.GET, "/", {}, { id: document.id })).json()).document.ports["brindle:in:1"].name,
    ).toBe("Wall");
  });

  it.each([
    ["malformed", [{ kind: "set", table: "ports", values: {} }], 1, 400],
    ["of no kind", [{ kind: "rig.explode" }], 1, 400],
    ["stale", [set("ports", "brindle:in:1", { name: "x" })], 7, 409],
    ["refused", [remove("devices", "nobody")], 1, 422],
    ["against the schema", [set("ports", "brindle:in:1", { connector: "string" })], 1, 400],
    [
      "against the rules",
      [add("wires", { id: "w", fromPortId: "brindle:in:1", toPortId: "brindle:in:2" } as never)],
      1,
      422,
    ],
  ])("a command that is %s is answered so, and nothing is stored", async (_what, commands, base, status) => {
    const { document } = await copy();
    const answer = await send(document.id, base, ...commands);
    expect([answer.status, answer.headers.get("content-type")]).toEqual([status, "application/problem+json"]);
    expect((await answer.json()).detail.length).toBeGreaterThan(10);
    expect((await (await call(rigRoute.GET, "/", {}, { id: document.id })).json()).revision).toBe(1);
  });

  it("go out as JSON that fits the schema, and come back as a rig of their own", async () => {
    const file = await call(rigExportRoute.GET, "/", {}, { id: "whole-mill" });
    expect(file.headers.get("content-disposition")).toContain("Whole mill.json");
    const text = await file.text();
    expect(rigFaults(JSON.parse(text))).toEqual([]);
    const back = await call(rigImportRoute.POST, "/", upload(text));
    expect([back.status, (await back.json()).document.name]).toEqual([201, expect.stringMatching(/^Whole mill \d+$/)]);
  });

  it.each([
    ["", "This is not JSON"],
    ["[1,2", "This is not JSON"],
    ['{"schema":99}', "reads up to 5"],
    [JSON.stringify({ schema: 2, id: "x" }), "damaged"],
  ])("%j is no rig, and is told", async (text, words) => {
    const answer = await call(rigImportRoute.POST, "/", upload(text));
    expect([answer.status, (await answer.json()).detail]).toEqual([422, expect.stringContaining(words)]);
  });

  it("tell what stands on them, and go only when nothing does", async () => {
    const { document } = await copy("duo");
    await call(templatesRoute.POST, "/", post({ name: "Stands on it", rigId: document.id }));
    expect((await (await call(touchesRoute.GET, "/", {}, { id: document.id })).json()).templates).toMatchObject([
      { name: "Stands on it", problems: 0 },
    ]);
    expect((await call(rigRoute.DELETE, "/", { method: "DELETE" }, { id: document.id })).status).toBe(422);
    const spare = await copy("duo");
    expect((await call(rigRoute.DELETE, "/", { method: "DELETE" }, { id: spare.document.id })).status).toBe(204);
    expect((await call(rigRoute.GET, "/", {}, { id: spare.document.id })).status).toBe(404);
    expect((await call(rigRoute.DELETE, "/", { method: "DELETE" }, { id: "nobody" })).status).toBe(404);
  });
});

describe("templates from starters", () => {
  it("stand on the rig with their tracks; one that is not there is told", async () => {
    const made = await call(templatesRoute.POST, "/", post({ name: "Talk", rigId: "whole-mill", starter: "talk" }));
    const { document } = await made.json();
    expect([
      made.status,
      document.kind,
      Object.values(document.folders as Record<string, { name: string }>).map((folder) => folder.name),
    ]).toEqual([201, "spoken-word", ["Speech", "Room", "Beds"]]);
    expect((await call(templatesRoute.POST, "/", post({ name: "X", rigId: "duo", starter: "nobody" }))).status).toBe(
      404,
    );
  });

  it("new ones begin with what the studio says of their kind", async () => {
    const { revision } = await (await call(studioRoute.GET)).json();
    const setRate = (base: number, sampleRateHz: number) =>
      call(
        studioCommandsRoute.POST,
        "/",
        post({ base, batch: fresh(), commands: [set("kinds", "solo", { sampleRateHz })] }),
      );
    expect((await setRate(revision, 96000)).status).toBe(200);
    const made = await (
      await call(templatesRoute.POST, "/", post({ name: "Fast", rigId: "duo", kind: "solo" }))
    ).json();
    expect(made.document.format.sampleRateHz).toBe(96000);
    expect((await setRate(revision + 1, 48000)).status).toBe(200);
    expect((await (await call(studioNewerRoute.GET, `/?since=${revision}`)).json()).newer).toHaveLength(2);
    expect(await (await setRate(revision, 44100)).json()).toMatchObject({
      revision: revision + 3,
      newer: [{ revision: revision + 1 }, { revision: revision + 2 }],
    });
  });
});

describe("what describes itself", () => {
  it("the studio fits its schema, and both schemas are served", async () => {
    expect(studioFaults((await (await call(studioRoute.GET)).json()).document)).toEqual([]);
    expect([(await rigSchemaRoute.GET().json()).title, (await studioSchemaRoute.GET().json()).title]).toEqual([
      "Wandel rig",
      "Wandel studio",
    ]);
  });

  it("the stream of changes is one, and ends when the server does", async () => {
    const response = changesRoute.GET(new Request("http://127.0.0.1:3000/api/changes"));
    expect([response.headers.get("content-type"), response.headers.get("cache-control")]).toEqual([
      "text/event-stream",
      "no-cache, no-transform",
    ]);
    const reader = response.body?.getReader();
    expect(new TextDecoder().decode((await reader?.read())?.value)).toContain("retry");
    closeStreams();
    for (let part = await reader?.read(); part && !part.done; part = await reader?.read());
  });
});
