import { createServer } from "node:http";
import { parseArgs } from "node:util";
import next from "next";
import { addHeaders, namesOf, refusalOf, refuse } from "./lib/gate.mjs";
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
  const { method, url, headers, socket } = request;
  addHeaders(url, (name, value) => response.setHeader(name, value));
  const refusal = refusalOf({ method, url, headers, localAddress: socket.localAddress }, names);
  if (refusal) {
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

server.on("clientError", (error, socket) => {
  if (!socket.writable) return;
  const status =
    error.code === "HPE_HEADER_OVERFLOW" ? "431 Request Header Fields Too Large" : error.code === "ERR_HTTP_REQUEST_TIMEOUT" ? "408 Request Timeout" : "400 Bad Request";
  socket.end(`HTTP/1.1 ${status}\r\nconnection: close\r\ncontent-length: 0\r\n\r\n`);
});
if (dev) server.on("upgrade", app.getUpgradeHandler());

server.on("error", (error) => {
  console.error(
    error.code === "EADDRINUSE" ? `Port ${port} is used by another program. Choose another one with PORT.` : `The server can't listen on ${host}, port ${port}: ${error.message}`,
  );
  process.exit(1);
});

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

server.listen(port, host, () => console.log(`Wandel listens on http://${host}:${port}`));
