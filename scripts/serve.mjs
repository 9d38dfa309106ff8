import { readFileSync } from "node:fs";
import { createServer, get } from "node:http";
import { join } from "node:path";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { parseArgs } from "node:util";
import next from "next";
import sirv from "sirv";
import { addHeaders, clientOf, namesOf, openTo, rawRefusal, refusalOf, refuse } from "./lib/gate.mjs";
import { ROOT } from "./lib/shell.mjs";

const { values, positionals } = parseArgs({
  allowPositionals: true,
  options: {
    host: { type: "string", default: "127.0.0.1" },
    port: { type: "string", default: "3000" },
    background: { type: "boolean" },
  },
});
const dev = positionals[0] === "dev";
const { host } = values;
const port = Number(values.port);
process.chdir(ROOT);
process.env.NODE_ENV = dev ? "development" : "production";

const names = namesOf(process.env, host);
const app = next({ dev, dir: ROOT, hostname: host, port });
await app.prepare();
const handle = app.getRequestHandler();

/** Connections whose answer said that it was the last. */
const lastAnswers = new WeakSet();

/**
 * A page that could not be made while the database was away says so with its status too: 503, come again, and not that
 * Wandel is broken. A request that is answered before its whole body was read has the last answer of its connection:
 * what is left of the body would stand before the next request, which nobody would ever read.
 */
const toldAsItIs = (request, response) => {
  const began = Date.now();
  const { writeHead } = response;
  response.writeHead = (status, ...rest) => {
    if (!request.complete) response.setHeader("connection", "close");
    if (status !== 500 || !(globalThis.wandelAwayAt >= began)) return writeHead.call(response, status, ...rest);
    response.setHeader("retry-after", "2");
    return writeHead.call(response, 503, ...rest);
  };
};

const COMMANDS = /^\/api\/(?:(template|rig)s\/([^/?#]+)|(studio))\/commands$/;

/** A path's part as it is meant; one that means nothing stays as it is, and names nothing. */
const decoded = (part) => {
  try {
    return decodeURIComponent(part);
  } catch {
    return part;
  }
};

/** The whole body as text, and no byte more than is taken. */
const bodyOf = (request, most) =>
  new Promise((resolve, reject) => {
    const parts = [];
    let length = 0;
    const tooLarge = () => reject(globalThis.wandelCommands.tooLarge());
    if (Number(request.headers["content-length"] ?? 0) > most) return tooLarge();
    request.on("data", (part) => {
      length += part.length;
      if (length > most) tooLarge();
      else parts.push(part);
    });
    request.on("end", () => resolve(Buffer.concat(parts).toString()));
    request.on("error", reject);
    request.on("aborted", () => reject(new Error("the sender has gone")));
  });

/**
 * Commands go to what applies them without a way through the framework: saving is what is done most. Answers whether it
 * was one.
 */
const tookCommands = (request, response) => {
  const commands = globalThis.wandelCommands;
  const found = request.method === "POST" && commands ? COMMANDS.exec(request.url) : null;
  if (!found) return false;
  const [, kind, id, studio] = found;
  const gone = new AbortController();
  // Nobody is told of an answer that went out whole: making the reason took longer than writing the answer.
  response.on("close", () => response.writableFinished || gone.abort());
  commands
    .take({
      what: studio ?? kind,
      id: studio ?? decoded(id),
      header: (name) => request.headers[name] ?? null,
      text: () => bodyOf(request, commands.most),
      signal: gone.signal,
    })
    .then(({ status, headers, body }) => {
      // What is not read of a body that is too large is not waited for.
      if (!request.complete) response.setHeader("connection", "close");
      response.writeHead(status, { ...headers, "content-length": Buffer.byteLength(body) });
      response.end(body);
    });
  return true;
};

/** Scripts, styles and fonts, which never change under their name: packed when Wandel was built. */
const statics = dev
  ? null
  : sirv(join(ROOT, ".next/static"), { brotli: true, gzip: true, immutable: true, maxAge: 31_536_000 });
const STATIC = "/_next/static";

/** Answers whether it was a file that is there. */
const sentStatic = (request, response) => {
  const { url } = request;
  if (!statics || !url.startsWith(`${STATIC}/`)) return false;
  request.url = url.slice(STATIC.length);
  let sent = true;
  statics(request, response, () => {
    sent = false;
    request.url = url;
  });
  return sent;
};

/** The one door: whoever was not asked in, and whatever nothing here takes, is told so before any work begins. */
const server = createServer((request, response) => {
  const { method, url, headers, rawHeaders, socket } = request;
  addHeaders(url, (name, value) => response.setHeader(name, value));
  const refusal = refusalOf({ method, url, headers, rawHeaders, localAddress: socket.localAddress }, names);
  if (refusal) {
    lastAnswers.add(socket);
    refuse(response, refusal);
    return;
  }
  // Who asks is said by the door, whatever a request says of itself: those who ask take turns.
  headers["x-wandel-client"] = clientOf(socket.remoteAddress, headers["user-agent"]);
  if (tookCommands(request, response) || sentStatic(request, response)) return;
  toldAsItIs(request, response);
  handle(request, response).catch((error) => {
    console.error(error);
    if (!response.headersSent)
      refuse(response, {
        status: 500,
        title: "Something went wrong",
        detail: "The server could not do this, and has written down why.",
      });
  });
});

// Connections are kept for longer than clients keep theirs, so that none is closed in the moment it is used again.
Object.assign(server, {
  keepAliveTimeout: 65_000,
  headersTimeout: 20_000,
  requestTimeout: 60_000,
  maxConnections: 2000,
});

/** What is no HTTP never becomes a request; it is told as well, unless the connection had its last answer already. */
server.on("clientError", (error, socket) => {
  if (!socket.writable || lastAnswers.has(socket)) socket.destroy();
  else socket.end(rawRefusal(error.code));
});
server.on("checkExpectation", (request, response) => {
  lastAnswers.add(request.socket);
  addHeaders(request.url, (name, value) => response.setHeader(name, value));
  refuse(response, {
    status: 417,
    title: "Not expected",
    detail: "The service expects nothing before a body but 100-continue.",
  });
});
if (dev) server.on("upgrade", app.getUpgradeHandler());

server.on("error", (error) => {
  console.error(
    error.code === "EADDRINUSE"
      ? `Port ${port} is used by another program. Choose another one with PORT.`
      : `The server can't listen on ${host}, port ${port}: ${error.message}`,
  );
  process.exit(1);
});

// Whoever started this with a line to talk on may ask how it fares.
if (process.send) {
  const loop = monitorEventLoopDelay({ resolution: 5 });
  loop.enable();
  process.on("message", () => {
    const { user, system } = process.cpuUsage();
    process.send({
      loopMs: loop.max / 1e6,
      memoryMiB: process.memoryUsage.rss() / 1024 / 1024,
      heapMiB: process.memoryUsage().heapTotal / 1024 / 1024,
      externalMiB: process.memoryUsage().external / 1024 / 1024,
      cpuMs: (user + system) / 1000,
    });
    loop.reset();
  });
  process.on("disconnect", () => process.exit(0));
}

let ending = false;
for (const signal of ["SIGTERM", "SIGINT"])
  process.on(signal, () => {
    if (ending) process.exit(1);
    ending = true;
    // Streams to open windows are ended by the application; what is being answered is answered.
    globalThis.wandelClose?.();
    server.close(() => process.exit(0));
    server.closeIdleConnections();
    setTimeout(() => process.exit(0), 4000).unref();
  });

/**
 * What the inner door answers to a GET, as far as its beginning: streams to windows would not end. Null when there is
 * no answer in time.
 */
const look = (port, path, timeout) =>
  new Promise((resolve) => {
    const request = get({ port, host: "127.0.0.1", path, headers: { host: "localhost" }, timeout }, (response) => {
      response.once("data", (part) => {
        resolve(String(part));
        request.destroy();
      });
      response.once("end", () => resolve(null));
    });
    request.on("timeout", () => request.destroy());
    request.on("error", () => resolve(null));
  });

/**
 * The door opens after so long at the latest, however little was looked at: with the database away, each look would
 * wait for it.
 */
const MOST_WARMING_MS = 6000;

/**
 * Every page and route is looked at once before the door opens: the code of each is read in when it is first asked for,
 * which holds everybody else for as long. No document is changed by it.
 */
const warmUp = async () => {
  const inner = createServer((request, response) => void handle(request, response).catch(() => response.destroy()));
  await new Promise((resolve) => inner.listen(0, "127.0.0.1", resolve));
  const { port: own } = inner.address();
  const paths = Object.keys(JSON.parse(readFileSync(join(ROOT, ".next/server/app-paths-manifest.json"), "utf8")));
  const end = Date.now() + MOST_WARMING_MS;
  const visit = async (path) =>
    Date.now() < end ? await look(own, path.replace(/\/(?:page|route)$/, "") || "/", end - Date.now()) : null;
  for (const kind of ["templates", "rigs"]) {
    const [, id = "-"] = /"id":"([\w-]{1,64})"/.exec(await visit(`/api/${kind}`)) ?? [];
    for (const path of paths.filter((each) => each.startsWith(`/${kind}/`) || each.startsWith(`/api/${kind}/`)))
      await visit(path.replace("[id]", id));
  }
  for (const path of paths.filter((each) => !each.includes("[id]"))) await visit(path);
  inner.closeAllConnections();
  inner.close();
};

if (!dev) await warmUp();
server.listen(port, host, () => {
  console.log(`Wandel listens on http://${host}:${port}`);
  const warning = openTo(host);
  if (warning) console.log(warning);
});
