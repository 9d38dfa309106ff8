import { createServer, get } from "node:http";
import { monitorEventLoopDelay } from "node:perf_hooks";
import { parseArgs } from "node:util";
import next from "next";
import { addHeaders, namesOf, rawRefusal, refusalOf, refuse } from "./lib/gate.mjs";
import { ROOT } from "./lib/shell.mjs";

const { values, positionals } = parseArgs({ allowPositionals: true, options: { host: { type: "string", default: "127.0.0.1" }, port: { type: "string", default: "3000" } } });
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

/** A page that could not be made while the database was away says so with its status too: 503, come again, and not that Wandel is broken. */
const tellAway = (response) => {
  const began = Date.now();
  const { writeHead } = response;
  response.writeHead = (status, ...rest) => {
    if (status !== 500 || !(globalThis.wandelAwayAt >= began)) return writeHead.call(response, status, ...rest);
    response.setHeader("retry-after", "2");
    return writeHead.call(response, 503, ...rest);
  };
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
  tellAway(response);
  handle(request, response).catch((error) => {
    console.error(error);
    if (!response.headersSent) refuse(response, { status: 500, title: "Something went wrong", detail: "The server could not do this, and has written down why." });
  });
});

// Connections are kept for longer than clients keep theirs, so that none is closed in the moment it is used again.
Object.assign(server, { keepAliveTimeout: 65_000, headersTimeout: 20_000, requestTimeout: 60_000, maxConnections: 2000 });

/** What is no HTTP never becomes a request; it is told as well, unless the connection had its last answer already. */
server.on("clientError", (error, socket) => {
  if (!socket.writable || lastAnswers.has(socket)) socket.destroy();
  else socket.end(rawRefusal(error.code));
});
server.on("checkExpectation", (request, response) => {
  lastAnswers.add(request.socket);
  addHeaders(request.url, (name, value) => response.setHeader(name, value));
  refuse(response, { status: 417, title: "Not expected", detail: "The service expects nothing before a body but 100-continue." });
});
if (dev) server.on("upgrade", app.getUpgradeHandler());

server.on("error", (error) => {
  console.error(
    error.code === "EADDRINUSE" ? `Port ${port} is used by another program. Choose another one with PORT.` : `The server can't listen on ${host}, port ${port}: ${error.message}`,
  );
  process.exit(1);
});

// Whoever started this with a line to talk on may ask how it fares.
if (process.send) {
  const loop = monitorEventLoopDelay({ resolution: 5 });
  loop.enable();
  process.on("message", () => {
    process.send({ loopMs: loop.max / 1e6, memoryMiB: process.memoryUsage.rss() / 1024 / 1024 });
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

/** The pages are looked at once, so that the first person does not wait for them to be read in. */
const warmUp = () => {
  for (const path of ["/", "/studio", "/templates/-/inputs", "/rigs/-"])
    get({ port, host: host === "0.0.0.0" ? "127.0.0.1" : host, path, headers: { host: "localhost" } }, (response) => response.resume()).on("error", () => {});
};

server.listen(port, host, () => {
  console.log(`Wandel listens on http://${host}:${port}`);
  if (!dev) warmUp();
});
