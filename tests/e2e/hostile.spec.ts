import type { ChildProcess } from "node:child_process";
import { Agent, request } from "node:http";
import { connect } from "node:net";
import { expect, test } from "@playwright/test";
import { chanceOf, type Hostile, hostileRequests } from "./hostile-requests";
import { freePort, startServer } from "./own-server";

/** How many a run sends. */
const COUNT = process.env.WANDEL_LONG ? 3000 : 600;

interface Answer {
  readonly status: number;
  readonly type: string;
  readonly body: string;
}

const kept = new Agent({ keepAlive: true, maxSockets: 8 });

const send = (port: number, { method, path, headers, body }: Hostile, agent = kept): Promise<Answer> =>
  new Promise((resolve, reject) => {
    const asked = request({ port, host: "127.0.0.1", agent, method, path, headers, timeout: 30_000 }, (response) => {
      let text = "";
      response.on("data", (chunk) => {
        text += chunk;
      });
      response.on("end", () =>
        resolve({ status: response.statusCode ?? 0, type: response.headers["content-type"] ?? "", body: text }),
      );
      response.on("error", reject);
    });
    asked.on("timeout", () => asked.destroy(new Error("no answer within 30 s")));
    asked.on("error", reject);
    asked.end(body ?? undefined);
  });

/** Bytes that no client library sends. */
const sendRaw = (port: number, text: string): Promise<string> =>
  new Promise((resolve, reject) => {
    const socket = connect(port, "127.0.0.1", () => socket.write(text));
    let answer = "";
    socket.on("data", (chunk) => {
      answer += chunk;
      if (/\r\n\r\n/.test(answer)) socket.end();
    });
    socket.on("close", () => resolve(answer.split("\r\n")[0] ?? ""));
    socket.on("error", reject);
    socket.setTimeout(10_000, () => socket.destroy());
  });

test.describe("a service that is sent nonsense", () => {
  test.describe.configure({ mode: "serial" });
  let port = 0;
  let server: ChildProcess;
  test.beforeAll(async () => {
    port = await freePort();
    server = await startServer(port);
  });
  test.afterAll(() => void server.kill("SIGKILL"));

  const make = async (path: string, data: object): Promise<string> => {
    const made = await send(port, {
      method: "POST",
      path,
      headers: { "content-type": "application/json" },
      body: JSON.stringify(data),
    });
    expect(made.status, made.body).toBe(201);
    return JSON.parse(made.body).document.id;
  };

  test(`answers ${COUNT} hostile requests, over every route of its description, with what is wrong with them and never with an error of its own`, async () => {
    test.setTimeout(180_000);
    const description = JSON.parse(
      (await send(port, { method: "GET", path: "/api/openapi.json", headers: {}, body: null })).body,
    );
    const ids = [
      await make("/api/templates", { name: "Worn out", copyOf: "tidewrack-nine" }),
      await make("/api/rigs", { copyOf: "duo" }),
      "studio",
    ];
    const wrong: string[] = [];
    const statuses = new Map<number, number>();
    for (const hostile of hostileRequests({ chance: chanceOf(20261126), description, ids }, COUNT)) {
      const told = `${hostile.method} ${hostile.path.slice(0, 120)} ${JSON.stringify(hostile.headers).slice(0, 120)} ${(hostile.body ?? "").slice(0, 200)}`;
      try {
        const { status, type, body } = await send(port, hostile);
        statuses.set(status, (statuses.get(status) ?? 0) + 1);
        if (status >= 500) wrong.push(`${status} for ${told}: ${body.slice(0, 200)}`);
        else if (
          status >= 400 &&
          hostile.method !== "HEAD" &&
          ![404, 405, 413, 431].includes(status) &&
          !(type === "application/problem+json" && JSON.parse(body).detail?.length > 5)
        )
          wrong.push(`${status} without words for ${told}: ${type} ${body.slice(0, 100)}`);
      } catch (error) {
        wrong.push(`${String(error)} for ${told}`);
      }
    }
    expect(wrong).toEqual([]);
    // Of each kind enough came through that the run says something.
    expect(statuses.get(400) ?? 0).toBeGreaterThan(COUNT / 20);
    expect(statuses.get(200) ?? 0).toBeGreaterThan(COUNT / 20);
    expect(statuses.get(404) ?? 0).toBeGreaterThan(COUNT / 50);
    expect(statuses.get(421) ?? 0).toBeGreaterThan(COUNT / 50);
    expect((await send(port, { method: "GET", path: "/api/health", headers: {}, body: null })).status).toBe(200);
  });

  for (const [what, text, status] of [
    ["no host", "GET / HTTP/1.1\r\n\r\n", /40\d/],
    ["two hosts", "GET / HTTP/1.1\r\nHost: localhost\r\nHost: evil.example\r\n\r\n", /40\d|421/],
    ["a foreign name", "GET /api/templates HTTP/1.1\r\nHost: evil.example\r\n\r\n", /421/],
    ["TRACE", "TRACE / HTTP/1.1\r\nHost: localhost\r\n\r\n", /405/],
    ["CONNECT", "CONNECT evil.example:443 HTTP/1.1\r\nHost: localhost\r\n\r\n", /^$|40\d/],
    ["no HTTP", "hello\r\n\r\n", /400/],
    ["a header of 100 KB", `GET / HTTP/1.1\r\nHost: localhost\r\nX-Long: ${"x".repeat(100_000)}\r\n\r\n`, /431/],
    ["a % that is nothing", "GET /%ff HTTP/1.1\r\nHost: localhost\r\n\r\n", /400/],
    [
      "two lengths",
      "POST /api/templates HTTP/1.1\r\nHost: localhost\r\nContent-Length: 5\r\nContent-Length: 6\r\n\r\nhello",
      /400/,
    ],
    [
      "a body of 600 MB that is only announced",
      "POST /api/templates HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nContent-Length: 600000000\r\n\r\n",
      /413/,
    ],
  ] as const)
    test(`${what} is answered`, async () => {
      expect(await sendRaw(port, text)).toMatch(status);
    });

  for (const [what, path, type, body, status] of [
    [
      "a form of more parts than are taken",
      "/api/rigs/import",
      "multipart/form-data; boundary=b",
      `${'--b\r\ncontent-disposition: form-data; name="key"\r\n\r\nx\r\n'.repeat(20_000)}--b--\r\n`,
      400,
    ],
    ["a form that is none", "/api/rigs/import", "multipart/form-data; boundary=b", "x".repeat(2_000_000), 400],
    ["a body that is read by nobody", "/api/nothing", "application/json", "x".repeat(2_000_000), 404],
  ] as const)
    test(`after ${what}, whoever sent it is answered again`, async () => {
      const one = new Agent({ keepAlive: true, maxSockets: 1 });
      for (let time = 0; time < 3; time++) {
        expect((await send(port, { method: "POST", path, headers: { "content-type": type }, body }, one)).status).toBe(
          status,
        );
        expect((await send(port, { method: "GET", path: "/api/health", headers: {}, body: null }, one)).status).toBe(
          200,
        );
      }
      one.destroy();
    });

  test("a body without end is refused while it comes in, and is not kept", async () => {
    const endless = () =>
      new Promise<{ readonly text: string; readonly sent: number }>((resolve) => {
        let [text, sent] = ["", 0];
        const socket = connect(port, "127.0.0.1");
        const part = `10000\r\n${"x".repeat(65_536)}\r\n`;
        const more = () => {
          if (socket.destroyed || sent > 400) return;
          sent++;
          socket.write(part, () => setTimeout(more, 1));
        };
        socket.on("data", (data) => (text += data));
        // It is closed while more is on its way.
        socket.on("error", () => {});
        socket.on("close", () => resolve({ text, sent }));
        socket.write(
          "POST /api/templates HTTP/1.1\r\nHost: localhost\r\nContent-Type: application/json\r\nTransfer-Encoding: chunked\r\n\r\n",
        );
        more();
      });
    // A connection that is closed on what was still to come can lose the answer on its way.
    let { text, sent } = await endless();
    for (let tries = 0; tries < 5 && text === ""; tries++) ({ text, sent } = await endless());
    expect(text).toMatch(/^HTTP\/1\.1 413 /);
    expect(sent).toBeLessThan(200);
  });
});
