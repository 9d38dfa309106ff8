import { readFileSync } from "node:fs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as binRoute from "@/app/api/bin/route";
import * as chainsRoute from "@/app/api/chains/route";
import * as healthRoute from "@/app/api/health/route";
import * as openapiRoute from "@/app/api/openapi.json/route";
import * as rigRoute from "@/app/api/rigs/[id]/route";
import * as rigsRoute from "@/app/api/rigs/route";
import * as schemaRoute from "@/app/api/schema/template/route";
import * as usesRoute from "@/app/api/studio/uses/route";
import * as templateChainsRoute from "@/app/api/templates/[id]/chains/route";
import * as commandsRoute from "@/app/api/templates/[id]/commands/route";
import * as delayRoute from "@/app/api/templates/[id]/delay/route";
import * as exportRoute from "@/app/api/templates/[id]/export/route";
import * as findingsRoute from "@/app/api/templates/[id]/findings/route";
import * as flowRoute from "@/app/api/templates/[id]/flow/route";
import * as levelsRoute from "@/app/api/templates/[id]/levels/route";
import * as lowLatencyRoute from "@/app/api/templates/[id]/low-latency/route";
import * as newerRoute from "@/app/api/templates/[id]/newer/route";
import * as pathsRoute from "@/app/api/templates/[id]/paths/route";
import * as restoreRoute from "@/app/api/templates/[id]/restore/route";
import * as templateRoute from "@/app/api/templates/[id]/route";
import * as storageRoute from "@/app/api/templates/[id]/storage/route";
import * as importRoute from "@/app/api/templates/import/route";
import * as templatesRoute from "@/app/api/templates/route";
import { NAMED_VERBS } from "@/contracts/verb-schemas";
import type { ChannelId, SendId } from "@/core/model/ids";
import { newChannel } from "@/core/model/tables/channels";
import { newSend } from "@/core/model/tables/sends";
import { add, remove, set, setHeader } from "@/core/testing/verbs";
import { closeTestDatabase, openTestDatabase } from "@/server/testing/test-database";

let serial = 0;
/** A name for a batch that no other has. */
const fresh = (): string => `batch-${serial++}`;

beforeAll(async () => {
  await openTestDatabase();
});
afterAll(closeTestDatabase);

type Route = (request: Request, context: { params: Promise<Record<string, string>> }) => Promise<Response>;
const at = "http://127.0.0.1:3000";
const call = (route: Route, path: string, init: RequestInit = {}, params: Record<string, string> = {}) =>
  route(new Request(`${at}${path}`, init), { params: Promise.resolve(params) });
const post = (body: unknown, headers: Record<string, string> = {}): RequestInit => ({
  method: "POST",
  headers: { "content-type": "application/json", ...headers },
  body: typeof body === "string" ? body : JSON.stringify(body),
});
const make = async (fields: object = {}) =>
  (
    await call(
      templatesRoute.POST,
      "/api/templates",
      post({ name: "Made by a test", kind: "band", rigId: "wheelhouse-cart", ...fields }),
    )
  ).json();

const fixture = (name: string) =>
  new File([readFileSync(new URL(`../../../tests/fixtures/input-lists/${name}`, import.meta.url))], name);
const upload = (file: File | null, fields: Record<string, string> = {}): RequestInit => {
  const form = new FormData();
  if (file) form.set("file", file);
  for (const [key, value] of Object.entries(fields)) form.set(key, value);
  return { method: "POST", body: form };
};

describe("templates", () => {
  it("are made, read, changed, exported, deleted and brought back", async () => {
    const made = await make();
    const id = made.document.id;
    expect(made.revision).toBe(1);
    const saved = await call(
      commandsRoute.POST,
      "",
      post({ base: 1, batch: fresh(), commands: [setHeader(id, { name: "Renamed" })] }),
      { id },
    );
    expect([saved.status, (await saved.json()).revision]).toEqual([200, 2]);
    expect((await (await call(templateRoute.GET, "", {}, { id })).json()).document.name).toBe("Renamed");
    expect((await (await call(newerRoute.GET, "/?since=1", {}, { id })).json()).newer).toHaveLength(1);
    expect((await (await call(findingsRoute.GET, "", {}, { id })).json()).findings).toEqual([]);
    const csv = await call(exportRoute.GET, "/?format=csv", {}, { id });
    expect([csv.headers.get("content-type"), csv.headers.get("content-disposition")]).toEqual([
      "text/csv; charset=utf-8",
      `attachment; filename="Renamed.csv"; filename*=UTF-8''Renamed.csv`,
    ]);
    expect((await call(templateRoute.DELETE, "", { method: "DELETE" }, { id })).status).toBe(204);
    expect((await call(templateRoute.GET, "", {}, { id })).status).toBe(404);
    expect((await call(restoreRoute.POST, "", { method: "POST" }, { id })).status).toBe(200);
  });

  it("the bin is emptied up to a time that there is", async () => {
    const answer = await call(binRoute.DELETE, "/api/bin?upTo=2026-13-45T00:00:00.000Z", { method: "DELETE" });
    expect([answer.status, (await answer.json()).errors]).toEqual([400, [{ pointer: "/upTo", detail: "no time" }]]);
  });

  it("the list takes query, kind and cursor, and nothing else", async () => {
    expect(
      (await (await call(templatesRoute.GET, "/api/templates?query=tidewrack%20nine&kind=band")).json()).templates,
    ).toHaveLength(1);
    const odd = await call(templatesRoute.GET, "/api/templates?kind=opera&colour=red");
    expect([odd.status, odd.headers.get("content-type")]).toEqual([400, "application/problem+json"]);
    expect((await odd.json()).errors.map((error: { pointer: string }) => error.pointer)).toEqual(
      expect.arrayContaining(["/kind", "/colour"]),
    );
  });

  it("a stale save that still can be done is answered with what came between, one that can't 409 with what is newer", async () => {
    const { document } = await make();
    const command = setHeader(document.id, { name: "Once" });
    await call(commandsRoute.POST, "", post({ base: 1, batch: fresh(), commands: [command] }), { id: document.id });
    const stale = await call(commandsRoute.POST, "", post({ base: 1, batch: fresh(), commands: [command] }), {
      id: document.id,
    });
    expect(await stale.json()).toMatchObject({ revision: 3, newer: [{ revision: 2, commands: [command] }] });
    const folder = add("folders", {
      id: "f",
      name: "F",
      colour: null,
      parentId: null,
      open: true,
      busId: null,
    } as never);
    await call(commandsRoute.POST, "", post({ base: 3, batch: fresh(), commands: [folder] }), { id: document.id });
    const late = await call(commandsRoute.POST, "", post({ base: 3, batch: fresh(), commands: [folder] }), {
      id: document.id,
    });
    expect(await late.json()).toMatchObject({ status: 409, newer: [{ revision: 4, commands: [folder] }] });
  });
});

describe("requests that can't be taken are answered, never with a server error", () => {
  const sent = (...commands: readonly unknown[]) => ({ base: 1, batch: fresh(), commands });
  it.each([
    ["no JSON", "{", 400, ""],
    ["a list", [], 400, ""],
    ["no base", { batch: "b", commands: [remove("channels", "t")] }, 400, "/base"],
    ["no commands", sent(), 400, "/commands"],
    ["null among the commands", sent(null), 400, "/commands"],
    ["an unknown command", sent({ kind: "explode" }), 400, "/commands/0/kind"],
    ["a kind that objects have anyway", sent({ kind: "constructor" }), 400, "/commands/0/kind"],
    ["a field that is not known", sent({ ...remove("channels", "t"), loud: true }), 400, "/commands/0/loud"],
    ["a table that is none", sent(remove("widgets", "t")), 400, "/commands/0/table"],
    ["a name that is a number", sent(set("channels", "t", { name: 5 })), 400, "/commands/0/values/t/name"],
    ["a dye that is none", sent(set("channels", "t", { colour: "mauve" })), 400, "/commands/0/values/t/colour"],
    ["a line with a missing field", sent(add("lines", { id: "l1" })), 400, "/commands/0/entries/0/source"],
    [
      "a place that is given instead of asked for",
      sent(
        add("folders", {
          id: "f",
          name: "F",
          colour: null,
          parentId: null,
          open: true,
          busId: null,
          order: "a0",
        } as never),
      ),
      400,
      "/commands/0/entries/0/order",
    ],
    ["a track that is not there", sent(remove("channels", "nobody")), 422, "/commands/0"],
    [
      "a patch out of bounds",
      sent({ kind: "restore", undoes: "x", patches: [{ op: "replace", path: ["schema"], value: 1 }] }),
      422,
      "/commands/0",
    ],
  ])("%s", async (_name, body, status, pointer) => {
    const { document } = await make();
    const answer = await call(commandsRoute.POST, "", post(body), { id: document.id });
    const problem = await answer.json();
    expect([answer.status, answer.headers.get("content-type")]).toEqual([status, "application/problem+json"]);
    expect(problem.detail.length).toBeGreaterThan(5);
    if (pointer) expect(problem.errors.map((error: { pointer: string }) => error.pointer)).toContain(pointer);
  });

  it("what is not JSON by its type", async () => {
    const answer = await call(
      commandsRoute.POST,
      "",
      { method: "POST", body: "x", headers: { "content-type": "text/plain" } },
      { id: "x" },
    );
    expect(answer.status).toBe(415);
  });

  it("what comes from a page elsewhere", async () => {
    const answer = await call(
      templatesRoute.POST,
      "/api/templates",
      post({ name: "X", rigId: "duo" }, { origin: "https://elsewhere.example", host: "127.0.0.1:3000" }),
    );
    expect(answer.status).toBe(403);
  });

  it("a format that is not offered", async () => {
    expect((await call(exportRoute.GET, "/?format=docx", {}, { id: "tidewrack-nine" })).status).toBe(400);
  });

  it("a template and a rig that are not there", async () => {
    for (const route of [templateRoute.GET, findingsRoute.GET])
      expect((await call(route, "", {}, { id: "nope" })).status).toBe(404);
    expect((await call(rigRoute.GET, "", {}, { id: "nope" })).status).toBe(404);
  });
});

describe("imports", () => {
  it("a list becomes a template with a report", async () => {
    const answer = await call(
      importRoute.POST,
      "/api/templates/import",
      upload(fixture("01-tidewrack-nine.csv"), { rigId: "wheelhouse-cart", name: "From the band" }),
    );
    const { template, report } = await answer.json();
    expect([answer.status, template.name]).toEqual([201, "From the band"]);
    expect(report.understood[0].message).toBe("15 tracks on 18 lines, cells parted by comma.");
    expect((await (await call(findingsRoute.GET, "", {}, { id: template.id })).json()).findings).toHaveLength(4);
  });

  it("a preview tells the rows and stores nothing", async () => {
    const count = async () => (await (await call(templatesRoute.GET, "/api/templates")).json()).total;
    const before = await count();
    const answer = await call(
      importRoute.POST,
      "/api/templates/import?preview=true",
      upload(fixture("02-choir-evening.csv")),
    );
    const preview = await answer.json();
    expect(answer.status).toBe(200);
    expect(preview).toMatchObject({
      name: "Choir evening",
      rows: [
        {
          row: 2,
          inputs: ["1", "2"],
          track: "Sopran",
          layout: "stereo",
          phantom: true,
          colour: "cochineal",
          trouble: null,
        },
        {},
        {},
        {},
        {},
        {},
        {},
      ],
    });
    expect(await count()).toBe(before);
  });

  it("corrected columns are taken", async () => {
    const file = new File(["a,b\n1,Snare\n2,Fiddle\n"], "odd.csv");
    const answer = await call(
      importRoute.POST,
      "/api/templates/import?preview=true",
      upload(file, { columns: JSON.stringify(["input", "source"]) }),
    );
    expect((await answer.json()).rows.map((row: { track: string }) => row.track)).toContain("Fiddle");
  });

  it("a template document comes back as a new template", async () => {
    const json = await (await call(exportRoute.GET, "/?format=json", {}, { id: "tidewrack-nine" })).text();
    const answer = await call(importRoute.POST, "/api/templates/import", upload(new File([json], "nine.json")));
    const { template } = await answer.json();
    expect(template.id).not.toBe("tidewrack-nine");
    const [copy, original] = await Promise.all(
      [template.id, "tidewrack-nine"].map(
        async (id) => (await (await call(templateRoute.GET, "", {}, { id })).json()).document,
      ),
    );
    expect({ ...copy, id: "" }).toEqual({ ...original, id: "" });
  });

  it.each([
    ["an empty file", new File([""], "a.csv"), {}, 422],
    ["only a heading", new File(["Input,Source\n"], "a.csv"), {}, 422],
    ["a picture", new File([new Uint8Array([0x89, 0x50, 0x4e, 0x47, 0, 0, 1, 2, 3])], "a.csv"), {}, 422],
    ["broken JSON", new File(["{"], "a.json"), {}, 422],
    ["JSON that is no template", new File(['{"schema":2}'], "a.json"), {}, 422],
    ["too large a file", new File([new Uint8Array(5 * 1024 * 1024)], "a.csv"), {}, 413],
    ["no file", null, {}, 400],
    ["a rig that is not there", new File(["Input,Source\n1,X\n"], "a.csv"), { rigId: "nope" }, 404],
    ["columns that are no JSON", new File(["Input,Source\n1,X\n"], "a.csv"), { columns: "[" }, 400],
    ["columns of no meaning", new File(["Input,Source\n1,X\n"], "a.csv"), { columns: '["loudness"]' }, 400],
    ["a kind that is none", new File(["Input,Source\n1,X\n"], "a.csv"), { kind: "opera" }, 400],
  ])("%s is answered with what to do", async (_name, file, fields, status) => {
    const answer = await call(
      importRoute.POST,
      "/api/templates/import",
      upload(file, fields as Record<string, string>),
    );
    expect([answer.status, answer.headers.get("content-type")]).toEqual([status, "application/problem+json"]);
  });

  it("a body that is no form", async () => {
    expect((await call(importRoute.POST, "/api/templates/import", post({}))).status).toBe(415);
    expect(
      (
        await call(importRoute.POST, "/api/templates/import", {
          method: "POST",
          body: "x",
          headers: { "content-type": "multipart/form-data" },
        })
      ).status,
    ).toBe(400);
  });
});

describe("routing over the service", () => {
  const bus = (id: string, to: string) =>
    newChannel("bus", { id: id as ChannelId, name: id, output: { kind: "channel", channelId: to as ChannelId } });
  const routed = async () => {
    const { id } = (await make()).document;
    const send = newSend({ id: "s" as SendId, fromId: "a" as ChannelId, toId: "b" as ChannelId });
    const commands = [add("channels", bus("b", "main"), bus("a", "main")), add("sends", send)];
    expect((await call(commandsRoute.POST, "", post({ base: 1, batch: fresh(), commands }), { id })).status).toBe(200);
    return id;
  };

  it("tells nodes, threads and order, and every way in data and in words", async () => {
    const id = await routed();
    const { flow, revision } = await (await call(flowRoute.GET, "", {}, { id })).json();
    expect([revision, flow.order, flow.nodes.map((node: { rank: number }) => node.rank)]).toEqual([
      2,
      ["a", "b", "main"],
      [0, 1, 2],
    ]);
    expect(flow.threads).toContainEqual({
      kind: "send",
      from: "a",
      to: "b",
      heldBackSamples: 0,
      send: { id: "s", levelDb: -12, tap: "after", on: true },
    });
    const { ways } = await (await call(pathsRoute.GET, "/?from=a&to=main", {}, { id })).json();
    expect([ways.count, ways.paths.map((path: { words: string }) => path.words)]).toEqual([
      2,
      ["a → Main", "a → (by a send at −12 dB, after the fader) b → Main"],
    ]);
  });

  it("refuses a loop with its whole path in words, and stores nothing", async () => {
    const id = await routed();
    const round = await call(
      commandsRoute.POST,
      "",
      post({
        base: 2,
        batch: fresh(),
        commands: [set("channels", "b", { output: { kind: "channel", channelId: "a" } })],
      }),
      {
        id,
      },
    );
    expect([round.status, (await round.json()).detail]).toEqual([
      422,
      expect.stringContaining("the sound would go round for ever: b → a → (by a send) b"),
    ]);
    expect((await (await call(templateRoute.GET, "", {}, { id })).json()).revision).toBe(2);
  });

  it("answers for channels and templates that are not there, and for a query that is none", async () => {
    const id = await routed();
    expect((await call(pathsRoute.GET, "/?from=a&to=nobody", {}, { id })).status).toBe(404);
    expect((await call(pathsRoute.GET, "/?from=a", {}, { id })).status).toBe(400);
    expect((await call(flowRoute.GET, "", {}, { id: "nowhere" })).status).toBe(404);
  });
});

describe("dyes of the studio's own", () => {
  it("are counted by the templates that have them: on tracks, buses, folders and control faders, not in what was deleted", async () => {
    const uses = async () => (await (await call(usesRoute.GET, "/?colour=own-tansy", {})).json()).templates;
    const before = await uses();
    const { id } = (await make()).document;
    const bus = newChannel("bus", { id: "a" as ChannelId, name: "a", colour: "own-tansy" as never });
    expect(
      (await call(commandsRoute.POST, "", post({ base: 1, batch: fresh(), commands: [add("channels", bus)] }), { id }))
        .status,
    ).toBe(200);
    expect(await uses()).toBe(before + 1);
    expect(
      (
        await call(
          commandsRoute.POST,
          "",
          post({ base: 2, batch: fresh(), commands: [set("channels", "a", { colour: "madder" })] }),
          { id },
        )
      ).status,
    ).toBe(200);
    expect(await uses()).toBe(before);
    expect((await call(usesRoute.GET, "/?colour=", {})).status).toBe(400);
  });
});

describe("chains over the service", () => {
  it("tells those that are kept, those of a template, and one in data, words and curves", async () => {
    const kept = await (await call(chainsRoute.GET, "/api/chains")).json();
    expect(kept.chains.map(({ name, short }: { name: string; short: string }) => `${name}: ${short}`)).toContain(
      "Telephone: High-pass, low-pass, saturation",
    );
    const id = "tidewrack-nine";
    const all = await (await call(templateChainsRoute.GET, "", {}, { id })).json();
    const lead = all.chains.find(({ name }: { name: string }) => name === "Lead voice");
    expect(lead.chain).toBe("High-pass, compressor, equaliser, de-esser");
    const { chain } = await (await call(templateChainsRoute.GET, `/?channel=${lead.channelId}`, {}, { id })).json();
    expect([chain.delaySamples, chain.words[0], chain.needs]).toEqual([
      64,
      "High-pass: 80 Hz, 12 dB/oct",
      [{ name: "House de-esser", version: "1.4", state: "older", has: "1.2", from: "the folder of the house" }],
    ]);
    const response = chain.processors[2].response as readonly { x: number; y: number }[];
    expect([response.length, response[0]?.x, response.at(-1)?.x, Math.min(...response.map(({ y }) => y))]).toEqual([
      61, 20, 20000, -3.509,
    ]);
    expect((await call(templateChainsRoute.GET, "/?channel=nobody", {}, { id })).status).toBe(404);
    expect((await call(templateChainsRoute.GET, "", {}, { id: "nowhere" })).status).toBe(404);
    expect((await call(templateChainsRoute.GET, "/?channel=", {}, { id })).status).toBe(400);
  });
});

describe("what performers hear, over the service", () => {
  const told = async (get: Parameters<typeof call>[0], query = "", id = "tidewrack-nine") =>
    (await call(get, query, {}, { id })).json();

  it("is told by person and part, at another rate and buffer where they are asked for; and who hears themself twice", async () => {
    const { delay } = await told(delayRoute.GET);
    const ilse = delay.paths.find(
      ({ cue, wet }: { cue: { name: string }; wet: boolean }) => cue.name === "Ilse" && !wet,
    );
    expect(ilse).toMatchObject({
      person: "Ilse Varga",
      monitored: "direct",
      ms: 0.9,
      targetMs: 3,
      state: "on-time",
      metres: 0.31,
    });
    expect(ilse.parts.map(({ kind, ms }: { kind: string; ms: number }) => `${kind} ${ms}`)).toEqual([
      "converter 0.3",
      "mixer 0.28",
      "converter 0.32",
    ]);
    expect(delay.heardTwice).toMatchObject([{ person: "Juno Ashby", firstHz: expect.closeTo(163.8, 1) }]);
    const slow = (await told(delayRoute.GET, "/?rateHz=48000&buffer=256")).delay;
    expect([
      slow.bufferSamples,
      slow.paths.find(({ monitored }: { monitored: string }) => monitored === "computer").ms > 10,
    ]).toEqual([256, true]);
    expect((await told(lowLatencyRoute.GET)).lowLatency).toMatchObject({
      rigMissing: false,
      late: 1,
      bufferAsItIs: 32,
      load: { recording: 32, mixing: 1024 },
    });
  });

  it("levels are told in both bounds with what contributes most, and the disk for so many hours and takes", async () => {
    const { levels } = await told(levelsRoute.GET);
    const main = levels.channels.find(({ kind }: { kind: string }) => kind === "main");
    expect(main.out.worstPeakDb).toBeLessThanOrEqual(0);
    expect(main.greatest).toHaveLength(5);
    expect(main.out.left.unlikeDb).toBeLessThan(main.out.left.alikeDb);
    expect(levels.cues.map(({ name }: { name: string }) => name)).toEqual([
      "Ilse",
      "Juno",
      "Pell and Bram",
      "Winds and fiddle",
    ]);
    const { storage } = await told(storageRoute.GET, "/?hours=2&takes=3", "harp-and-lullaby");
    expect(storage).toMatchObject({ hours: 2, takes: 3, eveningBytes: 6 * storage.bytesPerHour });
    expect(storage.passes).toHaveLength(14);
  });

  it("answers for queries that are none, and templates that are not there", async () => {
    for (const query of ["/?rateHz=47999", "/?buffer=0", "/?buffer=64.5", "/?buffer=many", "/?loud=1"])
      expect((await call(delayRoute.GET, query, {}, { id: "tidewrack-nine" })).status, query).toBe(400);
    for (const query of ["/?hours=0", "/?takes=1.5", "/?hours=1e9"])
      expect((await call(storageRoute.GET, query, {}, { id: "tidewrack-nine" })).status, query).toBe(400);
    for (const get of [delayRoute.GET, lowLatencyRoute.GET, levelsRoute.GET, storageRoute.GET])
      expect((await call(get, "", {}, { id: "nowhere" })).status).toBe(404);
  });
});

describe("the description of the service", () => {
  it("has every route and every command, made of request classes and descriptions", async () => {
    const api = await openapiRoute.GET().json();
    expect(api.openapi).toBe("3.1.0");
    expect(Object.keys(api.paths)).toEqual(
      expect.arrayContaining([
        "/api/health",
        "/api/rigs",
        "/api/rigs/{id}",
        "/api/templates",
        "/api/templates/import",
        "/api/templates/{id}",
        "/api/templates/{id}/commands",
        "/api/templates/{id}/findings",
        "/api/templates/{id}/flow",
        "/api/templates/{id}/paths",
        "/api/templates/{id}/chains",
        "/api/templates/{id}/delay",
        "/api/templates/{id}/low-latency",
        "/api/templates/{id}/levels",
        "/api/templates/{id}/storage",
        "/api/chains",
        "/api/studio/uses",
        "/api/templates/{id}/export",
      ]),
    );
    for (const name of Object.keys(NAMED_VERBS)) {
      const { oneOf, ...whole } = api.components.schemas[name];
      for (const one of oneOf ?? [whole]) expect(one.properties, name).toHaveProperty("kind");
    }
    expect(api.components.schemas.CommandsRequest.required).toEqual(expect.arrayContaining(["base", "commands"]));
    expect(JSON.stringify(api.components.schemas.SetInTemplate)).toContain("madder");
  });

  it("points only to what is there", async () => {
    const api = await openapiRoute.GET().json();
    const refs = [...JSON.stringify(api).matchAll(/"#\/components\/schemas\/(\w+)"/g)].map((match) => match[1] ?? "");
    expect(refs.length).toBeGreaterThan(10);
    for (const name of refs) expect(api.components.schemas).toHaveProperty(name);
  });

  it("health, rigs and the schema of a template are there", async () => {
    expect(await (await call(healthRoute.GET, "/api/health")).json()).toMatchObject({ status: "ok" });
    expect(
      (await (await call(rigsRoute.GET, "/api/rigs")).json()).rigs.map((rig: { name: string }) => rig.name),
    ).toEqual(expect.arrayContaining(["Wheelhouse cart", "Whole mill", "Duo"]));
    expect((await (await call(rigRoute.GET, "", {}, { id: "duo" })).json()).document.name).toBe("Duo");
    expect(await schemaRoute.GET().json()).toMatchObject({ title: "Wandel template" });
  });
});
